"""Equal parts are equal: what is taken for its own mirror image, or for another part, lies on it to the hair. Shapely is the referee."""

import math

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.explore import drawn
from zygon.check.overlap import overlap_faults
from zygon.design.draft import Draft
from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.boolean import Region, region_polygon
from zygon.geometry.contour import Contour, circle
from zygon.making.flats.alike import Run, _corners, _merged, _moved, _runs, _turns, alike, rows_of
from zygon.making.flats.handed import handed_flat
from zygon.making.pipeline import build

MIDDLE = ("centre", "0")


def flat(*features):
    d = Draft("d", "ply12", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 120))
    for i, (kind, u, v, more) in enumerate(features):
        d.feature("p", f"f{i}", kind, u, v, **more)
    return build(d.document()).parts["p"].flat


def laid(shape, turn):
    c, s, du, dv = turn
    return shapely.affinity.affine_transform(shape, [c, -s, s, c, du, dv])


def agree(a, b, turn):
    """Whether one flat, laid on the other, covers it: outline with holes, and pockets by face and depth."""
    one, other = (shapely.union_all([region_polygon(p) for p in f.pieces]) for f in (a, b))
    if shapely.symmetric_difference(laid(one, turn), other).area > 0.5:
        return False
    depths = {(p.face, p.depth) for f in (a, b) for p in f.pockets}
    for key in depths:
        x, y = (shapely.union_all([region_polygon(p.region) for p in f.pockets if (p.face, p.depth) == key]) for f in (a, b))
        if shapely.symmetric_difference(laid(x, turn), y).area > 0.5:
            return False
    return True


groove = st.builds(
    lambda along, at, more: (
        "groove",
        MIDDLE if along == "u" else ("left", at),
        ("front", at) if along == "u" else MIDDLE,
        {"along": along, "width": 8, "depth": 4, **more},
    ),
    st.sampled_from("uv"),
    st.sampled_from([20, 40, 60, 80, 100]),
    st.sampled_from([{}, {}, {"length": 40}]),
)
cut = st.builds(
    lambda x, y, w, h: ("rectangle", ("left", x), ("front", y), {"width": w, "height": h}),
    st.sampled_from([40, 60, 100, 140, 160]),
    st.sampled_from([30, 60, 90]),
    st.sampled_from([10, 40]),
    st.sampled_from([10, 40]),
)


@settings(max_examples=drawn(80))
@given(st.lists(st.one_of(groove, cut), min_size=1, max_size=4))
def test_what_counts_as_its_own_mirror_image_lies_on_it(features):
    own = flat(*features)
    if len(own.pieces) != 1:
        return
    image = handed_flat(own)
    turn = alike(own, image)
    if turn is not None:
        assert agree(own, image, turn)
    else:  # and where no half turn or none lays it on, it really is another part
        for c in (1.0, -1.0):
            (x0, y0, x1, y1) = own.bounds
            move = (c, 0.0, 0.0 if c > 0 else x0 + x1, 0.0 if c > 0 else y0 + y1)
            assert not agree(own, image, move)


@pytest.mark.parametrize("at", [40, 80])
def test_a_cross_of_grooves_off_the_middle_is_not_its_own_mirror_image(at):
    """As large, as long and in the same box as its image."""
    own = flat(
        ("groove", ("left", at), MIDDLE, {"along": "v", "width": 8, "depth": 4}),
        ("groove", MIDDLE, ("front", 30), {"along": "u", "width": 8, "depth": 4}),
    )
    assert alike(own, handed_flat(own)) is None
    middle = flat(
        ("groove", MIDDLE, MIDDLE, {"along": "v", "width": 8, "depth": 4}),
        ("groove", MIDDLE, ("front", 30), {"along": "u", "width": 8, "depth": 4}),
    )
    assert alike(middle, handed_flat(middle)) is not None


def test_a_cupboards_sides_with_a_cross_of_grooves_are_a_handed_pair_and_take_the_back():
    d = Draft("d", "ply12", cutter="router")
    d.size("w", "441.3 mm")
    d.board("side", "ply12", "facing_side", "0", ("0", "280 mm"), ("0", "560 mm"))
    d.mirror("m", "x", "w/2", "part:side", names={"side": "side_right"})
    d.board("bottom", "ply12", "lying", "50 mm", ("side.right", "side_right.left"), ("0", "280 mm"))
    d.board("back", "ply12", "facing_front", "250 mm", ("side.right", "side_right.left"), ("bottom.top", "500 mm"))
    d.joint("groove", "bottom", "side", depth="5 mm").joint("groove", "back", "side", depth="5 mm")
    built = build(d.document())
    assert not overlap_faults(built) and built.parts["side@m.1"].handed == -1
    assert math.isclose(built.parts["side"].flat.pockets[0].depth, 5.0)


@pytest.mark.parametrize("bulge", [0.4, -0.4, 1.0, -0.05])
@pytest.mark.parametrize("ends", [((0.0, 0.0), (30.0, 10.0)), ((5.0, 40.0), (5.0, -20.0)), ((12.0, 3.0), (-50.0, 3.0))])
def test_a_contour_is_known_by_its_corners_and_the_middles_of_its_arcs(ends, bulge):
    p, q = ends
    other = (p[0] + 17.0, p[1] + 61.0)
    contour = Contour((p, q, other), (bulge, 0.0, 0.0), ("",) * 3)
    cx, cy, r, start, sweep = arc_from_bulge(p, q, bulge)
    middle = (cx + r * math.cos(start + sweep / 2), cy + r * math.sin(start + sweep / 2))
    found = _corners(contour)
    assert len(found) == 4
    for point in (p, q, other, middle):
        assert min(math.dist(point, x) for x in found) < 1e-9


def test_a_disc_lies_on_its_like_by_four_turns_about_their_middles():
    one, two = (Region(circle(x, y, 20.0)) for x, y in ((60.0, 45.0), (-7.0, 300.0)))
    turns = _turns(_runs(one.outer), _runs(two.outer))
    assert sorted(round(math.degrees(math.atan2(s, c))) % 360 for c, s, *_ in turns) == [0, 90, 180, 270]
    for turn in turns:
        assert _moved((60.0, 45.0), turn) == pytest.approx((-7.0, 300.0))
    assert _turns(_runs(one.outer), _runs(Region(circle(0, 0, 20.01)).outer)) == []


def arc(centre, radius, start, sweep):
    """A run along a circle, angles in degrees."""
    ends = [
        (centre[0] + radius * math.cos(math.radians(x)), centre[1] + radius * math.sin(math.radians(x))) for x in (start, start + sweep)
    ]
    return Run(*ends, math.tan(math.radians(sweep) / 4))


@pytest.mark.parametrize(("start", "first", "second"), [(10, 70, 25), (200, -40, -110), (0, 200, 100), (90, -170, -90)])
def test_arcs_of_one_circle_are_one_run(start, first, second):
    a, b = arc((5, 7), 20, start, first), arc((5, 7), 20, start + first, second)
    found = _merged(a, b)
    assert found is not None and (found.start, found.end) == (a.start, b.end)
    assert math.degrees(4 * math.atan(found.bulge)) == pytest.approx(first + second)


@pytest.mark.parametrize("way", [1, -1])
def test_arcs_of_other_circles_the_other_way_or_once_round_are_two(way):
    a = arc((5, 7), 20, 30, 60 * way)
    end = 30 + 60 * way
    x, y = a.end
    toward = (math.cos(math.radians(end)), math.sin(math.radians(end)))
    assert (
        _merged(a, arc((x - toward[0] * 20.01, y - toward[1] * 20.01), 20.01, end, 60 * way)) is None
    )  # a larger one that goes on smoothly
    assert _merged(a, arc((x + toward[0] * 20, y + toward[1] * 20), 20, end + 180, -60 * way)) is None  # an S
    assert _merged(a, arc((5, 7), 20, end, -60 * way)) is None  # back again
    assert _merged(a, arc((5, 7), 20, end, 300 * way)) is None  # a whole circle has no run to be


def turned(points, degrees, about=(3.0, -8.0), move=(40.0, 25.0)):
    c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    moved = [(x - about[0], y - about[1]) for x, y in points]
    return [(about[0] + c * x - s * y + move[0], about[1] + s * x + c * y + move[1]) for x, y in moved]


@pytest.mark.parametrize("degrees", [0, 37, 90, 200])
@pytest.mark.parametrize(
    ("points", "bulges", "by"),
    [
        ([(0, 0), (60, 0)], (0.5, 0.5), (0, 180)),  # a lens
        ([(0, 0), (60, 0)], (0.5, 0.3), (0,)),  # an egg's end and a flatter one
        ([(0, 0), (50, 0), (25, 25 * math.sqrt(3))], (0.268, 0.268, 0.268), (0, 120, 240)),
        ([(0, 0), (50, 0), (20, 30)], (0.2, 0.2, 0.3), (0,)),
    ],
)
def test_what_is_all_arcs_lies_on_its_like_by_the_turns_that_its_corners_say(points, bulges, by, degrees):
    one, other = (_runs(Contour(tuple(p), bulges, ("",) * len(bulges))) for p in (points, turned(points, degrees)))
    turns = _turns(one, other)
    assert sorted(round(math.degrees(math.atan2(s, c))) % 360 for c, s, *_ in turns) == sorted((degrees + x) % 360 for x in by)
    for turn in turns:
        moved = sorted(_moved(r.start, turn) for r in one)
        assert [x for p in moved for x in p] == pytest.approx([x for r in sorted(other, key=lambda r: r.start) for x in r.start], abs=1e-6)


def test_a_part_with_one_mark_twice_is_not_one_with_two_marks():
    """Each mark lies on one of the other's: two that lie on each other do not both lie on the same one."""
    d = [Draft("d", "ply12", cutter="laser") for _ in range(2)]
    for draft, second in zip(d, (40, 90), strict=True):
        draft.board("p", "ply12", "lying", 0, (0, 200), (0, 120))
        for n, x in enumerate((40, second)):
            draft.feature("p", f"m{n}", "mark_line", ("left", x), ("front", 30), length=20)
    twice, two = (build(x.document()).parts["p"].flat for x in d)
    assert len(twice.engraved) == len(two.engraved) > 1
    assert alike(twice, two) is None and alike(two, twice) is None


@pytest.mark.parametrize(("u", "v"), [(1, 0), (-1, 0), (0, 1), (0, -1)])
def test_a_hole_that_is_aside_by_more_than_rounding_is_aside_whichever_way(u, v):
    """2 µm are rounding."""

    def with_hole(x, y):
        return flat(("hole", ("left", 70 + x), ("front", 47 + y), {"diameter": 8}), ("hole", ("left", 30), ("front", 20), {"diameter": 5}))

    assert alike(with_hole(0, 0), with_hole(u * 0.0015, v * 0.0015)) is not None
    assert alike(with_hole(0, 0), with_hole(u * 0.003, v * 0.003)) is None


@pytest.mark.parametrize(("more", "same"), [(0.0010, True), (0.0012, True), (0.0014, False), (-0.0012, True), (-0.0014, False)])
def test_holes_are_as_large_where_they_are_as_long_around_to_4_micrometres(more, same):
    one, other = (flat(("hole", ("left", 70), ("front", 47), {"diameter": 8 + m})) for m in (0, more))
    assert (alike(one, other) is not None) == same


def handed_pair(**of_second):
    """Two bought brackets, each the mirror image of the other; in the second one some fields are others."""
    d = Draft("d", "galv20")
    for n, (key, side) in enumerate((("one", "left"), ("other", "right"))):
        d.board(key, "galv20", "lying", f"{n * 50} mm", ("0", "200 mm"), ("0", "120 mm"), up="a")
        d.fold(key).flange(key, "wall", "back", "30 mm")
        d.feature(key, "h", "hole", (side, "30 mm"), ("front", "20 mm"), diameter="8 mm")
        d.data["parts"][key] |= {"made": "bought", "price": 4.5} | (of_second if n else {})
    return build(d.document())


@pytest.mark.parametrize("more", [{}, {"price": 4.6}, {"made": "bent"}, {"up": "b"}])
def test_what_is_the_mirror_image_of_another_but_of_another_kind_is_no_pair(more):
    """A handed pair is of one stock, made one way, at one price, with the same face up."""
    built = handed_pair(**more)
    assert [r.handed_of for r in rows_of(built.document, built.parts)] == [0, 0 if more else 1]


def outlined(outer, *features):
    """A board with a drawn outline, and holes in it."""
    d = Draft("d", "ply12", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 200), outline={"kind": "drawn", "outer": outer})
    for i, (u, v) in enumerate(features):
        d.feature("p", f"f{i}", "hole", ("left", u), ("front", v), diameter=7)
    return build(d.document()).parts["p"].flat


def segment(chord, bulge):
    """Area between an arc and its chord."""
    sweep, r = 4 * math.atan(bulge), chord * (1 + bulge**2) / (4 * bulge)
    return r * r * (sweep - math.sin(sweep)) / 2


def test_an_arc_that_bulges_out_is_not_one_that_bulges_in():
    """A plate whose two sides bulge in and out by the same area: as large, as long, with corners in the same places."""
    one = 0.2
    low, high = 0.0, 1.0
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if segment(60, middle) < segment(100, one) else (low, middle)
    out = outlined([[0, 0, one], [100, 0, -low], [100, 60, 0], [0, 60, 0]])
    back = outlined([[0, 0, -one], [100, 0, low], [100, 60, 0], [0, 60, 0]])
    assert abs(out.area - back.area) < 1e-6
    assert alike(out, back) is None and alike(back, out) is None and alike(out, out) is not None


@pytest.mark.parametrize(
    ("first", "second", "same"), [((160, 100), (100, 160), True), ((160, 100), (100, 40), True), ((160, 100), (140, 140), False)]
)
def test_a_disc_is_turned_by_quarters(first, second, same):
    disc = [[0, 100, 1], [200, 100, 1]]
    assert (alike(outlined(disc, first), outlined(disc, second)) is not None) == same


def test_half_a_disc_is_half_a_disc():
    """One arc and one line: it has two sides and is no circle."""
    half, other = [[0, 0, 1], [100, 0, 0]], [[0, 0, 0], [100, 0, 1]]
    turn = alike(outlined(half), outlined(other))
    assert turn is not None and turn[0] == pytest.approx(-1)
    assert alike(outlined(half), outlined([[0, 0, 0.9], [100, 0, 0]])) is None
