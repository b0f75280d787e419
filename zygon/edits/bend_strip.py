"""The bend test strip: cut it, bend it in its middle, measure both legs; K and deduction of that stock and radius follow."""

from __future__ import annotations

import math
from typing import Any

from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.design.test_pieces import BendTest
from zygon.edits.cut_tests import (
    BESIDE,
    beside,
    board_record,
    checked_keys,
    fresh_name,
    label_record,
    mm_entry,
    test_of,
    thickness_of,
)
from zygon.errors import DocumentError
from zygon.making.result.built import Built
from zygon.stock.allowance import Bend, outer_setback
from zygon.tolerance import WITHIN

__all__ = ["add_bend_test", "bend_from_legs", "strip_bend"]

WIDTH = 40.0


def add_bend_test(built: Built, stock: str, cutter: str, radius: float, angle: float = 90.0, length: float = 100.0) -> tuple[str, Patch]:
    """Label and patch that add a strip ``length`` mm long with its bend line engraved, for an inside radius (mm) and angle of bend (degrees).

    Raises DocumentError for unknown keys and figures that make no strip.
    """
    document = built.document
    kerf, word = checked_keys(document, stock, cutter)
    if not (40 <= length <= 1000 and 0 <= radius <= length / 8 and 10 <= angle <= 150):
        rule = "40 to 1000 mm long, bent by 10 to 150 degrees to a radius of at most an eighth of its length"
        raise DocumentError(f"A test strip is {rule}", entry="bend_test", value=[length, radius, angle], rule=rule)
    name = fresh_name(document, f"bend_strip_{word}")
    x, y, z = beside(built)
    line = {
        "kind": "mark_line",
        "name": "bend line",
        "order": 0,
        "length": mm_entry(WIDTH - 2),
        "angle": {"text": "90 deg", "unit": "mm"},
        "u": {"origin": "centre", "offset": mm_entry(0)},
        "v": {"origin": "centre", "offset": mm_entry(0)},
    }
    label = label_record(f"{length:g} / R{radius:g}", length / 4, 8, 1)
    order = max((p.order for p in document.parts.values()), default=-1) + 1
    board = board_record(name, order, stock, (x - BESIDE - length, y, z), (length, WIDTH), {"line": line, "label": label})
    test = BendTest(stock=stock, cutter=cutter, parts=[name], kerf=kerf, length=length, radius=radius, angle=angle)
    return f"Bend test strip for {document.stocks[stock].name}", [
        {"op": "add", "path": pointer("parts", name), "value": board},
        {"op": "add", "path": pointer("tests", name), "value": test.model_dump(mode="json")},
    ]


def strip_bend(thickness: float, radius: float, angle: float, length: float, first: float, second: float) -> Bend:
    """The bend that a strip shows: mm and degrees, legs outer, over 90 degrees to the tangent. Raises DocumentError where no K gives such legs."""
    turn = math.radians(angle)
    setback = outer_setback(thickness, radius, turn)
    deduction = first + second - length
    k = ((2 * setback - deduction) / turn - radius) / thickness
    if not (math.isfinite(k) and 0 <= k <= 1):
        low, high = (2 * setback - turn * (radius + x * thickness) + length for x in (1.0, 0.0))
        rule = f"both together from {low:.2f} to {high:.2f} mm, for K from 1 to 0"
        raise DocumentError(
            f"Legs of {first:g} and {second:g} mm would make K {k:.3f}: {rule}", entry="legs", value=[first, second], rule=rule
        )
    return Bend(thickness, radius, turn, k)


def bend_from_legs(built: Built, key: str, first: float, second: float, radius: float | None = None) -> tuple[str, Patch]:
    """Label and patch that put what a strip's legs show (mm) into the bend table of its stock; ``radius`` where it came out at another one.

    Raises DocumentError for legs that no K gives.
    """
    document = built.document
    test = test_of(document, key, "bend")
    t = thickness_of(built, test.stock)
    bend = strip_bend(t, test.radius if radius is None else radius, test.angle, test.length, first, second)
    row = {"thickness": round(t, 4), "radius": bend.radius, "angle": test.angle, "k": round(bend.k, 4)}
    stock = document.stocks[test.stock]
    label = f"{stock.name}: K {bend.k:.3f}, deduction {bend.deduction:.2f} mm at R {bend.radius:g} mm, from the strip"
    own: dict[str, Any] = stock.bending.model_dump(mode="json", exclude_none=True) if stock.bending else {}
    others = [r for r in own.get("table", []) if not _same(r, row)] if own.get("rule") == "table" else []
    return label, [
        {"op": "add", "path": pointer("stocks", test.stock, "bending"), "value": {**own, "rule": "table", "table": [*others, row]}}
    ]


def _same(a: dict[str, Any], b: dict[str, Any]) -> bool:
    return all(abs(a[n] - b[n]) < WITHIN for n in ("thickness", "radius", "angle"))
