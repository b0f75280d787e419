"""What a starter asks before it begins: the few sizes that matter, the stock, how many; with what is usual, in millimetres and in inches."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.design.plain import copied
from zygon.design.workshop import BARS, INCH_STOCKS, METAL_LASER, STOCKS
from zygon.errors import DocumentError, ExpressionError
from zygon.measure.evaluate import NoScope, evaluate
from zygon.measure.units import INCH

__all__ = ["Asked", "Given", "Starter", "Unit", "count", "length", "sheet"]

Unit = Literal["mm", "in"]


@dataclass(frozen=True)
class Asked:
    """One question. A ``length`` is an entry from ``low`` to ``high`` mm, a ``count`` a whole number, a ``stock`` a sheet's key (that ``bends``, or not)."""

    name: str
    words: str
    kind: Literal["length", "count", "stock"]
    usual: Mapping[Unit, str]
    low: float = 0.0
    high: float = 0.0
    bends: bool = False


def length(name: str, words: str, mm: float, inches: str, low: float, high: float) -> Asked:
    """A size: what is usual in mm and, as it is typed, in inches; between which it works (mm)."""
    return Asked(name, words, "length", {"mm": f"{mm:g} mm", "in": f"{inches} in"}, low, high)


def count(name: str, words: str, usual: int, low: int, high: int) -> Asked:
    """A whole number."""
    return Asked(name, words, "count", {"mm": str(usual), "in": str(usual)}, low, high)


def sheet(words: str, key: str, name: str = "stock", *, bends: bool = False) -> Asked:
    """The sheet that it is cut from."""
    return Asked(name, words, "stock", {"mm": key, "in": key}, bends=bends)


@dataclass(frozen=True)
class Given:
    """What was answered: a name, the unit, and a text for each question."""

    name: str
    unit: Unit
    texts: Mapping[str, str]

    def draft(self, *stocks: str) -> Draft:
        """A draft with the workshop's stocks as they are sold in the unit, bars too."""
        return _in_unit(Draft(self.name, *stocks, unit=self.unit), self.unit)

    def number(self, name: str) -> int:
        """A count that was answered."""
        return int(self.texts[name])

    def text(self, name: str) -> str:
        return self.texts[name]


@dataclass(frozen=True)
class Starter:
    """A design to begin from: what it is, what it asks, and the document that it writes."""

    key: str
    title: str
    words: str
    make: Callable[[Given], Document]
    asks: tuple[Asked, ...] = field(default=())

    def begin(self, name: str, unit: Unit = "mm", texts: Mapping[str, str] | None = None) -> Document:
        """The document for the answers; what is not answered is as usual. Raises DocumentError naming the question, the value and the rule."""
        if unit not in ("mm", "in"):
            raise DocumentError(f"unit: {unit!r} is not mm or in", entry="unit", value=unit, rule="mm or in")
        odd = set(texts or {}) - {a.name for a in self.asks}
        if odd:
            rule = f"one of {', '.join(a.name for a in self.asks) or 'none'}"
            raise DocumentError(f"{self.title} does not ask for {min(odd)}", entry=f"values/{min(odd)}", value=min(odd), rule=rule)
        answers = {a.name: _answer(a, (texts or {}).get(a.name, "").strip() or a.usual[unit], unit) for a in self.asks}
        return self.make(Given(name, unit, answers))


def _answer(asked: Asked, text: str, unit: Unit) -> str:
    entry = f"values/{asked.name}"
    if asked.kind == "stock":
        known = STOCKS | (INCH_STOCKS if unit == "in" else {})
        if text not in known or bool(known[text].get("bends")) != asked.bends:
            rule = "a sheet that bends" if asked.bends else "a sheet of the workshop that does not bend"
            raise DocumentError(f"{asked.words}: {text} is not {rule}", entry=entry, value=text, rule=rule)
        return text
    if asked.kind == "count":
        if not (text.isascii() and text.isdigit()) or not asked.low <= int(text) <= asked.high:
            rule = f"a whole number from {asked.low:g} to {asked.high:g}"
            raise DocumentError(f"{asked.words}: {text} is not {rule}", entry=entry, value=text, rule=rule)
        return str(int(text))
    try:
        mm = evaluate(text, unit, "length", NoScope()).value
    except ExpressionError as error:
        raise DocumentError(f"{asked.words}: {error}", entry=entry, value=text, rule="a length, as 300 mm or 12 in") from None
    if not asked.low <= mm <= asked.high:
        shown = f"{asked.low:g} to {asked.high:g} mm" if unit == "mm" else f"{asked.low / INCH:.3g} to {asked.high / INCH:.3g} in"
        raise DocumentError(f"{asked.words}: {text} is not from {shown}", entry=entry, value=text, rule=f"from {shown}")
    return text


def _in_unit(draft: Draft, unit: Unit) -> Draft:
    """The stocks as they are sold in the unit, bars too; figures are shown in it."""
    stocks: dict[str, Any] = draft.data["stocks"]
    if unit == "in":
        draft.data["display"] = "fraction"
        stocks |= copied({k: s for k, s in INCH_STOCKS.items() if k in stocks})
    stocks |= copied(BARS)
    cutters: dict[str, Any] = draft.data["cutters"]
    cutters["laser"]["work"].pop("galv20", None)
    cutters["metal"] = copied(METAL_LASER)
    return draft
