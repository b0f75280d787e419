"""Flanges on any straight edge: of drawn plates of many corners, of cut corners and tapers; named by where they look, folded whole and closed."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.joints.pairs import solid
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.errors import DocumentError
from zygon.geometry.boolean import to_polygon
from zygon.making.asked.edges import edges_of
from zygon.making.pipeline import build

PLANES = {
    "lying": ("left", "right", "front", "back"),
    "facing_front": ("left", "right", "bottom", "top"),
    "facing_side": ("front", "back", "bottom", "top"),
}


def plate(points, plane="lying"):
    """A plate of a drawn outline, its low corner at nought."""
    x0, y0 = (min(p[i] for p in points) for i in (0, 1))
    points = [(x - x0, y - y0) for x, y in points]
    size = [max(p[i] for p in points) for i in (0, 1)]
    d = Draft("plate", "galv20")
    d.board("p", "galv20", plane, 0, (0, size[0]), (0, size[1]), up="a")
    d.data["parts"]["p"]["outline"] = {"kind": "drawn", "source": "", "outer": [[x, y, 0.0] for x, y in points], "inner": []}
    return d.fold("p")


def regular(n, r=100.0, turned=0.5):
    return [(r * math.cos(2 * math.pi * (i + turned) / n), r * math.sin(2 * math.pi * (i + turned) / n)) for i in range(n)]


def whole(built):
    """One piece that is as much metal bent as it is flat, and nothing wrong with it."""
    assert not built.faults and not [p.fault.code for p in check(built) if p.fault.severity == "error" and p.fault.code != "bend_order"]
    part = built.flats["p"]
    body = solid(part)
    assert len(part.flat.pieces) == 1 and len(body.decompose()) == 1
    area = sum(to_polygon(r.outer).area - sum(to_polygon(c).area for c in r.inner) for r in part.flat.pieces)
    assert body.volume() == pytest.approx(area * part.flat.thickness, rel=0.02)
    return part


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize(
    ("n", "names"),
    [
        (3, {"1+", "0-3+", "0-2-"}),
        (5, {"1+", "2-", "3+", "0-3+", "0-2-"}),
        (6, {"0-", "1+", "0-2-", "1+2-", "1+3+", "0-3+"}),
        (8, {"0-", "1+", "2-", "3+", "0-2-", "1+2-", "1+3+", "0-3+"}),
    ],
)
def test_edges_are_called_by_where_they_look(plane, n, names):
    words = PLANES[plane]
    expected = {"-".join(words[int(c)] for c in name if c.isdigit()) for name in names}
    d = plate(regular(n), plane)
    found = edges_of(d.document(), "p")
    assert set(found) == expected and len(found) == n
    for name, (p, q) in found.items():  # and so they look
        normal = (q[1] - p[1], p[0] - q[0])
        for word in name.partition("_")[0].split("-"):
            k = words.index(word)
            assert normal[k // 2] * (1, -1)[k % 2 == 0] > 0, (name, normal)


def test_several_on_one_side_are_counted_round_the_outline():
    step = [(0, 0), (60, 0), (60, 30), (120, 30), (120, 0), (200, 0), (200, 100), (0, 100)]
    found = edges_of(plate(step).document(), "p")
    assert list(found)[:4] == ["front", "right", "back", "left"]
    assert found["front"] == ((120, 0), (200, 0)) and found["front_2"] == ((0, 0), (60, 0))
    assert (
        found["front_3"] == ((60, 30), (120, 30)) and found["right_2"] == ((60, 0), (60, 30)) and found["left_2"] == ((120, 30), (120, 0))
    )


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("toward", "ab")
@pytest.mark.parametrize("n", [3, 5, 6, 7, 8])
def test_a_tray_of_many_sides_is_one_piece_with_closed_corners(n, toward, plane):
    d = plate(regular(n, turned=0.3), plane)
    for i, name in enumerate(edges_of(d.document(), "p")):
        d.flange("p", f"f{i}", name, "30", toward=toward)
    part = whole(build(d.document()))
    low, high = part.reaches
    k = "xyz".index(part.frame.normal)
    assert high[k] - low[k] == pytest.approx(30, abs=1e-6)
    assert len(part.fold.bends) == n


@settings(max_examples=25)
@given(
    st.integers(5, 8),
    st.floats(0, 1),
    st.sets(st.integers(0, 7), min_size=1, max_size=5),
    st.sampled_from(["40", "63", "90", "105"]),
    st.sampled_from(["outside", "inside", "edge"]),
    st.sampled_from("ab"),
)
def test_some_edges_of_any_polygon_bend_by_any_angle(n, turned, which, angle, where, toward):
    d = plate(regular(n, turned=turned))
    names = list(edges_of(d.document(), "p"))
    for i in sorted(which):
        if i < len(names):
            d.flange("p", f"f{i}", names[i], "22", angle=f"{angle} deg", where=where, toward=toward)
    whole(build(d.document()))


@pytest.mark.parametrize("corner", ["left-front", "right-front", "left-back", "right-back"])
@pytest.mark.parametrize("beside", [False, True])
def test_a_cut_corner_takes_a_flange_and_its_neighbours_meet_it(corner, beside):
    d = Draft("cut", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 200), (0, 160), up="a")
    d.feature("p", "c", "corner", ("centre", 0), ("centre", 0), corner=corner, style="cut", size="40")
    assert corner in edges_of(d.document(), "p")
    d.fold("p")
    for i, edge in enumerate([corner, *(corner.split("-") if beside else ())]):
        d.flange("p", f"f{i}", edge, "25")
    part = whole(build(d.document()))
    bend = part.fold.bends[0]
    assert abs(math.atan2(bend.outward[1], bend.outward[0])) % (math.pi / 2) == pytest.approx(math.pi / 4)
    if not beside:
        assert math.dist(bend.start, bend.end) == pytest.approx(40 * math.sqrt(2))


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
@pytest.mark.parametrize(("low", "high"), [("0", "25"), ("30", "0"), ("10", "20")])
def test_a_tapered_edge_bends_along_its_slant(edge, low, high):
    d = Draft("taper", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 200), (0, 160), up="a")
    d.feature("p", "t", "taper", ("centre", 0), ("centre", 0), edge=edge, low=low, high=high)
    d.fold("p").flange("p", "f", edge, "25")
    part = whole(build(d.document()))
    run = 160 if edge in ("left", "right") else 200
    along = part.fold.bends[0].along
    assert sorted(abs(x) for x in along) == pytest.approx(
        sorted((abs(float(high) - float(low)) / math.hypot(run, float(high) - float(low)), run / math.hypot(run, float(high) - float(low))))
    )


def test_without_flanges_on_them_corners_are_cut_as_before():
    d = Draft("cut", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 200), (0, 160), up="a")
    d.feature("p", "c", "corner", ("centre", 0), ("centre", 0), corner="left-front", style="cut", size="40")
    d.fold("p").flange("p", "f", "back", "25")
    part = whole(build(d.document()))
    assert any("feature:p:c" in r.outer.owners for r in part.flat.pieces)


@pytest.mark.parametrize(
    ("edge", "more", "said"),
    [
        ("top", {}, "has the edges"),
        ("left-right", {}, "has the edges"),
        ("front-left", {}, "has the edges"),
        ("left-front", {"extent": "room", "second": "30 mm"}, "along an axis"),
    ],
)
def test_an_edge_that_cannot_be_is_refused(edge, more, said):
    d = Draft("no", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 200), (0, 160), up="a")
    d.fold("p").flange("p", "f", edge, "25", **more)
    with pytest.raises(DocumentError, match=said):
        d.document()


def test_an_edge_that_is_not_there_is_said():
    d = Draft("no", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 200), (0, 160), up="a")
    d.fold("p").flange("p", "f", "left-front", "25")
    (fault,) = build(d.document()).faults
    assert fault.code == "no_edge" and "left-front" in fault.message
