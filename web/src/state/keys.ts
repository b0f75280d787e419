// Shortcuts: one list, changeable, kept in this browser; clashes are named.
import { create } from "zustand";
import { persist } from "zustand/middleware";
import { ofEach, type Station, TITLES } from "./stations";

export type Command =
  | Station
  | "quick"
  | "undo"
  | "redo"
  | "hide"
  | "glass"
  | "showAll"
  | "board"
  | "line"
  | "joint"
  | "feature"
  | "bore"
  | "mirror"
  | "group"
  | "measure"
  | "move"
  | "section"
  | "loop"
  | "isolate"
  | "remove"
  | "nextPart"
  | "previousPart"
  | "fit"
  | "keys"
  | "history"
  | "away";

/** What each command is called, its key, and the word of ours that the key stands for. */
export const COMMANDS: Record<Command, { words: string; key: string; from?: string }> = {
  ...ofEach((s, i) => ({ words: `Go to ${TITLES[s]}`, key: String(i + 1) })),
  quick: { words: "Open the quick bar", key: "/" },
  undo: { words: "Undo", key: "Ctrl+Z" },
  redo: { words: "Redo", key: "Ctrl+Shift+Z" },
  hide: { words: "Hide or show the selected part", key: "H", from: "hide" },
  glass: { words: "See through the selected part", key: "G", from: "glass" },
  showAll: { words: "Show all parts", key: "Shift+H", from: "hidden" },
  board: { words: "Add a board", key: "B", from: "board" },
  line: { words: "Draw tubes as lines of a frame", key: "D", from: "draw" },
  joint: { words: "Join two parts", key: "Z", from: "zygon, what joins two" },
  feature: { words: "Add a hole or mark", key: "C", from: "cut" },
  bore: { words: "Add a bore", key: "R", from: "round" },
  mirror: { words: "Mirror what is selected", key: "P", from: "pair" },
  group: { words: "Group what is selected", key: "U", from: "unit" },
  move: { words: "Move what moves", key: "M", from: "move" },
  measure: { words: "Measure between two places", key: "E", from: "edge to edge" },
  section: { words: "Cut a section", key: "S", from: "section" },
  loop: { words: "Select by a loop", key: "L", from: "loop" },
  isolate: { words: "Show only what is selected", key: "O", from: "only" },
  remove: { words: "Remove what is selected", key: "Delete" },
  nextPart: { words: "Next part in the list", key: "ArrowDown" },
  previousPart: { words: "Previous part in the list", key: "ArrowUp" },
  fit: { words: "Show the whole design", key: "W", from: "whole" },
  keys: { words: "Show the shortcuts", key: "?" },
  history: { words: "Show the history", key: "T", from: "time" },
  away: { words: "Let go of the selection", key: "Escape" },
};

type KeysState = { own: Partial<Record<Command, string>>; set: (command: Command, key: string) => void; reset: () => void };

export const useKeys = create<KeysState>()(
  persist(
    (set, get) => ({
      own: {},
      set: (command, key) => set({ own: { ...get().own, [command]: key } }),
      reset: () => set({ own: {} }),
    }),
    { name: "zygon-keys" },
  ),
);

export function keyOf(command: Command, own: Partial<Record<Command, string>>): string {
  return own[command] ?? COMMANDS[command].key;
}

/** The other command that has this key already, or null. */
export function clashOf(command: Command, key: string, own: Partial<Record<Command, string>>): Command | null {
  const names = Object.keys(COMMANDS) as Command[];
  return names.find((c) => c !== command && keyOf(c, own) === key) ?? null;
}

/** A key press in words: 'Ctrl+Shift+Z', '/', 'B'. */
export function pressed(event: { key: string; ctrlKey: boolean; metaKey: boolean; shiftKey: boolean; altKey: boolean }): string {
  const letter = event.key.length === 1;
  const name = letter ? event.key.toUpperCase() : event.key;
  // signs that need Shift to be typed carry it in themselves
  const shift = event.shiftKey && (!letter || /[A-Z]/.test(name));
  return [event.ctrlKey || event.metaKey ? "Ctrl" : "", event.altKey ? "Alt" : "", shift ? "Shift" : "", name]
    .filter(Boolean)
    .join("+");
}

export function commandFor(key: string, own: Partial<Record<Command, string>>): Command | null {
  // a maker's own key stays theirs where a command comes to have the same one
  const names = Object.keys(COMMANDS) as Command[];
  return names.find((c) => own[c] === key) ?? names.find((c) => keyOf(c, own) === key) ?? null;
}
