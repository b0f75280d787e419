import { expect, test } from "vitest";
import { sentenceOf, type Things } from "./sentence";

const named = (...names: string[]) => names.map((name) => ({ key: `k_${name}`, name }));
const things: Things = {
  parts: named("front", "back", "left", "right", "floor", "lid", "rest_front", "drawer_left"),
  sizes: named("width", "wall", "rail_height"),
  joints: [
    { kind: "finger", title: "Finger joint" },
    { kind: "tab_slot", title: "Tab and slot" },
    { kind: "groove", title: "Groove" },
    { kind: "dovetail", title: "Through dovetails" },
    { kind: "dovetail_lap", title: "Dovetailed half-lap" },
    { kind: "half_lap", title: "Half-lap" },
    { kind: "dowels", title: "Dowels" },
    { kind: "face_glue", title: "Face gluing" },
  ],
};
const asked = (text: string) => sentenceOf(text, things).asked;

test.each([
  ["mirror front", { do: "mirror", parts: ["k_front"] }],
  ["Hide lid and floor", { do: "hide", parts: ["k_lid", "k_floor"] }],
  ["hide lid, floor", { do: "hide", parts: ["k_lid", "k_floor"] }],
  ["show only rest front", { do: "isolate", parts: ["k_rest_front"] }],
  ["show the lid", { do: "show", parts: ["k_lid"] }],
  ["see through back", { do: "glass", parts: ["k_back"] }],
  ["delete drawer left", { do: "remove", parts: ["k_drawer_left"] }],
  ["remove left left", { do: "remove", parts: ["k_left"] }],
  ["select drawer", { do: "select", parts: ["k_drawer_left"] }], // the one that it begins
  ["3 shelves between left and right", { do: "evenly", number: 3, plane: "lying", what: "shelves", a: "k_left", b: "k_right" }],
  [
    "a divider between front and back",
    { do: "evenly", number: 1, plane: "facing_side", what: "divider", a: "k_front", b: "k_back" },
  ],
  ["2 panels left right", { do: "evenly", number: 2, plane: "facing_front", what: "panels", a: "k_left", b: "k_right" }],
  ["groove floor left 6 deep", { do: "join", kind: "groove", a: "k_floor", b: "k_left", depth: "6" }],
  ["groove floor left 1.5 mm deep", { do: "join", kind: "groove", a: "k_floor", b: "k_left", depth: "1.5 mm" }],
  ["finger joint front floor", { do: "join", kind: "finger", a: "k_front", b: "k_floor", depth: "" }],
  ["tab and slot floor-left", { do: "join", kind: "tab_slot", a: "k_floor", b: "k_left", depth: "" }],
  ["dovetails front left", { do: "join", kind: "dovetail", a: "k_front", b: "k_left", depth: "" }],
  ["half-lap front and left", { do: "join", kind: "half_lap", a: "k_front", b: "k_left", depth: "" }],
  ["dowel front left", { do: "join", kind: "dowels", a: "k_front", b: "k_left", depth: "" }],
  ["width 430", { do: "size", key: "k_width", text: "430" }],
  ["width = Wall * 3", { do: "size", key: "k_width", text: "Wall * 3" }],
  ["rail height 5 in", { do: "size", key: "k_rail_height", text: "5 in" }],
])("%s", (text, wanted) => expect(asked(text)).toEqual(wanted));

test.each([
  ["mirror frnt", ["mirror"], ["frnt"]],
  ["mirror", ["mirror"], []],
  ["hide lid please", ["hide", "lid"], ["please"]],
  ["3 shelves between left", ["3 shelves", "left"], []],
  ["groove floor", ["groove", "floor"], []],
  ["groove floor floor", ["groove", "floor", "floor"], []],
  ["paint lid blue", ["lid"], ["paint", "blue"]],
  ["width", ["width"], []],
  ["", [], []],
])("%s asks for nothing, and what was understood is told", (text, understood, unknown) => {
  expect(sentenceOf(text, things)).toEqual({ asked: null, understood, unknown });
});
