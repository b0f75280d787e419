// What an answer shows: all of it, or the head that is held with what has changed.
import { expect, test } from "vitest";
import type { ChangedOut, PreviewOut } from "../api/types";
import type { Doc } from "../lib/document";
import { type HeldHead, holding, shownBy } from "./told";

const doc = { sizes: { width: "420" }, parts: {} } as unknown as Doc;
const head = {
  parts: [
    { key: "a", mass: 1 },
    { key: "b", mass: 2 },
  ],
  problems: [{ n: 1 }, { n: 2 }],
};
const held = { doc, head, tag: "t1" } as unknown as HeldHead;

test("changes of the held head give the new one; what has not changed is the same object, and the held one stands as it was", () => {
  const changes = [
    { op: "replace", path: "/document/sizes/width", value: "400" },
    { op: "replace", path: "/built/parts/1/mass", value: 3 },
    { op: "remove", path: "/built/problems/0" },
    { op: "add", path: "/built/parts/2", value: { key: "c", mass: 4 } },
  ];
  const before = JSON.stringify(held);
  const shown = shownBy({ over: "t1", changes, resources: {} } as unknown as ChangedOut, held);
  expect(shown).toEqual({
    doc: { sizes: { width: "400" }, parts: {} },
    built: {
      parts: [
        { key: "a", mass: 1 },
        { key: "b", mass: 3 },
        { key: "c", mass: 4 },
      ],
      problems: [{ n: 2 }],
    },
  });
  expect(shown?.built.parts[0]).toBe(held.head?.parts[0]);
  expect(shown?.doc.parts).toBe(doc.parts);
  expect(JSON.stringify(held)).toBe(before);
});

test("changes of another head, or of none that is held, show nothing; what is told whole needs none", () => {
  const answer = { over: "t0", changes: [], resources: {} } as unknown as ChangedOut;
  expect(shownBy(answer, held)).toBeNull();
  expect(shownBy({ ...answer, over: "" } as ChangedOut, { doc: null, head: null, tag: "" })).toBeNull();
  const whole = { document: { n: 1 }, built: { n: 2 }, resources: {} } as unknown as PreviewOut;
  expect(shownBy(whole, { doc: null, head: null, tag: "" })).toEqual({ doc: { n: 1 }, built: { n: 2 } });
});

test("the server is told of the head that is held, and of none before there is one", () => {
  expect(holding(held).holds).toBe("t1");
  expect(holding({ doc: null, head: null, tag: "t1" }).holds).toBe("");
});
