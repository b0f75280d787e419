"""Parts that are cut away have no solid to show; bores in figures are as deep and as wide as they are, from whichever side."""

import math

import pytest

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.making.pipeline import build
from zygon.screen.design import built_data, part_resources
from zygon.screen.joint_figure import _holes


def test_a_part_that_is_cut_away_has_nothing_to_show_and_the_others_do():
    d = Draft("d", "ply12")
    d.board("gone", "ply12", "lying", 0, (0, 100), (0, 50))
    d.board("here", "ply12", "lying", 40, (0, 120), (0, 50))
    d.feature("gone", "all", "rectangle", ("centre", 0), ("centre", 0), width=200, height=100)
    built = build(d.document())
    sent = part_resources(built)
    parts = {p["key"]: p for p in built_data(built, check(built))["parts"]}
    assert parts["here"]["solid"] in sent
    assert not parts.get("gone", {}).get("solid")
    assert sum(key.startswith("solid") for key in sent) == 1


@pytest.mark.parametrize("side", ["left", "right", "front", "back"])
def test_a_bore_is_drawn_as_deep_and_as_wide_as_it_is(side):
    d = Draft("d", "ply18")
    d.board("shelf", "ply18", "lying", 100, (50, 250), (30, 190))
    at = {"left": ("left", 90), "right": ("right", 90), "front": ("front", 140), "back": ("back", 140)}[side]
    d.feature(
        "shelf",
        "h",
        "edge_hole",
        ("left", at[1] if side in ("front", "back") else 0),
        ("front", at[1] if side in ("left", "right") else 0),
        edge=side,
        diameter=8,
        depth=31,
    )
    part = build(d.document()).flats["shelf"]
    (bore,) = part.flat.bores
    along = "x" if side in ("left", "right") else "y"
    across = "y" if along == "x" else "x"
    middle = 30 + 90 if along == "x" else 50 + 140
    # seen from above through its middle, and from the end
    (seen,) = _holes(part, "z", 100 + bore.w, "x", "y")
    x0, y0, x1, y1 = seen.bounds
    long, wide = (x1 - x0, y1 - y0) if along == "x" else (y1 - y0, x1 - x0)
    assert (long, wide) == pytest.approx((31, 8))
    edge = {"left": 50, "right": 250, "front": 30, "back": 190}[side]
    ends = (x0, x1) if along == "x" else (y0, y1)
    assert ends == pytest.approx((edge, edge + 31) if side in ("left", "front") else (edge - 31, edge))
    # a plane beside it sees nothing of it, one that just touches neither
    for off, count in ((3.99, 1), (4.0, 0), (4.01, 0)):
        assert len(_holes(part, across, middle + off, along, "z")) == count
    assert math.isclose(bore.diameter, 8)
