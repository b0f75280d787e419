"""Clamps: no cut runs into them, and the head goes over them."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import shapely

from zygon.toolpath.chosen import words
from zygon.toolpath.milling import Milling
from zygon.toolpath.routed import Clamped, Milled

__all__ = ["clamp_faults"]

#: The head passes so far over a clamp, at least (mm).
OVER = 1.0


def clamp_faults(cuts: Iterable[Milled], m: Milling, clamps: Sequence[Clamped]) -> list[str]:
    """Sentences on clamps that a bit would run into."""
    if not clamps:
        return []
    found = [
        f"The head moves {m.safe:g} mm over the sheet, and the clamp {c.name} is {c.height:g} mm high: raise the safe height"
        for c in clamps
        if m.safe < c.height + OVER
    ]
    boxes = [shapely.box(*c.box) for c in clamps]
    wide = {b.key: b.diameter for b in m.bits}
    said = set()
    for cut in cuts:
        for leg in (leg for dip in cut.dips for leg in dip):
            places = leg.run.flatten(0.1)
            line = shapely.LineString(places) if len(places) > 1 else shapely.Point(places[0])
            for clamp, box in zip(clamps, boxes, strict=True):
                if (cut.key, clamp.name) not in said and shapely.dwithin(line, box, wide[cut.bit] / 2):
                    said.add((cut.key, clamp.name))
                    found.append(
                        f"{words(cut.key) or 'A register hole'} is cut where the clamp {clamp.name} is: move the clamp, or the part in Nest"
                    )
    return found
