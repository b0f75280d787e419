// Requests stand in `state/`, one hook or function each: what a screen asks the server, and how it tells what went wrong, is found there.
import { expect, test } from "vitest";

const SOURCES = import.meta.glob<string>(["./**/*.ts", "./**/*.tsx", "!./**/*.test.*", "!./state/**", "!./api/**"], {
  query: "?raw",
  import: "default",
  eager: true,
});
const ASKS = /\bapi\.(GET|POST|PUT|PATCH|DELETE)\b|\bfetch\(|\buse(Query|Mutation)\(/;
const SAYS = /instanceof (Api)?Error \?/;

test("no screen, card or field asks the server by itself, or words an error", () => {
  expect(Object.keys(SOURCES).length).toBeGreaterThan(80);
  expect(Object.entries(SOURCES).flatMap(([file, text]) => (ASKS.test(text) || SAYS.test(text) ? [file] : []))).toEqual([]);
});

test("what asks or words by itself is seen", () => {
  const seen = ['await got(api.POST("/api/x"))', "useQuery({ queryKey: [] })", 'fetch("/x")'].map((text) => ASKS.test(text));
  expect(seen).toEqual([true, true, true]);
  expect(SAYS.test("e instanceof Error ? e.message : String(e)")).toBe(true);
});
