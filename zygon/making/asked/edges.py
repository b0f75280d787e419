"""The straight edges of a board on which flanges may stand, asked before one does."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.errors import DocumentError
from zygon.geometry.boolean import subtract
from zygon.making.asked.questions import Meeting
from zygon.making.blanks.blank import blank_contours
from zygon.making.features.outlines import shape_outlines
from zygon.making.metal.edges import Edge, plate_edges
from zygon.making.metal.folding import shaped_outline

__all__ = ["edges_of"]


def edges_of(document: Document, key: str) -> dict[str, Edge]:
    """The edges of a board's own outline by name, in its (u, v), mm. Raises DocumentError where it has no place."""
    meeting = Meeting(document)
    blank = meeting.blanks.get(key)
    if blank is None:
        raise DocumentError(f"There is no board {key} with a place", entry="part", value=key, rule="a board of the design")
    shape_outlines(meeting.values, meeting.blanks, meeting.instances)
    outline = [r.outer for r in subtract(blank_contours(blank), [])]
    return plate_edges(blank.frame, outline) | plate_edges(blank.frame, shaped_outline(meeting.values, blank, outline, all_of_them=True))
