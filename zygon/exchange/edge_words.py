"""What runs along a part's edges, in words for lists and screens: profiles with their bit, bands with the size that is cut."""

from __future__ import annotations

from collections.abc import Iterable

from zygon.design.document import Document
from zygon.design.outlines import drawing_of
from zygon.geometry.frame import across
from zygon.making.flats.face_words import face_word
from zygon.making.flats.flat import lying
from zygon.making.result.built import FlatPart
from zygon.making.result.operations import Band, EdgeWork
from zygon.measure.display import format_length
from zygon.owner import read_owner

__all__ = ["bit_words", "edge_words", "edges_in_words"]

_BITS = {"round": "rounded over", "chamfer": "chamfered", "cove": "hollowed"}


def edges_in_words(document: Document, part: FlatPart) -> list[str]:
    """What is worked along a part's edges, and glued on them; both faces of one feature together."""
    found = []
    by_owner: dict[str, list[EdgeWork]] = {}
    for e in part.flat.edges:
        by_owner.setdefault(e.owner, []).append(e)
    for works in by_owner.values():
        faces = {w.face for w in works}
        on = "both faces" if len(faces) > 1 else f"{face_word(part, works[0].face)} face"
        found.append(f"{edge_words(part, works[0])} {bit_words(document, works[0])}, {on}")
    for b in part.flat.bands:
        found.append(f"{edge_words(part, b)} banded, {format_length(b.thickness, document.display)} {b.of}")
    if part.flat.bands:
        wide, high = (format_length(x, document.display) for x in lying(part).size)
        found.append(f"cut {wide} x {high}")
    return found


def bit_words(document: Document, e: EdgeWork) -> str:
    """What a profile makes of an edge, with the size of its bit."""
    size = format_length(e.width, document.display)
    if e.shape == "chamfer":
        down = f" x {format_length(e.height, document.display)}" if e.height != e.width else ""
        return f"{_BITS[e.shape]} {size}{down}"
    return f"{_BITS[e.shape]} R {size}"


def edge_words(part: FlatPart, o: EdgeWork | Band) -> str:
    """Which edges, by their words or the names of their lines."""
    if not o.edges:
        return "edges"
    return ", ".join(_named(part, o.edges))


def _named(part: FlatPart, edges: Iterable[str]) -> Iterable[str]:
    drawing = drawing_of(part.record)
    for edge in edges:
        key = read_owner(edge).key
        if drawing is None:
            yield f"{across(key, part.mirrored)} edge"  # a mirror image's edges are called as they lie
            continue
        pieces = [c for k, c in drawing.curves.items() if drawing.edge_of(k) == key]
        yield next((c.name.replace("_", " ") for c in pieces if c.name), key)
