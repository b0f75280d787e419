// The compiler reads what a handler reads when the handler is made (decision 0017): what may be null there is asked for first, not asserted.
import ts from "typescript";
import { expect, test } from "vitest";

const SOURCES = import.meta.glob<string>(["./**/*.tsx", "!./**/*.test.tsx"], { query: "?raw", import: "default", eager: true });

/** Places in functions within functions where a field is read of what an enclosing function has, and which is only said not to be null. */
function asserted(text: string): string[] {
  const source = ts.createSourceFile("x.tsx", text, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const found: string[] = [];
  function root(node: ts.Expression): string {
    if (ts.isIdentifier(node)) return node.text;
    if (ts.isPropertyAccessExpression(node) || ts.isNonNullExpression(node)) return root(node.expression);
    return "";
  }
  function visit(node: ts.Node, own: Set<string>[]) {
    let scopes = own;
    if (ts.isFunctionLike(node)) scopes = [...own, new Set(node.parameters.flatMap((p) => namesOf(p.name)))];
    else if (ts.isVariableDeclaration(node)) for (const name of namesOf(node.name)) own.at(-1)?.add(name);
    if (ts.isPropertyAccessExpression(node) && ts.isNonNullExpression(node.expression) && scopes.length > 1) {
      const name = root(node.expression);
      if (name && !scopes.at(-1)?.has(name) && scopes.some((s) => s.has(name))) found.push(node.getText());
    }
    ts.forEachChild(node, (child) => visit(child, scopes));
  }
  function namesOf(name: ts.BindingName): string[] {
    if (ts.isIdentifier(name)) return [name.text];
    return name.elements.flatMap((e) => (ts.isOmittedExpression(e) ? [] : namesOf(e.name)));
  }
  visit(source, []);
  return found;
}

test("a handler that asserts is found, what it asks for or has of its own is not", () => {
  expect(asserted("function C() { const a = f(); return <b onClick={() => g(a!.id)} />; }")).toEqual(["a!.id"]);
  expect(asserted("function C({ a }) { return a.list.map((x) => a.folding!.flanges[x]); }")).toEqual(["a.folding!.flanges"]);
  expect(asserted("function C() { const a = f(); return <b onClick={() => a && g(a.id)} />; }")).toEqual([]);
  expect(asserted("function C() { const a = f()!.id; const c = a!.b; return <b onClick={(x) => g(x!.id)} />; }")).toEqual([]);
});

test("no handler asserts what may not be there", () => {
  expect(Object.keys(SOURCES).length).toBeGreaterThan(80);
  const found = Object.entries(SOURCES).flatMap(([file, text]) => asserted(text).map((x) => `${file}: ${x}`));
  expect(found).toEqual([]);
  // all sources are parsed, which a busy machine takes its time for
}, 30_000);
