import { expect, test } from "vitest";
import type { PlatePart } from "./document";
import { becomes } from "./kinds";

const shared = { name: "p", stock: "ply", plane: "lying" };
const part = (kind: string, own: object) => ({ ...shared, kind, ...own }) as unknown as PlatePart;
const paths = (ops: { op: string; path: string }[]) => ops.map((o) => `${o.op} ${o.path}`);

test("a board that is folded keeps all it says and gets its flanges", () => {
  const ops = becomes("a/b", part("board", {}), "folded", { folding: { flanges: {} } });
  expect(ops).toEqual([
    { op: "replace", path: "/parts/a~1b/kind", value: "folded" },
    { op: "add", path: "/parts/a~1b/folding", value: { flanges: {} } },
  ]);
});

test("a folded part without flanges is a board: what only folded parts say goes", () => {
  expect(paths(becomes("p", part("folded", { made: "cut", price: 0, folding: {} }), "board"))).toEqual([
    "remove /parts/p/made",
    "remove /parts/p/price",
    "remove /parts/p/folding",
    "replace /parts/p/kind",
  ]);
});

test("what was bought and is cut loses its own thickness, mass and shape, and only what it had", () => {
  const ops = becomes("p", part("bought", { made: "printed", price: 3, deep: { text: "5" } }), "board", { stock: "ply" });
  expect(paths(ops)).toEqual([
    "remove /parts/p/made",
    "remove /parts/p/price",
    "remove /parts/p/deep",
    "replace /parts/p/kind",
    "add /parts/p/stock",
  ]);
  // its price is said of both kinds
  expect(paths(becomes("p", part("folded", { made: "bought", price: 3, folding: {} }), "bought"))).toEqual([
    "remove /parts/p/made",
    "remove /parts/p/folding",
    "replace /parts/p/kind",
  ]);
});

test("what is bought stays bought when it is folded", () => {
  const ops = becomes("p", part("bought", { price: 3 }), "folded", { folding: { flanges: {} } });
  expect(paths(ops)).toEqual(["replace /parts/p/kind", "add /parts/p/made", "add /parts/p/folding"]);
  expect(ops[1]).toMatchObject({ value: "bought" });
});
