"""Reliefs: circles at inside corners only, through the corner, on the side that they are said to bite."""

import math

import pytest

from zygon.geometry.contour import circle, polygon, rectangle
from zygon.making.flats.relief import WIDER, Relief, relief_circles

R = 3.0
SLOT = rectangle(0, 0, 40, 12, "joint:j").wound(ccw=False)  # a hole: material on the left of its travel


def centres(style, contour=SLOT):
    return sorted(c.as_circle for c in relief_circles([contour], Relief(R, (("joint:j", style),))))


def test_a_dog_bone_lies_on_the_bisector_and_holds_the_corner():
    found = centres("dog_bone")
    assert len(found) == 4
    x, y, r = found[0]
    assert (x, y) == pytest.approx((R / math.sqrt(2), R / math.sqrt(2)))
    assert math.hypot(x, y) < r == pytest.approx(R * WIDER)


def test_a_t_bone_bites_into_the_shorter_wall_only():
    for x, y, r in centres("t_bone"):
        assert min(abs(x), abs(x - 40)) < 1e-9  # its middle lies on the end wall
        assert min(y, 12 - y) == pytest.approx(R)  # and it touches the long one, but for its little more
        assert r - min(y, 12 - y) == pytest.approx(R * (WIDER - 1))


def test_outside_corners_and_corners_of_nothing_in_particular_get_none():
    board = rectangle(0, 0, 100, 60, "joint:j")
    assert relief_circles([board], Relief(R, (("joint:j", "dog_bone"),))) == []
    assert relief_circles([SLOT], Relief(R, (("joint:j", "none"),))) == []
    assert relief_circles([SLOT], Relief(R, (("joint:other", "dog_bone"),))) == []
    assert relief_circles([circle(0, 0, 5, "joint:j").wound(ccw=False)], Relief(R, (("joint:j", "dog_bone"),))) == []


def test_a_tabs_root_is_an_inside_corner_of_the_board_that_carries_it():
    tab = polygon(
        [(0, 0), (100, 0), (100, 50), (60, 50), (60, 62), (40, 62), (40, 50), (0, 50)],
        ["", "", "", "joint:j", "joint:j", "joint:j", "", ""],
    )
    found = centres("dog_bone", tab)
    assert [(round(x, 3), round(y, 3)) for x, y, _ in found] == [(40 - 2.121, 50 + 2.121), (60 + 2.121, 50 + 2.121)]
