import { expect, test } from "vitest";
import { AXES, type Axis, type Entry } from "../lib/document";
import { alongAxis } from "./RodSection";

const e = (text: string): Entry => ({ text, unit: "mm" });
const rod = (axis: Axis) => ({
  axis,
  span: { low: e("a"), high: e("b") },
  at: Object.fromEntries(AXES.filter((a) => a !== axis).map((a) => [a, e(`at ${a}`)])),
});

test.each(AXES.flatMap((from) => AXES.map((to) => [from, to] as const)))("a rod along %s is laid along %s", (from, to) => {
  const next = alongAxis(rod(from), to);
  expect(next.axis).toBe(to);
  expect(next.span).toEqual(rod(from).span);
  expect(Object.keys(next.at).sort()).toEqual(AXES.filter((a) => a !== to));
  // what stays across stays where it is; the way that it ran takes over what said where it lay
  const stays = AXES.filter((a) => a !== from && a !== to);
  for (const a of stays) expect(next.at[a]).toEqual(e(`at ${a}`));
  if (from !== to) expect(next.at[from]).toEqual(e(`at ${to}`));
});

test.each(AXES.flatMap((from) => AXES.flatMap((to) => AXES.filter((w) => w !== from).map((w) => [from, to, w] as const))))(
  "a bar along %s that is laid along %s keeps the width that lay along %s across it",
  (from, to, wide) => {
    const next = alongAxis({ ...rod(from), wide }, to);
    expect(next.wide).not.toBe(to);
    if (wide !== to) expect(next.wide).toBe(wide);
    expect(alongAxis(rod(from), to).wide).toBeUndefined();
  },
);
