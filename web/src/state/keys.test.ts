import { expect, test } from "vitest";
import { COMMANDS, type Command, clashOf, commandFor, pressed } from "./keys";

const press = (key: string, more = {}) =>
  pressed({ key, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false, ...more });

test("key presses have one spelling", () => {
  expect(press("z", { ctrlKey: true })).toBe("Ctrl+Z");
  expect(press("Z", { ctrlKey: true, shiftKey: true })).toBe("Ctrl+Shift+Z");
  expect(press("?", { shiftKey: true })).toBe("?");
  expect(press("Delete")).toBe("Delete");
});

test("no two commands start out with the same key", () => {
  const clashes = (Object.keys(COMMANDS) as Command[]).filter((c) => clashOf(c, COMMANDS[c].key, {}));
  expect(clashes).toEqual([]);
});

test("a changed key is found, and a clash is named", () => {
  expect(commandFor("K", { board: "K" })).toBe("board");
  expect(commandFor("B", { board: "K" })).toBeNull();
  expect(clashOf("board", "J", {})).toBe("joint");
});
