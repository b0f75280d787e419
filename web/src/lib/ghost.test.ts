// A board hangs where the core says that it may: at the nearest catch, else a round step from the nearer end, else as far as was typed.
import { expect, test } from "vitest";
import type { FreeRoom, FreeRooms } from "../api/types";
import { away, distanceOf, edgeNear, endsOf, ghostIn, roomsAt, stepOf, stretched, typedLength, type Vec, wayOut } from "./ghost";

const bound = (value: number, entry: string, part = entry.split(".")[0]) => ({ value, entry, part, slopes: false });
const room = (z: [number, number], names: [string, string] = ["floor.top", "top.bottom"]) => ({
  x: [bound(12, "left.right"), bound(388, "right.left")],
  y: [bound(0, "left.front", ""), bound(300, "left.back", "")],
  z: [bound(z[0], names[0]), bound(z[1], names[1])],
  open: [] as string[],
  catches: [
    { low: z[0], face: "bottom", entry: names[0], words: `at ${names[0]}`, rank: 0 },
    { low: z[1] - 12, face: "top", entry: names[1], words: `at ${names[1]}`, rank: 0 },
    { low: (z[0] + z[1] - 12) / 2, face: "centre", entry: `mid(${names.join(", ")})`, words: "in the middle", rank: 1 },
  ],
});
const found = (rooms = [room([50, 488]), room([0, 38], ["left.bottom", "floor.bottom"])]): FreeRooms => ({
  rooms,
  axis: "x",
  at: 12,
  outward: 1,
  thickness: 12,
  why: "",
});
const wish = { low: null as number | null, scale: 0.5, typed: "", unit: "mm" as const };

test("the room at a place is the one that holds it, along the face and whichever way off it", () => {
  const at = (z: number, y = 100): Vec => [12, y, z];
  const all = found();
  expect(roomsAt(all, at(200))).toEqual([all.rooms[0]]);
  expect(roomsAt(all, at(20))).toEqual([all.rooms[1]]);
  // on the end of a finger it is the nearest one, and far from all of them none
  expect(roomsAt(all, at(200, 301))).toEqual([all.rooms[0]]);
  expect(roomsAt(all, at(200, 326))).toEqual([]);
  expect(roomsAt({ ...all, axis: "z", at: 50 }, [100, 100, 50])).toHaveLength(2);
});

test("it catches within eight pixels, on the nearest and then the likeliest", () => {
  const { rooms } = found();
  const ghost = (low: number, scale = 0.5) => ghostIn(found(), rooms[0], "lying", { ...wish, low, scale });
  expect([ghost(53.9).at, ghost(53.9).low[2], ghost(53.9).words]).toEqual(["floor.top", 50, "at floor.top"]);
  expect(ghost(54.2).at).toBe("floor.top + 5 mm");
  expect(ghost(54.2, 2).at).toBe("floor.top");
  expect([ghost(264).at, ghost(264).face, ghost(264).low[2]]).toEqual(["mid(floor.top, top.bottom)", "centre", 263]);
  expect([ghost(475).at, ghost(475).face, ghost(475).high[2]]).toEqual(["top.bottom", "top", 488]);
});

test("elsewhere it stands round steps from the nearer end, and never beyond the room", () => {
  const { rooms } = found();
  const ghost = (low: number, scale = 0.9) => ghostIn(found(), rooms[0], "lying", { ...wish, low, scale });
  expect([ghost(123.4).at, ghost(123.4).face, ghost(123.4).low[2]]).toEqual(["floor.top + 75 mm", "bottom", 125]);
  expect([ghost(401.2).at, ghost(401.2).face, ghost(401.2).high[2]]).toEqual(["top.bottom - 75 mm", "top", 413]);
  expect(ghost(900).high[2]).toBe(488);
  expect(ghost(-900).low[2]).toBe(50);
  expect(ghost(123.4).low).toEqual([12, 0, 125]);
  expect(ghost(123.4).high).toEqual([388, 300, 137]);
});

test("a typed distance counts from the face that it came from, else from the low end", () => {
  const { rooms } = found();
  expect(ghostIn(found(), rooms[0], "lying", { ...wish, typed: "64,5" })).toMatchObject({
    at: "floor.top + 64.5 mm",
    face: "bottom",
  });
  const under = { ...found(), axis: "z", outward: -1, at: 488 };
  const ghost = ghostIn(under, rooms[0], "lying", { ...wish, typed: "2 in" });
  expect([ghost.at, ghost.face, ghost.high[2]]).toEqual(["top.bottom - 50.8 mm", "top", 488 - 50.8]);
  expect(ghostIn(under, rooms[0], "lying", wish)).toMatchObject({ at: "top.bottom", face: "top" });
  expect(ghostIn({ ...under, outward: 1 }, rooms[0], "lying", wish)).toMatchObject({ at: "floor.top", face: "bottom" });
});

test("distances are read and written in the design's unit", () => {
  expect([distanceOf("12", "mm"), distanceOf("1", "in"), distanceOf('2"', "mm"), distanceOf("3 cm", "in")]).toEqual([
    12, 25.4, 50.8, 30,
  ]);
  expect([distanceOf("", "mm"), distanceOf("x", "mm"), distanceOf("1 2", "mm"), distanceOf("-3", "mm")]).toEqual([
    null,
    null,
    null,
    null,
  ]);
  expect([typedLength(12.345, "mm"), typedLength(38.1, "in")]).toEqual(["12.35 mm", "1.5 in"]);
  expect([stepOf(0.1, "mm"), stepOf(1, "mm"), stepOf(1.3, "mm"), stepOf(900, "mm"), stepOf(0.1, "in")]).toEqual([
    0.5, 5, 10, 100, 1.5875,
  ]);
  expect([away(bound(0, "0"), "5 mm", 1), away(bound(0, "0 mm"), "5 mm", -1), away(bound(9, "a.top"), "5 mm", -1)]).toEqual([
    "5 mm",
    "-5 mm",
    "a.top - 5 mm",
  ]);
});

test("a board's rim touches four ends of its room", () => {
  expect(endsOf(found().rooms[0], "lying").map((e) => [e.axis, e.which, e.bound.entry])).toEqual([
    ["x", 0, "left.right"],
    ["x", 1, "right.left"],
    ["y", 0, "left.front"],
    ["y", 1, "left.back"],
  ]);
});

test("a length that is typed moves the end that nothing bounds", () => {
  const end = (value: number, entry: string, part = "") => ({ value, entry, part, slopes: false });
  const room = {
    x: [end(0, "0"), end(300, "300 mm")],
    y: [end(0, "a.back", "a"), end(200, "200 mm")],
    z: [end(-200, "-200 mm"), end(0, "seat.bottom", "seat")],
    open: ["x", "y", "z"],
    catches: [],
  } as unknown as FreeRoom;
  const to = (lengths: Record<string, string>, unit: "mm" | "in" = "mm") => {
    const { x, y, z } = stretched(room, lengths, unit);
    return [x, y, z].map((ends) => ends.map((e) => `${e.entry} ${e.value}`).join(" to "));
  };
  expect(to({ x: "120" })[0]).toBe("0 0 to 120 mm 120");
  expect(to({ y: "80 mm" })[1]).toBe("a.back 0 to a.back + 80 mm 80");
  expect(to({ z: "400" })[2]).toBe("seat.bottom - 400 mm -400 to seat.bottom 0");
  expect(to({ y: "2" }, "in")[1]).toBe("a.back 0 to a.back + 2 in 50.8");
  expect(to({ x: "", y: "-5", z: "none" })).toEqual(to({}));
  expect(stretched({ ...room, open: [] }, { x: "120" }, "mm").x[1].value).toBe(300);
});

test("near to the edge of a face a board stands along it, and in its middle it does not", () => {
  const near = (at: Vec, scale = 0.5) => edgeNear(at, [0, 0, 0], [300, 200, 12], "z", scale);
  expect(near([10, 100, 12])).toEqual({ axis: "x", end: 0 });
  expect(near([291, 100, 12])).toEqual({ axis: "x", end: 1 });
  expect(near([150, 12, 12])).toEqual({ axis: "y", end: 0 });
  expect(near([150, 190, 12])).toEqual({ axis: "y", end: 1 });
  expect(near([150, 100, 12])).toBeNull();
  expect(near([18, 100, 12])).toBeNull(); // 36 pixels off
  expect(near([60, 100, 12], 20)).toEqual({ axis: "x", end: 0 }); // from afar, as far as a share of the face
  expect(near([70, 100, 12], 20)).toBeNull();
});

test("a drawer comes out where its room is open, the front first", () => {
  const end = (part: string) => ({ value: 0, entry: "", part, slopes: false });
  const room = (x: string[], y: string[]) =>
    ({ x: x.map(end), y: y.map(end), z: [end(""), end("")], open: [], catches: [] }) as unknown as FreeRoom;
  expect(wayOut(room(["l", "r"], ["", "b"]))).toBe("front");
  expect(wayOut(room(["l", "r"], ["f", ""]))).toBe("back");
  expect(wayOut(room(["", "r"], ["f", "b"]))).toBe("left");
  expect(wayOut(room(["l", ""], ["f", "b"]))).toBe("right");
  expect(wayOut(room(["l", "r"], ["f", "b"]))).toBe("front");
});
