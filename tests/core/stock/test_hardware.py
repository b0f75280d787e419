"""Screws and dowels against the tables of the trade."""

import pytest

from zygon.making.pipeline import build
from zygon.stock.hardware.holes import CLEARANCE, clearance
from zygon.stock.hardware.wood import DOWELS, dowel_for, screw, screw_length

# ISO 273, clearance holes fine, medium, coarse (values from memory)
ISO_273 = {
    "3": (3.2, 3.4, 3.6),
    "4": (4.3, 4.5, 4.8),
    "5": (5.3, 5.5, 5.8),
    "6": (6.4, 6.6, 7.0),
    "8": (8.4, 9.0, 10.0),
    "10": (10.5, 11.0, 12.0),
}


@pytest.mark.parametrize("size", ISO_273)
def test_clearance_holes_are_those_of_iso_273(size):
    assert tuple(clearance(size, f) for f in ("fine", "medium", "coarse")) == ISO_273[size]


@pytest.mark.parametrize("size", ["3", "3.5", "4", "4.5", "5", "6"])
def test_a_wood_screws_head_is_twice_its_diameter_and_its_pilot_less_than_its_core(size):
    # DIN 7997: countersunk wood screws, head 2 d, 90 degrees (from memory); pilot about 0.7 d (common practice)
    found = screw(size)
    assert found.head == pytest.approx(2 * float(size))
    assert 0.6 <= found.pilot / float(size) <= 0.75
    assert found.pilot < float(size) < found.clearance < found.head
    assert found.clearance == CLEARANCE[size][1]


def test_dowels_follow_the_boards_thickness():
    # common practice: 6 mm dowels in a 12 mm board
    assert [dowel_for(t) for t in (9, 12, 15, 18, 24)] == [4, 6, 8, 8, 12]
    assert dowel_for(1) == DOWELS[0]


def test_screw_lengths_are_ones_that_are_sold():
    assert screw_length(37, 60) == 35 and screw_length(37, 30) == 30 and screw_length(5, 3) == 12


def test_a_6_mm_dowel_goes_25_deep_into_the_end_of_a_12_board_and_10_into_the_face_of_a_15_one():
    # common practice
    from tests.core.making.joints.pairs import pair

    details = build(pair("dowels", 12, 15).document()).joints["a-b"].details
    assert (details["diameter"], details["depth_edge"], details["depth_face"]) == (6, 25, 10)


def test_every_length_of_the_trade_is_found_by_its_own_name():
    """The lengths that wood screws are sold in (common practice)."""
    sold = (12, 16, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 120)
    assert [screw_length(x, 500) for x in sold] == list(sold)
    assert sorted({screw_length(x / 4, 500) for x in range(600)}) == list(sold)


def test_clearance_holes_are_those_of_the_standard():
    """ISO 273, fine, medium and coarse (values from memory)."""
    assert CLEARANCE == {
        "2": (2.2, 2.4, 2.6),
        "2.5": (2.7, 2.9, 3.1),
        "3": (3.2, 3.4, 3.6),
        "3.5": (3.7, 3.9, 4.2),
        "4": (4.3, 4.5, 4.8),
        "4.5": (4.8, 5.0, 5.3),
        "5": (5.3, 5.5, 5.8),
        "6": (6.4, 6.6, 7.0),
        "8": (8.4, 9.0, 10.0),
        "10": (10.5, 11.0, 12.0),
        "12": (13.0, 13.5, 14.5),
    }
    for size, holes in CLEARANCE.items():
        assert [clearance(size, fit) for fit in ("fine", "medium", "coarse")] == list(holes)
