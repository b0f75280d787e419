// What waits for a machine, in order, and what it cut.
import { Button, Menu, TextInput } from "@mantine/core";
import { Link } from "react-router";
import type { JobOut, MachineOut } from "../../api/types";
import { SheetDrawing } from "../../frame/SheetMini";
import { plural } from "../../lib/figures";
import { clock } from "../../lib/program";
import { ofRevision, useJobSheet } from "../../state/machines";
import type { Acts } from "./Machines";

type Props = {
  /** those that are shown */
  jobs: JobOut[];
  /** all that wait */
  all: JobOut[];
  machine: MachineOut;
  acts: Acts;
};

export function Queue({ jobs, all, machine, acts }: Props) {
  if (!jobs.length) return null;
  return (
    <section aria-label="Queue">
      <div className="row">
        <h2 className="grow">
          {plural(jobs.length, "sheet")} more, {clock(jobs.reduce((a, j) => a + j.seconds, 0))}
        </h2>
        {all.some((j) => j.due) && (
          <Button disabled={acts.busy} onClick={() => void acts.byDue(machine.name)}>
            By the day due
          </Button>
        )}
      </div>
      <ol className="jobs">
        {jobs.map((job) => {
          const k = all.indexOf(job);
          return (
            <li key={job.id}>
              <div className="jobpicture">
                <Small job={job} />
              </div>
              <div className="grow">
                <b>{job.name}</b>, sheet {job.number} of {job.of}
                <div className="soft">
                  {job.stock_name}, {plural(job.count, "piece")}, {clock(job.seconds)}
                </div>
                {job.said && <div className="warn">{job.said}</div>}
              </div>
              <TextInput
                type="date"
                aria-label={`Due: ${job.name}, sheet ${job.number}`}
                error={job.late ? "late" : undefined}
                defaultValue={job.due}
                onBlur={(e) => {
                  const due = e.currentTarget.value;
                  if (due !== job.due) void acts.due(job.id, due);
                }}
              />
              <Menu position="bottom-end">
                <Menu.Target>
                  <Button aria-label={`Order: ${job.name}, sheet ${job.number}`}>Order</Button>
                </Menu.Target>
                <Menu.Dropdown>
                  <Menu.Item disabled={k === 0} onClick={() => void acts.before(job.id, all[0].id)}>
                    First
                  </Menu.Item>
                  <Menu.Item disabled={k === 0} onClick={() => void acts.before(job.id, all[k - 1].id)}>
                    One up
                  </Menu.Item>
                  <Menu.Item disabled={k === all.length - 1} onClick={() => void acts.before(job.id, all[k + 2]?.id ?? "")}>
                    One down
                  </Menu.Item>
                  <Menu.Item disabled={k === all.length - 1} onClick={() => void acts.before(job.id, "")}>
                    Last
                  </Menu.Item>
                  <Menu.Item color="vermilion" onClick={() => void acts.remove(job.id)}>
                    Out of the queue
                  </Menu.Item>
                </Menu.Dropdown>
              </Menu>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

function Small({ job }: { job: JobOut }) {
  const laid = useJobSheet(job.id);
  return laid && <SheetDrawing sheet={laid.sheet} tint={job.tint} lit={[]} hover="" />;
}

/** What was cut last, with what came of it. */
export function Done({ jobs }: { jobs: JobOut[] }) {
  if (!jobs.length) return null;
  return (
    <section aria-label="Cut lately">
      <h2>Cut lately</h2>
      <ul className="jobs done">
        {jobs.map((job) => (
          <li key={job.id}>
            <span className="grow">
              {job.design ? <Link to={`/designs/${job.design}`}>{job.name}</Link> : job.name}, sheet {job.number} of {job.of},{" "}
              {job.stock_name}
              {ofRevision(job)}
              <div className="soft">{job.said}</div>
            </span>
            <span className="soft">
              {new Date(job.ended).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
