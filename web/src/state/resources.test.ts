import { expect, test } from "vitest";
import type { BuiltOut, FlatOut, SolidOut } from "../api/types";
import { flat, keep, known, solid, stand } from "./resources";

const one = (n: number) => ({ n }) as unknown as SolidOut;

test("what was kept is there under its hash; of more than 1500 the oldest go, and what came again is not old", () => {
  keep({ a: one(1), b: one(2) as unknown as FlatOut });
  expect([solid("a"), flat("b"), solid("c"), flat("c")]).toEqual([{ n: 1 }, { n: 2 }, undefined, undefined]);
  expect(known()).toEqual(["a", "b"]);
  keep({ a: one(3) });
  expect(known()).toEqual(["b", "a"]);
  keep(Object.fromEntries([...Array(1498)].map((_, k) => [`r${k}`, one(k)])));
  expect([solid("b"), solid("a")]).toEqual([{ n: 2 }, { n: 3 }]);
  keep({ z: one(4) });
  expect([solid("b"), solid("a"), solid("z"), solid("r0")]).toEqual([undefined, { n: 3 }, { n: 4 }, { n: 0 }]);
  keep({ y: one(5) });
  expect([solid("a"), solid("r0")]).toEqual([undefined, { n: 0 }]);
});

test("the server is told of the latest 200 that are not the head's, which stay however many come", () => {
  const head = {
    parts: [
      { solid: "s", flat: "f" },
      { solid: "r0", flat: "" },
    ],
  } as unknown as BuiltOut;
  stand(head);
  keep({ s: one(1), f: one(2) });
  keep(Object.fromEntries([...Array(3000)].map((_, k) => [`n${k}`, one(k)])));
  expect([solid("s"), flat("f"), solid("r0"), solid("n2999"), solid("n1503")]).toEqual([
    { n: 1 },
    { n: 2 },
    { n: 0 },
    { n: 2999 },
    { n: 1503 },
  ]);
  expect(solid("n1502")).toBeUndefined();
  expect(known()).toEqual([...Array(200)].map((_, k) => `n${2800 + k}`));
});
