import { expect, test } from "vitest";
import { laidEndToEnd } from "./BarPlan";

test("pieces lie one after the other, each as often as it is cut", () => {
  const cuts = [
    { length: 400, count: 2 },
    { length: 150, count: 1 },
    { length: 90, count: 0 },
  ];
  expect(laidEndToEnd(cuts)).toEqual([
    { x: 0, length: 400 },
    { x: 400, length: 400 },
    { x: 800, length: 150 },
  ]);
  expect(laidEndToEnd([])).toEqual([]);
});
