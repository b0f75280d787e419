"""Hinges, slides, feet, magnets: their bodies against Open CASCADE and formulas, over all sizes and as far as they move."""

import math

import pytest

from zygon.geometry.solid import manifold_of
from zygon.making.flats.exact import is_sound, volume
from zygon.making.hardware.body import HardwareBody
from zygon.making.hardware.leaves import exact_leaf, mesh_of_leaf
from zygon.stock.hardware.catalogue import FAMILIES, by_designation, piece, search

LEAVED = [
    f.piece(size, length)
    for f in FAMILIES.values()
    if f.role in ("hinge", "slide")
    for size in f.rows
    for length in (f.lengths_of(size)[:1] or (None,))
]


def solid(mesh):
    return manifold_of(mesh, list(dict.fromkeys(mesh.owners)))


@pytest.mark.parametrize("h", LEAVED, ids=lambda h: h.name)
def test_a_leaf_is_sound_and_as_large_as_its_blocks_and_drums_make_it(h):
    assert [leaf.key for leaf in h.leaves] == ["a", "b"]
    for leaf in h.leaves:
        exact = exact_leaf(leaf)
        assert is_sound(exact)
        sinks = sum(
            math.pi * (w := (o.sink - o.across) / 2) / 3 * ((o.sink / 2) ** 2 + o.sink * o.across / 4 + (o.across / 2) ** 2)
            - math.pi / 4 * o.across**2 * w
            for o in leaf.holes
            if o.sink and (o.sink - o.across) / 2 <= o.high - o.low
        )
        deep = any((o.sink - o.across) / 2 > o.high - o.low for o in leaf.holes if o.sink)
        if not deep:
            assert volume(exact) == pytest.approx(leaf.volume - sinks, rel=2e-4)
        assert volume(exact) <= leaf.volume + 1e-6
        assert solid(mesh_of_leaf(leaf)).volume() == pytest.approx(volume(exact), rel=0.02)


@pytest.mark.parametrize("h", LEAVED, ids=lambda h: h.name)
def test_leaves_move_without_running_into_one_another(h):
    free = h.freedom
    for share in (0.0, 0.2, 1 / 3, 0.5, 2 / 3, 0.9, 1.0):
        body = HardwareBody(h, None, free.least + share * (free.most - free.least))
        a, b = (solid(m) for m in body.meshes)
        assert (a ^ b).volume() < 1e-3 * min(a.volume(), b.volume())


@pytest.mark.parametrize("h", [x for x in LEAVED if x.freedom.kind == "turns"], ids=lambda h: h.name)
def test_a_hinge_closes_and_opens_flat(h):
    r = -h.leaves[0].lies
    flat = HardwareBody(h, None, math.pi).reach(((1, 0, 0, 0), (0, 1, 0, 0), (0, 0, 1, 0)))
    assert flat[0][2] == pytest.approx(-r) and flat[1][2] == pytest.approx(r, abs=0.02)
    assert flat[1][1] - flat[0][1] == pytest.approx(FAMILIES[h.family].rows[h.size][1])
    shut = HardwareBody(h, None, 0.0)
    # its leaves' backs look away from one another, two knuckles' radii apart, and both leaves lie on one side
    assert shut.places["lies_a"] == pytest.approx((0.0, shut.places["lies_b"][1], -r), abs=1e-6)
    assert shut.places["lies_b"][2] == pytest.approx(r) and shut.places["lies_a"][1] < 0


def test_a_hole_begins_where_its_leaf_lies_on_something():
    for h in LEAVED:
        body = HardwareBody(h, None, h.freedom.drawn)
        for hole in body.holes:
            lies = body.places[f"lies_{hole.leaf}"]
            assert hole.start[2] == pytest.approx(lies[2])
            assert math.dist(hole.start, hole.end) > 0.5


def test_a_mirrored_one_is_the_same_piece_and_its_leaf_goes_the_other_way():
    slide = piece("drawer_slide", "45", 400.0)
    one, other = HardwareBody(slide, None, 100.0), HardwareBody(slide, None, 100.0, mirror=True)
    assert one.alike == other.alike == one.other_hand
    eye = ((1, 0, 0, 0), (0, 1, 0, 0), (0, 0, 1, 0))
    (low, _, _), (high, _, _) = one.reach(eye)
    assert other.reach(eye)[0][0] == pytest.approx(-high) and other.reach(eye)[1][0] == pytest.approx(-low)


def test_masses_by_formula():
    magnet, foot = by_designation("disc magnet - 10 x 3"), by_designation("screw-on foot - 20")
    assert magnet.mass == pytest.approx(math.pi * 25 * 3 * 7.5 / 1000)
    frustum = math.pi * 10 / 3 * (100 + 80 + 64) - math.pi * 2.25**2 * 10
    assert foot.mass == pytest.approx(frustum * 1.2 / 1000)
    # a 50 hinge by its sheet and its knuckle: two leaves of 1.2 less six holes of 3.8, from the knuckle's edge out, and a round of 5.4
    hinge = by_designation("butt hinge - 50")
    sheet = 2 * 50 * (16 - 3.2) * 1.2 + 50 * 3.2 * 1.2
    knuckle = math.pi * 2.7**2 * 50
    segment = 2.7**2 * math.acos(1.5 / 2.7) - 1.5 * math.sqrt(2.7**2 - 1.5**2)
    holes = 6 * math.pi * 1.9**2 * 1.2
    assert hinge.mass == pytest.approx((sheet + knuckle - segment / 2 * 50 - holes) * 7.85 / 1000, rel=1e-6)


@pytest.mark.parametrize(
    ("words", "first"),
    [("hinge 50", "Butt hinge 50"), ("drawer slide 45 x 400", "Ball-bearing drawer slide 45 × 400"), ("magnet 10 x 3", "Disc magnet 10 × 3"),
     ("foot 20", "Screw-on foot 20"), ("bearing 608", "Ball bearing 608"), ("round wood screw 4 x 30", "Wood screw, round head 4 × 30")],
)  # fmt: skip
def test_found_by_what_one_would_ask_for(words, first):
    assert search(words)[0].name == first


@pytest.mark.parametrize(("designation", "moves"), [("butt hinge - 50", "turns, 0 to 270°"), ("ball-bearing drawer slide - 45 x 400", "slides 400 mm"),
                                                    ("ISO 15 - 608", "turns all round")])  # fmt: skip
def test_what_moves_says_how(designation, moves):
    assert by_designation(designation).freedom.words == moves
    assert by_designation("disc magnet - 10 x 3").freedom is None


def test_screws_of_a_hinge_are_those_of_its_holes():
    """A head fills its countersink: it is as wide (DIN 7997, from memory), and the screw goes through."""
    from zygon.stock.hardware.screws import SCREWS

    for h in LEAVED:
        for leaf in h.leaves:
            for hole in leaf.holes:
                head, size = hole.screw
                assert size in SCREWS[head].rows and float(size) < hole.across
                if hole.sink:
                    assert hole.sink == SCREWS[head].head(size)[0]
                else:
                    assert SCREWS[head].head(size)[0] > hole.across
