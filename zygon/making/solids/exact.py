"""Exact solids in their places. Open CASCADE is loaded only when one is asked for."""

from __future__ import annotations

from typing import Any

from zygon.making.kinds.registry import exact_of
from zygon.making.result.built import MadePart

__all__ = ["placed_solid"]


def placed_solid(part: MadePart) -> Any:
    """A part's solid in its place in the room. Raises ZygonError where none can be made."""
    from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
    from OCP.gp import gp_Trsf

    move = gp_Trsf()
    move.SetValues(*(float(x) for row in part.matrix[:3] for x in row))
    return BRepBuilderAPI_Transform(exact_of(part), move, True).Shape()
