"""Exact solids in their places. Open CASCADE is loaded only when one is asked for."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from zygon.making.kinds.registry import exact_of
from zygon.making.result.built import MadePart

__all__ = ["placed", "placed_solid"]


def placed_solid(part: MadePart) -> Any:
    """A part's solid in its place in the room. Raises ZygonError where none can be made."""
    return placed(exact_of(part), part.matrix[:3])


def placed(shape: Any, rows: Sequence[Sequence[float]]) -> Any:
    """A shape of Open CASCADE where the rows (3, 4) of a matrix take it."""
    from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
    from OCP.gp import gp_Trsf

    move = gp_Trsf()
    move.SetValues(*(float(x) for row in rows for x in row))
    return BRepBuilderAPI_Transform(shape, move, True).Shape()
