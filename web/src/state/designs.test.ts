import { expect, test } from "vitest";
import type { DesignRow } from "../api/types";
import { listed } from "./designs";

const row = (name: string, parts: number, day: number): DesignRow => ({
  id: name,
  name,
  revision: 1,
  updated: `2026-11-${String(day).padStart(2, "0")}T10:00:00Z`,
  parts,
  problems: 0,
});
const rows = [row("Seed box 10", 5, 3), row("Seed box 2", 9, 7), row("Stool", 9, 5)];
const names = (words: string, order: Parameters<typeof listed>[2]) => listed(rows, words, order).map((d) => d.name);

test("designs are found by all the words of their name, and stand in the order that is asked for", () => {
  expect(names("", "latest")).toEqual(["Seed box 2", "Stool", "Seed box 10"]);
  expect(names("", "name")).toEqual(["Seed box 2", "Seed box 10", "Stool"]);
  expect(names("", "parts")).toEqual(["Seed box 2", "Stool", "Seed box 10"]);
  expect(names("  BOX seed ", "latest")).toEqual(["Seed box 2", "Seed box 10"]);
  expect(names("box 10", "name")).toEqual(["Seed box 10"]);
  expect(names("chest", "name")).toEqual([]);
  expect(rows[0].name).toBe("Seed box 10"); // the list itself stays as it was
});
