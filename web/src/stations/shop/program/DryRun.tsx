// The dry run of a sheet: played, wound back and forth, stepped from cut to cut.
import { ActionIcon, Button, SegmentedControl, Slider } from "@mantine/core";
import {
  IconMapPin,
  IconPlayerPause,
  IconPlayerPlay,
  IconPlayerSkipBack,
  IconPlayerTrackNext,
  IconPlayerTrackPrev,
} from "@tabler/icons-react";
import { useEffect, useRef, useState } from "react";
import type { ProgramOut } from "../../../api/types";
import { SheetCanvas } from "../../../frame/SheetCanvas";
import { length } from "../../../lib/figures";
import { clock, cutAt, headAt, heightAt, moveAt, spanOf } from "../../../lib/program";
import { useShown } from "../../../state/design";
import { beginHere, useEngaged } from "../../../state/program";
import { useView } from "../../../state/view";

const SPEEDS = ["1", "10", "60"];
const OPERATIONS: Record<string, string> = {
  mark: "Marking",
  inside: "Cutting inside",
  outside: "Cutting out",
  pocket: "Clearing a pocket",
  drill: "Drilling",
  sink: "Countersinking",
  register: "Register hole",
};

/** A program's time as it is played and wound. */
function usePlayed(program: ProgramOut) {
  const time = useRef(0);
  const [t, setT] = useState(0);
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState("10");
  const go = (to: number) => {
    time.current = Math.min(program.seconds, Math.max(0, to));
    setT(time.current);
  };
  useEffect(() => {
    if (!playing) return;
    let last = performance.now();
    let frame = 0;
    const step = (now: number) => {
      time.current = Math.min(program.seconds, time.current + ((now - last) / 1000) * Number(speed));
      last = now;
      setT(time.current);
      if (time.current >= program.seconds) setPlaying(false);
      else frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [playing, speed, program]);
  const play = () => {
    if (time.current >= program.seconds) go(0);
    setPlaying(!playing);
  };
  const stop = (to: number) => {
    setPlaying(false);
    go(to);
  };
  return { t, playing, speed, setSpeed, play, stop };
}

/** Where a step forth or back leads: back first to where this cut begins, then to the one before. */
function stepFrom(program: ProgramOut, t: number, way: 1 | -1): number {
  const cut = cutAt(program, t);
  if (way < 0 && cut >= 0 && t > spanOf(program, cut)[0] + 0.01) return spanOf(program, cut)[0];
  const next = (cut < 0 ? program.cuts.length : cut) + way;
  return next >= program.cuts.length ? program.seconds : spanOf(program, Math.max(0, next))[0];
}

/** Where the head is, to a tenth of a millimetre. */
const tenths = (mm: number) => Math.round(mm * 10) / 10;

/** What is done now, to which piece, with which bit. */
function doing(cut: ProgramOut["cuts"][number]): string {
  const piece = [cut.part, cut.code && `no. ${cut.code}`].filter(Boolean).join(", ");
  return `${OPERATIONS[cut.operation]}${piece ? `: ${piece}` : ""}${cut.bit ? `, T${cut.bit}` : ""}`;
}

type Props = { program: ProgramOut; stock: string; nests: string; onCut: (cut: number) => void };

/** `stock` is its colour, `nests` tells how its sheets lie. */
export function DryRun({ program, stock, nests, onCut }: Props) {
  const played = usePlayed(program);
  const begin = useBegun(program);
  const engaged = useEngaged(program, nests)?.[moveAt(program, played.t)] ?? 0;
  const { display } = useShown()!.doc;
  const { t } = played;
  const selection = useView((s) => s.selection);
  const lit = selection?.kind === "part" ? selection.key : "";
  const cut = cutAt(program, t);

  useEffect(() => onCut(cut), [cut, onCut]);

  const head = headAt(program, t);
  const now = cut >= 0 ? program.cuts[cut] : null;
  return (
    <div className="dryrun">
      <SheetCanvas
        program={program}
        t={t}
        stock={stock}
        lit={lit}
        test="dry run"
        label={`The sheet after ${clock(t)} of ${clock(program.seconds)}`}
        onPlace={begin.on ? begin.at : undefined}
      />
      <Controls program={program} played={played} begin={begin} />
      <div className="row soft" aria-live="off">
        <Said begin={begin} otherwise={now ? doing(now) : t < program.seconds / 2 ? "Before the first cut" : "On the way home"} />
        {engaged > 0 && (
          <span>
            engaged <span className="mono">{length(engaged, display)}</span>
          </span>
        )}
        <span className="mono">
          X {length(tenths(head.x), display)} Y {length(tenths(head.y), display)}
          {program.z.length > 0 && ` Z ${length(tenths(heightAt(program, t)), display)}`}
        </span>
      </div>
    </div>
  );
}

/** Where cuts are begun, by pressing on them. */
function useBegun(program: ProgramOut) {
  const [on, setOn] = useState(false);
  const [fault, setFault] = useState("");
  return {
    on,
    fault,
    turn: () => {
      setFault("");
      setOn(!on);
    },
    at: (x: number, y: number) => void beginHere(program.stock, program.number, x, y).then(setFault),
  };
}

/** What is to be pressed on, or why nothing came of it; else what the head does. */
function Said({ begin, otherwise }: { begin: ReturnType<typeof useBegun>; otherwise: string }) {
  if (begin.on && begin.fault)
    return (
      <span className="grow oneline error" role="alert">
        {begin.fault}.
      </span>
    );
  return (
    <span className="grow oneline" role={begin.on ? "status" : undefined}>
      {begin.on ? "Press on a cut where it shall begin." : otherwise}
    </span>
  );
}

type ControlsProps = { program: ProgramOut; played: ReturnType<typeof usePlayed>; begin: ReturnType<typeof useBegun> };

function Controls({ program, played, begin }: ControlsProps) {
  const { t, playing, speed, setSpeed, play, stop } = played;
  return (
    <div className="row dryruncontrols">
      <ActionIcon aria-label="To the beginning" onClick={() => stop(0)}>
        <IconPlayerSkipBack size={18} />
      </ActionIcon>
      <ActionIcon aria-label="The cut before" onClick={() => stop(stepFrom(program, t, -1))}>
        <IconPlayerTrackPrev size={18} />
      </ActionIcon>
      <Button
        variant="filled"
        size="compact-sm"
        leftSection={playing ? <IconPlayerPause size={16} /> : <IconPlayerPlay size={16} />}
        onClick={play}
      >
        {playing ? "Pause" : "Play"}
      </Button>
      <ActionIcon aria-label="The next cut" onClick={() => stop(stepFrom(program, t, 1))}>
        <IconPlayerTrackNext size={18} />
      </ActionIcon>
      <SegmentedControl
        value={speed}
        onChange={setSpeed}
        aria-label="How fast it is played"
        data={SPEEDS.map((s) => ({ value: s, label: `${s}×` }))}
      />
      <Slider
        className="grow"
        min={0}
        max={program.seconds}
        step={program.seconds / 1000}
        value={t}
        onChange={stop}
        label={null}
        thumbLabel="Time"
        size="sm"
      />
      <span className="mono dryruntime">
        {clock(t)} / {clock(program.seconds)}
      </span>
      {!program.under && (
        <ActionIcon
          aria-label="Begin a cut elsewhere"
          aria-pressed={begin.on}
          title="Begin a cut elsewhere"
          variant={begin.on ? "filled" : undefined}
          onClick={begin.turn}
        >
          <IconMapPin size={18} />
        </ActionIcon>
      )}
    </div>
  );
}
