// The sides of the bench fold one by one.
import { expect, test } from "vitest";
import { useFolded } from "./folded";

test("each side folds by itself and comes back", () => {
  const now = () => [useFolded.getState().list, useFolded.getState().card];
  expect(now()).toEqual([false, false]);
  useFolded.getState().toggle("card");
  expect(now()).toEqual([false, true]);
  useFolded.getState().toggle("list");
  useFolded.getState().toggle("card");
  expect(now()).toEqual([true, false]);
  useFolded.getState().toggle("list");
});
