// The words of places on a board: from where a feature is measured, and whether it is on the other half too.
import { type Axis, FACES, FRAME, type PlatePart } from "../lib/document";

export function origins(axis: Axis): { value: string; label: string }[] {
  const [low, high] = FACES[axis];
  return [
    { value: low, label: `from its ${low}` },
    { value: high, label: `from its ${high}` },
    { value: "centre", label: "from its centre" },
    { value: "opening", label: "from the opening's centre" },
    { value: "room", label: "at a place in the room" },
  ];
}

/** What is on the other half too. */
export function mirroredChoices(board: PlatePart): { value: string; label: string }[] {
  const frame = FRAME[board.plane];
  const [u, v] = [FACES[frame.u], FACES[frame.v]].map(([low, high]) => `${low} and ${high}`);
  return [
    { value: "none", label: "once" },
    { value: "u", label: `mirrored, ${u}` },
    { value: "v", label: `mirrored, ${v}` },
    { value: "both", label: "in all four quarters" },
  ];
}
