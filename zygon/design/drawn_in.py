"""Where a document keeps its drawings, each by what it is drawn on and the key of what of that is drawn.

On a part '' is its outline, or its half-profile where it is turned; a feature's key is a shape; a flange's id its profile. On a bar's stock, by
its id, '' is its section; on a frame, by its id, the path that its members lie on.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any, NamedTuple

from zygon.design.outlines import drawing_in, drawing_of
from zygon.design.pointer import pointer
from zygon.drawn.drawing import Drawing
from zygon.owner import flange_id, frame_id, is_of, read_owner, stock_id

if TYPE_CHECKING:
    from zygon.design.document import Document

__all__ = ["DrawnIn", "drawing_at", "drawings_in", "drawn_on_what", "own_path"]


class DrawnIn(NamedTuple):
    """What is drawn on, which of it, the pointer of the drawing, its record, and what that is called."""

    part: str
    feature: str
    where: str
    drawing: Drawing
    name: str


def drawings_in(document: Document) -> Iterator[DrawnIn]:
    """All drawings of a document."""
    for key, part in document.parts.items():
        own = drawing_of(part)
        if own is not None:
            yield DrawnIn(key, "", pointer("parts", key, *own_path(part)), own, part.name)
        for feature, record in getattr(part, "features", {}).items():
            if record.kind == "shape":
                yield DrawnIn(key, feature, pointer("parts", key, "features", feature, "drawing"), record.drawing, part.name)
        folding = getattr(part, "folding", None)
        for flange, bent in folding.flanges.items() if folding else ():
            if bent.kind == "drawn":
                where = pointer("parts", key, "folding", "flanges", flange, "drawing")
                yield DrawnIn(key, flange_id(key, flange), where, bent.drawing, part.name)
    for frame, path in document.frames.items():
        if path.drawing is not None:
            yield DrawnIn(frame_id(frame), "", pointer("frames", frame, "drawing"), path.drawing, path.name)
    for stock, bar in document.stocks.items():
        if (section := drawing_of(bar)) is not None:
            yield DrawnIn(stock_id(stock), "", pointer("stocks", stock, "drawing"), section, bar.name)


def own_path(record: Any) -> tuple[str, ...]:
    """The steps from what is drawn on to the drawing that it is itself."""
    return ("outline", "drawing") if hasattr(record, "outline") else ("drawing",)


def drawn_on_what(document: Document, part: str) -> tuple[Any, str]:
    """The record of what is drawn on, a part or what its id names, and its pointer; None where there is none."""
    key = read_owner(part).key
    if is_of(part, "stock"):
        return document.stocks.get(key), pointer("stocks", key)
    if is_of(part, "frame"):
        return document.frames.get(key), pointer("frames", key)
    return document.parts.get(part), pointer("parts", part)


def drawing_at(document: Document, part: str, feature: str = "") -> DrawnIn | None:
    """One of them; None where there is none."""
    record, where = drawn_on_what(document, part)
    found = drawing_in(record, feature)
    if record is None or found is None:
        return None
    steps = own_path(record)
    if feature:
        flange = is_of(feature, "flange")
        steps = ("folding", "flanges", read_owner(feature).key, "drawing") if flange else ("features", feature, "drawing")
    return DrawnIn(part, feature, where + pointer(*steps), found, record.name)
