// @vitest-environment happy-dom
// What was measured of a test piece: all of it has to be a measure before it is read, and what is wrong with it is said.
import { MantineProvider } from "@mantine/core";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act } from "react";
import { createRoot, type Root } from "react-dom/client";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Reading } from "./Reading";

let root: Root;
let room: HTMLElement;
const read = vi.fn(async (_: Record<string, number>) => "");

beforeEach(async () => {
  vi.stubGlobal("IS_REACT_ACT_ENVIRONMENT", true);
  room = document.createElement("div");
  document.body.append(room);
  root = createRoot(room);
  read.mockClear();
  const fields = ["First leg", "Inside radius"].map((label, n) => ({ name: `f${n}`, label, suffix: "mm" }));
  const client = new QueryClient({ defaultOptions: { queries: { staleTime: Number.POSITIVE_INFINITY } } });
  client.setQueryData(["forms"], { readings: [{ kind: "bend", title: "Set K", fields }] });
  await act(async () =>
    root.render(
      <QueryClientProvider client={client}>
        <MantineProvider env="test">
          <Reading of="bend" begin={{ f1: "2" }} onRead={read}>
            Measure both legs.
          </Reading>
        </MantineProvider>
      </QueryClientProvider>,
    ),
  );
});

afterEach(async () => {
  await act(async () => root.unmount());
  room.remove();
  vi.unstubAllGlobals();
});

const field = (label: string) =>
  document.getElementById(
    [...room.querySelectorAll("label")].find((l) => l.textContent === label)?.htmlFor ?? "",
  ) as HTMLInputElement;
const button = () => room.querySelector("button") as HTMLButtonElement;

async function type(label: string, text: string) {
  await act(async () => {
    const own = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value");
    own?.set?.call(field(label), text);
    field(label).dispatchEvent(new Event("input", { bubbles: true }));
  });
}

const send = () =>
  act(async () => void room.querySelector("form")?.dispatchEvent(new Event("submit", { bubbles: true, cancelable: true })));

test("it is read once every field is a measure, with a comma or a point", async () => {
  expect(room.textContent).toContain("Measure both legs.");
  expect([field("Inside radius").value, button().textContent, button().disabled]).toEqual(["2", "Set K", true]);
  await send();
  expect(read).not.toHaveBeenCalled();
  await type("First leg", "51,2");
  expect(button().disabled).toBe(false);
  await send();
  expect(read).toHaveBeenCalledExactlyOnceWith({ f0: 51.2, f1: 2 });
});

test("what is no measure is said by what was typed, and what the core refuses until it is typed over", async () => {
  await type("First leg", "much");
  expect([room.textContent?.includes("much is no measure"), button().disabled]).toEqual([true, true]);
  await type("First leg", "3");
  read.mockResolvedValueOnce("Both legs together are shorter than the strip.");
  await send();
  expect(room.querySelector("[role=alert]")?.textContent).toBe("Both legs together are shorter than the strip.");
  await type("First leg", "");
  expect([room.querySelector("[role=alert]"), button().disabled]).toEqual([null, true]);
});
