// Putting together, step by step: a slider, the order in words, and what is locked, loose or held by nothing.
import { Button, CloseButton, Slider } from "@mantine/core";
import { IconPlayerSkipBack, IconPlayerSkipForward } from "@tabler/icons-react";
import { length, plural } from "../../lib/figures";
import { useAssembly } from "../../state/assembly";
import { useShown } from "../../state/design";
import { useView } from "../../state/view";

export function AssemblyPanel() {
  const view = useView();
  const shown = useShown()!;
  const found = useAssembly(true);
  const step = view.step ?? 0;
  const name = (key: string) => shown.built.parts.find((p) => p.key === key)?.path.replaceAll("_", " ") ?? key;
  const names = (keys: string[]) => keys.map(name).join(", ");
  if (!found)
    return (
      <div className="assembly" role="status">
        Finding out how it goes together…
      </div>
    );
  const n = found.steps.length;
  const now = Math.ceil(step) - 1;
  const said =
    step <= 0 ? `Begin with ${names(found.first)}.` : `Slide ${names(found.steps[now]?.parts ?? [])} ${found.steps[now]?.way}.`;
  const behind = found.sets[Math.ceil(step)] ?? [];
  const putIn = [...new Set(behind.map((s) => s.bore))].map((bore) => {
    const n = behind.filter((s) => s.bore === bore).length;
    return `${n > 1 ? `${n} × ` : ""}${shown.built.sets?.find((s) => s.bore === bore)?.words ?? bore}`;
  });
  const go = (to: number) => view.setStep(Math.max(0, Math.min(n, to)));
  return (
    <section className="assembly" aria-label="Putting together" data-testid="assembly">
      <div className="row">
        <b className="grow" data-testid="assembly-step">
          {n ? `Step ${Math.ceil(step)} of ${n}. ${said}` : "There is one part; nothing has to be put together."}
        </b>
        <CloseButton size="sm" aria-label="Leave the assembly" onClick={() => view.setStep(null)} />
      </div>
      {n > 0 && (
        <div className="row">
          <Button size="compact-xs" aria-label="Step back" disabled={step <= 0} onClick={() => go(Math.ceil(step) - 1)}>
            <IconPlayerSkipBack size={14} />
          </Button>
          <Slider
            className="grow"
            aria-label="Step of the assembly"
            min={0}
            max={n}
            step={0.02}
            value={step}
            onChange={(v) => view.setStep(v)}
            label={null}
            color="ink"
            thumbLabel="Step of the assembly"
          />
          <Button size="compact-xs" aria-label="Step on" disabled={step >= n} onClick={() => go(Math.floor(step) + 1)}>
            <IconPlayerSkipForward size={14} />
          </Button>
        </div>
      )}
      {putIn.length > 0 && <div data-testid="put-in">Then put in {putIn.join("; ")}.</div>}
      {found.locked.map((group) => (
        <div key={group.join()} className="error">
          {names(group)} lock each other out: no order and no straight way puts them together.
        </div>
      ))}
      {found.drops.map((d) => (
        <div key={d.part} className="warn">
          Nothing holds {name(d.part)} up: it would drop {length(d.height, shown.doc.display)}{" "}
          {d.onto ? `onto ${name(d.onto)}` : "to the ground"}.
        </div>
      ))}
      {found.loose.length > 0 && (
        <details>
          <summary className="soft">{plural(found.loose.length, "part")} of the dry assembly can still slide out</summary>
          {found.loose.map((l) => (
            <button type="button" key={l.part} className="linkrow" onClick={() => view.select({ kind: "part", key: l.part })}>
              <span className="grow">{name(l.part)}</span>
              <span className="soft">
                {l.ways.join(", ")}
                {l.kept_by && `, until it is ${l.kept_by}`}
              </span>
            </button>
          ))}
        </details>
      )}
    </section>
  );
}
