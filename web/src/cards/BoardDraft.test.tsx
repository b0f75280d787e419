// @vitest-environment happy-dom
// A folded part that is drafted before the core's shapes have come is not taken for a flat board.
import { MantineProvider } from "@mantine/core";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act } from "react";
import { createRoot, type Root } from "react-dom/client";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Doc } from "../lib/document";
import { useDesign } from "../state/design";
import { BoardDraft } from "./BoardDraft";

const mm = (text: string) => ({ text, unit: "mm" });
const DOC = {
  unit: "mm",
  display: "mm",
  sizes: {},
  parts: {},
  stocks: { metal: { kind: "sheet", name: "Sheet metal", bends: true, sheets: {}, order: 0, nominal: mm("1 mm") } },
} as unknown as Doc;
const FLANGES = { back: { kind: "flange", edge: "back", length: { text: "length" }, order: 0 } };
const SHAPE = { kind: "channel", label: "channel", lip: "", one_way: true, begin: { length: "30 mm", lip: "15 mm" } };
let root: Root;
let room: HTMLElement;
const preview = vi.fn();

beforeEach(() => {
  vi.stubGlobal("IS_REACT_ACT_ENVIRONMENT", true);
  vi.stubGlobal("fetch", () => new Promise(() => undefined));
  room = document.createElement("div");
  document.body.append(room);
  root = createRoot(room);
  preview.mockClear();
  useDesign.setState({ doc: DOC, head: { values: {}, problems: [], parts: [] } as never, preview });
});

afterEach(async () => {
  await act(async () => root.unmount());
  room.remove();
  useDesign.setState(useDesign.getInitialState());
  vi.unstubAllGlobals();
});

async function draft(client: QueryClient) {
  await act(async () =>
    root.render(
      <QueryClientProvider client={client}>
        <MantineProvider env="test">
          <BoardDraft folded />
        </MantineProvider>
      </QueryClientProvider>,
    ),
  );
}

const add = () => [...room.querySelectorAll("button")].find((b) => b.textContent === "Add folded part") as HTMLButtonElement;

test("nothing is tried or added until the shape is known, and then it is bent", async () => {
  const client = new QueryClient({ defaultOptions: { queries: { staleTime: Number.POSITIVE_INFINITY } } });
  await draft(client);
  expect([add().disabled, preview.mock.calls.filter(([patch]) => patch)]).toEqual([true, []]);
  const planes = ["lying", "facing_front", "facing_side"];
  const flanges = Object.fromEntries(planes.map((p) => [p, { u: FLANGES, v: FLANGES }]));
  await act(async () => client.setQueryData(["forms"], { shapes: [{ ...SHAPE, flanges }], stocks: [] }));
  await act(() => vi.waitFor(() => expect(add().disabled).toBe(false)));
  const [patch] = preview.mock.calls.at(-1) ?? [];
  expect(patch[0].value).toMatchObject({ kind: "folded", folding: { flanges: { back: { length: mm("30 mm"), order: 0 } } } });
});
