"""The grammar of entries and their syntax trees: text in, tree with positions out. Nothing is worked out here.

A whole number, a hyphen or a space, and a proper fraction is one mixed number (``1-1/2 in`` is 1.5 in); subtraction of a
fraction is written with spaces or brackets round it. A fraction straight before a unit is one value (``3/4 in``).

A whole number behind ``/`` is a denominator already and joins no fraction behind it: ``10/2-1/2`` is 4.5. Behind ``*`` a hyphen could
be read either way, so ``4*2-1/4`` is refused with both readings.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from lark import Lark, Token, Transformer, UnexpectedCharacters, UnexpectedEOF, UnexpectedToken, v_args
from lark.exceptions import VisitError

from zygon.errors import ExpressionError
from zygon.measure.units import FUNCTIONS, INCH

__all__ = ["Binary", "Call", "FaceRef", "Literal", "Name", "Negative", "Node", "mixed_numbers", "parse", "references"]

#: Longest entry and deepest nesting that are read.
MAX_LENGTH = 400
MAX_DEPTH = 40

GRAMMAR = r"""
?start: sum
?sum: product
    | sum "+" product   -> add
    | sum "-" product   -> sub
?product: unary
    | product "*" factor -> mul
    | product "/" divisor -> div
?unary: atom
    | "-" unary         -> neg
    | "+" unary         -> pos
?factor: rest
    | (MIXED_SPACE | NUMBER | FRACTION) UNIT -> with_unit
    | (MIXED_SPACE | NUMBER | FRACTION)      -> bare
    | MIXED UNIT?       -> two_readings
    | "-" factor        -> neg
    | "+" factor        -> pos
?divisor: rest
    | (NUMBER | FRACTION) UNIT -> with_unit
    | (NUMBER | FRACTION)      -> bare
    | MIXED_SPACE UNIT? -> needs_brackets
    | "-" divisor       -> neg
    | "+" divisor       -> pos
?atom: rest
    | (MIXED | MIXED_SPACE | FRACTION | NUMBER) UNIT -> with_unit
    | (MIXED | MIXED_SPACE | FRACTION | NUMBER)      -> bare
?rest: FEET_INCHES      -> feet_inches
    | NAME "(" sum ("," sum)* ")" -> call
    | NAME "." NAME     -> face
    | NAME "." NAME "." NAME -> flange_face
    | NAME              -> name
    | "(" sum ")"

FEET_INCHES.5: /\d+(\.\d+)?'[- ]?(\d+[- ]\d+\/\d+|\d+\/\d+|\d+(\.\d+)?)("|\s?in(?![\w]))?/
MIXED.4: /\d+-\d+\/\d+(?!\s*[*\/(.\d])/
MIXED_SPACE.4: /\d+ \d+\/\d+(?!\s*[*\/(.\d])/
FRACTION.3: /\d+\/\d+(?=\s*((mm|cm|m|in|ft)(?!\w)|"|'))/
NUMBER.2: /(\d+(\.\d*)?|\.\d+)([eE][-+]?\d+)?(?![\d.])/
UNIT.1: /(mm|cm|m|in|ft|deg|rad|ga)(?!\w)|"|'|°/
NAME: /[^\W\d]\w*/
%ignore /\s+/
"""


@dataclass(frozen=True, slots=True)
class Literal:
    """Digits, with the unit that stood behind them ('' for a bare number)."""

    value: float
    unit: str
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Name:
    """A size by its name."""

    name: str
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class FaceRef:
    """A face or centre of a part: ``left.right``; ``face`` has a point where it is one of a flange: ``lid.back.outer``."""

    part: str
    face: str
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Negative:
    """A sign in front."""

    operand: Node
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Binary:
    """One of + - * /."""

    op: str
    left: Node
    right: Node
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Call:
    """A function of the fixed list."""

    function: str
    arguments: tuple[Node, ...]
    start: int
    end: int


Node = Literal | Name | FaceRef | Negative | Binary | Call


def _fraction(text: str) -> float:
    """'3', '3/4', '1-1/2' or '1 1/2' as a float; ZeroDivisionError for a nought below."""
    whole, _, rest = text.replace("-", " ").partition(" ")
    if rest:
        return float(whole) + _fraction(rest)
    top, _, bottom = whole.partition("/")
    return float(top) / float(bottom) if bottom else float(top)


def _read(token: Token) -> float:
    return float(token) if token.type == "NUMBER" else _fraction(str(token))


class _TwoReadings(Exception):
    """A mixed number where it could be one number or a difference."""

    def __init__(self, value: Token, unit: Token | None) -> None:
        super().__init__(str(value))
        self.start, self.end = value.start_pos or 0, (unit or value).end_pos or 0


@v_args(inline=True)
class _Tree(Transformer):
    def bare(self, value: Token) -> Literal:
        return Literal(_read(value), "", value.start_pos or 0, value.end_pos or 0)

    def with_unit(self, value: Token, unit: Token) -> Literal:
        return Literal(_read(value), str(unit), value.start_pos or 0, unit.end_pos or 0)

    def two_readings(self, value: Token, unit: Token | None = None) -> Literal:
        raise _TwoReadings(value, unit)

    def needs_brackets(self, value: Token, unit: Token | None = None) -> Literal:
        raise _TwoReadings(value, unit)

    def feet_inches(self, token: Token) -> Literal:
        feet, _, rest = str(token).partition("'")
        inches = rest.lstrip("- ").rstrip('"in ').strip()
        return Literal((float(feet) * 12 + _fraction(inches)) * INCH, "mm", token.start_pos or 0, token.end_pos or 0)

    def name(self, token: Token) -> Name:
        return Name(str(token), token.start_pos or 0, token.end_pos or 0)

    def face(self, part: Token, face: Token) -> FaceRef:
        return FaceRef(str(part), str(face), part.start_pos or 0, face.end_pos or 0)

    def flange_face(self, part: Token, flange: Token, face: Token) -> FaceRef:
        return FaceRef(str(part), f"{flange}.{face}", part.start_pos or 0, face.end_pos or 0)

    def call(self, function: Token, *arguments: Node) -> Call:
        return Call(str(function), tuple(arguments), function.start_pos or 0, function.end_pos or 0)

    def neg(self, operand: Node) -> Negative:
        return Negative(operand, operand.start, operand.end)

    def pos(self, operand: Node) -> Node:
        return operand

    def _binary(self, op: str, left: Node, right: Node) -> Binary:
        return Binary(op, left, right, left.start, right.end)

    def add(self, left: Node, right: Node) -> Binary:
        return self._binary("+", left, right)

    def sub(self, left: Node, right: Node) -> Binary:
        return self._binary("-", left, right)

    def mul(self, left: Node, right: Node) -> Binary:
        return self._binary("*", left, right)

    def div(self, left: Node, right: Node) -> Binary:
        return self._binary("/", left, right)


_MIXED = re.compile(r"(\d+)[- ](\d+/\d+)")
_PARSER = Lark(GRAMMAR, parser="lalr", lexer="contextual", propagate_positions=False)
_TREE = _Tree()


@lru_cache(maxsize=4096)
def parse(text: str) -> Node:
    """The syntax tree of an entry. Raises ExpressionError with the position of what cannot be read."""
    if not text.strip():
        raise ExpressionError("an entry is needed", text)
    if len(text) > MAX_LENGTH:
        raise ExpressionError(f"an entry has at most {MAX_LENGTH} characters", text[:20] + "…")
    _check_depth(text)
    try:
        return _TREE.transform(_PARSER.parse(text))
    except UnexpectedEOF:
        raise ExpressionError("it stops too early", text, len(text)) from None
    except UnexpectedToken as error:
        raise _unexpected(text, error) from None
    except UnexpectedCharacters as error:
        at = error.pos_in_stream or 0
        raise ExpressionError(_character_reason(text, at), text, at, at + 1) from None
    except VisitError as error:
        if isinstance(error.orig_exc, _TwoReadings):
            raise _ambiguous(text, error.orig_exc) from None
        if isinstance(error.__cause__ or error.__context__, ZeroDivisionError):
            raise ExpressionError("a fraction over 0", text) from None
        raise


def _ambiguous(text: str, found: _TwoReadings) -> ExpressionError:
    """A hyphen behind ``*`` may join or subtract; a space can only join, and wants brackets behind ``/``."""
    start, end = found.start, found.end
    number = text[start:end]
    readings = [f"{text[:start]}({number}){text[end:]}"]
    if "-" in number:
        readings.append(f"{text[:start]}{number.replace('-', ' - ', 1)}{text[end:]}")
        reason = f"{number} can be read in two ways here: write {readings[0]} or {readings[1]}"
    else:
        reason = f"{number} behind a / wants brackets: write {readings[0]}"
    return ExpressionError(reason, text, start, end, readings)


def mixed_numbers(text: str) -> list[tuple[str, str]]:
    """The mixed numbers of an entry that can be read, as typed and as they were read: ('1-1/2', '1 + 1/2')."""
    found = [_MIXED.match(text[n.start : n.end]) for n in _literals(parse(text))]
    return [(m.group(), f"{m.group(1)} + {m.group(2)}") for m in found if m]


def _literals(node: Node) -> Iterator[Literal]:
    match node:
        case Literal():
            yield node
        case Negative(operand=operand):
            yield from _literals(operand)
        case Binary(left=left, right=right):
            yield from _literals(left)
            yield from _literals(right)
        case Call(arguments=arguments):
            for argument in arguments:
                yield from _literals(argument)


def _check_depth(text: str) -> None:
    depth = 0
    for at, char in enumerate(text):
        depth += (char == "(") - (char == ")")
        if depth > MAX_DEPTH:
            raise ExpressionError(f"brackets nest at most {MAX_DEPTH} deep", text, at, at + 1)
    if re.search(rf"[-+]{{{MAX_DEPTH},}}", text.replace(" ", "")):
        raise ExpressionError("too many signs in a row", text)


def _unexpected(text: str, error: UnexpectedToken) -> ExpressionError:
    token = error.token
    if token.type == "$END":
        return ExpressionError("it stops too early", text, len(text))
    at = token.start_pos or 0
    if str(token) == "," and re.search(r"\d,\d", text):
        return ExpressionError("write decimals with a point, not a comma", text, at, at + 1)
    return ExpressionError(_character_reason(text, at, str(token)), text, at, token.end_pos)


def _character_reason(text: str, at: int, shown: str = "") -> str:
    char = text[at]
    before = text[:at].rstrip()
    word = re.match(r"[^\W\d]\w*", text[at:])
    if before and before[-1].isdigit() and word:
        return f"{word.group()} is not a unit; between a number and a name a * is needed"
    if char == ",":
        return "write decimals with a point, not a comma"
    return f"{shown or char} is not expected here"


def references(node: Node) -> Iterator[Name | FaceRef]:
    """Every size and face that a tree names, in reading order."""
    match node:
        case Name() | FaceRef():
            yield node
        case Negative(operand=operand):
            yield from references(operand)
        case Binary(left=left, right=right):
            yield from references(left)
            yield from references(right)
        case Call(arguments=arguments):
            for argument in arguments:
                yield from references(argument)


def function_fault(node: Call) -> str | None:
    """Why a call cannot be made, or None."""
    if node.function not in FUNCTIONS:
        return f"no function is called {node.function}"
    one = node.function in {"floor", "ceil", "abs", "sqrt", "sin", "cos", "tan"}
    given = len(node.arguments)
    if one and given != 1:
        return f"{node.function} takes one value, not {given}"
    if node.function == "mid" and given != 2:
        return f"mid takes two values, not {given}"
    if node.function == "round" and given > 2:
        return f"round takes a value and, if wanted, a step, not {given} values"
    return None
