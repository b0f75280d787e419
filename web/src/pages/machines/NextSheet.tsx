// The sheet that comes next: what is put on the bed for it, and the start.
import { Button } from "@mantine/core";
import type { JobOut, MachineOut } from "../../api/types";
import type { Display } from "../../lib/document";
import { lengths, plural } from "../../lib/figures";
import { clock } from "../../lib/program";
import { ofRevision, useJobProgram } from "../../state/machines";
import { BedPicture } from "./BedPicture";
import type { Acts } from "./Machines";

/** Nothing has become of any piece. */
const NONE: [] = [];

export function NextSheet({ job, machine, acts }: { job: JobOut; machine: MachineOut; acts: Acts }) {
  const ready = machine.answers && machine.status?.state === "idle";
  const display = job.display as Display;
  const program = useJobProgram(job.id, 0);
  return (
    <section className="onbed" aria-label="Next sheet">
      <BedPicture job={job} program={program} marks={NONE} t={0} label={`${job.name}, sheet ${job.number}, as it lies`} />
      <div className="bedside">
        <div className="bedstate queued">Next</div>
        <div className="bedwhat">
          <div className="puton">
            Put on <b>{job.stock_name}</b>
          </div>
          <div className="puton figure">
            {job.offcut && `offcut ${job.offcut}, `}
            {lengths([job.length, job.width], display)}, {lengths([job.thickness], display)} thick
          </div>
          <p>
            <b>{job.name}</b>, sheet {job.number} of {job.of}
            {ofRevision(job)}
          </p>
          <p className="soft">
            {plural(job.count, "piece")}, {clock(job.seconds)}
            {job.turned ? ", turned over once: the face that lies down is cut first" : ""}
            {job.due ? `, due ${job.due}` : ""}
          </p>
          {job.bits.length > 0 && <p>Bits: {job.bits.join(", ")}</p>}
          {job.said && <p className="warn">{job.said}</p>}
        </div>
        <div className="row bedbuttons">
          <Button
            size="xl"
            variant="filled"
            color="leaf.6"
            disabled={!ready || acts.busy}
            onClick={() => void acts.act(job.id, "start")}
          >
            It lies there: start
          </Button>
          <Button size="lg" variant="subtle" disabled={acts.busy} onClick={() => void acts.remove(job.id)}>
            Out of the queue
          </Button>
        </div>
        {machine.status?.state === "unhomed" && <p className="warn">The machine does not know its zero yet: home it first.</p>}
        <p className="soft">Zero is the lower left corner of the sheet: lay it square into the corner of the bed.</p>
      </div>
    </section>
  );
}
