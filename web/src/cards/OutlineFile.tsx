// Outlines from a file: its layers, what was mended in it, and whether one outline is taken or all of them.
import { Button, Checkbox, FileButton, Switch } from "@mantine/core";
import { useRef, useState } from "react";
import { said } from "../api/client";
import { length, plural } from "../lib/figures";
import { useDesign } from "../state/design";
import { readOutline } from "../state/files";
import { type Operation, workedOut } from "../state/operations";

type Found = Awaited<ReturnType<typeof readOutline>>;
type Read = { file: File; found: Found; arcs: boolean };
type Shapes = Extract<Operation, { operation: "take_outlines" }>["shapes"];

export function OutlineFile({ partKey, source, onTaken }: { partKey: string; source: string; onTaken: () => void }) {
  const [read, setRead] = useState<Read | null>(null);
  const [busy, setBusy] = useState(false);
  const [why, setWhy] = useState("");
  const reset = useRef<() => void>(null);

  async function again(file: File, layers: string[], arcs: boolean): Promise<void> {
    setBusy(true);
    setWhy("");
    try {
      const found = await readOutline(file, layers, arcs);
      // what leaves nothing to say or to choose is taken at once
      if (!read && found.count === 1 && found.layers.length === 1 && !found.mended.length) await take(found, 1);
      else setRead({ file, found, arcs });
    } catch (error) {
      setWhy(said(error));
    } finally {
      setBusy(false);
      reset.current?.();
    }
  }

  async function take(found: Found, many: number): Promise<void> {
    const shapes = found.shapes.slice(0, many) as unknown as Shapes;
    try {
      const { label, patch } = await workedOut({ operation: "take_outlines", part: partKey, shapes });
      if (!(await useDesign.getState().commit(label, patch))) return;
      setRead(null);
      onTaken();
    } catch (error) {
      setWhy(said(error));
    }
  }

  return (
    <>
      <div className="row">
        <FileButton
          resetRef={reset}
          accept=".dxf,.svg"
          onChange={(file) => {
            setRead(null);
            if (file) void again(file, [], true);
          }}
        >
          {(props) => (
            <Button loading={busy} style={{ flexShrink: 0 }} {...props}>
              {source ? "Another drawing…" : "Choose a drawing…"}
            </Button>
          )}
        </FileButton>
        <span className="soft clip">{source || "its closed outlines, with their holes"}</span>
      </div>
      {read && <Choices read={read} busy={busy} onAgain={again} onTake={(many) => void take(read.found, many)} />}
      {why && (
        <div className="error" role="alert">
          {why}
        </div>
      )}
    </>
  );
}

type ChoicesProps = {
  read: Read;
  busy: boolean;
  onAgain: (file: File, layers: string[], arcs: boolean) => Promise<void>;
  onTake: (many: number) => void;
};

function Choices({ read: { file, found, arcs }, busy, onAgain, onTake }: ChoicesProps) {
  const { display } = useDesign((s) => s.doc)!;
  const chosen = found.layers.filter((l) => l.read).map((l) => l.name);
  const [first] = found.shapes;
  const holes = ((first.outline as { inner?: unknown[] }).inner ?? []).length;
  return (
    <section aria-label={`Outlines of ${file.name}`}>
      <h3>{file.name}</h3>
      {found.layers.length > 1 && (
        <>
          <div className="soft">Layers that are read</div>
          {found.layers.map((l) => (
            <Checkbox
              key={l.name}
              size="xs"
              style={{ margin: "3px 0" }}
              label={`${l.name || "without a name"} · ${plural(l.curves, "curve")}`}
              checked={l.read}
              disabled={busy || (l.read && chosen.length === 1)}
              onChange={(e) =>
                void onAgain(file, e.currentTarget.checked ? [...chosen, l.name] : chosen.filter((c) => c !== l.name), arcs)
              }
            />
          ))}
        </>
      )}
      {found.mended.map((m) => (
        <div key={m.what} className="soft">
          {m.what[0].toUpperCase() + m.what.slice(1)}: {m.count}
          {m.most > 0 && `, the widest ${length(m.most, display)}`}
          {m.what.startsWith("single") ? "" : `, the first at ${length(m.at[0], display)}, ${length(m.at[1], display)}`}
        </div>
      ))}
      <Switch
        size="xs"
        style={{ margin: "6px 0" }}
        label="Find arcs in short chords"
        checked={arcs}
        disabled={busy}
        onChange={(e) => void onAgain(file, chosen, e.currentTarget.checked)}
      />
      <div className="row" style={{ flexWrap: "wrap" }}>
        <Button variant="filled" disabled={busy} onClick={() => onTake(1)}>
          Take {found.count > 1 ? "the largest" : "it"}, {length(first.width, display)} × {length(first.height, display)}
          {holes > 0 && `, ${plural(holes, "hole")}`}
        </Button>
        {found.count > 1 && (
          <Button disabled={busy} onClick={() => onTake(found.shapes.length)}>
            Take {found.count > found.shapes.length ? `the ${found.shapes.length} largest` : `all ${found.count}`} as parts
          </Button>
        )}
      </div>
    </section>
  );
}
