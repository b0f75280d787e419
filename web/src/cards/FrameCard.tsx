// The card of a frame: its points with what says where they lie, its lines with what lies on them, and what is begun from it.
import { ActionIcon, Button, Tooltip } from "@mantine/core";
import { IconTrash } from "@tabler/icons-react";
import { useState } from "react";
import { EntryField } from "../fields/EntryField";
import { TextField } from "../fields/PlainField";
import { AXES, FRAME, type FramePoint, isFramed, type LineFrame, ordered, pointer } from "../lib/document";
import { plural } from "../lib/figures";
import { id } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { operate } from "../state/operations";
import { words } from "../state/shape";
import { useView } from "../state/view";
import { CardHead } from "./CardHead";
import { DrawOnFace } from "./DrawOnFace";
import { removeSelected } from "./edits";
import { ProblemSection } from "./Problem";

const AXIS = { x: "right", y: "back", z: "up" };

export function FrameCard({ frameKey }: { frameKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const { setDraft, select } = useView.getState();
  const [fault, setFault] = useState("");
  const frame = doc.frames[frameKey];
  if (!frame) return <p className="soft">This frame is gone.</p>;
  const own = Object.entries(doc.parts).filter(([, p]) => isFramed(p) && p.frame === frameKey);
  const members = own.filter(([, p]) => p.kind === "member");
  const keys = new Set(own.map(([k]) => k));
  const problems = shown.built.problems.filter((p) => p.entry.startsWith(`${pointer("frames", frameKey)}/`) || keys.has(p.part));
  return (
    <>
      <CardHead
        title={words(frame.name)}
        remove="Remove frame"
        tip="Remove it with its tubes"
        onRemove={() => void removeSelected({ kind: "frame", key: frameKey })}
      />
      <div className="soft">
        {plural(Object.keys(frame.lines).length, "line")}, {plural(members.length, "tube or bar", "tubes and bars")}
      </div>
      <section>
        <h3>Frame</h3>
        <TextField
          label="Name"
          value={frame.name}
          maxLength={40}
          onSave={async (name) => setFault(await operate({ operation: "rename", group: "frames", key: frameKey, name }))}
        />
        {fault && <div className="entry error">{fault}</div>}
      </section>
      <section className="row" style={{ flexWrap: "wrap" }}>
        <Button onClick={() => setDraft({ kind: "line" })}>Draw a line</Button>
        <Button onClick={async () => setFault(await operate({ operation: "join_members", of: members.map(([k]) => k) }))}>
          Join what meets
        </Button>
        <Button onClick={() => setDraft({ kind: "connector", frame: frameKey, points: [] })}>Connectors…</Button>
        {members.length > 0 && (
          <Button
            onClick={() =>
              useView.getState().selectMany(
                members.map(([k]) => k),
                [],
              )
            }
          >
            Select its tubes
          </Button>
        )}
      </section>
      {Object.keys(frame.lines).length > 0 && (
        <section>
          <h3>Path</h3>
          {frame.drawing && frame.plane && (
            <>
              <p className="soft">Its points and lines follow what is drawn.</p>
              <EntryField
                path={pointer("frames", frameKey, "across")}
                label={`Its plane lies, ${AXIS[FRAME[frame.plane].normal]}`}
                axis={FRAME[frame.plane].normal}
                edit={`${frame.name}, where its plane lies`}
              />
            </>
          )}
          <DrawOnFace part={id.frame(frameKey)}>{frame.drawing ? "Draw its path…" : "Draw its path freely…"}</DrawOnFace>
        </section>
      )}
      <section>
        <h3>Points</h3>
        {ordered(frame.points).map(([key, point], n) => (
          <PointFields
            key={key}
            on={own.filter(([, p]) => p.kind === "connector" && p.point === key).map(([k, p]) => [k, p.name])}
            frameKey={frameKey}
            frame={frame}
            pointKey={key}
            point={point}
            number={n + 1}
          />
        ))}
      </section>
      <section>
        <h3>Lines</h3>
        {ordered(frame.lines).map(([key]) => (
          <div className="row" key={key}>
            <span className="grow clip">
              <span className="figure">{lineWords(frame, key)}</span>{" "}
              {members
                .filter(([, p]) => p.kind === "member" && p.lines.includes(key))
                .map(([k, p]) => (
                  <button type="button" className="chip" key={k} onClick={() => select({ kind: "part", key: k })}>
                    {words(p.name)}
                  </button>
                ))}
            </span>
            <Tooltip label="Remove the line, and what lies on it">
              <ActionIcon
                aria-label={`Remove line ${lineWords(frame, key)}`}
                onClick={async () => setFault(await operate({ operation: "remove_line", frame: frameKey, line: key }))}
              >
                <IconTrash size={15} />
              </ActionIcon>
            </Tooltip>
          </div>
        ))}
      </section>
      <ProblemSection problems={problems} />
    </>
  );
}

/** A line by the numbers of its points. */
export function lineWords(frame: LineFrame, key: string): string {
  const numbers = new Map(ordered(frame.points).map(([k], n) => [k, n + 1]));
  const line = frame.lines[key];
  return line ? `${numbers.get(line.a)} – ${numbers.get(line.b)}` : "gone";
}

type PointProps = {
  frameKey: string;
  frame: LineFrame;
  pointKey: string;
  point: FramePoint;
  number: number;
  /** the connectors that stand on it: keys and names */
  on: string[][];
};

/** What stands on a point, or a way to put something there. */
function OnPoint({ frameKey, pointKey, number, on }: Pick<PointProps, "frameKey" | "pointKey" | "number" | "on">) {
  const { select, setDraft } = useView.getState();
  if (!on.length)
    return (
      <button
        type="button"
        className="chip"
        aria-label={`Put a connector on point ${number}`}
        onClick={() => setDraft({ kind: "connector", frame: frameKey, points: [pointKey] })}
      >
        + connector
      </button>
    );
  return on.map(([key, name]) => (
    <button type="button" className="chip" key={key} onClick={() => select({ kind: "part", key })}>
      {words(name)}
    </button>
  ));
}

function PointFields({ frameKey, frame, pointKey, point, number, on }: PointProps) {
  const what = <OnPoint frameKey={frameKey} pointKey={pointKey} number={number} on={on} />;
  const base = ["frames", frameKey, "points", pointKey];
  const name = `${frame.name}, point ${number}`;
  if (point.on) {
    const line = frame.lines[point.on];
    const numbers = new Map(ordered(frame.points).map(([k], n) => [k, n + 1]));
    return (
      <div>
        <div className="soft">
          Point <b>{number}</b>, on line {lineWords(frame, point.on)} {what}
        </div>
        <EntryField
          path={pointer(...base, "off")}
          label={`From ${numbers.get(point.end === "b" ? line?.b : line?.a)}`}
          edit={`${name}, how far along its line`}
        />
      </div>
    );
  }
  if (point.drawn)
    return (
      <div className="soft">
        Point <b>{number}</b>, as it is drawn {what}
      </div>
    );
  return (
    <div>
      <div className="soft">
        Point <b>{number}</b> {what}
      </div>
      {AXES.map((a) => (
        <EntryField key={a} path={pointer(...base, "at", a)} label={AXIS[a]} axis={a} edit={`${name} along ${a}`} />
      ))}
    </div>
  );
}
