// @vitest-environment happy-dom
// What the screen asks the core about the open design: the question as it goes out, the answer as it comes back, and what is shown without one.
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, createElement } from "react";
import { createRoot, type Root } from "react-dom/client";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useAssembly } from "./assembly";
import { stepNumbers, useBendPlan } from "./bending";
import { usePartsAlong } from "./boring";
import { useDesign } from "./design";
import { useDrilling } from "./drilling";
import { formOf, useFeatureWord, useForms, useJointWord } from "./forms";
import { useJointFigure, useOffers } from "./joints";
import { useMeasure, useWeight } from "./measure";

type Asked = { method: string; path: string; body: unknown };
let asked: Asked[];
let answers: Record<string, unknown>;
let refused: string;
let root: Root | null = null;
const told: unknown[] = [];

beforeEach(() => {
  vi.useFakeTimers();
  asked = [];
  answers = {};
  refused = "";
  told.length = 0;
  vi.stubGlobal("IS_REACT_ACT_ENVIRONMENT", true);
  vi.stubGlobal("fetch", async (request: Request) => {
    const path = new URL(request.url).pathname;
    asked.push({ method: request.method, path, body: request.method === "POST" ? await request.json() : null });
    const json = (body: unknown, status: number) =>
      new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
    return refused ? json({ code: "no", message: refused }, 422) : json(answers[path.split("/").at(-1) ?? ""], 200);
  });
  useDesign.setState({ id: "d", revision: 3, trying: null, tryPatch: null });
});

afterEach(async () => {
  await act(async () => root?.unmount());
  root = null;
  useDesign.setState({ id: "", revision: 0, trying: null, tryPatch: null });
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

function Shows({ hook }: { hook: () => unknown }) {
  told.push(hook());
  return null;
}

/** What a hook says in the end, after it has asked what it asks. */
async function said<T>(hook: () => T): Promise<() => T> {
  const client = new QueryClient();
  root = createRoot(document.createElement("div"));
  await act(async () => root?.render(createElement(QueryClientProvider, { client }, createElement(Shows, { hook }))));
  await settled();
  return () => told.at(-1) as T;
}

async function settled() {
  await act(async () => {
    await vi.advanceTimersByTimeAsync(10);
  });
}

test("holes for the drill are asked of the head, and of each new one again", async () => {
  answers.drilling = [{ part: "a" }];
  const now = await said(useDrilling);
  expect(now()).toEqual([{ part: "a" }]);
  expect(asked).toEqual([{ method: "GET", path: "/api/designs/d/drilling", body: null }]);
  answers.drilling = [];
  await act(async () => useDesign.setState({ revision: 4 }));
  await settled();
  expect([now(), asked.length]).toEqual([[], 2]);
});

test.each([
  ["drilling", useDrilling, []],
  ["a bend plan", () => useBendPlan("p", "f"), undefined],
  ["the assembly", () => useAssembly(true), null],
  ["parts on an axis", () => usePartsAlong({ axis: "x", at: {} }), []],
])("nothing is asked about %s before a design is open", async (_, hook, nothing) => {
  useDesign.setState({ id: "", revision: 3 });
  let now = await said<unknown>(hook);
  expect([now(), asked]).toEqual([nothing, []]);
  await act(async () => root?.unmount());
  useDesign.setState({ id: "d", revision: 0 });
  now = await said<unknown>(hook);
  expect([now(), asked]).toEqual([nothing, []]);
});

test("a bend plan is asked for again while its order is being found", async () => {
  answers.bending = { finding: true, steps: [] };
  const now = await said(() => useBendPlan("p", "f1"));
  expect(now()).toEqual({ finding: true, steps: [] });
  expect(asked[0].path).toBe("/api/designs/d/parts/p/bending");
  answers.bending = {
    finding: false,
    steps: [
      { number: 1, keys: ["l", "r"] },
      { number: 2, keys: ["lip"] },
    ],
  }; // prettier-ignore
  await act(async () => {
    await vi.advanceTimersByTimeAsync(600);
  });
  expect([now()?.finding, asked.length]).toEqual([false, 2]);
  expect([...stepNumbers(now())]).toEqual([
    ["l", 1],
    ["r", 1],
    ["lip", 2],
  ]); // prettier-ignore
  expect([...stepNumbers(undefined)]).toEqual([]);
  await act(async () => {
    await vi.advanceTimersByTimeAsync(5000);
  });
  expect(asked.length).toBe(2);
});

test("a plan of one part is not shown for another", async () => {
  let part = "p";
  answers.bending = { finding: false, steps: [] };
  const now = await said(() => {
    useDesign((s) => s.fault);
    return useBendPlan(part, "f");
  });
  expect(now()).toBeDefined();
  answers.bending = undefined;
  part = "q";
  vi.stubGlobal("fetch", () => new Promise(() => undefined));
  await act(async () => useDesign.setState({ fault: "x" }));
  expect(now()).toBeUndefined();
  part = "";
  await act(async () => useDesign.setState({ fault: "" }));
  expect(now()).toBeUndefined();
});

test("what lies on a bore's axis; nothing where its place is not worked out", async () => {
  answers.along = { parts: [{ part: "left", how: "square" }] };
  const at = { y: { text: "30 mm", unit: "mm" as const } };
  const now = await said(() => usePartsAlong({ axis: "x", at }));
  expect(now()).toEqual([{ part: "left", how: "square" }]);
  expect(asked).toEqual([
    { method: "POST", path: "/api/designs/d/bores/along", body: { axis: "x", at, of: "", lean: null, toward: null, parts: [] } },
  ]);
  await act(async () => root?.unmount());
  refused = "no";
  expect((await said(() => usePartsAlong({ axis: "z", at })))()).toEqual([]);
});

test("the forms are asked for once, and give the kinds their words", async () => {
  answers.forms = { joints: [{ kind: "finger", title: "Finger joint" }], features: [{ kind: "fan", title: "Fan opening" }] };
  const now = await said(() => [useForms(), useJointWord(), useFeatureWord()] as const);
  const [forms, joint, feature] = now();
  expect(forms).toEqual(answers.forms);
  expect([joint("finger"), joint("half_lap_x")]).toEqual(["Finger joint", "half lap x"]);
  expect([feature("fan"), feature("finger")]).toEqual(["Fan opening", "finger"]);
  expect([formOf(forms.features, "fan")?.title, formOf(forms.features, "hole")]).toEqual(["Fan opening", undefined]);
  expect(asked).toEqual([{ method: "GET", path: "/api/forms", body: null }]);
});

test("a joint's figure is drawn with what is being tried, and as it stands without", async () => {
  answers.figure = { views: [] };
  useDesign.setState({ tryPatch: [{ op: "remove", path: "/x" }] });
  const now = await said(() => useJointFigure("j"));
  expect(now()).toEqual({ views: [] });
  expect(asked[0]).toEqual({ method: "POST", path: "/api/designs/d/joints/figure", body: { joint: "j", patch: [] } });
  answers.figure = { views: [1] };
  await act(async () => useDesign.setState({ trying: { doc: {}, built: {} } as never }));
  await settled();
  expect(asked[1].body).toEqual({ joint: "j", patch: [{ op: "remove", path: "/x" }] });
  expect(now()).toEqual({ views: [1] });
});

test("joints that two boards could have are asked once both are known; a fault is told", async () => {
  answers.possible = [{ kind: "finger" }];
  let b: string | undefined;
  const now = await said(() => {
    useDesign((s) => s.fault);
    return useOffers("a", b, "old");
  });
  expect([now(), asked]).toEqual([{ offers: [], fault: "" }, []]);
  b = "b";
  await act(async () => useDesign.setState({ fault: "x" }));
  await settled();
  expect(now()).toEqual({ offers: [{ kind: "finger" }], fault: "" });
  expect(asked[0]).toEqual({
    ...{ method: "POST", path: "/api/designs/d/joints/possible", body: { a: "a", b: "b", instead_of: "old" } },
  });
  await act(async () => root?.unmount());
  refused = "they do not meet";
  useDesign.setState({ fault: "" });
  expect((await said(() => useOffers("a", "c")))()).toEqual({ offers: [], fault: "they do not meet" });
  expect(asked.at(-1)?.body).toEqual({ a: "a", b: "c", instead_of: "" });
});

test("a measure needs a place, takes a second one, and tells why there is none", async () => {
  answers.measure = { distance: 12 };
  const a = { part: "a", what: "face" as const, name: "top" };
  let picks: (typeof a)[] = [];
  const now = await said(() => {
    useDesign((s) => s.fault);
    return useMeasure(picks);
  });
  expect([now(), asked]).toEqual([{ found: null, fault: "" }, []]);
  picks = [a];
  await act(async () => useDesign.setState({ fault: "1" }));
  await settled();
  expect(asked.at(-1)?.body).toEqual({ a, b: null });
  expect(now()).toEqual({ found: { distance: 12 }, fault: "" });
  picks = [a, { ...a, part: "b" }];
  await act(async () => useDesign.setState({ fault: "2" }));
  await settled();
  expect(asked.at(-1)).toEqual({ method: "POST", path: "/api/designs/d/measure", body: { a, b: { ...a, part: "b" } } });
  picks = [];
  await act(async () => useDesign.setState({ fault: "3" }));
  expect(now()).toEqual({ found: null, fault: "" });
  await act(async () => root?.unmount());
  refused = "it is not there";
  picks = [{ ...a, part: "gone" }];
  expect((await said(() => useMeasure(picks)))()).toEqual({ found: null, fault: "it is not there" });
});

test("parts are weighed together, and nothing where there are none", async () => {
  answers.weigh = { mass: 410 };
  expect((await said(() => useWeight(["a", "b"])))()).toEqual({ mass: 410 });
  expect(asked).toEqual([{ method: "POST", path: "/api/designs/d/weigh", body: { parts: ["a", "b"] } }]);
  await act(async () => root?.unmount());
  asked = [];
  expect([(await said(() => useWeight([])))(), asked]).toEqual([null, []]);
});

test("the assembly is asked for when it is wanted", async () => {
  answers.assembly = { steps: [] };
  expect([(await said(() => useAssembly(false)))(), asked]).toEqual([null, []]);
  await act(async () => root?.unmount());
  expect((await said(() => useAssembly(true)))()).toEqual({ steps: [] });
  expect(asked[0].path).toBe("/api/designs/d/assembly");
});
