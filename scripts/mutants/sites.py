"""Where a mistake can be planted in a file, and what it would be: text replaced by text, one place at a time.

The usual operators of mutation testing (arithmetic, comparisons, guards, constants), and those of our trade: low for high, one face
or hand for the other, half for whole, a fit or mirror forgotten, an owner not asked, a layer's or column's name taken for its neighbour's.
Left alone: docstrings, annotations, decorators, formatted texts, what an error says, the bodies of classes outside of their methods, and what
changes nothing but speed or says what holds anyway: sizes of memos, first words of their keys, ``strict``, whether a tolerance itself still counts.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

__all__ = ["OPERATORS", "Site", "sites"]

#: Words that are easily taken for one another; an identifier is changed word by word, ``low_u`` to ``high_u``.
PAIRS = [
    ("low", "high"), ("a", "b"), ("u", "v"), ("x", "y"), ("left", "right"), ("front", "back"), ("top", "bottom"), ("upper", "lower"),
    ("inner", "outer"), ("inside", "outside"), ("first", "second"), ("first", "last"), ("start", "end"), ("begin", "end"), ("before", "after"),
    ("radius", "diameter"), ("width", "height"), ("length", "width"), ("near", "far"), ("up", "down"), ("dx", "dy"), ("ta", "tb"),
    ("along", "across"), ("web", "edge"), ("mate", "board"), ("least", "most"), ("cos", "sin"), ("floor", "ceil"), ("min", "max"),
    ("minimum", "maximum"), ("any", "all"), ("x0", "x1"), ("y0", "y1"), ("p", "q"),
]  # a row a line  # fmt: skip
OTHER: dict[str, list[str]] = {}
for _one, _two in PAIRS:
    OTHER.setdefault(_one, []).append(_two)
    OTHER.setdefault(_two, []).append(_one)
#: What says that something is the other hand, or the other way round.
HANDED = {"handed", "mirrored", "flipped", "turned", "reverse", "reversed", "inverted", "swapped"}
#: Calls of the ORM whose conditions may be lost.
QUERIES = {"filter", "get", "exclude", "get_object_or_404", "filter_by"}
#: What things that are the same may differ by.
TOLERANCES = {
    "CHECK", "CONTACT", "EPS", "GRAZED", "JOIN", "MISSES", "NOTHING", "OBLIQUE", "PARALLEL", "SAME", "SEWN", "SLACK", "SMOOTH", "SNAP", "SPECK", "TOUCH", "TOUCHES",
}  # a row a line  # fmt: skip
ARITHMETIC = {ast.Add: ("+", "-"), ast.Sub: ("-", "+"), ast.Mult: ("*", "/"), ast.Div: ("/", "*")}
COMPARED = {
    ast.Lt: ("<", ["<=", ">"]), ast.LtE: ("<=", ["<", ">="]), ast.Gt: (">", [">=", "<"]), ast.GtE: (">=", [">", "<="]),
    ast.Eq: ("==", ["!="]), ast.NotEq: ("!=", ["=="]), ast.In: ("in", ["not in"]), ast.Is: ("is", ["is not"]),
}  # a row a line  # fmt: skip
#: The kinds of mistakes; as many of each are drawn.
OPERATORS = [
    "sign", "product", "half", "bound", "order", "negation", "constant", "word", "text", "neighbour", "hand", "guard", "condition", "query",
    "default", "call", "index", "absolute",
]  # a row a line  # fmt: skip


@dataclass(frozen=True)
class Site:
    """One mistake: bytes ``start`` to ``end`` of a file replaced by ``after``. ``scope`` is a function, a default, or a module's constant."""

    file: str
    line: int
    owner: str
    scope: str
    operator: str
    start: int
    end: int
    before: str
    after: str

    def told(self) -> str:
        return f"{self.file}:{self.line} {self.owner} [{self.operator}] {self.before!r} -> {self.after!r}"

    def changed(self, source: bytes) -> bytes:
        return source[: self.start] + self.after.encode() + source[self.end :]


def sites(path: Path, root: Path, defaults: dict[str, set[str]] | None = None) -> list[Site]:
    """Every mistake that can be planted in a file. ``defaults`` are the parameters that may be left out, by a function's name."""
    source = path.read_bytes()
    found = _Finder(str(path.relative_to(root)), source, defaults or {})
    found.visit(ast.parse(source))
    return found.sites


class _Finder(ast.NodeVisitor):
    def __init__(self, file: str, source: bytes, defaults: dict[str, set[str]]) -> None:
        self.file, self.source, self.defaults = file, source, defaults
        self.starts = [0, *(i + 1 for i, c in enumerate(source) if c == 10)]
        self.sites: list[Site] = []
        self.owner: list[str] = []
        self.scope = ""
        self.names: set[str] = set()
        self.attributes: set[str] = set()
        self.called: set[int] = set()

    # where things stand

    def at(self, node: ast.AST, end: bool = False) -> int:
        line, column = (node.end_lineno, node.end_col_offset) if end else (node.lineno, node.col_offset)  # type: ignore[attr-defined]
        return self.starts[line - 1] + column

    def text(self, node: ast.AST) -> str:
        return self.source[self.at(node) : self.at(node, True)].decode()

    def add(self, operator: str, start: int, end: int, after: str) -> None:
        before = self.source[start:end].decode()
        if self.scope and before != after:
            line = self.source.count(b"\n", 0, start) + 1
            self.sites.append(Site(self.file, line, ".".join(self.owner), self.scope, operator, start, end, before, after))

    def replace(self, operator: str, node: ast.AST, after: str) -> None:
        self.add(operator, self.at(node), self.at(node, True), after)

    def between(self, operator: str, left: ast.AST, right: ast.AST, sign: str, after: str) -> None:
        """Replaces an operator that stands between two operands."""
        start, end = self.at(left, True), self.at(right)
        gap = re.sub(rb"#[^\n]*", lambda m: b" " * len(m[0]), self.source[start:end])
        found = re.search(rf"\b{sign}\b".encode() if sign[0].isalpha() else re.escape(sign.encode()), gap)
        if found:
            self.add(operator, start + found.start(), start + found.end(), after)

    # what is walked

    def visit_Module(self, node: ast.Module) -> None:
        self.attributes = {n.attr for n in ast.walk(node) if isinstance(n, ast.Attribute)}
        for child in node.body:
            if isinstance(child, ast.FunctionDef | ast.ClassDef):
                self.visit(child)
            elif isinstance(child, ast.Assign | ast.AnnAssign) and child.value:
                target = child.targets[0] if isinstance(child, ast.Assign) else child.target
                # an alias of a type is checked by the type checker
                if isinstance(target, ast.Name) and not target.id.startswith("__") and not isinstance(child.value, ast.Subscript):
                    self.owner, self.scope = [target.id], "constant"
                    self.names = {n.id for n in ast.walk(child.value) if isinstance(n, ast.Name)}
                    self.visit(child.value)
                    self.owner, self.scope = [], ""

    def visit_ClassDef(self, node: ast.ClassDef) -> None:
        if self.scope:
            return  # a class within a function
        self.owner.append(node.name)
        for child in node.body:
            if isinstance(child, ast.FunctionDef | ast.ClassDef):
                self.visit(child)
        self.owner.pop()

    def visit_FunctionDef(self, node: ast.FunctionDef) -> None:
        outermost = not self.scope
        self.owner.append(node.name)
        if outermost:
            self.names = {n.id for n in ast.walk(node) if isinstance(n, ast.Name)} | {
                n.arg for n in ast.walk(node) if isinstance(n, ast.arg)
            }
            self.scope = "default"
            for value in [*node.args.defaults, *(d for d in node.args.kw_defaults if d)]:
                self.visit(value)
        self.scope = "function"
        body = node.body
        if isinstance(body[0], ast.Expr) and isinstance(body[0].value, ast.Constant) and isinstance(body[0].value.value, str):
            body = body[1:]
        for child in body:
            self.visit(child)
        self.owner.pop()
        if outermost:
            self.scope = ""

    def visit_AnnAssign(self, node: ast.AnnAssign) -> None:
        if node.value:
            self.visit(node.value)

    def visit_Raise(self, node: ast.Raise) -> None:
        """What an error says is not a rule; that it is raised is."""

    def visit_JoinedStr(self, node: ast.JoinedStr) -> None:
        """Texts for people are checked by reading them."""

    def visit_Import(self, node: ast.Import) -> None:
        """Nothing to take for anything else."""

    visit_ImportFrom = visit_Import  # type: ignore[assignment]

    # the mistakes

    def visit_BinOp(self, node: ast.BinOp) -> None:
        kind = type(node.op)
        texts = any(
            isinstance(x, ast.JoinedStr) or (isinstance(x, ast.Constant) and isinstance(x.value, str)) for x in (node.left, node.right)
        )
        if kind in ARITHMETIC and not texts:
            sign, other = ARITHMETIC[kind]
            if not isinstance(node.left, ast.List) and not isinstance(node.right, ast.List):
                self.between("sign" if sign in "+-" else "product", node.left, node.right, sign, other)
            if kind in (ast.Mult, ast.Div) and isinstance(node.right, ast.Constant) and node.right.value in (2, 0.5):
                self.replace("half", node, f"({self.text(node.left)})")
            if kind is ast.Mult and isinstance(node.left, ast.Constant) and node.left.value in (2, 0.5):
                self.replace("half", node, f"({self.text(node.right)})")
        self.generic_visit(node)

    def visit_AugAssign(self, node: ast.AugAssign) -> None:
        if type(node.op) in (ast.Add, ast.Sub) and not isinstance(node.value, ast.List | ast.ListComp):
            sign, other = ARITHMETIC[type(node.op)]
            self.between("sign", node.target, node.value, sign, other)
        self.generic_visit(node)

    def visit_UnaryOp(self, node: ast.UnaryOp) -> None:
        if isinstance(node.op, ast.USub) and not (
            isinstance(node.operand, ast.Constant) and self.scope == "function" and node.operand.value == 1
        ):
            self.replace("sign", node, self.text(node.operand))
        elif isinstance(node.op, ast.Not):
            self.replace("negation", node, f"bool({self.text(node.operand)})")
        self.generic_visit(node)

    def visit_Compare(self, node: ast.Compare) -> None:
        left: ast.AST = node.left
        for op, right in zip(node.ops, node.comparators, strict=True):
            if type(op) in COMPARED:
                sign, others = COMPARED[type(op)]
                if any(_is_tolerance(n) for side in (left, right) for n in ast.walk(side)):
                    others = [o for o in others if o.strip("=") != sign.strip("=")]  # whether a tolerance itself counts is nobody's rule
                for other in others:
                    self.between("bound" if other.strip("=") == sign.strip("=") else "order", left, right, sign, other)
            left = right
        self.generic_visit(node)

    def visit_BoolOp(self, node: ast.BoolOp) -> None:
        sign, other = ("and", "or") if isinstance(node.op, ast.And) else ("or", "and")
        for left, right in zip(node.values, node.values[1:], strict=False):
            self.between("condition", left, right, sign, other)
            if len(node.values) == 2:
                self.replace("condition", node, f"({self.text(left)})")
        self.generic_visit(node)

    def visit_If(self, node: ast.If) -> None:
        if len(node.body) == 1 and not node.orelse and isinstance(node.body[0], ast.Raise | ast.Return | ast.Continue | ast.Break):
            self.replace("guard", node.test, "False")
        self.generic_visit(node)

    def visit_comprehension(self, node: ast.comprehension) -> None:
        for test in node.ifs:
            self.replace("guard", test, "True")
        self.generic_visit(node)

    def visit_Call(self, node: ast.Call) -> None:
        name = node.func.attr if isinstance(node.func, ast.Attribute) else node.func.id if isinstance(node.func, ast.Name) else ""
        for i, keyword in enumerate(node.keywords):
            if not keyword.arg:
                continue
            query = name in QUERIES and isinstance(node.func, ast.Attribute)
            if query or keyword.arg in self.defaults.get(name, ()):
                self._without(node, i, "query" if query else "default")
        if name == "abs" and len(node.args) == 1:
            self.replace("absolute", node, f"({self.text(node.args[0])})")
        self.called.add(id(node.func))
        if name == "Memo":
            return  # how much is remembered
        if name == "digest" and node.args and isinstance(node.args[0], ast.Constant):
            for other in node.args[1:]:  # the first one only tells keys of different things apart
                self.visit(other)
            return
        self.generic_visit(node)

    def visit_keyword(self, node: ast.keyword) -> None:
        if node.arg != "strict":  # says what holds anyway
            self.visit(node.value)

    def _without(self, node: ast.Call, i: int, operator: str) -> None:
        """A call without one of its keywords, up to the comma behind it or from the one before."""
        keyword = node.keywords[i]
        start, end = self.at(keyword), self.at(keyword, True)
        behind = re.match(rb"\s*,\s*", self.source[end:])
        if behind:
            self.add(operator, start, end + behind.end(), "")
        else:
            before = re.search(rb",\s*$", self.source[:start])
            self.add(operator, before.start() if before else start, end, "")

    def visit_Expr(self, node: ast.Expr) -> None:
        if isinstance(node.value, ast.Call):
            self.replace("call", node, "...")
        self.generic_visit(node)

    def visit_Subscript(self, node: ast.Subscript) -> None:
        i = node.slice
        if isinstance(i, ast.Constant) and type(i.value) is int and i.value in (0, 1):
            self.replace("index", i, "1" if i.value == 0 else "0")
        if isinstance(i, ast.UnaryOp) and isinstance(i.op, ast.USub) and isinstance(i.operand, ast.Constant) and i.operand.value == 1:
            self.replace("index", i, "0")
            self.visit(node.value)
            return
        self.visit(node.value)
        if not isinstance(i, ast.Constant):
            self.visit(i)

    def visit_Constant(self, node: ast.Constant) -> None:
        value = node.value
        if value is True or value is False:
            self.replace("hand", node, str(not value))
        elif isinstance(value, float):
            self.replace("constant", node, repr(value * 1.2) if value else "1.0")
        elif type(value) is int:
            self.replace("constant", node, repr(round(value * 1.2)) if value >= 10 else str(value + 1))
        elif isinstance(value, str) and not isinstance(value, bytes):
            for other in OTHER.get(value, ()):
                self.replace("text", node, repr(other))

    def visit_Attribute(self, node: ast.Attribute) -> None:
        if isinstance(node.ctx, ast.Load):
            if node.attr in HANDED and id(node) not in self.called:
                self.replace("hand", node, "False")
            end = self.at(node, True)
            for other in _others(node.attr):
                if other in self.attributes:
                    self.add("word", end - len(node.attr), end, other)
        self.generic_visit(node)

    def visit_Name(self, node: ast.Name) -> None:
        if isinstance(node.ctx, ast.Load):
            if node.id in HANDED and id(node) not in self.called:
                self.replace("hand", node, "False")
            for other in _others(node.id):
                if other in self.names or other in {"min", "max", "any", "all"}:
                    self.replace("word", node, other)

    def _beside(self, elements: list[ast.expr]) -> None:
        texts = [e for e in elements if isinstance(e, ast.Constant) and isinstance(e.value, str)]
        for one, other in zip(texts, [*texts[1:], *texts[:1]], strict=True):
            if len(texts) > 1 and len(one.value) < 40:
                self.replace("neighbour", one, self.text(other))

    def visit_List(self, node: ast.List | ast.Tuple | ast.Set) -> None:
        if not isinstance(getattr(node, "ctx", None), ast.Store):
            self._beside(node.elts)
        self.generic_visit(node)

    visit_Tuple = visit_Set = visit_List  # type: ignore[assignment]

    def visit_Dict(self, node: ast.Dict) -> None:
        self._beside(node.values)
        for value in node.values:
            self.visit(value)


def _is_tolerance(node: ast.AST) -> bool:
    """A small number, or the name of one."""
    if isinstance(node, ast.Constant):
        return isinstance(node.value, float) and 0 < abs(node.value) < 0.02
    return isinstance(node, ast.Name) and node.id in TOLERANCES


def _others(word: str) -> Iterator[str]:
    """The identifiers that one may be taken for."""
    words = word.split("_")
    for i, one in enumerate(words):
        for other in OTHER.get(one, ()):
            yield "_".join([*words[:i], other, *words[i + 1 :]])
