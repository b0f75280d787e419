"""Retaining rings in the grooves of rods and members, where they lie."""

from __future__ import annotations

from collections.abc import Iterator

from zygon.geometry.motion import Motion, moving
from zygon.making.result.built import Built, MadePart
from zygon.making.result.hardware import SetPiece
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.stock.hardware.catalogue import piece
from zygon.stock.hardware.pins import ring_for

__all__ = ["rings_of"]


def rings_of(built: Built) -> Iterator[tuple[MadePart, SetPiece]]:
    """Every retaining ring of a design with the part that it is on; it lies against the wall of its groove that is nearer to the end."""
    for part in built.made.values():
        body = part.body
        if not isinstance(body, MemberBody | BentBody):
            continue
        for tip, place in body.tipped():
            if not tip.groove:
                continue
            size = ring_for(body.section.height)
            if size is None:
                continue
            ring = piece("shaft_ring", size)
            high = ring.span[1]
            (a, b, c) = ((r[0], r[1], r[2], r[3]) for r in part.matrix[:3])
            motion = Motion((a, b, c)) @ place @ moving((0.0, 0.0, -tip.groove[0] - high))
            yield part, SetPiece(ring, motion.rounded())
