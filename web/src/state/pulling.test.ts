// A face in hand: what is tried while it is pulled, and the one edit when it is let go.
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { PullOut } from "../api/types";
import { useDesign } from "./design";
import { usePulling } from "./pulling";

const PULL: PullOut = {
  face: "right",
  axis: "x",
  value: 388,
  pointer: "/parts/p/spans/x/high",
  base: "right.left",
  constant: 0,
  word: "mm",
  factor: 1,
  places: 3,
  whole: true,
  catches: [{ value: 400, entry: "right.right" }],
  barred: [],
  size: "",
  follow: 0,
  unit: "mm",
};
const preview = vi.fn();
const commit = vi.fn(async (_label: string, _patch: unknown) => true);
const own = useDesign.getState();
const now = () => usePulling.getState();
const patch = (text: string) => [{ op: "replace", path: "/parts/p/spans/x/high/text", value: text }];

beforeEach(() => {
  vi.useFakeTimers();
  preview.mockClear();
  commit.mockClear();
  useDesign.setState({ doc: { unit: "mm" } as never, preview, commit });
  now().begin("p", PULL);
});
afterEach(() => {
  now().leave();
  vi.useRealTimers();
  useDesign.setState(own, true);
});

test("the figure follows at once, and values are tried at most every 50 ms, the latest of them", () => {
  now().to(-20.2, 0.5, false);
  expect([now().value, now().text]).toEqual([368, "right.left - 20 mm"]);
  now().to(-35, 0.5, false);
  expect(preview).not.toHaveBeenCalled();
  vi.advanceTimersByTime(50);
  expect(preview.mock.calls).toEqual([[patch("right.left - 35 mm")]]);
  now().to(11, 0.5, false);
  expect([now().caught, now().value]).toEqual(["right.right", 400]);
  vi.advanceTimersByTime(500);
  expect(preview.mock.calls[1]).toEqual([patch("right.right")]);
  expect(preview).toHaveBeenCalledTimes(2);
});

test("letting go makes one edit, and takes back what was tried", async () => {
  now().to(-20, 0.5, false);
  await now().settle();
  expect(commit.mock.calls).toEqual([["right: right.left - 20 mm", patch("right.left - 20 mm")]]);
  expect(preview.mock.calls).toEqual([[null]]);
  expect(now().pull).toBeNull();
  vi.advanceTimersByTime(500);
  expect(preview).toHaveBeenCalledTimes(1);
});

test("back where it was, or left, nothing is changed", async () => {
  now().to(-20, 0.5, false);
  now().to(0, 0.5, false);
  await now().settle();
  now().begin("p", PULL);
  now().to(-20, 0.5, false);
  now().leave();
  await now().settle();
  expect(commit).not.toHaveBeenCalled();
});

test("a typed distance is what counts, whatever the hand does then", () => {
  now().to(-20, 0.5, false);
  now().type("1");
  now().type("12,5");
  expect([now().value, now().text, now().typed]).toEqual([400.5, "right.left + 12.5 mm", "12,5"]);
  now().to(50, 0.5, false);
  expect(now().text).toBe("right.left + 12.5 mm");
  now().type("-");
  expect(now().text).toBe("right.left + 12.5 mm");
  now().type("-3");
  expect([now().value, now().text]).toEqual([385, "right.left - 3 mm"]);
});

test("a size is called by its name", async () => {
  now().leave();
  now().begin("p", { ...PULL, pointer: "/sizes/width/entry", base: "", constant: 400, size: "width", follow: 3, catches: [] });
  now().to(24, 0.9, false);
  await now().settle();
  expect(commit.mock.calls[0][0]).toBe("width: 425 mm");
});

test("a group's pull writes what moves it, also where nothing did before", async () => {
  const pull = { ...PULL, pointer: "/groups/frame/move/z", base: "", value: 50, constant: 0, catches: [], whole: false };
  now().leave();
  now().begin("group:frame", pull);
  now().to(17, 0.5, false);
  await now().settle();
  const value = { text: "15 mm", unit: "mm" };
  expect(commit).toHaveBeenCalledWith("moved: 15 mm", [{ op: "add", path: "/groups/frame/move/z", value }]);
});
