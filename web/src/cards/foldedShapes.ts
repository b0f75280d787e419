// A shape that a folded part is begun with, with the lengths that were typed.
import type { Entry } from "../lib/document";

/** The flanges of a shape as the core has them, with entries in the place of those that stand for a length. */
export function filled<T>(flanges: T, lengths: Record<string, Entry>): T {
  if (Array.isArray(flanges)) return flanges.map((f) => filled(f, lengths)) as T;
  if (!flanges || typeof flanges !== "object") return flanges;
  if ("text" in flanges) return (lengths[flanges.text as string] ?? { ...flanges, unit: "mm" }) as T;
  return Object.fromEntries(Object.entries(flanges).map(([k, v]) => [k, filled(v, lengths)])) as T;
}
