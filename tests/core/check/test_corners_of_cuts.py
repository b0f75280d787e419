"""Inside corners are those of the material, and belong to the joint that made them, whichever of their two edges is its."""

import pytest

from zygon.check.process import _inside_corners
from zygon.geometry.contour import polygon

# an L: one inside corner, at (40, 40); material on the left
L = [(0, 0), (100, 0), (100, 40), (40, 40), (40, 100), (0, 100)]


@pytest.mark.parametrize(
    "before, after, owner",
    [
        ("joint:j", "edge:top", "joint:j"),
        ("edge:top", "joint:j", "joint:j"),
        ("joint:j", "joint:k", "joint:j"),
        ("edge:top", "feature:p:h", "feature:p:h"),
    ],
)
def test_an_inside_corner_belongs_to_its_joint(before, after, owner):
    owners = ["edge", "edge", before, after, "edge", "edge"]
    assert _inside_corners(polygon(L, owners).wound(ccw=True)) == [((40, 40), owner)]


def test_a_hole_has_all_its_corners_inside_and_a_board_none():
    square = [(0, 0), (50, 0), (50, 30), (0, 30)]
    hole = polygon(square, "feature:p:h").wound(ccw=False)
    assert {p for p, _ in _inside_corners(hole)} == set(square)
    assert _inside_corners(polygon(square, "edge").wound(ccw=True)) == []
