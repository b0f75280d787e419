// How the direction in which a bore leans is counted.
import { AXES, type Axis, FACES } from "../lib/document";

/** Where 0° and 90° look, about an axis. */
export function towardNote(axis: Axis): string {
  const [one, other] = AXES.filter((a) => a !== axis);
  return `0° leans to the ${FACES[one][1]}, 90° to the ${FACES[other][1]}.`;
}
