// The record that a draft of a copy makes, and which axes its fields offer.
import { expect, test } from "vitest";
import type { Form, FormField } from "../api/types";
import { useDesign } from "../state/design";
import { copyRecord, fieldsOf, waysTaken } from "./copyFields";

useDesign.setState({ doc: { unit: "mm" } as never });
const field = (name: string, type: string, begin: string, section = "") => ({ name, type, begin, section }) as FormField;
const form = (kind: string, ...fields: FormField[]) => ({ kind, fields }) as Form;
const base = { name: "c", of: ["part:p"], order: 4, filling: false };

test("a row is asked for its number or for the length that it fills, never for both", () => {
  const row = form(
    "row",
    field("axis", "choice", "x"),
    field("number", "entry", "3", "number"),
    field("length", "entry", "9", "fill"),
  );
  expect([true, false].map((filling) => fieldsOf(row, filling).map((f) => f.name))).toEqual([
    ["axis", "length"],
    ["axis", "number"],
  ]);
  expect(copyRecord(row, { ...base, filling: true }, {})).toEqual({
    ...{ kind: "row", name: "c", of: ["part:p"], order: 4, axis: "x", length: { text: "9", unit: "mm" } },
  });
});

test("a ring's line passes the two other axes, where it was said or at nought", () => {
  const ring = form("ring", field("axis", "choice", "x"), field("upright", "flag", "false"));
  const at = { text: "12", unit: "mm" };
  expect(copyRecord(ring, base, { axis: "y", "at.z": at, "at.y": at, upright: true })).toEqual({
    ...{
      kind: "ring",
      name: "c",
      of: ["part:p"],
      order: 4,
      axis: "y",
      upright: true,
      at: { x: { text: "0", unit: "mm" }, z: at },
    },
  });
  expect(copyRecord(ring, base, {}).upright).toBe(false);
});

test.each([
  [{ kind: "grid", axis: "x", axis_2: "z" }, ["z"], ["x"]],
  [{ kind: "ring", axis: "y" }, ["x", "z"], ["x", "z"]],
  [{ kind: "row", axis: "y" }, [], []],
  [{ kind: "mirror", axis: "y" }, [], []],
])("of %o a way that is taken is not offered", (copy, first, second) => {
  expect([waysTaken(copy)("axis"), waysTaken(copy)("axis_2")]).toEqual([first, second]);
});
