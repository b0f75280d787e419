"""A bar's section as it is drawn: its outline and hollow as they are, about its middle."""

from __future__ import annotations

from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.edits.drawings.begin import drawing_from
from zygon.errors import DocumentError
from zygon.making.asked.drawings.on_stock import OnStock
from zygon.making.result.built import Built
from zygon.tolerance import SLACK

__all__ = ["begin_section"]


def begin_section(built: Built, part: str) -> tuple[str, Patch]:
    """Label and patch that make a bar's section a drawing, as it is. Raises DocumentError where there is none, or where it is one already."""
    place = OnStock(built, part)
    key, stock = place.plane.stock, place.stock
    if place.drawing is not None:
        raise DocumentError(f"{stock.name} is drawn freely already", entry="part", value=part, rule="another section")
    region = place.values.sections[key].region
    sides = {"upright": place.sides("x")[0].reference, "level": place.sides("y")[0].reference}
    drawing = drawing_from([region.outer, *region.inner], sides=sides, within=SLACK)
    said = [f for f in ("width", "wall", "corner", "measured") if getattr(stock, f) is not None]
    patch: Patch = [
        {"op": "replace", "path": pointer("stocks", key, "shape"), "value": "drawn"},
        {"op": "add", "path": pointer("stocks", key, "drawing"), "value": drawing.model_dump(mode="json", exclude_none=True)},
        *({"op": "remove", "path": pointer("stocks", key, f)} for f in said),
    ]
    return f"Draw the section of {stock.name}", patch
