// The card of a movement: how far it goes, its limits and what is asked of it, what it follows, and what it is one thing with.
import { Button, Select } from "@mantine/core";
import { useState } from "react";
import type { MoveOut, MovesOut } from "../api/types";
import { EntryField } from "../fields/EntryField";
import { TextField } from "../fields/PlainField";
import { pointer } from "../lib/document";
import { id } from "../lib/owner";
import { saidOf } from "../lib/pose";
import { useShown } from "../state/design";
import { useMoves, useMoving, useTravels } from "../state/moves";
import { operate } from "../state/operations";
import { useView } from "../state/view";
import { CardHead } from "./CardHead";
import { ProblemSection } from "./Problem";

const ENTRIES = [
  ["to", "Moved to", "as drawn"],
  ["least", "Not under", "its stop"],
  ["most", "Not over", "its stop"],
  ["clear", "Never nearer than", "not asked"],
] as const;
const PLAY = [
  ["play_least", "End play at least", "not asked"],
  ["play_most", "End play at most", "not asked"],
] as const;

/** That of one that was pressed among the problems, or in a list. */
export function MoveCard({ movement }: { movement: string }) {
  const { moves } = useMoves(true);
  const move = moves?.moves.find((m) => m.key === movement || m.said === movement);
  const travel = useTravels(move ? [move.key] : []).travels[move?.key ?? ""];
  const { select, setMoving } = useView.getState();
  if (!moves) return <p className="soft">Finding out what moves…</p>;
  if (!move) return <p className="soft">This no longer moves.</p>;
  return (
    <>
      <CardHead
        title={move.name.replaceAll("_", " ")}
        remove="Forget what is said of this movement"
        onRemove={() => {
          select(null);
          if (move.said) void operate({ operation: "forget_move", key: move.said });
        }}
      />
      <div className="soft">{move.words.replaceAll("_", " ")}</div>
      <div data-testid="travel">{saidOf(travel)}</div>
      <Button
        size="compact-sm"
        onClick={() => {
          setMoving(true);
          useMoving.getState().choose(move.key);
        }}
      >
        Move it
      </Button>
      <MoveSections move={move} moves={moves} />
    </>
  );
}

/** What is said of a movement, and what may be. */
export function MoveSections({ move, moves }: { move: MoveOut; moves: MovesOut }) {
  const { doc, built } = useShown()!;
  const [fault, setFault] = useState("");
  const record = doc.moves[move.said];
  const problems = built.problems.filter((p) => move.said && p.owner === id.move(move.said));
  // what turns has end play where it slides along its axis too
  const plays = move.kind === "turns" && moves.moves.some((m) => m.kind === "slides" && m.thing === move.thing);
  const say = (body: Parameters<typeof operate>[0]) => void operate(body).then(setFault);
  return (
    <>
      <ProblemSection problems={problems} />
      {record ? (
        <Said move={move} name={record.name} plays={plays} say={say} />
      ) : (
        <Button size="compact-sm" onClick={() => say({ operation: "say_move", movement: move.key, field: "to", text: "0" })}>
          Name it, limit it, ask for play or room
        </Button>
      )}
      <KeepButton move={move} say={say} />
      <Goes move={move} moves={moves} name={record?.name ?? move.name} say={say} />
      <section>
        <h3>Is it otherwise?</h3>
        <div className="row" style={{ flexWrap: "wrap" }}>
          <Button size="compact-sm" onClick={() => say({ operation: "tie_parts", a: move.thing, b: move.carrier, how: "held" })}>
            It is held, and does not move
          </Button>
          <Button size="compact-sm" onClick={() => say({ operation: "stand_still", part: move.parts[0] })}>
            This stands still, and the rest moves
          </Button>
        </div>
      </section>
      {fault && <div className="error">{fault}</div>}
    </>
  );
}

type Say = (body: Parameters<typeof operate>[0]) => void;

function Said({ move, name, plays, say }: { move: MoveOut; name: string; plays: boolean; say: Say }) {
  const base = ["moves", move.said];
  return (
    <section>
      <h3>{name.replaceAll("_", " ")}</h3>
      <TextField
        label="Name"
        value={name}
        maxLength={40}
        onSave={(v) => v && say({ operation: "rename", group: "moves", key: move.said, name: v })}
      />
      {[...ENTRIES, ...(plays ? PLAY : [])].map(([field, label, placeholder]) => (
        <EntryField
          key={field}
          path={pointer(...base, field)}
          label={label}
          optional
          placeholder={placeholder}
          edit={`${name}, ${label.toLowerCase()}`}
        />
      ))}
      <p className="soft">Other entries may read {name}.at, how far it is moved.</p>
    </section>
  );
}

/** Writes how far it is moved in the picture. */
function KeepButton({ move, say }: { move: MoveOut; say: Say }) {
  const moving = useView((s) => s.moving);
  const by = useMoving((s) => s.at[move.key] ?? 0);
  if (!moving || Math.abs(by - move.now) < 1e-4) return null;
  const text = move.kind === "turns" ? `${Math.round((by * 18000) / Math.PI) / 100} deg` : `${Math.round(by * 100) / 100} mm`;
  return (
    <Button size="compact-sm" onClick={() => say({ operation: "say_move", movement: move.key, field: "to", text })}>
      Keep it moved to {text.replace(" deg", "°")}
    </Button>
  );
}

function Goes({ move, moves, name, say }: { move: MoveOut; moves: MovesOut; name: string; say: Say }) {
  const others = moves.moves.filter((m) => m.key !== move.key);
  if (!others.length) return null;
  return (
    <section>
      <h3>Goes with another</h3>
      <div className="entry">
        <label htmlFor="follows">Follows</label>
        <Select
          id="follows"
          size="xs"
          value={move.follows || ""}
          data={[
            { value: "", label: move.group.length > 1 ? "what it hangs on" : "nothing" },
            ...others.map((m) => ({ value: m.key, label: `${m.name.replaceAll("_", " ")} (${m.kind})` })),
          ]}
          allowDeselect={false}
          onChange={(follows) => say({ operation: "couple_moves", movement: move.key, follows: follows || null, ratio: "1" })}
        />
      </div>
      {move.follows && (
        <EntryField path={pointer("moves", move.said, "follows", "ratio")} label="So many times as far" edit={`${name}, ratio`} />
      )}
    </section>
  );
}
