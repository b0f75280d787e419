import { expect, test } from "vitest";
import { COMMANDS, type Command, clashOf, commandFor, keyOf, pressed, useKeys } from "./keys";

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
  expect(clashOf("board", "Z", {})).toBe("joint");
});

test("each command has its own words, and its key is the one that is printed in the guide", () => {
  const words = Object.values(COMMANDS).map((c) => c.words);
  expect(words.every((w) => /^[A-Z][a-z]+ .+/.test(w) || w === "Undo" || w === "Redo")).toBe(true);
  expect(new Set(words).size).toBe(words.length);
  expect(Object.fromEntries(Object.entries(COMMANDS).map(([name, c]) => [name, c.key]))).toEqual({
    ...{ sizes: "1", build: "2", flats: "3", nest: "4", shop: "5", quick: "/", undo: "Ctrl+Z", redo: "Ctrl+Shift+Z" },
    ...{ hide: "H", glass: "G", showAll: "Shift+H", board: "B", line: "D", joint: "Z", feature: "C", bore: "R", mirror: "P" },
    ...{ group: "U", measure: "E", move: "M", section: "S", loop: "L", isolate: "O", remove: "Delete", nextPart: "ArrowDown" },
    ...{ previousPart: "ArrowUp", fit: "W", keys: "?", history: "T", away: "Escape" },
  });
});

test("modifiers stand in one order, and Shift is only said of what has no sign of its own for it", () => {
  expect(press("b", { shiftKey: true })).toBe("Shift+B");
  expect(press("B")).toBe("B");
  expect(press("/", { shiftKey: true })).toBe("/");
  expect(press("ArrowUp", { shiftKey: true })).toBe("Shift+ArrowUp");
  expect(press("x", { metaKey: true })).toBe("Ctrl+X");
  expect(press("x", { altKey: true })).toBe("Alt+X");
  expect(press("x", { ctrlKey: true, altKey: true, shiftKey: true })).toBe("Ctrl+Alt+Shift+X");
});

test("own keys are kept one by one, and all go at once", () => {
  useKeys.getState().set("board", "K");
  useKeys.getState().set("joint", "Q");
  expect(useKeys.getState().own).toEqual({ board: "K", joint: "Q" });
  expect([keyOf("board", useKeys.getState().own), keyOf("bore", useKeys.getState().own)]).toEqual(["K", "R"]);
  expect(clashOf("bore", "K", useKeys.getState().own)).toBe("board");
  expect(clashOf("board", "K", useKeys.getState().own)).toBeNull();
  expect(clashOf("bore", "B", useKeys.getState().own)).toBeNull();
  expect(commandFor("Q", useKeys.getState().own)).toBe("joint");
  useKeys.getState().reset();
  expect(useKeys.getState().own).toEqual({});
});

test("a key that was a maker's own before a command came to have it stays theirs", () => {
  expect(commandFor("H", { board: "H" })).toBe("board");
  expect(commandFor("H", {})).toBe("hide");
});

test("each letter is the first of the word that it stands for", () => {
  const said = Object.values(COMMANDS).filter((c) => c.from);
  expect(said.length).toBeGreaterThan(12);
  expect(said.filter((c) => c.key.replace("Shift+", "").toLowerCase() !== c.from?.[0])).toEqual([]);
});
