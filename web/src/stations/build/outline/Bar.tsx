// The tools of the sheet: what is drawn, what is typed while it is drawn, and what can be done with what is chosen.
import { Button, CloseButton, Menu, NumberInput, Switch, TextInput, Tooltip } from "@mantine/core";
import { IconBorderCornerRounded, IconChevronDown, IconCopy, IconRuler2, IconSparkles, IconTrash } from "@tabler/icons-react";
import { useEffect, useState } from "react";
import type { DrawingOut } from "../../../api/types";
import { orderFor } from "../../../lib/outline";
import { fresh } from "../../../state/design";
import type { Operation } from "../../../state/operations";
import {
  BACKDROP,
  type BackdropTool,
  type DrawTool,
  draws,
  laysPicture,
  opened,
  TOOLS,
  useDrawn,
  useOutline,
} from "../../../state/outline";
import { useView } from "../../../state/view";

const ARCS: DrawTool[] = ["arc_smooth", "arc_through", "arc_centre"];
const PLAIN: DrawTool[] = ["line", "circle", "rectangle", "slot", "polygon", "spline", "text", "point"];

export function OutlineBar() {
  const { drawing, why } = useDrawn();
  const state = useOutline();
  const { setDraft } = useView.getState();
  useKeys();
  const { begin } = useOutline.getState();
  useEffect(() => {
    begin();
    return begin;
  }, [begin]);
  return (
    <section className="drawbar" aria-label="Drawing tools" data-testid="drawbar">
      <div className="row">
        <Tooltip label="Choose, and drag what can move">
          <Button size="compact-sm" aria-pressed={state.tool === ""} onClick={() => state.take("")}>
            Choose
          </Button>
        </Tooltip>
        {PLAIN.slice(0, 1).map((t) => (
          <Tool key={t} tool={t} />
        ))}
        <Menu position="bottom-start">
          <Menu.Target>
            <Button
              size="compact-sm"
              aria-pressed={ARCS.includes(state.tool as DrawTool)}
              px={7}
              rightSection={<IconChevronDown size={12} />}
            >
              Arc
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            {ARCS.map((t) => (
              <Menu.Item key={t} onClick={() => state.take(t)}>
                {TOOLS[t].words}
              </Menu.Item>
            ))}
          </Menu.Dropdown>
        </Menu>
        {PLAIN.slice(1).map((t) => (
          <Tool key={t} tool={t} />
        ))}
        <Menu position="bottom-start">
          <Menu.Target>
            <Button
              size="compact-sm"
              px={7}
              aria-pressed={state.tool === "trim" || state.tool === "split"}
              rightSection={<IconChevronDown size={12} />}
            >
              Trim
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => state.take("trim")}>Trim away the piece that is pressed</Menu.Item>
            <Menu.Item onClick={() => state.take("split")}>Split where it is pressed</Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </div>
      <CloseButton className="drawbarclose" size="sm" aria-label="Leave the drawing" onClick={() => setDraft(null)} />
      <div className="row" style={{ minHeight: 26 }}>
        <Switch
          size="xs"
          mr={8}
          label="Helping"
          checked={state.helping}
          onChange={(e) => state.set({ helping: e.currentTarget.checked })}
        />
        {state.tool !== "" ? (
          <Drawing />
        ) : drawing ? (
          <Chosen d={drawing} />
        ) : (
          <span className="soft">{why || "Opening the drawing…"}</span>
        )}
      </div>
      {state.why && (
        <div className="error" role="alert">
          {state.why}
        </div>
      )}
    </section>
  );
}

function Tool({ tool }: { tool: DrawTool }) {
  const on = useOutline((s) => s.tool === tool);
  const take = useOutline((s) => s.take);
  return (
    <Button size="compact-sm" px={7} aria-pressed={on} onClick={() => take(tool)}>
      {tool === "spline" ? "Curve" : TOOLS[tool].words}
    </Button>
  );
}

/** What the tool in hand waits for, and what may be typed. */
function Drawing() {
  const { tool, presses, typed, sides, text, type, finish, set } = useOutline();
  if (tool === "trim" || tool === "split")
    return <span className="soft">{tool === "trim" ? "Press the piece that goes." : "Press where it is split."}</span>;
  if (laysPicture(tool)) return <Laying tool={tool} />;
  if (!draws(tool)) return null;
  const { words, says, figures } = TOOLS[tool];
  return (
    <>
      <span className="soft">
        {words}: press {says[Math.min(presses.length, says.length - 1)]}. Alt keeps nothing of what is seen.
      </span>
      {tool === "polygon" && (
        <NumberInput
          size="xs"
          w={84}
          aria-label="Sides"
          suffix=" sides"
          min={3}
          max={60}
          value={sides}
          onChange={(v) => typeof v === "number" && set({ sides: v })}
        />
      )}
      {tool === "text" && (
        <TextInput
          size="xs"
          w={150}
          autoFocus
          aria-label="Text to draw"
          placeholder="what it says"
          maxLength={60}
          value={text}
          onChange={(e) => set({ text: e.currentTarget.value })}
        />
      )}
      {figures.map((f) => (
        <TextInput
          key={f}
          size="xs"
          w={104}
          aria-label={f}
          placeholder={f}
          value={typed[f] ?? ""}
          onChange={(e) => type(f, e.currentTarget.value)}
          onKeyDown={(e) => e.key === "Enter" && void finish()}
        />
      ))}
      {tool === "spline" && presses.length > 1 && (
        <Button size="compact-xs" onClick={() => void finish()}>
          End it here
        </Button>
      )}
    </>
  );
}

/** What the picture behind the drawing waits for. */
function Laying({ tool }: { tool: BackdropTool }) {
  const { presses, typed, type, finish } = useOutline();
  const { words, says } = BACKDROP[tool];
  const asks = tool === "scale" && presses.length > 1;
  return (
    <>
      <span className="soft">
        Picture, {words.toLowerCase()}:{" "}
        {asks ? "say how far apart these places are." : `press ${says[Math.min(presses.length, 1)]}.`}
      </span>
      {asks && (
        <>
          <TextInput
            size="xs"
            w={120}
            autoFocus
            aria-label="How far apart"
            placeholder="How far apart"
            value={typed.distance ?? ""}
            onChange={(e) => type("distance", e.currentTarget.value)}
            onKeyDown={(e) => e.key === "Enter" && void finish()}
          />
          <Button size="compact-xs" variant="filled" onClick={() => void finish()}>
            Scale it
          </Button>
        </>
      )}
    </>
  );
}

/** What can be done with what is chosen. */
function Chosen({ d }: { d: DrawingOut }) {
  const { chosen, act } = useOutline();
  const where = opened();
  const [ask, setAsk] = useState<"" | "round" | "cut" | "beside" | "row">("");
  const things = chosen.filter((k) => !d.relations.some((r) => r.key === k));
  const relations = chosen.filter((k) => d.relations.some((r) => r.key === k));
  const curves = things.filter((k) => d.curves.some((c) => c.key === k));
  const points = things.filter((k) => d.points.some((p) => p.key === k));
  // biome-ignore lint/correctness/useExhaustiveDependencies: another choice is asked anew
  useEffect(() => setAsk(""), [chosen.join()]);
  if (!where) return null;
  if (!chosen.length)
    return (
      <>
        <span className="soft">Press points and lines to choose them, with Shift more of them; drag what can move.</span>
        <Button
          size="compact-xs"
          leftSection={<IconSparkles size={13} />}
          onClick={() => void act({ operation: "find_relations", ...where, within: 0.5 })}
        >
          Find relations
        </Button>
      </>
    );
  const possible = d.kinds.flatMap((k) => {
    const of = things.length ? orderFor(d, things, k.takes) : null;
    return of ? [{ ...k, of }] : [];
  });
  const mirror = curves.length > 1 && d.curves.find((c) => c.key === curves[curves.length - 1])?.kind === "line";
  const only = things.length === 1 ? d.curves.find((c) => c.key === things[0]) : undefined;
  const own = points.length > 0 && points.length === things.length;
  const erasable = [...curves, ...points, ...relations, ...things.filter((k) => d.references.some((r) => r.key === k))];
  return (
    <>
      {possible.map((k) => (
        <Button
          key={k.kind}
          size="compact-xs"
          leftSection={k.figure ? <IconRuler2 size={13} /> : undefined}
          onClick={() => void act({ operation: "relate_drawn", ...where, kind: k.kind as Relate["kind"], of: k.of })}
        >
          {k.words}
        </Button>
      ))}
      {own && (
        <>
          <Button size="compact-xs" leftSection={<IconBorderCornerRounded size={13} />} onClick={() => setAsk("round")}>
            Round
          </Button>
          <Button size="compact-xs" onClick={() => setAsk("cut")}>
            Cut off
          </Button>
        </>
      )}
      {curves.length > 0 && curves.length === things.length && (
        <Menu position="bottom-start">
          <Menu.Target>
            <Button size="compact-xs" leftSection={<IconCopy size={13} />} rightSection={<IconChevronDown size={11} />}>
              Again
            </Button>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item
              disabled={!mirror}
              onClick={() =>
                void act({ operation: "mirror_drawn", ...where, curves: curves.slice(0, -1), about: curves[curves.length - 1] })
              }
            >
              Mirrored about the last line chosen
            </Menu.Item>
            <Menu.Item onClick={() => setAsk("beside")}>Beside itself…</Menu.Item>
            <Menu.Item onClick={() => setAsk("row")}>In a row…</Menu.Item>
          </Menu.Dropdown>
        </Menu>
      )}
      {only?.text && <Letters key={`${only.key}${only.text.text}`} curve={only.key} now={only.text} where={where} />}
      {curves.length === 1 && things.length === 1 && <Name key={curves[0]} d={d} curve={curves[0]} where={where} />}
      {erasable.length > 0 && (
        <Button
          size="compact-xs"
          leftSection={<IconTrash size={13} />}
          onClick={() => void act({ operation: "erase_drawn", ...where, keys: erasable })}
        >
          Erase
        </Button>
      )}
      {ask && <Ask key={ask} what={ask} onDone={(say) => void act(asked(ask, say, where, curves, points))} />}
    </>
  );
}

/** What a text says, how high it is and how it is turned. */
function Letters({ curve, now, where }: { curve: string; now: NonNullable<DrawingOut["curves"][number]["text"]>; where: Where }) {
  const act = useOutline((s) => s.act);
  const save = (field: "text" | "height" | "turned", said: string) => {
    const value = said.trim();
    if (!value || value === now[field]) return;
    const more = field === "text" ? { text: value } : { [field]: fresh(value) };
    void act({ operation: "letter_drawn", ...where, curve, ...more });
  };
  const fields = [
    ["text", "What it says", 150],
    ["height", "Height of its capitals", 86],
    ["turned", "Turned by", 70],
  ] as const;
  return (
    <>
      {fields.map(([field, label, wide]) => (
        <TextInput
          key={field}
          size="xs"
          w={wide}
          aria-label={label}
          defaultValue={now[field]}
          onBlur={(e) => save(field, e.currentTarget.value)}
          onKeyDown={(e) => e.key === "Enter" && save(field, e.currentTarget.value)}
        />
      ))}
      <Button
        size="compact-xs"
        onClick={() => void act({ operation: "letter_drawn", ...where, curve, font: now.font === "sans" ? "mono" : "sans" })}
      >
        {now.font === "sans" ? "Letters of one width" : "Letters of their own width"}
      </Button>
    </>
  );
}

/** What a line is called by entries and edges. */
function Name({ d, curve, where }: { d: DrawingOut; curve: string; where: Where }) {
  const act = useOutline((s) => s.act);
  const now = d.curves.find((c) => c.key === curve)?.name ?? "";
  const [text, setText] = useState(now);
  const save = () => {
    const name = text.trim().toLowerCase().replaceAll(" ", "_");
    if (name !== now) void act({ operation: "name_drawn", ...where, curve, name });
  };
  return (
    <TextInput
      size="xs"
      w={112}
      aria-label="Name of the line"
      placeholder="no name"
      value={text}
      onChange={(e) => setText(e.currentTarget.value)}
      onBlur={save}
      onKeyDown={(e) => e.key === "Enter" && save()}
    />
  );
}

type Relate = Extract<Operation, { operation: "relate_drawn" }>;
type Where = { part: string; feature: string };
type Say = { size: string; number: number; up: string; side: "left" | "right" };

function asked(what: "round" | "cut" | "beside" | "row", say: Say, where: Where, curves: string[], points: string[]): Operation {
  if (what === "beside") return { operation: "beside_drawn", ...where, curves, by: fresh(say.size), side: say.side };
  if (what === "row")
    return {
      operation: "row_drawn",
      ...where,
      curves,
      number: say.number,
      across: fresh(say.size || "0"),
      up: fresh(say.up || "0"),
    };
  return { operation: "ease_corner", ...where, points, how: what, size: fresh(say.size) };
}

function Ask({ what, onDone }: { what: "round" | "cut" | "beside" | "row"; onDone: (say: Say) => void }) {
  const [say, setSay] = useState<Say>({ size: "", number: 3, up: "", side: "left" });
  const label = { round: "Radius", cut: "Length off", beside: "Beside by", row: "Step across" }[what];
  const done = () => (say.size.trim() || say.up.trim()) && onDone(say);
  const entered = (e: React.KeyboardEvent) => e.key === "Enter" && done();
  return (
    <>
      <TextInput
        size="xs"
        w={104}
        autoFocus
        aria-label={label}
        placeholder={label}
        value={say.size}
        onChange={(e) => setSay({ ...say, size: e.currentTarget.value })}
        onKeyDown={entered}
      />
      {what === "row" && (
        <>
          <TextInput
            size="xs"
            w={92}
            aria-label="Step up"
            placeholder="Step up"
            value={say.up}
            onChange={(e) => setSay({ ...say, up: e.currentTarget.value })}
            onKeyDown={entered}
          />
          <NumberInput
            size="xs"
            w={74}
            aria-label="How many"
            suffix=" in all"
            min={2}
            max={100}
            value={say.number}
            onChange={(v) => typeof v === "number" && setSay({ ...say, number: v })}
          />
        </>
      )}
      {what === "beside" && (
        <Button size="compact-xs" onClick={() => setSay({ ...say, side: say.side === "left" ? "right" : "left" })}>
          to its {say.side}
        </Button>
      )}
      <Button size="compact-xs" variant="filled" onClick={done}>
        Do it
      </Button>
    </>
  );
}

/** Keys of the sheet: Escape lets go step by step, Enter ends what is in hand, Delete erases what is chosen. */
function useKeys(): void {
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const target = e.target as HTMLElement;
      const typing = target.closest("input:not([type=checkbox]), textarea, [role=dialog], [role=menu]");
      const state = useOutline.getState();
      if (e.key === "Escape" && !target.closest("[role=dialog], [role=menu]")) {
        if (!state.back()) return;
      } else if (typing) return;
      else if (e.key === "Enter" && state.tool && state.presses.length) void state.finish();
      else if (e.key === "Delete" || e.key === "Backspace") {
        const where = opened();
        const keys = state.chosen.filter((k) => !k.includes(":"));
        if (where && keys.length) void state.act({ operation: "erase_drawn", ...where, keys });
      } else return;
      e.preventDefault();
      e.stopPropagation();
    };
    window.addEventListener("keydown", press, true);
    return () => window.removeEventListener("keydown", press, true);
  }, []);
}
