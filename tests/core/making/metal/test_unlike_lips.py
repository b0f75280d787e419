"""Lips on walls that lean unlike meet in a mitre: none runs into another or into a wall, and they come near each other in every corner."""

import itertools

import numpy as np
import pytest

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.making.pipeline import build
from zygon.making.result.fold import face_motions
from zygon.tolerance import SAGITTA

EDGES = ("left", "right", "front", "back")
WALLS = list(itertools.product((60, 75, 90, 100), repeat=2))


def tray(side, end, lips, *, toward="a", lip="12", style="closed"):
    """Walls of two leans, each with a lip bent inward at its top: ``lips`` by the lean of its wall."""
    d = Draft("tray", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 200), (0, 160), up="a")
    d.fold("p", corner=style)
    for edge in EDGES:
        lean = side if edge in ("left", "right") else end
        d.flange("p", edge, edge, "40", angle=f"{lean} deg", toward=toward)
        d.flange("p", f"{edge}_lip", "end", lip, on=edge, angle=f"{lips(lean)} deg", toward=toward)
    return build(d.document())


def corners_of(part, key):
    """The corners of a lip's face as it stands."""
    fold = part.fold
    i = next(i for i, f in enumerate(fold.faces) if f.key == key)
    points = np.array([p for c in fold.faces[i].outline for p in c.flatten(SAGITTA)])
    return face_motions(fold)[i].points(np.column_stack((points, np.full(len(points), part.flat.thickness / 2))))


def wrong(built):
    return [
        (p.fault.code, p.fault.message)
        for p in check(built)
        if p.fault.code in ("folds_into_itself", "flat_overlaps", "flange_cut_away", "pieces")
    ]


@pytest.mark.parametrize("lips", ["square", "level"])
@pytest.mark.parametrize(("side", "end"), WALLS)
def test_lips_of_unlike_walls_stay_clear_of_each_other_and_meet(side, end, lips):
    built = tray(side, end, (lambda lean: 90) if lips == "square" else (lambda lean: lean))
    assert not built.faults and not wrong(built)
    part = built.flats["p"]
    for a, b in itertools.product(("left_lip", "right_lip"), ("front_lip", "back_lip")):
        one, other = corners_of(part, a), corners_of(part, b)
        apart = min(float(np.linalg.norm(p - q)) for p in one for q in other)
        # no farther apart than the walls' tops lie at unlike heights, and what a bend takes of each
        assert apart < 4 + abs(np.sin(np.radians(side)) - np.sin(np.radians(end))) * 40 + abs(side - end) * 0.12, (a, b, apart)


@pytest.mark.parametrize("style", ["closed", "a_covers", "b_covers"])
@pytest.mark.parametrize("toward", ["a", "b"])
def test_toward_both_faces_and_in_every_closed_corner(toward, style):
    assert not wrong(tray(90, 70, lambda lean: 90, toward=toward, style=style))


def test_longer_lips_meet_too():
    assert not wrong(tray(90, 65, lambda lean: 90, lip="35"))
