// @vitest-environment happy-dom
// A table of records: its head, what stands where there is no record, and each kind of field as one edit.
import { MantineProvider } from "@mantine/core";
import { act } from "react";
import { createRoot, type Root } from "react-dom/client";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Form, FormField } from "../api/types";
import { useDesign } from "../state/design";
import { RecordTable } from "./RecordTable";

const FIELD: FormField = {
  ...{
    name: "",
    label: "",
    note: "",
    type: "number",
    value_kind: "length",
    optional: false,
    choices: [],
    default: null,
    begin: "",
  },
  ...{ small: "", blank: "", among: "", only: [], only_cutter: "", labels: [], along: "", section: "", least: 0, most: null },
  ...{ suffix: "", zero: "", step: 1, brings: [] },
};
const FORM: Form = {
  kind: "dies",
  title: "Dies",
  note: "",
  fields: [
    { ...FIELD, name: "name", label: "Name", type: "text", most: 6 },
    { ...FIELD, name: "v", label: "V", suffix: " mm", least: 1 },
    { ...FIELD, name: "angle", label: "Angle", suffix: "°", default: "88" },
    { ...FIELD, name: "least", label: "Least flange", suffix: " mm", optional: true, blank: "by V" },
    {
      ...FIELD,
      name: "line",
      label: "Line",
      type: "choice",
      default: "dashed",
      choices: ["continuous", "dashed"].map((value) => ({ value, label: value })),
    },
  ],
};

let root: Root;
let room: HTMLElement;
const commit = vi.fn(async () => true);

async function draw(record?: Record<string, unknown>) {
  const rows = [{ key: "d", name: "V 8", path: ["brakes", "b", "dies", "a/b"], record, instead: "none yet", last: "Remove" }];
  await act(async () =>
    root.render(
      <MantineProvider env="test">
        <RecordTable form={FORM} rows={rows} head="Tool" last="" />
      </MantineProvider>,
    ),
  );
}

const field = (label: string) => room.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!;

async function type(label: string, text: string) {
  const input = field(label);
  await act(async () => {
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!.call(input, text);
    input.dispatchEvent(new Event("input", { bubbles: true }));
  });
  await act(async () => input.dispatchEvent(new FocusEvent("focusout", { bubbles: true })));
}

beforeEach(() => {
  vi.stubGlobal("IS_REACT_ACT_ENVIRONMENT", true);
  commit.mockClear();
  useDesign.setState({ doc: { display: "mm", currency: "EUR", unit: "mm" } as never, commit: commit as never });
  room = document.body.appendChild(document.createElement("div"));
  root = createRoot(room);
});

afterEach(async () => {
  await act(async () => root.unmount());
  room.remove();
});

test("the head says what is in a column and in which unit, a cell the figure alone", async () => {
  await draw({ name: "V 8", v: 8, least: 6.5 });
  expect([...room.querySelectorAll("th")].map((h) => h.textContent)).toEqual([
    ...["Tool", "Name", "V, mm", "Angle, °", "Least flange, mm", "Line", ""],
  ]);
  expect(["V", "Angle", "Least flange", "Line"].map((l) => field(`${l} of V 8`).value)).toEqual(["8", "88", "6.5", "dashed"]);
  expect(room.querySelector("table")!.getAttribute("aria-label")).toBe("Dies");
});

test("where there is no record something else stands, over all columns", async () => {
  await draw();
  const cells = [...room.querySelectorAll("td")];
  expect(cells.map((c) => [c.textContent, c.colSpan])).toEqual([
    ["V 8", 1],
    ["none yet", 5],
    ["Remove", 1],
  ]);
});

test("a number is one edit at its place in the document, and what is not optional never goes", async () => {
  await draw({ name: "V 8", v: 8 });
  await type("V of V 8", "10");
  expect(commit.mock.calls).toEqual([["V 8, v: 10", [{ op: "add", path: "/brakes/b/dies/a~1b/v", value: 10 }]]]);
  await type("V of V 8", "");
  expect(commit).toHaveBeenCalledTimes(1);
  expect(field("V of V 8").value).toBe("8");
});

test("an optional number goes when it is emptied, and says what stands then", async () => {
  await draw({ name: "V 8", v: 8, least: 6.5 });
  await type("Least flange of V 8", "");
  expect(commit.mock.calls).toEqual([["V 8, least flange: by V", [{ op: "remove", path: "/brakes/b/dies/a~1b/least" }]]]);
  await draw({ name: "V 8", v: 8 });
  expect(field("Least flange of V 8").placeholder).toBe("by V");
  await type("Least flange of V 8", "");
  expect(commit).toHaveBeenCalledTimes(1);
});

test("a name is as long as its record takes it and is not emptied", async () => {
  await draw({ name: "V 8", v: 8 });
  expect(field("Name of V 8").maxLength).toBe(6);
  await type("Name of V 8", " V 9 ");
  await type("Name of V 8", "");
  expect(commit.mock.calls).toEqual([["V 8: name V 9", [{ op: "add", path: "/brakes/b/dies/a~1b/name", value: "V 9" }]]]);
});
