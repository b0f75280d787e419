"""The plane of a blank, as what is drawn on it sees the room."""

from __future__ import annotations

from zygon.making.blanks.blank import Blank
from zygon.making.datums.on_plane import OnPlane, plane_of_plate
from zygon.making.datums.values import Values

__all__ = ["on_blank"]


def on_blank(values: Values, blank: Blank) -> OnPlane:
    """Its plane from where it stands."""
    return plane_of_plate(values, blank.key, frame=None if values.still else blank.place, lows=blank.origin)
