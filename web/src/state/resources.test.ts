import { expect, test } from "vitest";
import type { FlatOut, SolidOut } from "../api/types";
import { flat, keep, known, solid } from "./resources";

const one = (n: number) => ({ n }) as unknown as SolidOut;

test("what was kept is there under its hash; of more than 1500 the oldest go, and what came again is not old", () => {
  keep({ a: one(1), b: one(2) as unknown as FlatOut });
  expect([solid("a"), flat("b"), solid("c"), flat("c")]).toEqual([{ n: 1 }, { n: 2 }, undefined, undefined]);
  expect(known()).toEqual(["a", "b"]);
  keep({ a: one(3) });
  expect(known()).toEqual(["b", "a"]);
  keep(Object.fromEntries([...Array(1498)].map((_, k) => [`r${k}`, one(k)])));
  expect([known().length, solid("b")]).toEqual([1500, { n: 2 }]);
  keep({ z: one(4) });
  expect([known().length, solid("b"), solid("a"), solid("z")]).toEqual([1500, undefined, { n: 3 }, { n: 4 }]);
});
