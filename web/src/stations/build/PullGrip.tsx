// A point to pull an entry by along a line in the room: by hand, by arrows, or by figures typed.
import { useRef } from "react";
import type * as THREE from "three";
import type { PullOut } from "../../api/types";
import { usePulling } from "../../state/pulling";
import { alongLine, invalidate, keepPlace, scaleAt, turning } from "./stage";

type Props = {
  /** a name of its own among all that lies over the picture */
  name: string;
  /** what it is not shown without */
  beside?: string;
  part: string;
  pull: PullOut;
  /** whether that is how it is now: what is not rests until it is known */
  fresh: boolean;
  /** what is pulled, in words */
  what: string;
  /** its worth now, in words; spoken, and shown where `says` is */
  worth: string;
  says: string;
  /** where it stood when it was taken, where it stands now, and which way it goes */
  stands: THREE.Vector3;
  at: THREE.Vector3;
  way: THREE.Vector3;
  /** by how much the entry grows for a millimetre there */
  rate?: number;
};

export function PullGrip({ name, beside, part, pull, fresh, what, worth, says, stands, at, way, rate = 1 }: Props) {
  const pulling = usePulling();
  const own = pulling.pull === pull && pulling.part === part;
  const start = useRef(0);
  return (
    <div className="gripplace" ref={(element) => keepPlace(name, element, at, { beside })}>
      <button
        type="button"
        className="grip pull"
        role="slider"
        aria-label={`Pull ${what}`}
        aria-disabled={!fresh}
        aria-valuenow={own ? pulling.value : pull.value}
        aria-valuetext={says || worth}
        title={`Pull ${what}`}
        onPointerDown={(e) => {
          e.stopPropagation();
          if (!fresh) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          turning(false);
          start.current = alongLine(stands, way, e.clientX, e.clientY);
          pulling.begin(part, pull);
        }}
        onPointerMove={(e) => {
          if (!own) return;
          pulling.to((alongLine(stands, way, e.clientX, e.clientY) - start.current) * rate, scaleAt(stands) * rate, e.shiftKey);
          invalidate();
        }}
        onPointerUp={() => {
          turning(true);
          if (own) void pulling.settle();
        }}
        onPointerCancel={() => {
          turning(true);
          pulling.leave();
        }}
        onKeyDown={(e) => {
          const step = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[e.key];
          const digit = /^[\d.,-]$/.test(e.key);
          if (!step && !digit && !(own && ["Enter", "Escape", "Backspace"].includes(e.key))) return;
          e.preventDefault();
          e.stopPropagation();
          if (!fresh) return;
          if (!own) pulling.begin(part, pull);
          const now = own ? pulling.value - pull.value : 0;
          const state = usePulling.getState();
          if (step) state.to(now + step * (e.shiftKey ? 10 : 1), 0, false);
          else if (digit) state.type(state.typed + e.key);
          else if (e.key === "Backspace") state.type(state.typed.slice(0, -1));
          else if (e.key === "Enter") void state.settle();
          else state.leave();
          invalidate();
        }}
        onBlur={() => {
          if (own) pulling.leave();
        }}
      />
      {says && <span className="gripsays figure">{says}</span>}
    </div>
  );
}
