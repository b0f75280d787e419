// What moves: the movements with their stops, positions with names, what stands still, and what only lies there; and what is said of the one that is chosen.
import { Button, Select, TextInput, Tooltip } from "@mantine/core";
import { IconPlayerPlay } from "@tabler/icons-react";
import { Fragment, useState } from "react";
import type { MoveOut, MovesOut, TravelOut } from "../api/types";
import { originalOf } from "../lib/document";
import { saidOf } from "../lib/pose";
import { useShown } from "../state/design";
import { useMoves, useMoving } from "../state/moves";
import { operate } from "../state/operations";
import { MoveSections } from "./MoveCard";

export function MovesCard() {
  const { moves, failed } = useMoves(true);
  // of what changes with every frame of a movement nothing is asked here
  const chosen = useMoving((s) => s.chosen);
  const travels = useMoving((s) => s.travels);
  const move = moves?.moves.find((m) => m.key === chosen);
  return (
    <>
      <h2>What moves</h2>
      {failed && <div className="error">What moves could not be found out.</div>}
      {!moves && !failed && <div role="status">Finding out what moves…</div>}
      {moves && !moves.moves.length && (
        <p>
          Nothing moves: all is one thing, or only lies there. What runs in a bore, in a loose groove, on a hinge or a slide is
          found by itself.
        </p>
      )}
      {moves && moves.moves.length > 0 && (
        <>
          <MoveList moves={moves} travels={travels} />
          <Positions moves={moves} />
        </>
      )}
      {move && <MoveSections key={move.key} move={move} moves={moves!} />}
      {moves && moves.things.length > 1 && <Still moves={moves} />}
      {moves && moves.loose.length > 0 && (
        <section>
          <h3>Only lies there</h3>
          {moves.loose.map((l) => (
            <div key={l.words}>{l.words.replaceAll("_", " ")}</div>
          ))}
        </section>
      )}
    </>
  );
}

function MoveList({ moves, travels }: { moves: MovesOut; travels: Record<string, TravelOut> }) {
  const { play } = useMoving.getState();
  const alike = new Map<string, MoveOut[]>();
  for (const m of moves.moves) {
    const key = `${m.kind} ${[...new Set(m.parts.map(originalOf))].join()}`;
    alike.set(key, [...(alike.get(key) ?? []), m]);
  }
  return (
    <fieldset className="movements" aria-label="Movements">
      {[...alike].map(([key, [first, ...others]]) => (
        <Fragment key={key}>
          <MoveRow move={first} travel={travels[first.key]} />
          {others.length > 0 && (
            <details>
              <summary className="soft">{others.length} more like it</summary>
              {others.map((m) => (
                <MoveRow key={m.key} move={m} travel={travels[m.key]} />
              ))}
            </details>
          )}
        </Fragment>
      ))}
      {moves.moves.length > 1 && (
        <Button size="compact-xs" onClick={() => play(leaders(moves))}>
          Play all, one after the other
        </Button>
      )}
    </fieldset>
  );
}

function MoveRow({ move, travel }: { move: MoveOut; travel: TravelOut | undefined }) {
  const chosen = useMoving((s) => s.chosen === move.key);
  const { choose, play } = useMoving.getState();
  return (
    <div className={`row moverow ${chosen ? "chosen" : ""}`}>
      <button type="button" aria-pressed={chosen} className="moveoption grow" onClick={() => choose(move.key)}>
        <span>{move.words.replaceAll("_", " ")}</span>
        <span className="soft">{saidOf(travel)}</span>
      </button>
      <Tooltip label="From stop to stop">
        <Button
          size="compact-xs"
          aria-label={`Play ${move.name}`}
          disabled={!travel}
          onClick={() => {
            choose(move.key);
            play([move.key]);
          }}
        >
          <IconPlayerPlay size={14} />
        </Button>
      </Tooltip>
    </div>
  );
}

/** One of each group that goes together. */
function leaders(moves: MovesOut): string[] {
  return moves.moves.filter((m: MoveOut) => m.group[0] === m.key).map((m) => m.key);
}

/** Positions with names, and a new one of how all stands now. */
function Positions({ moves }: { moves: MovesOut }) {
  const { all } = useMoving.getState();
  const [name, setName] = useState("");
  const [fault, setFault] = useState("");
  const rest = Object.fromEntries(moves.moves.map((m) => [m.key, 0]));
  return (
    <section>
      <h3>Positions</h3>
      <div className="row" style={{ flexWrap: "wrap" }}>
        {moves.positions.map((p) => (
          <Button key={p.key} size="compact-xs" onClick={() => all({ ...rest, ...p.at })}>
            {p.name}
          </Button>
        ))}
      </div>
      <form
        className="row"
        onSubmit={(e) => {
          e.preventDefault();
          const at = useMoving.getState().at;
          void operate({
            operation: "keep_position",
            name,
            at: Object.fromEntries(leaders(moves).map((k) => [k, at[k] ?? 0])),
          }).then((refused) => {
            setFault(refused);
            if (!refused) setName("");
          });
        }}
      >
        <TextInput
          size="xs"
          className="grow"
          aria-label="Name of this position"
          placeholder="closed, half, open…"
          value={name}
          maxLength={40}
          onChange={(e) => setName(e.currentTarget.value)}
          onKeyDown={(e) => e.stopPropagation()}
        />
        <Button size="compact-sm" type="submit" disabled={!name.trim()}>
          Keep as it is now
        </Button>
      </form>
      {fault && <div className="error">{fault}</div>}
    </section>
  );
}

/** Two parts that are one thing, or free of one another, though it is found otherwise. */
function TieForm() {
  const { built } = useShown()!;
  const [pair, setPair] = useState(["", ""]);
  const [fault, setFault] = useState("");
  const data = built.parts.filter((p) => p.solid).map((p) => ({ value: p.key, label: p.path.replaceAll("_", " ") }));
  const say = (how: "held" | "free") =>
    void operate({ operation: "tie_parts", a: pair[0], b: pair[1], how }).then((refused) => {
      setFault(refused);
      if (!refused) setPair(["", ""]);
    });
  const ready = pair[0] && pair[1] && pair[0] !== pair[1];
  return (
    <>
      <div className="row">
        {[0, 1].map((n) => (
          <Select
            key={n}
            className="grow"
            size="xs"
            searchable
            aria-label={n ? "Other part" : "One part"}
            placeholder={n ? "other part" : "one part"}
            data={data}
            value={pair[n] || null}
            onChange={(key) => setPair(pair.map((p, i) => (i === n ? (key ?? "") : p)))}
          />
        ))}
      </div>
      <div className="row" style={{ marginTop: 6 }}>
        <Button size="compact-xs" disabled={!ready} onClick={() => say("held")}>
          are one thing
        </Button>
        <Button size="compact-xs" disabled={!ready} onClick={() => say("free")}>
          are free of one another
        </Button>
      </div>
      {fault && <div className="error">{fault}</div>}
    </>
  );
}

/** What stands still, and what is said to be one thing or free. */
function Still({ moves }: { moves: MovesOut }) {
  const shown = useShown()!;
  const name = (piece: string) =>
    shown.built.parts.find((p) => p.key === piece.split("~")[0])?.path.replaceAll("_", " ") ?? piece;
  const ties = Object.entries(shown.doc.ties).filter(([, t]) => !t.out);
  return (
    <>
      <section>
        <h3>Stands still</h3>
        <div>
          {moves.still.slice(0, 5).map(name).join(", ")}
          {moves.still.length > 5 && ` and ${moves.still.length - 5} more`}
        </div>
        {moves.chosen && (
          <Button size="compact-xs" onClick={() => void operate({ operation: "stand_still", part: "" })}>
            What bears the rest
          </Button>
        )}
      </section>
      <section>
        <h3>Otherwise than found</h3>
        <TieForm />
        {ties.map(([k, t]) => (
          <div className="row" key={k}>
            <span className="grow">
              {name(t.a)} {t.how === "held" ? "is held on" : "is free of"} {name(t.b)}
            </span>
            <Button size="compact-xs" onClick={() => void operate({ operation: "tie_parts", a: t.a, b: t.b, how: "as found" })}>
              As found
            </Button>
          </div>
        ))}
      </section>
    </>
  );
}
