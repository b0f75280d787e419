import { expect, test } from "vitest";
import { waitingAt } from "./EntryField";

const edit = (path: string, text: string, op = "add") => ({
  id: text,
  label: text,
  patch: [{ op, path, value: { text, unit: "mm" } }],
});

test("of several edits that wait, an entry shows the last one that is about it", () => {
  const waiting = [
    edit("/sizes/a/entry", "1"),
    edit("/sizes/a/entry", "2"),
    edit("/sizes/b/entry", "3"),
    edit("/sizes/c/entry", "", "remove"),
  ];
  expect(waitingAt(waiting, "/sizes/a/entry")).toEqual({ text: "2", unit: "mm" });
  expect(waitingAt(waiting, "/sizes/b/entry")?.text).toBe("3");
  expect([waitingAt(waiting, "/sizes/c/entry"), waitingAt(waiting, "/sizes/a"), waitingAt([], "/sizes/a/entry")]).toEqual([
    undefined,
    undefined,
    undefined,
  ]);
});
