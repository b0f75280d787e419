import { expect, test } from "vitest";
import type { Doc } from "./document";
import { firstSteps } from "./firstSteps";

const doc = (parts: number, joints = 0, sizes = 0) =>
  ({
    parts: Object.fromEntries([...Array(parts).keys()].map((i) => [`p${i}`, { kind: "board", plane: "lying", spans: {} }])),
    joints: Object.fromEntries([...Array(joints).keys()].map((i) => [`j${i}`, {}])),
    sizes: Object.fromEntries([...Array(sizes).keys()].map((i) => [`s${i}`, {}])),
  }) as unknown as Doc;

test("an empty design is told by the picture itself, a grown one nothing", () => {
  expect(firstSteps(doc(0))).toBeNull();
  expect(firstSteps(doc(4))).toBeNull();
  expect(firstSteps(doc(3, 1, 1))).toBeNull();
  const folded = doc(1);
  (folded.parts.p0 as { kind: string }).kind = "folded";
  expect(firstSteps(folded)).toBeNull();
  const cut = doc(2);
  (cut.parts.p1 as { features: object }).features = { f: {} };
  expect(firstSteps(cut)).toBeNull();
});

test("each step is ticked once it is done, and the next one can be pressed", () => {
  const next = (d: Doc) => firstSteps(d)?.find((s) => !s.done)?.act;
  expect(next(doc(1))).toBe("board");
  expect(next(doc(2))).toBe("joint");
  expect(next(doc(2, 1))).toBe("size");
  expect(firstSteps(doc(2, 1))?.map((s) => s.done)).toEqual([true, true, true, false]);
});
