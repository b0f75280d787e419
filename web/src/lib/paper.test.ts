// What a press on a paper means.
import { describe, expect, it } from "vitest";
import type { PaperAnchorOut, PaperOut } from "../api/types";
import { isLit, nearest, nextRevision, selectedBy, standsOff, wayBetween } from "./paper";

const anchor = (name: string, x: number, y: number, along: PaperAnchorOut["along"] = "both"): PaperAnchorOut => ({
  name,
  x,
  y,
  along,
  words: name,
  of: "",
});
const paper = (anchors: Record<string, PaperAnchorOut[]>) => ({ anchors }) as unknown as PaperOut;

describe("what ink selects", () => {
  it.each([
    ["front", { kind: "part", key: "front" }],
    ["side@pair.1", { kind: "part", key: "side@pair.1" }],
    ["part:front", { kind: "part", key: "front" }],
    ["feature:front:hold", { kind: "feature", part: "front", key: "hold" }],
    ["bend:base:left", { kind: "flange", part: "base", key: "left" }],
    ["flange:base:left", { kind: "flange", part: "base", key: "left" }],
    ["joint:front-left", { kind: "joint", key: "front-left" }],
    ["bore:rod", { kind: "bore", key: "rod" }],
    ["edge:left", null],
    ["", null],
  ])("%s", (of, selection) => expect(selectedBy(of)).toEqual(selection));

  it("is lit where it is of the thing that is selected", () => {
    expect(isLit("front", ["front"], { kind: "part", key: "front" })).toBe(true);
    expect(isLit("front", ["front"], { kind: "feature", part: "front", key: "hold" })).toBe(false);
    expect(isLit("feature:front:hold", ["front"], { kind: "feature", part: "front", key: "hold" })).toBe(true);
    expect(isLit("feature:back:hold", ["front"], { kind: "feature", part: "front", key: "hold" })).toBe(false);
    expect(isLit("joint:a", [], { kind: "bore", key: "a" })).toBe(false);
    expect(isLit("", ["front"], { kind: "part", key: "front" })).toBe(false);
  });
});

describe("the nearest place", () => {
  const views = paper({
    front: [anchor("hole", 50, 50), anchor("left", 20, 80, "x"), anchor("low", 20, 80, "y"), anchor("corner", 90, 20)],
    top: [anchor("other", 50, 150)],
  });
  it("is a point, or a line anywhere along it", () => {
    expect(nearest(views, 52, 51, 6)?.anchor.name).toBe("hole");
    expect(nearest(views, 21, 40, 6)?.anchor.name).toBe("left");
    expect(nearest(views, 60, 78, 6)?.anchor.name).toBe("low");
  });
  it("is none far from all, and none of a view that is elsewhere", () => {
    expect(nearest(views, 70, 60, 6)).toBeNull();
    expect(nearest(views, 21, 140, 6)).toBeNull();
    expect(nearest(views, 49, 150, 6)?.view).toBe("top");
  });
});

describe("a dimension between two places", () => {
  const [a, b] = [anchor("a", 20, 80), anchor("b", 60, 40)];
  it("is level under or over them, upright beside them, else straight", () => {
    expect(wayBetween(a, b, 40, 100)).toBe("x");
    expect(wayBetween(a, b, 40, 20)).toBe("x");
    expect(wayBetween(a, b, 5, 60)).toBe("y");
    expect(wayBetween(a, b, 80, 60)).toBe("y");
    expect(wayBetween(a, b, 80, 100)).toBe("straight");
    expect(wayBetween(a, anchor("c", 60, 80), 90, 99)).toBe("x");
    expect(wayBetween(a, anchor("c", 20, 10), 90, 99)).toBe("y");
    expect(wayBetween(anchor("line", 5, 5, "x"), b, 0, 0)).toBe("x");
    expect(wayBetween(b, anchor("line", 5, 5, "y"), 0, 0)).toBe("y");
  });
  it("stands off as far as it is pressed, over 0 under and to the left", () => {
    expect(standsOff(a, b, "x", 40, 92)).toBe(12);
    expect(standsOff(a, b, "x", 40, 30)).toBe(-10);
    expect(standsOff(a, b, "y", 8, 60)).toBe(12);
    expect(standsOff(a, b, "y", 70, 60)).toBe(-10);
    // from a to b runs to the upper right: below it on the right
    expect(standsOff(a, b, "straight", 60, 80)).toBeGreaterThan(0);
    expect(standsOff(a, b, "straight", 20, 40)).toBeLessThan(0);
  });
  it("never lies on its places", () => expect(standsOff(a, b, "x", 40, 80)).not.toBe(0));
});

describe("the next revision", () => {
  it.each([
    [[], "A"],
    [["A"], "B"],
    [["C", "B", "A"], "D"],
    [["Z"], "AA"],
    [["3", "2"], "4"],
    [["first try"], "A"],
  ])("after %j is %s", (issued, next) => expect(nextRevision(issued as string[])).toBe(next));
});
