// The sheet on the bed: how far it is, what is done with it, and its pieces as they come off.
import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import type { MachineOut, OnBedOut } from "../../api/types";
import type { Display } from "../../lib/document";
import { lengths } from "../../lib/figures";
import { clock, timeAt } from "../../lib/program";
import { ofRevision, useJobProgram } from "../../state/machines";
import { BedPicture } from "./BedPicture";
import type { Acts } from "./Machines";
import { Pieces } from "./Pieces";

const HEADS: { [state: string]: string } = {
  starting: "Sent, no answer yet",
  running: "Cutting",
  held: "Held",
  interrupted: "Broken off",
  turn: "Turn the sheet over",
  cut: "Take the pieces off",
};

export function OnBed({ job, machine, acts }: { job: OnBedOut; machine: MachineOut; acts: Acts }) {
  const program = useJobProgram(job.id, job.side);
  return (
    <section className="onbed" aria-label="On the bed">
      <BedPicture
        job={job}
        program={program?.under === job.under ? program : null}
        marks={job.pieces}
        t={program ? timeAt(program, job.move, job.share) : 0}
        label={`The sheet on the bed, ${Math.round(job.percent)} % cut`}
      />
      <div className="bedside">
        <div className={`bedstate ${job.state}`} role="status">
          {HEADS[job.state] ?? job.state}
        </div>
        <div className="bedfigures">
          <span className="percent">{Math.floor(job.percent)} %</span>
          <span>
            {job.state === "cut" ? "all cut" : `${clock(job.left)} left`}
            {job.sides > 1 && (
              <span className="soft">
                {" "}
                side {job.side + 1} of {job.sides}
              </span>
            )}
          </span>
        </div>
        <div className="bedwhat">
          <b>{job.name}</b>, sheet {job.number} of {job.of}
          <div className="soft">
            {job.stock_name}, {lengths([job.length, job.width], job.display as Display)}
            {ofRevision(job)}
          </div>
          {job.said && <div className="warn">{job.said}</div>}
        </div>
        <Buttons job={job} machine={machine} acts={acts} />
        <Pieces job={job} acts={acts} free={freeOf(program, job)} />
        {job.state === "cut" && <Finish job={job} acts={acts} />}
      </div>
    </section>
  );
}

/** The pieces that are cut out by now. */
function freeOf(program: ReturnType<typeof useJobProgram>, job: OnBedOut): Set<string> {
  const free = new Set<string>();
  if (!program || job.under) return free;
  const last = new Map<string, number>();
  for (const c of program.cuts) if (c.operation === "outside") last.set(`${c.key}#${c.copy}`, c.last);
  for (const [name, end] of last) if (end <= job.move || job.state === "cut") free.add(name);
  return free;
}

function Buttons({ job, machine, acts }: { job: OnBedOut; machine: MachineOut; acts: Acts }) {
  const { busy, act } = acts;
  const dead = !machine.answers || busy;
  const ready = machine.status?.state === "idle";
  return (
    <div className="row bedbuttons">
      {job.state === "running" && (
        <Button size="xl" variant="filled" disabled={dead} onClick={() => void act(job.id, "hold")}>
          Hold
        </Button>
      )}
      {job.state === "held" && (
        <Button size="xl" variant="filled" color="leaf.6" disabled={dead} onClick={() => void act(job.id, "resume")}>
          Go on
        </Button>
      )}
      {job.state === "interrupted" && (
        <Button size="xl" variant="filled" color="leaf.6" disabled={dead || !ready} onClick={() => void act(job.id, "go_on")}>
          Go on from there
        </Button>
      )}
      {job.state === "turn" && (
        <Button size="xl" variant="filled" color="leaf.6" disabled={dead || !ready} onClick={() => void act(job.id, "start")}>
          It is turned: start
        </Button>
      )}
      {(job.state === "running" || job.state === "held") && (
        <Button size="xl" variant="outline" color="vermilion" disabled={dead} onClick={() => void act(job.id, "stop")}>
          Stop
        </Button>
      )}
      {job.state === "interrupted" && <GiveUp onGiveUp={() => void act(job.id, "give_up")} />}
      {job.state === "turn" && (
        <p className="soft">Left to right, its register holes on the pins. Zero stays the lower left corner of the bed.</p>
      )}
    </div>
  );
}

/** What is not cut out is lost: asked twice. */
function GiveUp({ onGiveUp }: { onGiveUp: () => void }) {
  const [sure, setSure] = useState(false);
  if (!sure)
    return (
      <Button size="xl" variant="outline" color="vermilion" onClick={() => setSure(true)}>
        Give it up
      </Button>
    );
  return (
    <Button size="xl" variant="filled" color="vermilion.6" onClick={onGiveUp}>
      What is not cut out is spoiled
    </Button>
  );
}

/** The sheet is done once each piece is accounted for. */
function Finish({ job, acts }: { job: OnBedOut; acts: Acts }) {
  const [place, setPlace] = useState("");
  const left = job.pieces.filter((p) => !p.mark).length;
  return (
    <div className="finish">
      <TextInput
        label="What is left of the sheet goes to"
        placeholder="rack by the door"
        value={place}
        maxLength={80}
        onChange={(e) => setPlace(e.currentTarget.value)}
      />
      <Button
        size="lg"
        variant="filled"
        color="leaf.6"
        disabled={left > 0 || acts.busy}
        onClick={() => void acts.finish(job.id, place)}
      >
        {left > 0 ? `${left} still to take off` : "The bed is clear"}
      </Button>
    </div>
  );
}
