"""Which place a drawing has, by what it is drawn on and the key of what of that is drawn."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.drawing import Drawing
from zygon.design.parts.kinds import is_turned
from zygon.errors import DocumentError
from zygon.making.asked.drawings.on_flange import OnFlange
from zygon.making.asked.drawings.on_plate import OnPlate
from zygon.making.asked.drawings.on_turned import OnTurned
from zygon.making.asked.drawings.place import Place
from zygon.owner import is_of

__all__ = ["place_of"]


def place_of(document: Document, part: str, feature: str = "") -> tuple[Place, Drawing]:
    """Where a drawing is, and the drawing. Raises DocumentError where there is none."""
    kind = OnFlange if is_of(feature, "flange") else OnTurned if is_turned(document.parts.get(part)) else OnPlate
    place: Place = kind(document, part, feature)
    if place.drawing is None:
        raise DocumentError(f"{place.name} is not drawn freely", entry="part", value=part, rule="an outline drawn freely")
    return place, place.drawing
