import { expect, test } from "vitest";
import type { Doc } from "../lib/document";
import { nudged, suggestions, wordAt } from "./suggest";

const doc = {
  sizes: { w: { name: "width", kind: "length", entry: { text: "1", unit: "mm" }, note: "", order: 0 } },
  parts: { l: { kind: "board", name: "left", plane: "facing_side" } },
} as unknown as Doc;

test("the word before the caret, but not a unit", () => {
  expect(wordAt("width/3 - 2*ga", 14)).toEqual({ start: 12, word: "ga" });
  expect(wordAt("20 m", 4).word).toBe("");
  expect(wordAt("mid(left.ri", 11)).toEqual({ start: 4, word: "left.ri" });
});

test("sizes, parts, and the faces of a part along the axis asked for", () => {
  expect(suggestions(doc, "wi", () => "420 mm")[0]).toMatchObject({ insert: "width", note: "420 mm" });
  expect(suggestions(doc, "le", () => "")[0].insert).toBe("left.");
  expect(suggestions(doc, "left.", () => "", "x").map((s) => s.insert)).toEqual([
    "left.left",
    "left.right",
    "left.centre",
    "left.thickness",
  ]);
});

test("a part's flanges, and what of them may be named", () => {
  const flanges = { back: {}, "back-lip": {} };
  const bent = { parts: { l: { kind: "folded", name: "lid", plane: "lying", folding: { flanges } } }, sizes: {} };
  const offered = (word: string) => suggestions(bent as unknown as Doc, word, () => "", "y").map((s) => s.insert);
  expect(wordAt("lid.back.ou + 2", 11)).toEqual({ start: 0, word: "lid.back.ou" });
  expect(offered("lid.ba")).toEqual(["lid.back", "lid.back.", "lid.back_lip."]);
  expect(offered("lid.back_lip.")).toEqual(["lid.back_lip.inner", "lid.back_lip.outer", "lid.back_lip.end"]);
  expect(offered("lid.back.o")).toEqual(["lid.back.outer"]);
  expect(offered("lid.top.o")).toEqual([]);
});

test("only plain values can be pulled", () => {
  expect(nudged("420 mm", "mm", 3, "length")).toBe("423 mm");
  expect(nudged("1.5", "in", 1, "length")).toBe("1.5625");
  expect(nudged("7", "mm", -2, "count")).toBe("5");
  expect(nudged("width / 3", "mm", 1, "length")).toBeNull();
});
