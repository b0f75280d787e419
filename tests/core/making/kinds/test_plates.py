"""What a part in a plane tells of itself, whole or eaten up, and what a broken place leaves of it."""

import pytest

from zygon.design.draft import Draft
from zygon.making.kinds.base import Sizes
from zygon.making.kinds.registry import layers_of_part, meshes_of, sizes_of, volume_of_part
from zygon.making.pipeline import build

PLANES = ["lying", "facing_front", "facing_side"]


def plate(plane, eaten):
    d = Draft("p", "ply18").board("p", "ply18", plane, "0", ("10 mm", "110 mm"), ("5 mm", "75 mm"))
    if eaten:
        d.feature("p", "all", "rectangle", ("centre", "0"), ("centre", "0"), width="120 mm", height="90 mm")
    return build(d.document()).made["p"]


@pytest.mark.parametrize("plane", PLANES)
def test_sizes_of_what_is_there(plane):
    part = plate(plane, False)
    assert sizes_of(part) == Sizes(100, 70, 17.7, 7000)
    assert volume_of_part(part) == pytest.approx(7000 * 17.7)
    assert [(x.low, x.high) for x in layers_of_part(part)] == [(0, 17.7)]
    assert sum(m.moments()[0] for m in meshes_of(part)) == pytest.approx(7000 * 17.7)


@pytest.mark.parametrize("plane", PLANES)
def test_what_is_cut_away_whole_has_its_thickness_and_no_area(plane):
    part = plate(plane, True)
    assert part.body.empty and sizes_of(part) == Sizes(None, None, 17.7, 0)
    assert part.reaches == ((0, 0, 0), (0, 0, 0))


@pytest.mark.parametrize("kind", ["rod", "board"])
def test_a_part_without_a_place_is_listed_and_stale(kind):
    d = Draft("p", "ply18", "beech12")
    if kind == "rod":
        d.rod("p", "beech12", "x", ("0", "nobody.left"), y="0", z="0")
    else:
        d.board("p", "ply18", "lying", "0", ("0", "nobody.left"), ("0", "20 mm"))
    built = build(d.document())
    assert built.made == {} and built.parts["p"].stale and built.parts["p"].of == "p"
    assert [f.code for f in built.faults] == ["broken_expression"]
