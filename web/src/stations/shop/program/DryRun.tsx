// The dry run of a sheet: played, wound back and forth, stepped from cut to cut.
import { ActionIcon, Button, SegmentedControl, Slider } from "@mantine/core";
import {
  IconPlayerPause,
  IconPlayerPlay,
  IconPlayerSkipBack,
  IconPlayerTrackNext,
  IconPlayerTrackPrev,
} from "@tabler/icons-react";
import { useEffect, useMemo, useRef, useState } from "react";
import type { ProgramOut } from "../../../api/types";
import { length } from "../../../lib/figures";
import { clock, cutAt, headAt, heightAt, spanOf } from "../../../lib/program";
import { useShown } from "../../../state/design";
import { useView } from "../../../state/view";
import { type Colours, drawAt, traced, viewOf } from "./drawn";

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

function coloursOf(el: Element, stock: string): Colours {
  const style = getComputedStyle(el);
  const of = (name: string) => style.getPropertyValue(name).trim();
  return {
    bed: of("--canvas"),
    sheet: stock || of("--paper-sunk"),
    loose: of("--paper-raised"),
    coming: of("--pencil"),
    inside: of("--cut-inside"),
    outside: of("--cut"),
    mark: of("--mark"),
    rapid: of("--ink-soft"),
    head: of("--ink"),
    depth: of("--depth"),
    shade: of("--ink"),
    left: of("--cut"),
  };
}

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

type Props = { program: ProgramOut; stock: string; onCut: (cut: number) => void };

/** `stock` is its colour. */
export function DryRun({ program, stock, onCut }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const played = usePlayed(program);
  const { display } = useShown()!.doc;
  const { t } = played;
  const [size, setSize] = useState({ wide: 600, high: 400 });
  const paths = useMemo(() => traced(program), [program]);
  const selection = useView((s) => s.selection);
  const lit = selection?.kind === "part" ? selection.key : "";
  const cut = cutAt(program, t);

  useEffect(() => onCut(cut), [cut, onCut]);

  useEffect(() => {
    if (!box.current) return;
    const watch = new ResizeObserver(([e]) => setSize({ wide: e.contentRect.width, high: e.contentRect.height }));
    watch.observe(box.current);
    return () => watch.disconnect();
  }, []);

  useEffect(() => {
    const el = canvas.current;
    const g = el?.getContext("2d");
    if (!el || !g) return;
    const dots = window.devicePixelRatio || 1;
    el.width = size.wide * dots;
    el.height = size.high * dots;
    g.scale(dots, dots);
    g.clearRect(0, 0, size.wide, size.high);
    drawAt(g, program, t, paths, viewOf(program, size.wide, size.high), coloursOf(el, stock), lit);
  }, [program, stock, t, paths, size, lit]);

  const head = headAt(program, t);
  const now = cut >= 0 ? program.cuts[cut] : null;
  return (
    <div className="dryrun">
      <div ref={box} className="dryrunsheet">
        <canvas
          ref={canvas}
          style={{ width: "100%", height: "100%", position: "absolute", inset: 0 }}
          data-testid="dry run"
          data-time={t.toFixed(2)}
          aria-label={`The sheet after ${clock(t)} of ${clock(program.seconds)}`}
          role="img"
        />
      </div>
      <Controls program={program} played={played} />
      <div className="row soft" aria-live="off">
        <span className="grow">{now ? doing(now) : t < program.seconds / 2 ? "Before the first cut" : "On the way home"}</span>
        <span className="mono">
          X {length(tenths(head.x), display)} Y {length(tenths(head.y), display)}
          {program.z.length > 0 && ` Z ${length(tenths(heightAt(program, t)), display)}`}
        </span>
      </div>
    </div>
  );
}

function Controls({ program, played }: { program: ProgramOut; played: ReturnType<typeof usePlayed> }) {
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
    </div>
  );
}
