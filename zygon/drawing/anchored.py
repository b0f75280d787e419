"""A drawing that may lie anywhere, held by one of its points while it is led by hand, so that it does not drift off under the hand."""

from __future__ import annotations

from collections.abc import Collection

from zygon.drawn.drawing import Drawing, Reference, Relation

__all__ = ["anchored"]

#: A key that no gesture makes.
ANCHOR = "anchor-{}"


def anchored(drawing: Drawing, ways: Collection[str], but: Collection[str]) -> Drawing:
    """The drawing with its first point, but for some, held along the ways ('x', 'y') in which it refers to nothing."""
    point = next((k for k in drawing.points if k not in but), None)
    if point is None or not ways:
        return drawing
    at = drawing.points[point]
    seen = {"x": [at.x, 0.0, at.x, 1.0], "y": [0.0, at.y, 1.0, at.y]}
    lines = {ANCHOR.format(way): Reference(kind="line", seen=seen[way]) for way in ways}
    held = {key: Relation(kind="on", of=[point, key], order=10**6) for key in lines}
    return drawing.model_copy(update={"references": {**drawing.references, **lines}, "relations": {**drawing.relations, **held}})
