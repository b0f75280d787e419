import { expect, test } from "vitest";
import type { FeatureForm, Form, FormField } from "../api/types";
import {
  begun,
  broughtBy,
  choicesFor,
  defaultOf,
  endsOfEdge,
  labelOf,
  placedAlong,
  put,
  shownFields,
  withEntries,
} from "./forms";

const field = (own: Partial<FormField>): FormField => ({
  name: "x",
  label: "X",
  note: "",
  type: "entry",
  value_kind: "length",
  optional: false,
  choices: [],
  default: null,
  begin: "",
  small: "",
  blank: "",
  among: "",
  only: [],
  only_cutter: "",
  labels: [],
  along: "",
  section: "",
  least: null,
  most: null,
  suffix: "",
  zero: "",
  step: 1,
  brings: [],
  ...own,
});
const form = (...fields: FormField[]): Form => ({ kind: "k", title: "K", note: "", fields });
const choice = (name: string, values: string[], own: Partial<FormField> = {}) =>
  field({ name, type: "choice", choices: values.map((value) => ({ value, label: `${value} it` })), default: values[0], ...own });
const entry = (text: string) => ({ text, unit: "in" as const });

test("words name the ends and boards at hand; without any they stay plain", () => {
  expect(put("Open at LOW", { low: "front", high: "back" })).toBe("Open at front");
  expect(put("Open at HIGH", { low: "front", high: "back" })).toBe("Open at back");
  expect([put("A", { a: "left", b: "top" }), put("B", { a: "left", b: "top" })]).toEqual(["left", "top"]);
  expect([put("Starts at LOW"), put("A"), put("Angle")]).toEqual(["Starts at low", "A", "Angle"]);
});

test("a field is shown while all that it hangs on is so, and on its cutter", () => {
  const shape = choice("shape", ["tail", "round"]);
  const slope = choice("slope", ["six", "angle"], { only: [{ field: "shape", values: ["tail"] }] });
  const angle = field({
    name: "angle",
    only: [
      { field: "slope", values: ["angle"] },
      { field: "shape", values: ["tail", "round"] },
    ],
  });
  const relief = field({ name: "relief", only_cutter: "router" });
  const f = form(shape, slope, angle, relief);
  const names = (record: object, cutter = "") => shownFields(f, { ...record }, cutter).map((x) => x.name);
  expect(names({})).toEqual(["shape", "slope"]);
  expect(names({ slope: "angle" })).toEqual(["shape", "slope", "angle"]);
  expect(names({ shape: "round" }, "laser")).toEqual(["shape"]);
  expect(names({ shape: "round" }, "router")).toEqual(["shape", "relief"]);
  expect([defaultOf(f, "shape"), defaultOf(f, "angle"), defaultOf(f, "none")]).toEqual(["tail", "", ""]);
});

test("a label may hang on what another field says", () => {
  const extent = choice("extent", ["whole", "inset", "centred"]);
  const first = field({
    name: "first",
    label: "From the LOW end",
    only: [{ field: "extent", values: ["inset", "centred"] }],
    labels: [{ value: "centred", label: "Width" }],
  });
  const f = form(extent, first);
  expect(labelOf(first, f, { extent: "inset" }, { low: "left" })).toBe("From the left end");
  expect(labelOf(first, f, { extent: "centred" })).toBe("Width");
  expect(labelOf(first, f, {})).toBe("From the low end");
});

test("edges, corners, ways and halves are those of the part as it lies", () => {
  const of = (among: FormField["among"], plane: "lying" | "facing_side") =>
    choicesFor(field({ among }), {}, plane).map((c) => `${c.value}: ${c.label}`);
  expect(of("edge", "lying")).toEqual(["left: left edge", "right: right edge", "front: front edge", "back: back edge"]);
  expect(of("corner", "facing_side")).toEqual([
    "all: all corners",
    "bottom-front: bottom front corner",
    "bottom-back: bottom back corner",
    "top-front: top front corner",
    "top-back: top back corner",
  ]);
  expect(of("way", "facing_side")).toEqual(["u: front to back", "v: bottom to top"]);
  expect(of("halves", "lying")).toEqual(["none: stands once", "u: mirrored, left and right", "v: mirrored, front and back"]);
});

test("what need not be said can be taken back; other choices are as listed", () => {
  const shape = choice("shape", ["round"], { optional: true, blank: "as the part has it" });
  expect(choicesFor(shape)).toEqual([
    { value: "", label: "as the part has it" },
    { value: "round", label: "round it" },
  ]);
  const starts = field({ type: "choice", choices: [{ value: "a", label: "A" }] });
  expect(choicesFor(starts, { a: "left" })).toEqual([{ value: "a", label: "left" }]);
});

test("the ends of an edge are those that it runs to", () => {
  expect(endsOfEdge("lying", "left")).toEqual({ low: "front", high: "back" });
  expect(endsOfEdge("lying", "back")).toEqual({ low: "left", high: "right" });
  expect(endsOfEdge("facing_side", "front")).toEqual({ low: "bottom", high: "top" });
});

test("where a feature has a place of its own", () => {
  const of = (placed: FeatureForm["placed"], feature = {}) => placedAlong({ placed } as FeatureForm, "lying", feature).join("");
  expect([of("free"), of("none")]).toEqual(["uv", ""]);
  expect([of("along_edge", { edge: "left" }), of("along_edge", { edge: "front" })]).toEqual(["v", "u"]);
  expect([of("across_way", { along: "u" }), of("across_way", { along: "v" })]).toEqual(["v", "u"]);
  expect(of("across_way", { along: "u", length: entry("5") })).toBe("uv");
});

test("a new record has what is not left empty, each in its own form", () => {
  const f = form(
    choice("style", ["round", "cut"], { begin: "round" }),
    field({ name: "edge", type: "choice", among: "edge" }),
    field({ name: "size", begin: "20 mm", small: "5 mm" }),
    field({ name: "other", optional: true }),
    field({ name: "number", type: "number", begin: "2" }),
    field({ name: "pilot", type: "flag", begin: "true" }),
    field({ name: "text", type: "text", begin: "HERE" }),
  );
  const all = { style: "round", edge: "front", size: entry("20 mm"), number: 2, pilot: true, text: "HERE" };
  expect(begun(f, entry, "facing_side")).toEqual(all);
  expect(begun(f, entry, "facing_side", true)).toEqual({ ...all, size: entry("5 mm") });
});

test("plain data gets its entries as they are typed here, however deep", () => {
  const data = { kind: "flange", length: { text: "22 mm" }, legs: [{ angle: { text: "90 deg" } }], order: 1, text: "no entry" };
  expect(withEntries(data, entry)).toEqual({
    kind: "flange",
    length: entry("22 mm"),
    legs: [{ angle: entry("90 deg") }],
    order: 1,
    text: "no entry",
  });
  expect(withEntries(null, entry)).toBeNull();
});

test("a choice brings flags along as they then are, and entries only where nothing was typed", () => {
  const kind = choice("kind", ["wood", "metal"], {
    brings: [
      { choice: "wood", field: "bends", value: false, default: null },
      { choice: "metal", field: "bends", value: true, default: null },
      { choice: "metal", field: "width", value: "30 mm", default: "0" },
    ],
  });
  const of = (chosen: string, record: { [field: string]: unknown }) =>
    broughtBy(kind, chosen, ["stocks", "a/b"], record, entry).map((op) => [op.path, op.value]);
  expect(of("metal", { bends: false, width: entry("0") })).toEqual([
    ["/stocks/a~1b/bends", true],
    ["/stocks/a~1b/width", { text: "30 mm", unit: "in" }],
  ]);
  expect(of("metal", {})).toEqual([
    ["/stocks/a~1b/bends", true],
    ["/stocks/a~1b/width", { text: "30 mm", unit: "in" }],
  ]);
  expect(of("metal", { bends: true, width: entry("12 mm") })).toEqual([]);
  expect(of("wood", { bends: true, width: entry("0") })).toEqual([["/stocks/a~1b/bends", false]]);
  expect(of("wood", {})).toEqual([]);
});
