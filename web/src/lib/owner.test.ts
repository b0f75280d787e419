import { expect, test } from "vitest";
import { id, isOf, isWithin, readOwner } from "./owner";

test("an id is read back as it was made", () => {
  for (const kind of ["joint", "bore", "edge", "part", "group", "copy", "size", "clearance"] as const) {
    expect(readOwner(id[kind]("front-left_2"))).toEqual({ kind, key: "front-left_2", part: "", flange: "" });
    expect([isOf(id[kind]("k"), kind), isOf(id[kind]("k"), "feature")]).toEqual([true, false]);
  }
  expect(readOwner(id.feature("side", "h"))).toEqual({ kind: "feature", key: "h", part: "side", flange: "" });
  expect(readOwner(id.feature("tray", "h", "left"))).toEqual({ kind: "feature", key: "h", part: "tray", flange: "left" });
  expect(readOwner(id.flange("tray", "left"))).toEqual({ kind: "flange", key: "left", part: "tray", flange: "" });
  expect(readOwner(id.bend("tray", "left.2"))).toEqual({ kind: "bend", key: "left.2", part: "tray", flange: "" });
});

test("what is no id belongs to nothing", () => {
  expect(readOwner("")).toEqual({ kind: "", key: "", part: "", flange: "" });
  expect(readOwner("feature:p")).toEqual({ kind: "feature", key: "", part: "p", flange: "" });
  expect([isOf("", "joint"), isOf("jointed:k", "joint")]).toEqual([false, false]);
});

test("what is cut into a flange lies within it and no other", () => {
  const hole = id.feature("tray", "h", "left");
  expect([isWithin(hole, "tray", "left"), isWithin(hole, "tray", "lef"), isWithin(hole, "lid", "left")]).toEqual([
    true,
    false,
    false,
  ]);
  expect(isWithin(id.flange("tray", "left"), "tray", "left")).toBe(false);
});
