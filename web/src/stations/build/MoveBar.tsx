// What is moved, under the picture: the movement that is chosen, from stop to stop, played or pulled along its line, and what it strikes.
import { Button, CloseButton, Slider } from "@mantine/core";
import { IconPlayerPlay, IconPlayerStop } from "@tabler/icons-react";
import { useEffect } from "react";
import type { MoveOut, StopOut, TravelOut } from "../../api/types";
import { angle, length } from "../../lib/figures";
import { rangeOf } from "../../lib/pose";
import { useShown } from "../../state/design";
import { useMoves, useMoving, useTravels } from "../../state/moves";
import { useView } from "../../state/view";

/** Stops nearer than this (radians, or mm) are reached. */
const REACHED = { turns: 0.002, slides: 0.05 };

export function MoveBar() {
  const { moves, failed } = useMoves(true);
  const setMoving = useView((s) => s.setMoving);
  const { travels, done } = useTravels(moves?.moves.map((m) => m.key) ?? []);
  const known = Object.keys(travels).length;
  const chosen = useMoving((s) => s.chosen);
  const { begin, know, leave } = useMoving.getState();
  useEffect(() => {
    if (moves) begin(moves);
  }, [moves, begin]);
  useEffect(() => leave, [leave]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: they are the same ones as long as as many are known of the same moves
  useEffect(() => know(travels), [known, moves, know]);
  const move = moves?.moves.find((m) => m.key === chosen);
  return (
    <section className="assembly" aria-label="Moving" data-testid="moves">
      {move && <Line key={move.key} move={move} travel={travels[move.key]} />}
      {!move && (
        <div className="row">
          <span className="grow" role="status">
            {failed
              ? "What moves could not be found out. The picture stands as it is drawn."
              : !moves
                ? "Finding out what moves…"
                : "Nothing moves: all is one thing, or only lies there."}
          </span>
          <CloseButton size="sm" aria-label="Leave what moves" onClick={() => setMoving(false)} />
        </div>
      )}
      {moves && known < moves.moves.length && (
        <span className="soft" role="status">
          Looking how far it goes: {known} of {moves.moves.length}, {Math.round(done * 100)} %…
        </span>
      )}
    </section>
  );
}

function Line({ move, travel }: { move: MoveOut; travel: TravelOut | undefined }) {
  const { doc } = useShown()!;
  const { setMoving } = useView.getState();
  const by = useMoving((s) => s.at[move.key] ?? 0);
  const playing = useMoving((s) => s.playing.length > 0);
  const { to, stop, play } = useMoving.getState();
  const round = travel?.low.why === "round";
  const [low, high] = rangeOf(travel);
  const shown = round ? ((((by + Math.PI) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)) - Math.PI : by;
  const reached = round ? null : stopAt(move, travel, by);
  return (
    <>
      <div className="row">
        <b className="clip" style={{ maxWidth: 150 }}>
          {move.name.replaceAll("_", " ")}
        </b>
        <Button
          size="compact-xs"
          aria-label={playing ? "Stop" : `Play ${move.name}`}
          disabled={!travel}
          onClick={() => (playing ? stop() : play([move.key]))}
        >
          {playing ? <IconPlayerStop size={14} /> : <IconPlayerPlay size={14} />}
        </Button>
        <Slider
          className="grow"
          aria-label={`How far ${move.name} is moved`}
          thumbLabel={`How far ${move.name} is moved`}
          min={low}
          max={high}
          step={move.kind === "turns" ? Math.PI / 360 : 0.5}
          value={shown}
          disabled={!travel || low === high}
          onChange={(v) => {
            stop();
            to(move.key, v);
          }}
          label={null}
          color="ink"
        />
        <b className="figure" data-testid="moved" style={{ minWidth: 84, textAlign: "right" }}>
          {move.kind === "turns"
            ? angle((Math.round((shown * 18000) / Math.PI) * Math.PI) / 18000)
            : length(Math.round(shown * 100) / 100, doc.display)}
        </b>
        <Button size="compact-xs" onClick={() => to(move.key, 0)} disabled={!by}>
          As drawn
        </Button>
        <CloseButton size="sm" aria-label="Leave what moves" onClick={() => setMoving(false)} />
      </div>
      <span className={reached?.why === "strikes" ? "warn" : "soft"} data-testid="reached">
        {reached
          ? reached.words.replaceAll("_", " ")
          : move.group.length > 1
            ? "Pull it in the picture, or along this line; what hangs together goes along."
            : "Pull it in the picture, or along this line."}
      </span>
    </>
  );
}

/** The stop that is reached. */
function stopAt(move: MoveOut, travel: TravelOut | undefined, by: number): StopOut | null {
  const near = REACHED[move.kind];
  return [travel?.high, travel?.low].find((s) => s && Math.abs(by - s.by) < near) ?? null;
}
