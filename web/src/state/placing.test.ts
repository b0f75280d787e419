// A board in hand against a stand-in server: each face is asked for once, a late answer is not hung, keys move it, and pressing makes one edit.
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useDesign } from "./design";
import { firstBox } from "./firstBox";
import { usePlacing } from "./placing";
import { useView } from "./view";

const bound = (value: number, entry: string) => ({ value, entry, part: entry.split(".")[0], slopes: false });
const room = (z: [number, number]) => ({
  x: [bound(12, "left.right"), bound(388, "right.left")],
  y: [bound(0, "left.front"), bound(300, "left.back")],
  z: [bound(z[0], "floor.top"), bound(z[1], "top.bottom")],
  open: [],
  catches: [
    { low: z[0], face: "bottom", entry: "floor.top", words: "at floor.top", rank: 0 },
    { low: z[1] - 12, face: "top", entry: "top.bottom", words: "at top.bottom", rank: 0 },
  ],
});
type Asked = { part: string; face: string; plane: string; stock: string };
let rooms: Asked[] = [];
let operations: Record<string, unknown>[] = [];
let hold: (() => void)[] | null = null;
let refuse = "";
let down = false;
const commit = vi.fn(async () => true);
const own = [useDesign.getState(), useView.getState()] as const;

const answer = async (request: Request): Promise<Response> => {
  if (down) throw new TypeError("network");
  const json = (body: unknown, status = 200) =>
    new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
  const body = await request.json();
  if (request.url.endsWith("/operations")) {
    operations.push(body);
    if (refuse) return json({ code: "bad", message: refuse }, 422);
    return json({ label: "Board shelf", patch: [{ op: "add", path: "/parts/shelf", value: {} }] });
  }
  rooms.push(body);
  if (hold) await new Promise<void>((done) => hold?.push(done));
  if (body.face === "top") return json({ code: "document", message: "Nothing is free before lid." }, 422);
  return json({ rooms: [room([50, 488]), room([500, 600])], axis: "x", at: 12, outward: 1, thickness: 12, why: "Too thin." });
};

const at = (z: number, face = "right") => ({ part: "left", face, at: [12, 100, z] as [number, number, number], scale: 0.5 });
const now = () => usePlacing.getState();
const settled = () => vi.waitFor(() => expect(now().ghost ?? now().why).toBeTruthy());

beforeEach(() => {
  [rooms, operations, hold, refuse] = [[], [], null, ""];
  vi.stubGlobal("document", { cookie: "" });
  vi.stubGlobal("fetch", answer);
  const sheet = (name: string) => ({ kind: "sheet", name, order: 0 });
  const doc = { unit: "mm", stocks: { ply12: sheet("a"), ply6: sheet("b") }, parts: {} };
  useDesign.setState({ id: `d${Math.random()}`, revision: 3, doc: doc as never, commit: commit as never });
  commit.mockClear();
  usePlacing.setState({ stock: "", plane: "lying" });
  now().start();
});
afterEach(() => {
  vi.unstubAllGlobals();
  useDesign.setState(own[0], true);
  useView.setState(own[1], true);
});

test("it hangs where the pointer is, and a face is asked for once", async () => {
  now().point(at(200));
  await settled();
  expect([now().stock, now().ghost?.at, now().ghost?.low[2]]).toEqual(["ply12", "floor.top + 145 mm", 195]);
  now().point(at(61));
  expect([now().ghost?.at, now().ghost?.words]).toEqual(["floor.top + 5 mm", ""]);
  now().point(at(57));
  expect(now().ghost?.words).toBe("at floor.top");
  expect(rooms).toEqual([{ part: "left", face: "right", plane: "lying", stock: "ply12" }]);
});

test("where nothing fits it says why, and nothing hangs", async () => {
  now().point(at(200, "top"));
  await settled();
  expect([now().ghost, now().why]).toEqual([null, "Nothing is free before lid."]);
  now().point(at(640));
  await settled();
  expect([now().ghost, now().why]).toEqual([null, "Too thin."]);
  await now().place();
  expect(operations).toEqual([]);
});

test("what could not be asked is asked again, what was refused is not", async () => {
  now().point(at(200, "top"));
  await settled();
  now().point(at(210, "top"));
  expect(rooms).toHaveLength(1);
  down = true;
  now().point(at(200));
  await settled();
  expect(now().why).toContain("does not answer");
  down = false;
  now().point(at(201));
  await vi.waitFor(() => expect(now().ghost).not.toBeNull());
  expect(rooms.map((r) => r.face)).toEqual(["top", "right"]);
});

test("an answer for a face that was left is not hung", async () => {
  hold = [];
  now().point(at(200));
  await vi.waitFor(() => expect(hold?.length).toBe(1));
  now().point(at(200, "front"));
  await vi.waitFor(() => expect(hold?.length).toBe(2));
  hold[0]();
  await new Promise((done) => setTimeout(done, 0));
  expect(now().ghost).toBeNull();
  hold[1]();
  await settled();
  expect(now().ghost?.at).toBe("floor.top + 145 mm");
  now().leave();
  expect([now().ghost, now().pointed]).toEqual([null, null]);
});

test("standing another way or of another stock it is asked for anew", async () => {
  now().point(at(200));
  await settled();
  now().turn();
  expect([now().plane, now().ghost]).toEqual(["facing_front", null]);
  await settled();
  now().set({ stock: "ply6" });
  await settled();
  expect(rooms.map((r) => [r.plane, r.stock])).toEqual([
    ["lying", "ply12"],
    ["facing_front", "ply12"],
    ["facing_front", "ply6"],
  ]);
  now().turn();
  now().turn();
  expect(now().plane).toBe("lying");
});

test("keys move it by steps, to where it catches, and by a typed distance", async () => {
  now().point(at(200));
  await settled();
  now().move(1);
  expect(now().ghost?.low[2]).toBe(195.5);
  now().move(-1);
  now().move(-1);
  expect(now().ghost?.low[2]).toBe(194.5);
  now().move(1, true);
  expect(now().ghost?.at).toBe("top.bottom");
  now().move(1, true);
  expect(now().ghost?.at).toBe("top.bottom");
  now().move(-1, true);
  expect(now().ghost?.at).toBe("floor.top");
  now().set({ typed: "64" });
  expect(now().ghost?.at).toBe("floor.top + 64 mm");
  now().move(1);
  expect([now().typed, now().ghost?.low[2]]).toEqual(["", 114.5]);
});

test("pressing makes one edit of the core's, and then what it touches is offered", async () => {
  now().point(at(57));
  await settled();
  await now().place();
  expect(operations).toEqual([
    {
      operation: "place_board",
      pair: false,
      stock: "ply12",
      plane: "lying",
      spans: { x: ["left.right", "right.left"], y: ["left.front", "left.back"] },
      face: "bottom",
      at: "floor.top",
      number: 1,
      between: null,
    },
  ]);
  expect(commit).toHaveBeenCalledExactlyOnceWith("Board shelf", [{ op: "add", path: "/parts/shelf", value: {} }]);
  expect(useView.getState().draft).toEqual({ kind: "touches", part: "shelf" });
});

test("several are placed between the ends of the room", async () => {
  now().point(at(200));
  await settled();
  now().set({ number: 3 });
  await now().place();
  expect(operations[0]).toMatchObject({ number: 3, between: ["floor.top", "top.bottom"] });
});

test("what the core refuses is said, and the board stays in hand", async () => {
  useView.getState().setDraft({ kind: "place" });
  now().point(at(200));
  await settled();
  refuse = "12 boards do not fit.";
  await now().place();
  expect([now().why, now().busy, commit.mock.calls.length]).toEqual(["12 boards do not fit.", false, 0]);
  expect(useView.getState().draft).toEqual({ kind: "place" });
});

test("where nothing stands two presses draw the first board, from nought and by round steps", async () => {
  useDesign.setState({ head: { parts: [] } as never });
  now().ground([4, -5, 0], 0.5);
  await now().place();
  expect(now().corner).toEqual([0, 0, 0]);
  expect(firstBox(now())).toBeNull();
  now().ground([301.2, 198.4, 0], 0.9);
  expect(firstBox(now())).toEqual({ low: [0, 0, 0], high: [300, 200, 0] });
  await now().place();
  expect(operations[0]).toMatchObject({
    spans: { x: ["0 mm", "300 mm"], y: ["0 mm", "200 mm"] },
    face: "bottom",
    at: "0 mm",
    number: 1,
  });
  expect(useView.getState().selection).toEqual({ kind: "part", key: "shelf" });
});

test("its figures may be typed, toward where the pointer is or alone", () => {
  useDesign.setState({ head: { parts: [] } as never });
  now().ground([100, 100, 0], 0.5);
  void now().place();
  now().ground([20, 300, 0], 0.5);
  now().set({ typed: "64x125.5" });
  expect(firstBox(now())).toEqual({ low: [36, 100, 0], high: [100, 225.5, 0] });
  now().start();
  now().set({ typed: "300 x 200" });
  expect(firstBox(now())).toEqual({ low: [0, 0, 0], high: [300, 200, 0] });
  now().set({ plane: "facing_side" });
  expect(firstBox(now())).toEqual({ low: [0, 0, 0], high: [0, 300, 200] });
  now().set({ typed: "300" });
  expect(firstBox(now())).toBeNull();
});
