// The open design's state against a stand-in server: the latest preview wins, edits wait while the server is silent, stale edits
// are replayed where nothing that they touch has changed, and put to choice otherwise.
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { entryAt, fresh, typed, useDesign } from "./design";

type Edit = { revision: number; paths: string[] };

/** A server in a few lines: one document, revisions, and a switch to go silent. */
class Server {
  revision = 1;
  width = "420 mm";
  depth = "500 mm";
  edits: Edit[] = [];
  silent = false;
  previews: ((response: Response) => void)[] = [];
  holdPreviews = false;
  ordering: string[] = [];
  asked = 0;
  failing = 0;
  status = 500;
  problems: unknown[] = [];
  run: unknown = null;
  polled = 0;
  pollFails = 0;
  stopped: string[] = [];
  bodies: unknown[] = [];
  refuse = 0;
  holdPolls = false;
  sheets: { timed: string }[] = [];
  timings = 0;
  timed = 0;
  get stocks() {
    return this.sheets.length ? [{ stock: "ply6", current: true, layout: { sheets: this.sheets } }] : [];
  }
  get untimed() {
    return this.sheets.filter((s) => !s.timed);
  }
  /** what an edit is answered with instead, and whether it is made all the same */
  spoilt: { status: number; message: string; made: boolean } | null = null;
  names: string[] = [];
  made = new Set<string>();
  between: (() => void) | null = null;
  /** answers tell what has changed since the head with this tag, or the one that the reader says it holds */
  over: string | null = null;
  held: string[] = [];
  polls: (() => void)[] = [];

  whole() {
    const entry = (text: string) => ({ name: "x", kind: "length", entry: { text, unit: "mm" }, note: "", order: 0 });
    return {
      id: "d",
      revision: this.revision,
      tag: `t${this.revision}`,
      document: { sizes: { width: entry(this.width), depth: entry(this.depth) }, parts: {}, joints: {}, bores: {} },
      built: { values: {}, parts: [], joints: [], problems: [], totals: {}, plans: [] },
      resources: {},
      ordering: this.ordering,
      undo: "",
      redo: "",
    };
  }

  /** What an edit of one text has changed, of the head that is said to be held. */
  changed(path: string, value: string, holds: string) {
    this.held.push(holds);
    const { document: _, built: __, ...rest } = this.whole();
    return { ...rest, over: this.over || holds, changes: [{ op: "replace", path: `/document${path}`, value }] };
  }

  elsewhere(field: "width" | "depth", text: string) {
    this[field] = text;
    this.revision++;
    this.edits.push({ revision: this.revision, paths: [`/sizes/${field}/entry/text`] });
  }

  answer = async (request: Request): Promise<Response> => {
    if (this.silent) throw new TypeError("network");
    const json = (body: unknown, status = 200) =>
      new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
    const path = new URL(request.url).pathname;
    if (path.endsWith("/preview")) {
      const body = await request.json();
      const { path: where, value } = body.patch[0];
      const result = () =>
        json(this.over === null ? { ...this.whole(), document: { tried: value } } : this.changed(where, value, body.holds));
      if (!this.holdPreviews) return result();
      return new Promise((resolve, reject) => {
        request.signal.addEventListener("abort", () => reject(new DOMException("gone", "AbortError")));
        this.previews.push(() => resolve(result()));
      });
    }
    if ((path.endsWith("/edits") || path.endsWith("/d")) && request.method === "GET" && this.revision > 1) {
      // whichever of the two is asked for first is answered as it was before
      const was = path.endsWith("/d") ? this.whole() : this.edits.filter((e) => e.revision > 1);
      const come = this.between;
      this.between = null;
      come?.();
      if (come) return json(was);
    }
    if (path.endsWith("/edits") && request.method === "GET") {
      const after = Number(new URL(request.url).searchParams.get("after"));
      return json(this.edits.filter((e) => e.revision > after));
    }
    if (path.endsWith("/edits")) {
      const named = (await request.clone().json()).id;
      if (this.made.has(named)) return json(this.whole());
      if (request.headers.get("If-Match") !== `"${this.revision}"`)
        return json({ code: "stale", message: "moved on", revision: this.revision }, 412);
      const { patch, id, holds } = await request.json();
      this.names.push(id);
      if (this.spoilt && !this.spoilt.made)
        return json({ code: "server_error", message: this.spoilt.message }, this.spoilt.status);
      this.made.add(id);
      if (patch[0].value === "bad")
        return json({ code: "broken_expression", message: "bad: no size is called bad", entry: "/sizes/width/entry" }, 422);
      this.elsewhere(patch[0].path.includes("width") ? "width" : "depth", patch[0].value);
      if (this.spoilt) return json({ code: "server_error", message: this.spoilt.message }, this.spoilt.status);
      return json(this.over === null ? this.whole() : this.changed(patch[0].path, patch[0].value, holds));
    }
    if (path.endsWith("/undo") || path.endsWith("/redo")) {
      if (request.headers.get("If-Match") !== `"${this.revision}"`) return json({ code: "stale", message: "moved on" }, 412);
      if (path.endsWith("/redo")) return json({ code: "nothing", message: "There is nothing to redo" }, 409);
      this.elsewhere("width", "back mm");
      return json({ ...this.whole(), redo: "width" });
    }
    if (path.includes("/nest/") && request.method === "DELETE") {
      this.stopped.push(path.split("/").at(-1) ?? "");
      return this.refuse ? json({ code: "no", message: "not yours" }, 403) : json({ stocks: [], run: this.run });
    }
    if (path.endsWith("/nest-times")) {
      this.timings++;
      for (const s of this.untimed.slice(0, this.timed)) s.timed = "program";
      return json({ stocks: this.stocks, run: this.run });
    }
    if (path.endsWith("/nest") && request.method === "GET") {
      this.polled++;
      if (this.holdPolls) {
        const was = json({ stocks: [], run: this.run });
        return new Promise((resolve) => this.polls.push(() => resolve(was)));
      }
      if (this.pollFails-- > 0) return json({ code: "error", message: "busy" }, 500);
    }
    if (path.endsWith("/ordering"))
      return json({
        revision: this.revision,
        ordering: this.ordering,
        problems: this.ordering.length ? [] : this.problems,
        tag: `t${this.revision}+`,
      });
    if (path.endsWith("/nest")) {
      if (request.method === "POST") this.asked++;
      if (request.method === "POST" && this.asked <= this.failing) return json({ code: "error", message: "busy" }, this.status);
      if (request.method === "POST") this.bodies.push(await request.json());
      return json({ stocks: this.stocks, run: this.run });
    }
    if (this.refuse) return json({ code: "no", message: "refused" }, this.refuse);
    return json(this.whole());
  };
}

let server: Server;
const set = (field: string, value: string) => [{ op: "replace", path: `/sizes/${field}/entry/text`, value }];
const text = (field: "width" | "depth") => useDesign.getState().doc?.sizes[field].entry.text;

beforeEach(async () => {
  vi.useFakeTimers();
  server = new Server();
  vi.stubGlobal("document", { cookie: "csrftoken=t" });
  vi.stubGlobal("fetch", server.answer);
  await useDesign.getState().open("d");
});

afterEach(() => {
  useDesign.getState().close();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

test("an edit becomes the head", async () => {
  expect(await useDesign.getState().commit("width: 430 mm", set("width", "430 mm"))).toBe(true);
  expect([text("width"), useDesign.getState().revision]).toEqual(["430 mm", 2]);
});

test("an answer may tell what has changed; the rest of the head is the same as before", async () => {
  const before = useDesign.getState();
  server.over = "";
  expect(await before.commit("width: 430 mm", set("width", "430 mm"))).toBe(true);
  const now = useDesign.getState();
  expect([text("width"), text("depth"), now.revision, now.tag]).toEqual(["430 mm", "500 mm", 2, "t2"]);
  expect([now.head, now.doc?.sizes.depth]).toEqual([before.head, before.doc?.sizes.depth]);
  expect(now.doc?.sizes.depth).toBe(before.doc?.sizes.depth);
  now.preview(set("depth", "1"));
  await vi.waitFor(() => expect(useDesign.getState().trying?.doc.sizes.depth.entry.text).toBe("1"));
  expect([server.held, text("depth")]).toEqual([["t1", "t2"], "500 mm"]);
});

test("changes of a head that is not held are not taken: the whole head is asked for", async () => {
  server.over = "t7";
  await useDesign.getState().commit("width: 430 mm", set("width", "430 mm"));
  expect([text("width"), text("depth"), useDesign.getState().tag]).toEqual(["430 mm", "500 mm", "t2"]);
});

test("what is tried on a head that has gone meanwhile is tried again on the one that stands", async () => {
  server.over = "t7";
  server.holdPreviews = true;
  useDesign.getState().preview(set("depth", "1"));
  await vi.waitFor(() => expect(server.previews.length).toBe(1));
  server.previews[0](new Response());
  await vi.waitFor(() => expect(server.previews.length).toBe(2));
  expect(useDesign.getState().trying).toBeNull();
  server.over = "";
  server.previews[1](new Response());
  await vi.waitFor(() => expect(useDesign.getState().trying?.doc.sizes.depth.entry.text).toBe("1"));
});

test("a head with the problems that were found later is known by the tag that came with them", async () => {
  server.ordering = ["tray"];
  await useDesign.getState().commit("width: 430 mm", set("width", "430 mm"));
  expect(useDesign.getState().tag).toBe("t2");
  server.ordering = [];
  await vi.advanceTimersByTimeAsync(1000);
  expect(useDesign.getState().tag).toBe("t2+");
});

test("sheets that were asked for in vain are asked for again, but not what cannot be", async () => {
  server.failing = 2;
  await vi.advanceTimersByTimeAsync(400);
  expect([server.asked, useDesign.getState().nest]).toEqual([1, null]);
  await vi.advanceTimersByTimeAsync(4100);
  expect([server.asked, useDesign.getState().nest, useDesign.getState().fault]).toEqual([3, { stocks: [], run: null }, ""]);
  [server.asked, server.failing, server.status] = [0, 1, 422];
  await useDesign.getState().askNest(true);
  await vi.advanceTimersByTimeAsync(10_000);
  expect(server.asked).toBe(1);
});

test("orders of bending are waited for beside the work, and what they show is said when they are found", async () => {
  server.ordering = ["tray"];
  await useDesign.getState().commit("width: 430 mm", set("width", "430 mm"));
  expect(useDesign.getState().ordering).toEqual(["tray"]);
  await vi.advanceTimersByTimeAsync(1000);
  expect([useDesign.getState().ordering, useDesign.getState().head?.problems]).toEqual([["tray"], []]);
  server.problems = [{ code: "bend_order" }];
  server.ordering = [];
  await vi.advanceTimersByTimeAsync(1000);
  expect([useDesign.getState().ordering, useDesign.getState().head?.problems]).toEqual([[], [{ code: "bend_order" }]]);
});

test("what is found for an older revision is not shown for a newer one", async () => {
  server.ordering = ["tray"];
  await useDesign.getState().commit("width: 430 mm", set("width", "430 mm"));
  server.problems = [{ code: "bend_order" }];
  server.ordering = [];
  server.elsewhere("depth", "480 mm");
  await vi.advanceTimersByTimeAsync(1000);
  expect(useDesign.getState().head?.problems).toEqual([]);
});

test("a refused edit leaves the last good state and says why", async () => {
  expect(await useDesign.getState().commit("width: bad", set("width", "bad"))).toBe(false);
  expect(useDesign.getState().fault).toBe("bad: no size is called bad");
  expect([text("width"), useDesign.getState().waiting]).toEqual(["420 mm", []]);
});

test("of several previews the latest wins, and nothing is stored", async () => {
  server.holdPreviews = true;
  useDesign.getState().preview(set("width", "1"));
  useDesign.getState().preview(set("width", "2"));
  await vi.waitFor(() => expect(server.previews.length).toBe(2));
  server.previews[1](new Response());
  await vi.waitFor(() => expect(useDesign.getState().trying?.doc).toEqual({ tried: "2" }));
  server.previews[0](new Response());
  await vi.advanceTimersByTimeAsync(10);
  expect(useDesign.getState().trying?.doc).toEqual({ tried: "2" });
  useDesign.getState().preview(null);
  expect([useDesign.getState().trying, server.revision]).toEqual([null, 1]);
});

test("while the server is silent edits wait, and are sent in their order when it is back", async () => {
  server.silent = true;
  await useDesign.getState().commit("a", set("width", "430 mm"));
  void useDesign.getState().commit("b", set("depth", "450 mm"));
  expect(useDesign.getState().offline).toBe(true);
  expect(useDesign.getState().waiting.map((e) => e.label)).toEqual(["a", "b"]);
  server.silent = false;
  await vi.advanceTimersByTimeAsync(2500);
  expect([text("width"), text("depth")]).toEqual(["430 mm", "450 mm"]);
  expect([useDesign.getState().offline, useDesign.getState().waiting]).toEqual([false, []]);
});

test.each([500, 503, 507, 429, 408])(
  "an edit that the server cannot keep now (%d) waits with the reason and is sent again",
  async (status) => {
    server.spoilt = { status, message: "The disk is full.", made: false };
    expect(await state().commit("a", set("width", "430 mm"))).toBe(false);
    void state().commit("b", set("depth", "450 mm"));
    await vi.advanceTimersByTimeAsync(0);
    expect([state().offline, state().trouble, state().waiting.map((e) => e.label)]).toEqual([
      true,
      "The disk is full.",
      ["a", "b"],
    ]);
    server.spoilt = null;
    await vi.advanceTimersByTimeAsync(2500);
    expect([text("width"), text("depth"), state().waiting, state().offline, state().trouble]).toEqual([
      "430 mm",
      "450 mm",
      [],
      false,
      "",
    ]);
  },
);

test("an edit whose answer was lost is sent again under the same name, and made once", async () => {
  server.spoilt = { status: 502, message: "went down", made: true };
  await state().commit("a", set("width", "430 mm"));
  expect([server.revision, state().waiting.length]).toEqual([2, 1]);
  server.spoilt = null;
  await vi.advanceTimersByTimeAsync(2500);
  expect([server.revision, text("width"), state().revision, state().waiting]).toEqual([2, "430 mm", 2, []]);
  await state().commit("b", set("depth", "450 mm"));
  expect(server.names.every((n) => /^[0-9a-f]{32}$/.test(n))).toBe(true);
  expect(new Set(server.names).size).toBe(2);
});

test("an edit that the server cannot take can be done without, and the next one goes", async () => {
  server.spoilt = { status: 500, message: "Something went wrong.", made: false };
  await state().commit("a", set("width", "430 mm"));
  void state().commit("b", set("depth", "450 mm"));
  await vi.advanceTimersByTimeAsync(0);
  server.spoilt = null;
  await state().leaveOut();
  expect([text("width"), text("depth"), state().waiting, state().trouble]).toEqual(["420 mm", "450 mm", [], ""]);
});

test("what comes between the history and the head is not overwritten", async () => {
  server.elsewhere("depth", "480 mm");
  // somebody changes the same entry just after the head was fetched
  server.between = () => server.elsewhere("width", "400 mm");
  expect(await state().commit("width", set("width", "430 mm"))).toBe(false);
  expect(state().clash?.theirs).toEqual(["/sizes/width/entry/text"]);
  expect(server.width).toBe("400 mm");
});

test("a stale edit is replayed where nothing that it touches has changed", async () => {
  server.elsewhere("depth", "480 mm");
  expect(await useDesign.getState().commit("width", set("width", "430 mm"))).toBe(true);
  expect([text("width"), text("depth"), useDesign.getState().revision]).toEqual(["430 mm", "480 mm", 3]);
});

test("where the same entry has changed both are shown, and either can be taken", async () => {
  server.elsewhere("width", "400 mm");
  expect(await useDesign.getState().commit("width", set("width", "430 mm"))).toBe(false);
  expect(useDesign.getState().clash?.theirs).toEqual(["/sizes/width/entry/text"]);
  expect(text("width")).toBe("400 mm");
  await useDesign.getState().settle(true);
  expect([text("width"), useDesign.getState().clash]).toEqual(["430 mm", null]);

  server.elsewhere("width", "401 mm");
  await useDesign.getState().commit("width", set("width", "431 mm"));
  await useDesign.getState().settle(false);
  expect([text("width"), useDesign.getState().waiting]).toEqual(["401 mm", []]);
});

const state = () => useDesign.getState();

test("an open design has everything of its head, a closed one nothing", async () => {
  server.refuse = 0;
  expect(state()).toMatchObject({
    id: "d",
    revision: 1,
    undo: "",
    redo: "",
    offline: false,
    missing: false,
    ordering: [],
    waiting: [],
  });
  expect(state().head).toEqual({ values: {}, parts: [], joints: [], problems: [], totals: {}, plans: [] });
  useDesign.setState({ fault: "x", missing: true, offline: true, ordering: ["a"], nest: {} as never, clash: {} as never });
  useDesign.setState({
    waiting: [{ id: "", label: "a", patch: [] }],
    trying: {} as never,
    tryFault: { message: "a", entry: "" },
  });
  state().close();
  expect(state()).toMatchObject({
    ...{ id: "", revision: 0, doc: null, head: null, trying: null, tryFault: null, waiting: [], clash: null, fault: "" },
    ...{ missing: false, nest: null, ordering: [], offline: false },
  });
  await vi.advanceTimersByTimeAsync(5000);
  expect([server.asked, server.polled]).toEqual([0, 0]);
});

test("a design that is not there is told as missing, one whose server is silent is asked for again", async () => {
  server.refuse = 404;
  await state().open("e");
  expect([state().missing, state().fault]).toEqual([true, ""]);
  server.refuse = 403;
  await state().open("e");
  expect([state().missing, state().fault]).toEqual([false, "refused"]);
  server.refuse = 0;
  server.silent = true;
  await state().open("d");
  expect([state().offline, state().doc]).toEqual([true, null]);
  server.silent = false;
  await vi.advanceTimersByTimeAsync(2100);
  expect([state().offline, text("width")]).toEqual([false, "420 mm"]);
});

test("a design that goes while it is open is a fault, not a missing one; whoever is signed out goes to the door", async () => {
  const went = vi.fn();
  vi.stubGlobal("window", { location: { assign: went } });
  server.refuse = 404;
  server.elsewhere("depth", "1 mm");
  await state().commit("width", set("width", "430 mm"));
  expect([state().missing, state().fault, went.mock.calls]).toEqual([false, "refused", []]);
  server.refuse = 401;
  await state().open("d");
  expect([state().missing, went.mock.calls]).toEqual([false, [["/"]]]);
});

test("an empty edit is none, and a real one stops what was being tried", async () => {
  const before = server.revision;
  expect(await state().commit("nothing", [])).toBe(true);
  expect(server.revision).toBe(before);
  server.holdPreviews = true;
  state().preview(set("width", "1"));
  await vi.waitFor(() => expect(server.previews.length).toBe(1));
  await state().commit("width", set("width", "430 mm"));
  server.previews[0](new Response());
  await vi.advanceTimersByTimeAsync(10);
  expect([state().trying, state().saving]).toEqual([null, false]);
});

test("what is tried is refused with its entry, and no connection is said", async () => {
  vi.stubGlobal(
    "fetch",
    async () => new Response(JSON.stringify({ code: "c", message: "no size", entry: "/sizes/w" }), { status: 422 }),
  );
  state().preview(set("width", "w"));
  await vi.waitFor(() => expect(state().tryFault).toEqual({ message: "no size", entry: "/sizes/w" }));
  expect(state().offline).toBe(false);
  vi.stubGlobal("fetch", server.answer);
  state().preview(set("width", "5"));
  await vi.waitFor(() => expect(state().trying?.doc).toEqual({ tried: "5" }));
  expect([state().tryFault, state().tryPatch]).toEqual([null, set("width", "5")]);
  server.silent = true;
  state().preview(set("width", "6"));
  await vi.waitFor(() => expect(state().offline).toBe(true));
  expect(state().tryFault).toBeNull();
});

test("undo and redo are the server's; undone elsewhere meanwhile it is looked at first", async () => {
  state().preview(set("width", "5"));
  await vi.waitFor(() => expect(state().trying).not.toBeNull());
  await state().step("undo");
  expect([text("width"), state().redo, state().trying, state().fault]).toEqual(["back mm", "width", null, ""]);
  await state().step("redo");
  expect(state().fault).toBe("There is nothing to redo");
  state().clearFault();
  expect(state().fault).toBe("");
  server.elsewhere("depth", "480 mm");
  await state().step("undo");
  expect([text("width"), text("depth")]).toEqual(["back mm", "480 mm"]);
  expect(state().fault).toContain("changed elsewhere");
});

test("what is undone in haste waits for the edit that is on its way, and steps go one after the other", async () => {
  const made = state().commit("Width", set("width", "430 mm"));
  await Promise.all([made, state().step("undo"), state().step("undo")]);
  expect([text("width"), state().fault, server.revision]).toEqual(["back mm", "", 4]);
  expect(server.names).toHaveLength(1);
});

test("a clash is settled once; without one nothing is sent", async () => {
  const before = server.revision;
  await state().settle(true);
  expect(server.revision).toBe(before);
  server.elsewhere("width", "400 mm");
  server.edits.push({ revision: server.revision, paths: ["/sizes/width"] });
  await state().commit("width", set("width", "430 mm"));
  expect(state().clash).toEqual({
    ...{
      edit: { id: expect.any(String), label: "width", patch: set("width", "430 mm") },
      revision: 2,
      theirs: ["/sizes/width/entry/text", "/sizes/width"],
    },
  });
  expect([state().saving, state().waiting.length]).toEqual([false, 1]);
});

test("an edit of a whole record clashes with one in it; of a name that begins alike it does not", async () => {
  const touched = async (mine: string, theirs: string) => {
    server.edits = [];
    server.revision++;
    server.edits.push({ revision: server.revision, paths: [theirs] });
    await state().commit("x", [{ op: "replace", path: mine, value: "1 mm" }]);
    const clash = state().clash !== null;
    await state().settle(false);
    return clash;
  };
  expect(await touched("/sizes/width", "/sizes/width/entry/text")).toBe(true);
  expect(await touched("/sizes/width/entry/text", "/sizes/width")).toBe(true);
  expect(await touched("/sizes/width", "/sizes/width_2")).toBe(false);
  expect(await touched("/sizes/width_2", "/sizes/width")).toBe(false);
});

test("sheets are asked for after a rest, watched while they are searched, and can be stopped", async () => {
  await vi.advanceTimersByTimeAsync(299);
  expect(server.asked).toBe(0);
  await vi.advanceTimersByTimeAsync(20);
  expect([server.asked, server.bodies]).toEqual([1, [{ quick: true, stock: "" }]]);
  for (const status of ["queued", "running"]) {
    server.run = { id: "r7", status };
    await state().askNest(false, 9, "ply6");
    const before = server.polled;
    await vi.advanceTimersByTimeAsync(360);
    await vi.advanceTimersByTimeAsync(360);
    expect(server.polled - before).toBeGreaterThanOrEqual(2);
  }
  expect(server.bodies.at(-1)).toEqual({ quick: false, seconds: 9, stock: "ply6" });
  server.pollFails = 1;
  await vi.advanceTimersByTimeAsync(360);
  const before = server.polled;
  await vi.advanceTimersByTimeAsync(1900);
  expect(server.polled).toBe(before);
  server.run = { id: "r7", status: "done" };
  await state().stopNest();
  expect([server.stopped, state().nest]).toEqual([["r7"], { stocks: [], run: { id: "r7", status: "done" } }]);
  await vi.advanceTimersByTimeAsync(50);
  const ended = server.polled;
  await vi.advanceTimersByTimeAsync(9000);
  expect(server.polled).toBe(ended);
  server.refuse = 403;
  await state().stopNest();
  expect(state().fault).toBe("not yours");
  useDesign.setState({ nest: null });
  await state().stopNest();
  expect(server.stopped.length).toBe(2);
});

test("a late answer about the sheets of before is not taken for the one about those of now", async () => {
  await vi.advanceTimersByTimeAsync(400);
  [server.run, server.holdPolls] = [{ id: "r1", status: "done" }, true];
  const early = state().askNest(true);
  await vi.advanceTimersByTimeAsync(10);
  expect(server.polls.length).toBe(1); // it was asked for while the sheets of before were done, and is on its way
  await early;
  [server.run, server.holdPolls] = [{ id: "r2", status: "running" }, false];
  await state().askNest(true);
  await vi.advanceTimersByTimeAsync(10);
  server.polls[0]?.();
  await vi.advanceTimersByTimeAsync(10);
  expect(state().nest?.run?.id).toBe("r2");
  server.run = { id: "r2", status: "done" };
  await vi.advanceTimersByTimeAsync(800);
  expect(state().nest?.run?.status).toBe("done");
});

test("times of sheets are asked for once they are laid out, until all have one, and given up where none comes", async () => {
  await vi.advanceTimersByTimeAsync(400);
  [server.sheets, server.timed] = [[{ timed: "" }, { timed: "" }, { timed: "lengths" }], 1];
  server.run = { id: "r1", status: "running" };
  await state().askNest(true);
  await vi.advanceTimersByTimeAsync(500);
  expect(server.timings).toBe(0);
  server.run = { id: "r1", status: "done" };
  await vi.advanceTimersByTimeAsync(3000);
  expect([server.timings, server.untimed.length]).toEqual([2, 0]);
  [server.sheets, server.timed, server.timings] = [[{ timed: "" }], 0, 0];
  await state().askNest(true);
  await vi.advanceTimersByTimeAsync(5000);
  expect(server.timings).toBeLessThanOrEqual(2);
  const timings = server.timings;
  await vi.advanceTimersByTimeAsync(9000);
  expect(server.timings).toBe(timings);
});

test("a search that was asked for and refused says why", async () => {
  [server.asked, server.failing, server.status] = [0, 1, 422];
  await state().askNest(false);
  expect(state().fault).toBe("busy");
});

test("what is typed is in the design's unit, and what is new begins in it", () => {
  expect([typed("5"), fresh("30 mm")]).toEqual([
    { text: "5", unit: "mm" },
    { text: "30 mm", unit: "mm" },
  ]);
  useDesign.setState({ doc: { ...state().doc, unit: "in" } as never });
  expect([typed("5"), fresh("30 mm")]).toEqual([
    { text: "5", unit: "in" },
    { text: "1-1/8 in", unit: "in" },
  ]);
  expect(entryAt(state().doc as never, "/sizes/width/entry")).toEqual({ text: "420 mm", unit: "mm" });
});
