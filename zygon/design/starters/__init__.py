"""Starters: ordinary documents to begin from, by a few answers. Nothing in them is special once they are written."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from zygon.design.document import Document
from zygon.design.starters.asked import Asked, Given, Starter, Unit
from zygon.design.starters.boxes import CASES
from zygon.design.starters.metal import FOLDED
from zygon.design.workshop import INCH_STOCKS, STOCKS
from zygon.errors import DocumentError

__all__ = ["STARTERS", "starter", "starter_forms"]


def _nothing(given: Given) -> Document:
    """An empty design with the workshop's stocks, bars too."""
    return given.draft().document()


STARTERS: dict[str, Starter] = {
    s.key: s for s in (Starter("nothing", "Nothing", "An empty design with the workshop's stocks.", _nothing), *CASES, *FOLDED)
}


def starter(kind: str, name: str, unit: Unit = "mm", values: Mapping[str, str] | None = None) -> Document:
    """A new document from a starter; what is not answered is as usual. Raises DocumentError for an unknown kind, or an answer that cannot be."""
    if kind not in STARTERS:
        rule = f"one of {', '.join(STARTERS)}"
        raise DocumentError(f"starter: {kind!r} is not {rule}", entry="starter", value=kind, rule=rule, code="bad_starter")
    return STARTERS[kind].begin(name, unit, values)


def starter_forms() -> list[dict[str, Any]]:
    """What each starter is called and asks for, as plain data: ``usual`` by unit, ``choices`` (by unit) of what is chosen."""
    return [{"key": s.key, "title": s.title, "words": s.words, "asks": [_asked(a) for a in s.asks]} for s in STARTERS.values()]


def _asked(asked: Asked) -> dict[str, Any]:
    sheets = {"mm": STOCKS, "in": STOCKS | INCH_STOCKS}
    choices = [
        {"unit": unit, "value": key, "label": s["name"]}
        for unit, stocks in sheets.items()
        for key, s in stocks.items()
        if asked.kind == "stock" and bool(s.get("bends")) == asked.bends
    ]
    return {
        "name": asked.name,
        "words": asked.words,
        "kind": asked.kind,
        "mm": asked.usual["mm"],
        "inch": asked.usual["in"],
        "low": asked.low,
        "high": asked.high,
        "choices": choices,
    }
