import { expect, test } from "vitest";
import type { BarStock } from "./document";
import { barsOfStock, barsTaken, sheetSize, typedOut } from "./shelf";

const stock = {
  lengths: {
    long: { length: { text: "6 m", unit: "mm" }, price: 31.8, order: 1 },
    short: { length: { text: "3000", unit: "mm" }, price: 0, order: 0 },
    none: { length: { text: "1 m", unit: "mm" }, price: 4, order: 2 },
  },
  kerf: { text: "2", unit: "mm" },
  trim: { text: "0", unit: "mm" },
} as unknown as BarStock;

test("what is left comes first, what is counted as often as it is there, what is not as often as is needed, and what is out not at all", () => {
  const found = barsOfStock(stock, { long: 4, none: 0 }, [{ length: 840 }]);
  expect(found.bars).toEqual([
    { length: "840 mm", count: 1, price: 0.01 },
    { length: "3000 mm", count: 0, price: 1 },
    { length: "6 m", count: 4, price: 31.8 },
  ]);
  expect(found.kerf).toBe("2 mm");
  expect(found.trim).toBe("");
});

test("a bare number is written with its unit", () => {
  expect(["48", "3/4", "5 ft", "6'", '2"'].map((text) => typedOut({ text, unit: "in" }))).toEqual([
    "48 in",
    "3/4 in",
    "5 ft",
    "6'",
    '2"',
  ]);
  expect(typedOut({ text: "610" })).toBe("610 mm");
});

test("a sheet's unit is said once", () => {
  expect(sheetSize({ text: "1220 mm", unit: "mm" }, { text: "610", unit: "mm" })).toBe("1220 × 610 mm");
  expect(sheetSize({ text: "4 ft", unit: "in" }, { text: "24", unit: "in" })).toBe("4 ft × 24 in");
});

test("bars of an earlier plan stay cut when another is cut, and remainders are no new bars", () => {
  const patterns = [
    { size: "long", times: 3 },
    { size: "", times: 1 },
    { size: "long", times: 1 },
  ];
  expect(barsTaken(patterns, {})).toEqual({ long: 4 });
  expect(barsTaken(patterns, { long: 2, short: 1 })).toEqual({ long: 6, short: 1 });
});
