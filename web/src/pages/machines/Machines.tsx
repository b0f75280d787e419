// At the machine: what lies on its bed, what comes next, what waits. To be read from two metres.
import { Button, SegmentedControl } from "@mantine/core";
import { useSearchParams } from "react-router";
import type { MachineOut } from "../../api/types";
import { PageHead } from "../../frame/PageHead";
import { useMachineActs, useMachines } from "../../state/machines";
import { NextSheet } from "./NextSheet";
import { OnBed } from "./OnBed";
import { Done, Queue } from "./Queue";

export type Acts = ReturnType<typeof useMachineActs>;

export function Machines() {
  const machines = useMachines();
  const [asked, ask] = useSearchParams();
  const acts = useMachineActs();
  const found = machines.data;
  const chosen = found?.find((m) => m.name === asked.get("machine")) ?? found?.find((m) => m.on_bed) ?? found?.[0];
  return (
    <main className="machinepage">
      <PageHead title="At the machine">
        {found && found.length > 1 && chosen && (
          <SegmentedControl
            aria-label="Machine"
            value={chosen.name}
            data={found.map((m) => ({ value: m.name, label: `${m.called}${m.queue.length ? ` (${m.queue.length})` : ""}` }))}
            onChange={(name) => ask({ machine: name })}
          />
        )}
      </PageHead>
      {machines.isError && (
        <div className="problem" role="alert">
          {machines.error.message}
        </div>
      )}
      {machines.isPending && <p className="soft">Asking the machines…</p>}
      {found?.length === 0 && (
        <div className="paper" style={{ marginTop: 20, textAlign: "center", padding: 50 }}>
          <h2>No machine is connected</h2>
          <p className="soft">
            Programs leave as files meanwhile: Shop, To the cutter. Whoever runs this server connects machines by ZYGON_MACHINES.
          </p>
        </div>
      )}
      {chosen && <OneMachine key={chosen.name} machine={chosen} acts={acts} />}
    </main>
  );
}

function OneMachine({ machine, acts }: { machine: MachineOut; acts: Acts }) {
  const [first, ...others] = machine.queue;
  return (
    <>
      <Standing machine={machine} acts={acts} />
      {acts.fault && (
        <div className="problem loud" role="alert">
          {acts.fault}
        </div>
      )}
      {acts.told.length > 0 && (
        <div className="paper loud" role="status">
          {acts.told.join(" ")}
        </div>
      )}
      {machine.on_bed ? (
        <OnBed job={machine.on_bed} machine={machine} acts={acts} />
      ) : first && !machine.taken ? (
        <NextSheet job={first} machine={machine} acts={acts} />
      ) : (
        <div className="paper" style={{ textAlign: "center", padding: 40 }}>
          <h2>{machine.taken ? "Another maker's sheet lies on the bed" : "Nothing waits"}</h2>
          <p className="soft">Sheets come here from a design: Shop, To the cutter, Send.</p>
        </div>
      )}
      <Queue jobs={machine.on_bed || machine.taken ? machine.queue : others} all={machine.queue} machine={machine} acts={acts} />
      <Done jobs={machine.done} />
    </>
  );
}

const STATES: { [state: string]: string } = {
  unhomed: "Not homed",
  idle: "Ready",
  running: "Cutting",
  held: "Held",
  alarm: "Alarm",
};

/** How the machine itself stands. */
function Standing({ machine, acts }: { machine: MachineOut; acts: Acts }) {
  const { status } = machine;
  const homeless = status?.state === "unhomed" || status?.state === "alarm";
  return (
    <div className="row standing">
      <span className={`lamp ${status?.state ?? "silent"}`} aria-hidden />
      <b role="status">{status ? STATES[status.state] : "Does not answer"}</b>
      <span className="soft grow">
        {status
          ? `${status.reason ? `${status.reason}. ` : ""}Head at X ${status.x.toFixed(1)} mm, Y ${status.y.toFixed(1)} mm${
              machine.kind === "bit" ? `, Z ${status.z.toFixed(1)} mm` : ""
            }${status.tool ? `, bit T${status.tool}` : ""}${status.on && status.feed ? `, ${Math.round(status.feed)} mm/s` : ""}`
          : "It is asked again every two seconds; what it was given, it goes on with."}
        {machine.speed !== 1 && `. Simulated, ${machine.speed} times as fast as in truth`}
      </span>
      {homeless && (
        <Button size="lg" variant="filled" disabled={acts.busy || machine.taken} onClick={() => void acts.home(machine.name)}>
          Home it
        </Button>
      )}
    </div>
  );
}
