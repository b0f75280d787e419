"""A flat's mirror image: what is cut for the other hand. Engraved text is mirrored in its place only, so that it still reads right."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from zygon.geometry.boolean import Region
from zygon.geometry.contour import Contour
from zygon.geometry.frame import FACES
from zygon.making.result.flat import Flat
from zygon.making.result.fold import mirrored
from zygon.making.result.operations import EdgeBore, Mark
from zygon.memo import Memo, digest

__all__ = ["handed_flat"]

_HANDED = Memo(2000)
_OTHER = {word: pair[1 - i] for pair in FACES.values() for i, word in enumerate(pair)}


def handed_flat(flat: Flat) -> Flat:
    """The flat mirrored left for right about its own middle, its faces as they were."""
    return _HANDED.get(flat.digest, lambda: _handed(flat))[0]


def _handed(flat: Flat) -> Flat:
    if not flat.pieces:
        return flat
    x0, _, x1, _ = flat.bounds
    middle = x0 + x1

    def turn(c: Contour) -> Contour:
        return c.moved(middle, 0.0, mirrored=True)

    return Flat(
        tuple(Region(turn(p.outer), tuple(turn(i) for i in p.inner)) for p in flat.pieces),
        _marks(flat.engraved, middle),
        flat.thickness,
        digest("handed", flat.digest),
        tuple(p.mapped(turn) for p in flat.pockets),
        tuple(replace(b, on_a=turn(b.on_a), on_b=turn(b.on_b)) for b in flat.bevels),
        tuple(replace(s, u=middle - s.u) for s in flat.sinks),
        tuple(_bore(b, middle) for b in flat.bores),
        tuple(b.mirrored(middle) for b in flat.skew_bores),
        tuple(e.mapped(turn) for e in flat.edges),
        tuple(b.mapped(turn) for b in flat.bands),
        flat.seen,
        mirrored(flat.fold, middle, turn, over=False) if flat.fold else None,
    )


def _marks(marks: tuple[Mark, ...], middle: float) -> tuple[Mark, ...]:
    """Lines and circles are mirrored; the strokes of one text move with their text's middle and stay as they read."""
    by_owner: dict[tuple[str, str], list[Mark]] = {}
    for m in marks:
        by_owner.setdefault((m.owner, m.face), []).append(m)
    found = []
    for group in by_owner.values():
        if not group[0].reads:
            found += [replace(m, contour=m.contour.moved(middle, 0.0, mirrored=True)) for m in group]
            continue
        boxes = [m.contour.bounds for m in group]
        centre = (min(b[0] for b in boxes) + max(b[2] for b in boxes)) / 2
        found += [replace(m, contour=m.contour.moved(middle - 2 * centre, 0.0)) for m in group]
    return tuple(found)


def _bore(bore: EdgeBore, middle: float) -> EdgeBore:
    if bore.across == "v":
        return replace(bore, along=middle - bore.along)
    side: Literal["low", "high"] = "low" if bore.side == "high" else "high"
    return replace(bore, at=middle - bore.at, side=side, edge=_OTHER.get(bore.edge, bore.edge))
