import { beforeEach, expect, test } from "vitest";
import { STATIONS } from "./stations";
import { litParts, ownerOf, ownersOf, selectionOf, useView } from "./view";

beforeEach(() => useView.getState().reset());

test("an owner id and the selection that it stands for go both ways", () => {
  for (const owner of ["joint:front-left", "feature:front:hold", "bore:rod", "flange:roof:left"])
    expect(ownerOf(selectionOf(owner, "front"))).toBe(owner);
  expect(selectionOf("edge:top", "front")).toEqual({ kind: "part", key: "front", face: "top" });
  expect(ownerOf({ kind: "part", key: "front" })).toBe("");
  expect(selectionOf("bend:roof:left", "roof")).toEqual({ kind: "flange", part: "roof", key: "left" });
  expect(selectionOf("feature:roof:left.hole", "roof")).toEqual({ kind: "flange", part: "roof", key: "left" });
});

test("a selection lights up every part that it concerns", () => {
  const joints = [{ key: "j", a: "front", b: "left" }];
  const bores = { rod: { parts: { left: {}, right: {} } } };
  expect(litParts({ kind: "joint", key: "j" }, joints, bores)).toEqual(["front", "left"]);
  expect(litParts({ kind: "bore", key: "rod" }, joints, bores)).toEqual(["left", "right"]);
  expect(litParts({ kind: "feature", part: "front", key: "hold" }, joints, bores)).toEqual(["front"]);
  expect(litParts(null, joints, bores)).toEqual([]);
});

test("while a joint is drafted, parts that are picked answer its question", () => {
  const view = useView.getState();
  view.setDraft({ kind: "joint" });
  useView.getState().select({ kind: "part", key: "front" });
  useView.getState().select({ kind: "part", key: "front" });
  expect(useView.getState().draft).toEqual({ kind: "joint", a: "front" });
  useView.getState().select({ kind: "part", key: "left" });
  expect(useView.getState().draft).toEqual({ kind: "joint", a: "front", b: "left" });
  useView.getState().select({ kind: "part", key: "back" });
  expect(useView.getState().draft).toBeNull();
});

test("parts are hidden and shown again one by one or all at once", () => {
  const { toggleHidden, toggleGlass, showAll } = useView.getState();
  toggleHidden("a");
  toggleHidden("b");
  toggleHidden("a");
  toggleGlass("c");
  expect([useView.getState().hidden, useView.getState().glass]).toEqual([{ b: true }, { c: true }]);
  showAll();
  expect([useView.getState().hidden, useView.getState().glass]).toEqual([{}, {}]);
});

test("leaving Build puts a draft away", () => {
  useView.getState().setDraft({ kind: "board" });
  useView.getState().go("nest");
  expect(useView.getState().draft).toBeNull();
});

test("a drafted cut gets its board when one is picked, and goes once another is picked", () => {
  useView.getState().setDraft({ kind: "feature" });
  useView.getState().select({ kind: "part", key: "front" });
  expect(useView.getState().draft).toEqual({ kind: "feature", part: "front" });
  useView.getState().select({ kind: "part", key: "back" });
  expect(useView.getState().draft).toBeNull();
});

const now = () => useView.getState();

test("one station at a time, and each begins without a tool or picks", () => {
  expect(STATIONS).toEqual(["sizes", "build", "flats", "nest", "shop"]);
  expect(now().station).toBe("build");
  now().setTool("measure");
  now().pick({ part: "a", what: "part", name: "" });
  now().go("flats");
  expect([now().station, now().tool, now().picks]).toEqual(["flats", "", []]);
  now().setDraft({ kind: "bore" });
  expect([now().station, now().draft]).toEqual(["build", { kind: "bore" }]);
  now().go("build");
  expect(now().draft).toEqual({ kind: "bore" });
  now().go("shop");
  now().setDraft(null);
  expect(now().station).toBe("shop");
});

test("a pick beside a draft's question puts the draft away, and what is pulled is let go", () => {
  now().setDraft({ kind: "joint", a: "front" });
  now().setPull({ says: "3 mm", part: "front", owner: "" });
  now().select({ kind: "size", key: "width" });
  expect([now().draft, now().selection, now().pull]).toEqual([null, { kind: "size", key: "width" }, null]);
  now().setDraft({ kind: "feature" });
  now().select({ kind: "part", key: "side@m.1" });
  expect([now().draft, now().selection]).toEqual([
    { kind: "feature", part: "side" },
    { kind: "part", key: "side@m.1" },
  ]);
  now().setDraft({ kind: "feature" });
  now().select({ kind: "bore", key: "rod" });
  expect(now().draft).toBeNull();
  now().setDraft({ kind: "copy", way: "row", of: [] });
  now().select({ kind: "part", key: "side@m.1" });
  expect(now().draft).toEqual({ kind: "copy", way: "row", of: ["part:side"] });
  now().select({ kind: "part", key: "back" });
  expect(now().draft).toBeNull();
  now().setDraft({ kind: "copy", way: "row", of: [] });
  now().select({ kind: "joint", key: "j" });
  expect(now().draft).toBeNull();
  now().setDraft({ kind: "joint" });
  now().select({ kind: "part", key: "left" });
  expect(now().selection).toEqual({ kind: "part", key: "left" });
  now().select({ kind: "part", key: "front" });
  expect(now().selection).toEqual({ kind: "part", key: "front" });
});

test("parts join a selection and leave it; of one nothing is made that is many", () => {
  now().toggle("a");
  expect(now().selection).toEqual({ kind: "part", key: "a" });
  now().setDraft({ kind: "item" });
  now().toggle("b");
  expect([now().selection, now().draft]).toEqual([{ kind: "many", parts: ["a", "b"], features: [] }, null]);
  now().toggle("c");
  now().toggle("a");
  expect(now().selection).toEqual({ kind: "many", parts: ["b", "c"], features: [] });
  now().toggle("b");
  now().setDraft({ kind: "item" });
  now().toggle("c");
  expect([now().selection, now().draft]).toEqual([null, null]);
  now().select({ kind: "bore", key: "rod" });
  now().toggle("a");
  expect(now().selection).toEqual({ kind: "part", key: "a" });
  now().setDraft({ kind: "item" });
  now().selectMany(["a"], []);
  expect(now().draft).toBeNull();
  now().selectMany([], ["feature:a:h"]);
  expect(now().selection).toEqual({ kind: "many", parts: [], features: ["feature:a:h"] });
  now().selectMany(["a"], ["feature:a:h"]);
  expect(now().selection).toEqual({ kind: "many", parts: ["a"], features: [] });
});

test("what is hidden, seen through or alone on screen", () => {
  now().hide(["a", "b"]);
  now().hide(["c"]);
  now().seeThrough(["d"]);
  now().seeThrough(["e"]);
  now().toggleGlass("d");
  expect([now().hidden, now().glass]).toEqual([{ a: true, b: true, c: true }, { e: true }]);
  now().isolate(["b"], ["a", "b", "x"]);
  expect(now().hidden).toEqual({ a: true, x: true });
  now().point("a");
  const before = now();
  now().point("a");
  expect(now()).toBe(before);
  now().point("");
  expect(now().hover).toBe("");
});

test("each switch of the picture does what it says, and nothing shown together that cannot be", () => {
  now().setApart(0.4);
  now().setStep(2);
  expect([now().step, now().apart]).toEqual([2, 0]);
  now().setApart(0.4);
  expect([now().step, now().apart]).toEqual([null, 0.4]);
  now().setStep(2);
  now().setTool("loop");
  now().setDraft({ kind: "board" });
  expect([now().step, now().tool]).toEqual([null, ""]);
  now().setTool("box");
  expect([now().tool, now().draft]).toEqual(["box", null]);
  now().pick({ part: "a", what: "part", name: "" });
  now().setTool("box");
  expect([now().tool, now().picks]).toEqual(["", []]);
  const places = ["a", "b", "c"].map((part) => ({ part, what: "part" as const, name: "" }));
  for (const p of places.slice(0, 2)) now().pick(p);
  expect(now().picks).toEqual(places.slice(0, 2));
  now().pick(places[2]);
  expect(now().picks).toEqual([places[2]]);
  now().setAsCut(true);
  now().setTurned(true);
  now().setPickAs("edge");
  now().setSection({ axis: "y", share: 0.3, flipped: true });
  now().setUnfolding({ mode: "each", share: 0.2 });
  now().setFind("hole");
  now().setDialog("keys");
  now().look("front");
  now().look("top");
  const { asCut, turned, pickAs, section, unfolding, find, dialog, side } = now();
  expect({ asCut, turned, pickAs, section, unfolding, find, dialog, side }).toEqual({
    ...{ asCut: true, turned: true, pickAs: "edge", find: "hole", dialog: "keys", side: { name: "top", n: 2 } },
    ...{ section: { axis: "y", share: 0.3, flipped: true }, unfolding: { mode: "each", share: 0.2 } },
  });
  now().reset();
  expect(now()).toMatchObject({
    ...{ station: "build", selection: null, hover: "", hidden: {}, glass: {}, asCut: false, turned: false, step: null },
    ...{ draft: null, side: { name: "", n: 0 }, dialog: "", tool: "", picks: [], pickAs: "face", section: null },
    ...{ apart: 0, unfolding: null, pull: null, find: "" },
  });
});

test("copies and groups light up what they made, many features their parts once", () => {
  const parts = [
    { key: "a", of: "a", made_by: [] },
    { key: "a@m.1", of: "a", made_by: [["m", 1]] },
    {
      key: "b@r.2",
      of: "b",
      made_by: [
        ["q", 1],
        ["r", 2],
      ],
    },
  ]; // prettier-ignore
  const groups = (part: string) => (part === "b" ? ["inner", "outer"] : []);
  const lit = (selection: Parameters<typeof litParts>[0]) => litParts(selection, [], {}, parts, groups);
  expect(lit({ kind: "copy", key: "m" })).toEqual(["a@m.1"]);
  expect(lit({ kind: "copy", key: "r" })).toEqual(["b@r.2"]);
  expect(lit({ kind: "group", key: "outer" })).toEqual(["b@r.2"]);
  expect(lit({ kind: "group", key: "none" })).toEqual([]);
  expect(lit({ kind: "part", key: "a@m.1" })).toEqual(["a@m.1"]);
  expect(lit({ kind: "flange", part: "a", key: "f" })).toEqual(["a"]);
  expect(lit({ kind: "bore", key: "gone" })).toEqual([]);
  expect(lit({ kind: "size", key: "width" })).toEqual([]);
  expect(lit({ kind: "many", parts: ["a", "b"], features: [] })).toEqual(["a", "b"]);
  expect(lit({ kind: "many", parts: [], features: ["feature:a:h", "feature:a:k", "feature:b:h"] })).toEqual(["a", "b"]);
  expect(litParts({ kind: "group", key: "outer" }, [], {}, parts)).toEqual([]);
  expect(litParts({ kind: "copy", key: "m" }, [], {})).toEqual([]);
});

test("owners of a selection: a flange has its bend with it, many features themselves, a part none", () => {
  expect(ownersOf({ kind: "flange", part: "roof", key: "left" })).toEqual(["flange:roof:left", "bend:roof:left"]);
  expect(ownersOf({ kind: "many", parts: [], features: ["feature:a:h"] })).toEqual(["feature:a:h"]);
  expect(ownersOf({ kind: "feature", part: "a", key: "h" })).toEqual(["feature:a:h"]);
  expect(ownersOf({ kind: "bore", key: "rod" })).toEqual(["bore:rod"]);
  expect(ownersOf({ kind: "part", key: "a" })).toEqual([]);
  expect(ownersOf(null)).toEqual([]);
  expect(ownerOf(null)).toBe("");
});

test("what is pressed in the picture becomes the selection of its kind", () => {
  expect(selectionOf("copy:mirror", "a")).toEqual({ kind: "copy", key: "mirror" });
  expect(selectionOf("clearance:play", "a")).toEqual({ kind: "clearance", key: "play" });
  expect(selectionOf("joint:a:b", "a")).toEqual({ kind: "joint", key: "a:b" });
  expect(selectionOf("bore:rod:2", "a")).toEqual({ kind: "bore", key: "rod:2" });
  expect(selectionOf("feature:a:h", "a@m.1")).toEqual({ kind: "feature", part: "a", key: "h" });
  expect(selectionOf("", "a@m.1")).toEqual({ kind: "part", key: "a@m.1", face: undefined });
});
