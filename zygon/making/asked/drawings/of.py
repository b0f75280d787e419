"""Which place a drawing has, by what it is drawn on and the key of what of that is drawn."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.parts.kinds import is_turned
from zygon.drawn.drawing import Drawing
from zygon.errors import DocumentError
from zygon.making.asked.drawings.on_flange import OnFlange
from zygon.making.asked.drawings.on_frame import OnFrame
from zygon.making.asked.drawings.on_plate import OnPlate
from zygon.making.asked.drawings.on_stock import OnStock
from zygon.making.asked.drawings.on_turned import OnTurned
from zygon.making.asked.drawings.place import Place
from zygon.making.result.built import Built
from zygon.owner import is_of

__all__ = ["place_of"]


def place_of(built: Built, part: str, feature: str = "") -> tuple[Place, Drawing]:
    """Where a drawing is, and the drawing. Raises DocumentError where there is none."""
    place = _kind(built.document, part, feature)(built, part, feature)
    if place.drawing is None:
        raise DocumentError(f"{place.name} is not drawn freely", entry="part", value=part, rule="what is drawn freely")
    return place, place.drawing


def _kind(document: Document, part: str, feature: str) -> type[Place]:
    if is_of(part, "stock"):
        return OnStock
    if is_of(part, "frame"):
        return OnFrame
    if is_of(feature, "flange"):
        return OnFlange
    return OnTurned if is_turned(document.parts.get(part)) else OnPlate
