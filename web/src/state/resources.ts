// Flats and solids under their hash. They never change, so what is here is kept; the oldest go when there are many, but for those of the head.
import type { BuiltOut, FlatOut, SolidOut } from "../api/types";

const MOST = 1500;
/** Of so many of the latest the server is told that they are here, beside those of the head. */
const TOLD = 200;
const kept = new Map<string, SolidOut | FlatOut>();
let standing = new Set<string>();

export function keep(found: Record<string, SolidOut | FlatOut>): void {
  for (const [key, value] of Object.entries(found)) {
    kept.delete(key);
    kept.set(key, value);
  }
  let over = kept.size - MOST;
  for (const key of kept.keys()) {
    if (over <= 0) break;
    if (standing.has(key)) continue;
    kept.delete(key);
    over--;
  }
}

/** The head's flats and solids stay, however many come after them. */
export function stand(head: BuiltOut): void {
  const hardware = (head.sets ?? []).flatMap((s) => s.pieces.flat().map((p) => p.solid));
  hardware.push(...(head.fitted ?? []).map((p) => p.solid));
  standing = new Set([...head.parts.flatMap((p) => [p.solid, p.flat]), ...hardware]);
}

/** What the server need not send, beside the head's. */
export function known(): string[] {
  return [...kept.keys()].filter((key) => !standing.has(key)).slice(-TOLD);
}

export function solid(key: string): SolidOut | undefined {
  return kept.get(key) as SolidOut | undefined;
}

export function flat(key: string): FlatOut | undefined {
  return kept.get(key) as FlatOut | undefined;
}
