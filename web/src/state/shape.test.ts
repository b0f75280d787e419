import { describe, expect, it } from "vitest";
import type { BuiltOut } from "../api/types";
import type { Doc, Place } from "../lib/document";
import { distinctParts, placeWords, standFor } from "./shape";

const built = {
  parts: [
    { key: "side", of: "side", path: "side_left", flat: "a" },
    { key: "side@m.1", of: "side", path: "side_right", flat: "b" },
    { key: "side@r.1", of: "side", path: "side.2", flat: "a" },
    { key: "lid", of: "lid", path: "lid", flat: "a" },
    { key: "screw", of: "screw", path: "screw", flat: "" },
  ],
} as unknown as BuiltOut;
const doc = {
  parts: {
    side: {
      kind: "board",
      name: "side_left",
      features: { h: { kind: "hole", name: "rod hole" }, k: { kind: "hole", name: "" } },
    },
  },
} as unknown as Doc;

describe("what is built", () => {
  it("is drawn once for each different flat of a record", () => {
    expect(distinctParts(built.parts).map((p) => p.key)).toEqual(["side", "side@m.1", "lid"]);
    expect(standFor(built.parts, "side@r.1")).toBe("side");
    expect(standFor(built.parts, "side@m.1")).toBe("side@m.1");
    expect(standFor(built.parts, "gone")).toBe("gone");
  });

  it("tells places in words, those on copies by the copy's own name", () => {
    const say = (part: string, what: Place["what"], name = "") => placeWords({ part, what, name }, { doc, built });
    expect(say("side@m.1", "part")).toBe("side right");
    expect(say("side", "centre")).toBe("centre of side left");
    expect(say("lid", "face", "top")).toBe("top face of lid");
    expect(say("side", "edge", "left-top")).toBe("left-top edge of side left");
    expect(say("side@r.1", "feature", "h")).toBe("rod hole in side.2");
    expect(say("side@r.1", "feature", "k")).toBe("hole in side.2");
    expect(say("gone_part", "part")).toBe("gone part");
  });
});
