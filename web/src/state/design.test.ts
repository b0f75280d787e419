// The open design's state against a stand-in server: the latest preview wins, edits wait while the server is silent, stale edits
// are replayed where nothing that they touch has changed, and put to choice otherwise.
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useDesign } from "./design";

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

  whole() {
    const entry = (text: string) => ({ name: "x", kind: "length", entry: { text, unit: "mm" }, note: "", order: 0 });
    return {
      id: "d",
      revision: this.revision,
      document: { sizes: { width: entry(this.width), depth: entry(this.depth) }, parts: {}, joints: {}, bores: {} },
      built: { values: {}, parts: [], joints: [], problems: [], totals: {}, plans: [] },
      resources: {},
      ordering: this.ordering,
      undo: "",
      redo: "",
    };
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
      const result = () => json({ ...this.whole(), document: { tried: body.patch[0].value } });
      if (!this.holdPreviews) return result();
      return new Promise((resolve, reject) => {
        request.signal.addEventListener("abort", () => reject(new DOMException("gone", "AbortError")));
        this.previews.push(() => resolve(result()));
      });
    }
    if (path.endsWith("/edits") && request.method === "GET") {
      const after = Number(new URL(request.url).searchParams.get("after"));
      return json(this.edits.filter((e) => e.revision > after));
    }
    if (path.endsWith("/edits")) {
      if (request.headers.get("If-Match") !== `"${this.revision}"`)
        return json({ code: "stale", message: "moved on", revision: this.revision }, 412);
      const { patch } = await request.json();
      if (patch[0].value === "bad")
        return json({ code: "broken_expression", message: "bad: no size is called bad", entry: "/sizes/width/entry" }, 422);
      this.elsewhere(patch[0].path.includes("width") ? "width" : "depth", patch[0].value);
      return json(this.whole());
    }
    if (path.endsWith("/ordering"))
      return json({ revision: this.revision, ordering: this.ordering, problems: this.ordering.length ? [] : this.problems });
    if (path.endsWith("/nest")) {
      if (request.method === "POST") this.asked++;
      if (request.method === "POST" && this.asked <= this.failing) return json({ code: "error", message: "busy" }, this.status);
      return json({ stocks: [], run: null });
    }
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
