"""Exact solids of parts in their places. Open CASCADE is loaded only when one is asked for."""

from __future__ import annotations

from typing import Any

from zygon.making.kinds.registry import exact_of
from zygon.making.result.built import MadePart

__all__ = ["placed_solid"]


def placed_solid(part: MadePart) -> Any:
    """A part's solid in its place in the room. Raises ZygonError where none can be made."""
    from zygon.geometry.exact import placed

    return placed(exact_of(part), part.matrix[:3])
