// Flats and solids under their hash. They never change, so what is here is kept; the oldest go when there are many.
import type { FlatOut, SolidOut } from "../api/types";

const MOST = 1500;
const kept = new Map<string, SolidOut | FlatOut>();

export function keep(found: Record<string, SolidOut | FlatOut>): void {
  for (const [key, value] of Object.entries(found)) {
    kept.delete(key);
    kept.set(key, value);
  }
  for (const key of kept.keys()) {
    if (kept.size <= MOST) break;
    kept.delete(key);
  }
}

export function known(): string[] {
  return [...kept.keys()];
}

export function solid(key: string): SolidOut | undefined {
  return kept.get(key) as SolidOut | undefined;
}

export function flat(key: string): FlatOut | undefined {
  return kept.get(key) as FlatOut | undefined;
}
