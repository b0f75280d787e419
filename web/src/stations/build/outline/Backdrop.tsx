// The picture behind a drawing, laid into the plane of its face.
import { useRef, useState } from "react";
import type { DrawingOut } from "../../../api/types";
import { matrixOf, type Pair, type Sight } from "../../../lib/plane";
import { pictureAt } from "../../../state/files";
import { dropPicture, useOutline } from "../../../state/outline";

type Picture = NonNullable<DrawingOut["backdrop"]>;

export function Backdrop({ b, sight }: { b: Picture; sight: Sight }) {
  const [lost, setLost] = useState("");
  const [du, dv] = useOutline((s) => s.pictureBy) ?? [0, 0];
  if (b.hidden) return null;
  if (lost === b.picture) return <p className="backdroplost">The picture {b.name} is not kept with this design; lay it anew.</p>;
  const [left, low, right, top] = b.crop;
  return (
    <div className="backdrop">
      <img
        src={pictureAt(b.picture)}
        alt={`${b.name}, behind the drawing`}
        data-testid="backdrop"
        width={b.wide}
        height={b.high}
        draggable={false}
        onError={() => setLost(b.picture)}
        style={{
          opacity: b.strength,
          clipPath: `inset(${top}px ${right}px ${low}px ${left}px)`,
          transform: matrixOf(sight, [b.at[0] + du, b.at[1] + dv], b.across, b.down),
        }}
      />
    </div>
  );
}

/** The picture led by hand: taken where it may be moved, led, and let go of; each says whether there was something to do. */
export function useLedPicture() {
  const held = useRef<{ from: Pair; by: Pair | null } | null>(null);
  return {
    take(b: Picture | null, p: Pair): boolean {
      held.current = b && movable(b, p) ? { from: p, by: null } : null;
      return held.current !== null;
    },
    lead(p: Pair, least: number): boolean {
      const now = held.current;
      if (!now) return false;
      const by: Pair = [p[0] - now.from[0], p[1] - now.from[1]];
      if (now.by || Math.hypot(...by) >= least) now.by = by;
      useOutline.setState({ pictureBy: now.by });
      return true;
    },
    drop(): boolean {
      const now = held.current;
      held.current = null;
      if (now?.by) void dropPicture(now.from, now.by);
      return now !== null;
    },
  };
}

/** Whether a place lies on what is seen of a picture that may be moved. */
function movable(b: Picture, p: Pair): boolean {
  if (b.locked || b.hidden) return false;
  const [x, y] = [p[0] - b.at[0], p[1] - b.at[1]];
  const size = b.across[0] ** 2 + b.across[1] ** 2;
  const [i, j] = [(x * b.across[0] + y * b.across[1]) / size, (x * b.down[0] + y * b.down[1]) / size];
  const [left, low, right, top] = b.crop;
  return i >= left && i <= b.wide - right && j >= top && j <= b.high - low;
}
