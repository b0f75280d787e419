// No function of the interface is longer than a screen or two: what is longer is in parts.
import ts from "typescript";
import { expect, test } from "vitest";

const SOURCES = import.meta.glob<string>(["./**/*.ts", "./**/*.tsx", "!./**/*.test.*", "!./api/**"], {
  query: "?raw",
  import: "default",
  eager: true,
});
const MOST = 120;

/** Functions of more lines than may be, each with its length. */
function long(file: string, text: string): string[] {
  const source = ts.createSourceFile(
    file,
    text,
    ts.ScriptTarget.Latest,
    true,
    file.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const found: string[] = [];
  function visit(node: ts.Node) {
    if (ts.isFunctionLike(node)) {
      const [first, last] = [node.getStart(), node.end].map((at) => source.getLineAndCharacterOfPosition(at).line);
      if (last - first + 1 > MOST) found.push(`${file}:${first + 1} ${last - first + 1} lines`);
    }
    ts.forEachChild(node, visit);
  }
  visit(source);
  return found;
}

test("no function is too long", () => {
  expect(Object.entries(SOURCES).flatMap(([file, text]) => long(file, text))).toEqual([]);
}, 60_000);

test("a function that is too long is seen", () => {
  expect(long("x.ts", `function f() {\n${"f();\n".repeat(MOST - 2)}}`)).toEqual([]);
  expect(long("x.ts", `const f = () => {\n${"f();\n".repeat(MOST - 1)}};`)).toEqual([`x.ts:1 ${MOST + 1} lines`]);
});
