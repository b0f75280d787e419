// The card of a drawing: what is loose, what contradicts and the ways out, and every relation with its figure.
import { ActionIcon, Button, Select, Tooltip } from "@mantine/core";
import { IconArrowsExchange, IconEyeOff, IconPinned, IconRuler2, IconTrash, IconVariable } from "@tabler/icons-react";
import { useEffect, useRef, useState } from "react";
import type { DrawingOut } from "../api/types";
import { EntryField } from "../fields/EntryField";
import { ChoiceField } from "../fields/PlainField";
import { type Axis, isPlate, pointer } from "../lib/document";
import { plural } from "../lib/figures";
import { isOf, readOwner } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { useDrawn, useOutline } from "../state/outline";
import { words } from "../state/shape";
import { useView } from "../state/view";
import { OutlineBackdrop } from "./OutlineBackdrop";
import { ProblemSection } from "./Problem";

type Where = { part: string; feature: string };
type Relation = DrawingOut["relations"][number];

export function OutlineDraft({ part, feature }: Where) {
  const shown = useShown()!;
  const { drawing: d, why } = useDrawn();
  const { setDraft } = useView.getState();
  const own = (p: { part: string; owner: string; entry: string }) =>
    d && (p.entry.startsWith(d.where) || (p.part === part && p.owner === d.owner));
  const problems = shown.built.problems.filter((p) => own(p) && p.code !== "contradicts");
  return (
    <>
      {d ? (
        <h2>
          {words(d.name)}: {d.title}
        </h2>
      ) : (
        <p className="soft">{why || "Opening the drawing…"}</p>
      )}
      {isOf(feature, "flange") && <LiesOn part={part} flange={readOwner(feature).key} />}
      {d && <Loose d={d} />}
      {d?.clashes.map((c) => (
        <Contradiction key={c.left_out} clash={c} where={{ part, feature }} />
      ))}
      {d && d.twice.length > 0 && <Twice d={d} where={{ part, feature }} />}
      <ProblemSection problems={problems} />
      {d && <Relations d={d} where={{ part, feature }} />}
      {d && d.references.length > 0 && <References d={d} where={{ part, feature }} />}
      {d && <OutlineBackdrop d={d} where={{ part, feature }} />}
      <section>
        <Button variant="filled" onClick={() => setDraft(null)}>
          Done
        </Button>
      </section>
    </>
  );
}

/** Which face of the sheet the line of a profile is; the thickness lies on its other side. */
function LiesOn({ part, flange }: { part: string; flange: string }) {
  const record = useShown()!.doc.parts[part];
  const built = useShown()!.built.parts.find((p) => p.key === part);
  const lies = isPlate(record) ? String(record.folding?.flanges[flange]?.lies ?? "") : "";
  if (!record || !lies) return null;
  return (
    <section>
      <ChoiceField
        label="The line is"
        value={lies}
        data={[
          { value: "a", label: `face A, the plate's ${built?.face_a ?? ""}` },
          { value: "b", label: `face B, the plate's ${built?.face_b ?? ""}` },
        ]}
        onSave={(v) =>
          void useDesign
            .getState()
            .commit(`${record.name}: its profile lies on face ${v.toUpperCase()}`, [
              { op: "replace", path: pointer("parts", part, "folding", "flanges", flange, "lies"), value: v },
            ])
        }
      />
    </section>
  );
}

function Loose({ d }: { d: DrawingOut }) {
  const choose = useOutline((s) => s.chooseAll);
  const loose = d.points.filter((p) => p.state !== "settled").map((p) => p.key);
  const radii = d.curves.filter((c) => c.loose).map((c) => c.key);
  return (
    <section>
      <div className="row">
        <span className={d.freedoms ? "grow" : "grow good"} data-testid="freedoms">
          {d.freedoms === 0 ? "Nothing is loose: every point is settled." : `${plural(d.freedoms, "freedom")} left.`}
        </span>
        {d.freedoms > 0 && (
          <Button size="compact-xs" onClick={() => choose([...loose, ...radii])}>
            Show what is loose
          </Button>
        )}
      </div>
      {d.freedoms > 0 && (
        <p className="soft">
          {loose.length > 0 && `${plural(loose.length, "point")} can move: an open ring, with arrows where it has one way only.`}
          {radii.length > 0 && ` ${plural(radii.length, "radius", "radii")} can change.`}
        </p>
      )}
    </section>
  );
}

function Contradiction({ clash, where }: { clash: DrawingOut["clashes"][number]; where: Where }) {
  const act = useOutline((s) => s.act);
  const choose = useOutline((s) => s.choose);
  return (
    <section className="problem" data-testid="contradiction">
      <h3 className="error">These cannot all hold</h3>
      {clash.relations.map((r) => (
        <div key={r.key} className="endline">
          <button type="button" className="linkrow" onClick={() => choose(r.key, false)}>
            <span>{r.words.replaceAll("_", " ")}</span>
            {r.key === clash.left_out && <span className="soft"> · not held now</span>}
          </button>
          <Button
            size="compact-xs"
            onClick={() => void act({ operation: "hold_drawn", ...where, key: r.key, how: "leave out" })}
            aria-label={`Leave out: ${r.words}`}
          >
            Leave this one out
          </Button>
          {r.figure && (
            <Button
              size="compact-xs"
              onClick={() => void act({ operation: "hold_drawn", ...where, key: r.key, how: "measure" })}
              aria-label={`Only measure: ${r.words}`}
            >
              Only measure it
            </Button>
          )}
        </div>
      ))}
    </section>
  );
}

function Twice({ d, where }: { d: DrawingOut; where: Where }) {
  const act = useOutline((s) => s.act);
  return (
    <section>
      <h3>Said already by others</h3>
      {d.twice.map((r) => (
        <div key={r.key} className="row">
          <span className="grow">{r.words.replaceAll("_", " ")}</span>
          <Button
            size="compact-xs"
            onClick={() => void act({ operation: "hold_drawn", ...where, key: r.key, how: r.figure ? "measure" : "leave out" })}
          >
            {r.figure ? "Only measure it" : "Leave out"}
          </Button>
        </div>
      ))}
    </section>
  );
}

function Relations({ d, where }: { d: DrawingOut; where: Where }) {
  const figures = d.relations.filter((r) => r.figure);
  const others = d.relations.filter((r) => !r.figure);
  return (
    <>
      <section>
        <h3>Dimensions</h3>
        {!figures.length && <div className="soft">None yet. Choose a line, or two things, and say their distance.</div>}
        {figures.map((r) => (
          <One key={r.key} r={r} where={where} />
        ))}
      </section>
      {others.length > 0 && (
        <section>
          <h3>What holds</h3>
          {others.map((r) => (
            <One key={r.key} r={r} where={where} />
          ))}
        </section>
      )}
    </>
  );
}

function One({ r, where }: { r: Relation; where: Where }) {
  const on = useOutline((s) => s.chosen.includes(r.key));
  const choose = useOutline((s) => s.choose);
  const act = useOutline((s) => s.act);
  const row = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!on) return;
    row.current?.scrollIntoView({ block: "nearest" });
    row.current?.querySelector("input")?.focus();
  }, [on]);
  const said = r.words.replaceAll("_", " ").replace(/, [^,]*$/, (tail) => (r.figure ? "" : tail));
  const hold = (how: "hold" | "measure" | "leave out") => void act({ operation: "hold_drawn", ...where, key: r.key, how });
  return (
    <div ref={row} className="relationrow" data-on={on} data-state={r.state}>
      <div className="row">
        <button type="button" className="linkrow grow" onClick={() => choose(r.key, false)}>
          <span className={r.state === "out" ? "soft clip" : r.state === "contradicts" ? "error clip" : "clip"}>
            {said[0].toUpperCase() + said.slice(1)}
          </span>
          {r.state === "measured" && <span className="figure soft">({r.figure})</span>}
          {r.state === "out" && (
            <span className="soft" style={{ whiteSpace: "nowrap" }}>
              left out
            </span>
          )}
        </button>
        {r.state === "measured" && (
          <Tooltip label="Make it a size, which entries can name">
            <ActionIcon
              size="sm"
              aria-label={`Make it a size: ${said}`}
              onClick={() => void act({ operation: "size_of_drawn", ...where, key: r.key })}
            >
              <IconVariable size={14} />
            </ActionIcon>
          </Tooltip>
        )}
        {r.figure && (
          <Tooltip label={r.state === "measured" ? "Let it hold" : "Only measure it"}>
            <ActionIcon
              size="sm"
              aria-label={`${r.state === "measured" ? "Let it hold" : "Only measure"}: ${said}`}
              onClick={() => hold(r.state === "measured" ? "hold" : "measure")}
            >
              <IconRuler2 size={14} />
            </ActionIcon>
          </Tooltip>
        )}
        <Tooltip label={r.state === "out" ? "Let it hold" : "Leave it out"}>
          <ActionIcon
            size="sm"
            aria-label={`${r.state === "out" ? "Let it hold" : "Leave out"}: ${said}`}
            onClick={() => hold(r.state === "out" ? "hold" : "leave out")}
          >
            <IconEyeOff size={14} />
          </ActionIcon>
        </Tooltip>
        <Tooltip label="Forget it">
          <ActionIcon
            size="sm"
            aria-label={`Forget: ${said}`}
            onClick={() => void act({ operation: "erase_drawn", ...where, keys: [r.key] })}
          >
            <IconTrash size={14} />
          </ActionIcon>
        </Tooltip>
      </div>
      {r.entry && r.state !== "measured" && (
        <EntryField path={r.entry} label={said} hideLabel edit={said} kind={r.kind === "angle" ? "angle" : "length"} />
      )}
    </div>
  );
}

const WAYS: Record<string, string> = { x: "from left", y: "from the front", z: "from below" };

function References({ d, where }: { d: DrawingOut; where: Where }) {
  return (
    <section>
      <h3>Follows</h3>
      {d.references.map((r) => (
        <Referred key={r.key} d={d} r={r} where={where} />
      ))}
    </section>
  );
}

/** One thing that the drawing refers to: where it lies, and what it could follow instead, for all that is said of it. */
function Referred({ d, r, where }: { d: DrawingOut; r: DrawingOut["references"][number]; where: Where }) {
  const act = useOutline((s) => s.act);
  const [open, setOpen] = useState(false);
  const said = r.words.replaceAll("_", " ");
  const others = d.candidates.filter((c) => c.kind === r.kind);
  const point = (to: string) => void act({ operation: "point_drawn", ...where, reference: r.key, to });
  return (
    <div>
      <div className="row">
        <span className="grow clip soft">{said}</span>
        <Tooltip label="Follow something else, for all that is said of it">
          <ActionIcon size="sm" aria-expanded={open} aria-label={`Follow something else: ${said}`} onClick={() => setOpen(!open)}>
            <IconArrowsExchange size={14} />
          </ActionIcon>
        </Tooltip>
        {r.follows && (
          <Tooltip label="Let it stay where it is now">
            <ActionIcon size="sm" aria-label={`Let it stay: ${said}`} onClick={() => point("")}>
              <IconPinned size={14} />
            </ActionIcon>
          </Tooltip>
        )}
      </div>
      {open && (
        <Select
          size="xs"
          searchable
          aria-label={`What ${said} follows instead`}
          placeholder={others.length ? "what it follows instead…" : "nothing else is there"}
          data={others.map((c) => ({ value: c.id, label: c.words.replaceAll("_", " ") }))}
          onChange={(id) => id && point(id)}
        />
      )}
      {r.entries.map((e) => (
        <EntryField
          key={e.at}
          path={e.at}
          axis={(e.axis as Axis) || undefined}
          label={WAYS[e.axis] ?? "lies at"}
          edit={`Refers to ${r.words}`}
        />
      ))}
    </div>
  );
}
