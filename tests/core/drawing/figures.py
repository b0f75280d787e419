"""Drawings for the tests: made from plain places, with relations by name."""

from __future__ import annotations

import math
from typing import Any

from zygon.drawing.solver import Solved, solve_drawing
from zygon.drawn.drawing import DIMENSIONS, Drawing

__all__ = ["drawing", "figures_of", "line", "solved"]


def drawing(
    points: dict[str, tuple[float, float]],
    curves: dict[str, Any] | None = None,
    relations: list[tuple[Any, ...]] | dict[str, Any] | None = None,
    references: dict[str, Any] | None = None,
) -> Drawing:
    """Relations are (kind, things) or (kind, things, value in mm or degrees), called r0, r1 … in order."""
    said = {}
    for n, (kind, of, *value) in enumerate(relations or []):
        said[f"r{n}"] = {"kind": kind, "of": of.split(), "order": n}
        if value:
            said[f"r{n}"]["entry"] = {"text": f"{value[0]!r}{' deg' if kind == 'angle' else ''}"}
    data = {
        "points": {k: {"x": x, "y": y} for k, (x, y) in points.items()},
        "curves": {k: line(c) if isinstance(c, str) else c for k, c in (curves or {}).items()},
        "relations": said,
        "references": references or {},
    }
    made = Drawing.model_validate(data)
    assert made.fault() is None, made.fault()
    return made


def line(ends: str) -> dict[str, str]:
    """'a b' as a line between them, 'a b c' as an arc from a to b about c."""
    a, b, *centre = ends.split()
    return {"kind": "arc", "a": a, "b": b, "centre": centre[0]} if centre else {"kind": "line", "a": a, "b": b}


def figures_of(made: Drawing) -> dict[str, float]:
    """What its dimensions say, in mm or radians."""
    found = {}
    for key, r in made.relations.items():
        if r.kind in DIMENSIONS and r.entry is not None:
            value = float(r.entry.text.split()[0])
            found[key] = math.radians(value) if r.kind == "angle" else value
    return found


def solved(made: Drawing, **more: Any) -> Solved:
    """A drawing solved as its own figures say."""
    return solve_drawing(made, figures_of(made), **more)
