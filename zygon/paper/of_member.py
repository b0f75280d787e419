"""What of a straight bar or tube is to be said: the places and sizes of its holes along it, and the angles of its ends."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from zygon.making.result.built import Built, MadePart
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import ENDS
from zygon.owner import is_of, part_id
from zygon.paper.figures import PaperFigures, degrees, times
from zygon.paper.view import Callout, Spot, View
from zygon.tolerance import EPS

__all__ = ["member_places"]


def member_places(built: Built, part: MadePart, view: View) -> View:
    """The view along a member with its holes and its ends' angles. It lies with end A to the left."""
    body = part.body
    assert isinstance(body, MemberBody)
    figures, of = PaperFigures(built.document), part_id(part.of)
    spots, across, callouts = dict(view.spots), [], []
    alike: dict[str, tuple[float, list[tuple[float, float, float]], str]] = {}
    for n, hole in enumerate(h for h in body.holes if not is_of(h.owner, "joint")):
        way, start = np.array(hole.motion.vector((0.0, 0.0, 1.0))), np.array(hole.motion.shift)
        flat = float(way[0] ** 2 + way[1] ** 2)
        if flat < EPS:
            continue
        at = float(start[2] - way[2] * (start[:2] @ way[:2]) / flat)
        name = f"{hole.owner}/hole {n}"
        # v of the member is up on the paper; where the wall is met in sight, else on the axis
        spots[name] = Spot(name, (at, 0.0), "x", "a hole", hole.owner)
        across.append(name)
        wide, long = hole.section.height, max(hole.section.extents)
        walls = ", one wall" if hole.begins is not None else ", through"
        what = (
            f"⌀ {figures.length(wide)}{walls}"
            if hole.section.shape == "round"
            else f"slot {figures.length(wide)} × {figures.length(long)}{walls}"
        )
        alike.setdefault(what, (wide, [], hole.owner))[1].append((at, 0.0, 0.0))
    for what, (wide, places, owner) in alike.items():
        many = times(len(places))
        callouts.append(Callout(f"hole/{owner}", many + what, tuple(places), "diameter", wide, owner))
    x0, _, x1, _ = view.bounds
    for end, x in zip(ENDS, (x0, x1), strict=True):
        saw = body.saw(end)
        if saw.angle is not None and saw.angle > EPS:
            callouts.append(
                Callout(f"end {end}", f"end {end.upper()}: {degrees(saw.angle)} off square", ((x, 0.0, 0.0),), "note", saw.angle, of)
            )
    return replace(view, spots=spots, across=tuple(across), callouts=tuple(callouts))
