import { beforeEach, expect, test } from "vitest";
import { litParts, ownerOf, selectionOf, useView } from "./view";

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
