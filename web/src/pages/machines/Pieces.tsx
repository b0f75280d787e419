// The pieces of a sheet by their numbers: taken off, or spoiled.
import { Button } from "@mantine/core";
import type { OnBedOut } from "../../api/types";
import type { PieceMark } from "../../state/machines";
import type { Acts } from "./Machines";

type Props = {
  job: OnBedOut;
  acts: Acts;
  /** those that are cut out by now */
  free: Set<string>;
};

export function Pieces({ job, acts, free }: Props) {
  const name = (p: OnBedOut["pieces"][number]) => `${p.key}#${p.number}`;
  const mark = (p: OnBedOut["pieces"][number], what: PieceMark) =>
    void acts.mark(job.id, [{ key: p.key, number: p.number, mark: p.mark === what ? "" : what }]);
  const left = job.pieces.filter((p) => !p.mark && free.has(name(p)));
  const of = new Map<string, number>();
  for (const p of job.pieces) of.set(p.key, (of.get(p.key) ?? 0) + 1);
  return (
    <div className="piecelist">
      <div className="row">
        <h2 className="grow">Pieces</h2>
        {left.length > 1 && (
          <Button
            disabled={acts.busy}
            onClick={() =>
              void acts.mark(
                job.id,
                left.map(({ key, number }) => ({ key, number, mark: "off" as const })),
              )
            }
          >
            All {left.length} off
          </Button>
        )}
      </div>
      <ol>
        {job.pieces.map((p) => {
          const words = `${p.part}${p.code ? `, no. ${p.code}` : ""}${(of.get(p.key) ?? 0) > 1 ? `, ${p.number + 1}` : ""}`;
          return (
            <li key={name(p)} className={p.mark || (free.has(name(p)) ? "free" : "coming")}>
              <span className="pieceno">{p.code}</span>
              <span className="grow">
                {p.part}
                {(of.get(p.key) ?? 0) > 1 && <span className="soft"> {p.number + 1}</span>}
              </span>
              <Button
                variant={p.mark === "off" ? "filled" : "default"}
                color="leaf.6"
                disabled={acts.busy || (!free.has(name(p)) && p.mark !== "off")}
                aria-pressed={p.mark === "off"}
                aria-label={`Off: ${words}`}
                onClick={() => mark(p, "off")}
              >
                Off
              </Button>
              <Button
                variant={p.mark === "spoiled" ? "filled" : "default"}
                color="vermilion.6"
                disabled={acts.busy}
                aria-pressed={p.mark === "spoiled"}
                aria-label={`Spoiled: ${words}`}
                onClick={() => mark(p, "spoiled")}
              >
                Spoiled
              </Button>
            </li>
          );
        })}
      </ol>
    </div>
  );
}
