"""Working an entry out: syntax tree and scope in, quantity out."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Protocol

from zygon.errors import ExpressionError
from zygon.measure.entry import Entry
from zygon.measure.quantity import Kind, Quantity, QuantityError, angle, length, number
from zygon.measure.syntax import Binary, Call, FaceRef, Literal, Name, Negative, Node, function_fault, parse
from zygon.measure.units import ANGLE_UNITS, LENGTH_UNITS
from zygon.tolerance import EPS

__all__ = ["NoScope", "Scope", "UnknownName", "evaluate", "plain_length"]

DEGREE = ANGLE_UNITS["deg"]


class Scope(Protocol):
    """Where names get their values. Each method raises KeyError with a sentence's end where there is none."""

    def size(self, name: str) -> Quantity:
        """The value of a size."""
        ...

    def face(self, part: str, face: str) -> Quantity:
        """The place of a part's face or centre."""
        ...

    def gauge(self, number: float) -> float:
        """Thickness in mm of a gauge number on the stock at hand."""
        ...


class UnknownName(KeyError):
    """A ``name`` that stands for nothing; the sentence's end says what was looked for."""

    def __init__(self, name: str, reason: str) -> None:
        super().__init__(reason)
        self.name = name


class NoScope:
    """A scope without names, for entries that stand alone."""

    def size(self, name: str) -> Quantity:
        """Raises KeyError always."""
        raise UnknownName(name, f"no size is called {name}")

    def face(self, part: str, face: str) -> Quantity:
        """Raises KeyError always."""
        raise UnknownName(part, f"no part is called {part}")

    def gauge(self, number: float) -> float:
        """Raises KeyError always."""
        raise KeyError("a gauge needs a stock with a gauge table")


def evaluate(text: str, unit: str, kind: Kind, scope: Scope) -> Quantity:
    """What an entry gives, in mm or radians.

    ``unit`` is what a bare number meant when it was typed: 'mm' or 'in' (bare angles are degrees). Raises ExpressionError.
    """
    factor = LENGTH_UNITS[unit]
    tree = parse(text)
    value = _Worker(text, factor, scope).work(tree)
    try:
        return value.as_kind(kind, factor, DEGREE)
    except QuantityError as error:
        raise ExpressionError(str(error), text, tree.start, tree.end) from None


class _Worker:
    """Walks one tree; errors carry the position of the node at fault."""

    def __init__(self, text: str, factor: float, scope: Scope) -> None:
        self.text = text
        self.factor = factor
        self.scope = scope

    def work(self, node: Node) -> Quantity:
        try:
            return self._work(node)
        except KeyError as error:
            lost = error.name if isinstance(error, UnknownName) else ""
            raise ExpressionError(str(error.args[0]), self.text, node.start, node.end, lost=lost) from None
        except QuantityError as error:
            raise ExpressionError(str(error), self.text, node.start, node.end) from None
        except OverflowError:
            raise ExpressionError("the number is too large", self.text, node.start, node.end) from None

    def _work(self, node: Node) -> Quantity:
        match node:
            case Literal():
                return self._literal(node)
            case Name(name=name):
                return number(math.pi) if name == "pi" else self.scope.size(name)
            case FaceRef(part=part, face=face):
                return self.scope.face(part, face)
            case Negative(operand=operand):
                return self.work(operand).negative()
            case Binary(op=op, left=left, right=right):
                return self._binary(op, self.work(left), self.work(right))
            case Call():
                fault = function_fault(node)
                if fault:
                    raise QuantityError(fault)
                return self._call(node.function, [self.work(a) for a in node.arguments])

    def _literal(self, node: Literal) -> Quantity:
        if not node.unit:
            return Quantity(node.value, whole=node.value == int(node.value), bare=True)
        if node.unit == "ga":
            return length(self.scope.gauge(node.value))
        if node.unit in LENGTH_UNITS:
            return length(node.value * LENGTH_UNITS[node.unit])
        return angle(node.value * ANGLE_UNITS[node.unit])

    def _binary(self, op: str, left: Quantity, right: Quantity) -> Quantity:
        match op:
            case "+":
                return left.plus(right, 1, self.factor, DEGREE)
            case "-":
                return left.plus(right, -1, self.factor, DEGREE)
            case "*":
                return left.times(right)
            case _:
                return left.over(right)

    def _call(self, name: str, values: list[Quantity]) -> Quantity:
        first = values[0]
        match name:
            case "min" | "max":
                values = self._same(values)
                return (min if name == "min" else max)(values, key=lambda q: q.value)
            case "mid":
                a, b = self._same(values)
                return replace(a, value=(a.value + b.value) / 2, whole=False)
            case "abs":
                return replace(first, value=abs(first.value), axis=None, weight=0)
            case "round" | "floor" | "ceil":
                return self._step(name, values)
            case "sqrt":
                if first.value < 0 or first.length % 2 or first.angle % 2:
                    raise QuantityError("sqrt needs a number or an area that is not negative")
                return Quantity(math.sqrt(first.value), first.length // 2, first.angle // 2, bare=first.bare)
            case _:
                turn = first.as_kind("angle", self.factor, DEGREE).value
                return number(getattr(math, name)(turn))

    def _same(self, values: list[Quantity]) -> list[Quantity]:
        """The values with bare numbers lifted to the kind of the others; QuantityError where kinds differ."""
        lead = next((v for v in values if not v.bare), values[0])
        same = []
        for value in values:
            if value.bare and not lead.bare and lead.kind in ("length", "angle"):
                value = replace(value.as_kind(lead.kind, self.factor, DEGREE), axis=lead.axis, weight=lead.weight)  # type: ignore[arg-type]
            if (value.length, value.angle) != (lead.length, lead.angle):
                raise QuantityError(f"{value.kind} and {lead.kind} cannot be compared")
            if (value.axis, value.weight) != (lead.axis, lead.weight):
                raise QuantityError("places along different axes, or a place and a length, cannot be compared")
            same.append(value)
        return same

    def _step(self, name: str, values: list[Quantity]) -> Quantity:
        """round, floor, ceil: to a whole number, or to whole steps of the entry's unit for a length."""
        value = values[0]
        if value.weight:
            raise QuantityError(f"{name} takes a length or a number, not a place")
        if len(values) == 2:
            step = self._same([value, values[1]])[1].value
        else:
            step = {(1, 0): self.factor, (0, 1): DEGREE}.get((value.length, value.angle), 1.0)
        if step <= 0:
            raise QuantityError("the step has to be greater than 0")
        ratio = value.value / step
        # a value that floats put a hair below a whole number counts as that number
        whole = round(ratio) if abs(ratio - round(ratio)) < EPS else _STEPS[name](ratio)
        return replace(value, value=whole * step, whole=not value.length and not value.angle and step == 1)


def _half_up(x: float) -> int:
    return math.floor(x + 0.5)


_STEPS: dict[str, Callable[[float], int]] = {"floor": math.floor, "ceil": math.ceil, "round": _half_up}


def plain_length(entry: Entry) -> float:
    """A length in mm that names nothing, as those of the shop's things are. Raises ExpressionError."""
    return evaluate(entry.text, entry.unit, "length", NoScope()).value
