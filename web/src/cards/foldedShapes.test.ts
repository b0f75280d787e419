import { expect, test } from "vitest";
import { filled } from "./foldedShapes";

const mm = (text: string) => ({ text, unit: "mm" as const });

test("what stands for a length is what was typed, and all else is as the core has it", () => {
  const flanges = {
    front: { kind: "flange", edge: "front", length: { text: "length" }, order: 0 },
    nose: { legs: [{ length: { text: "lip" }, angle: { text: "90 deg" } }], toward: "b", order: 1, turned: false, on: null },
  };
  expect(filled(flanges, { length: mm("width / 4"), lip: { text: "1/2", unit: "in" } })).toEqual({
    front: { kind: "flange", edge: "front", length: mm("width / 4"), order: 0 },
    nose: {
      legs: [{ length: { text: "1/2", unit: "in" }, angle: mm("90 deg") }],
      toward: "b",
      order: 1,
      turned: false,
      on: null,
    },
  });
  expect(filled({}, {})).toEqual({});
});
