"""Sections that are drawn: what was said comes out the same, hollows and all; bars of them are sawn, joined, bent, drilled and told apart like the rest."""

import math

import numpy as np
import pytest

from tests.core.making.tube.frames import SECTIONS, key, section_of, stocked, two
from tests.core.making.tube.test_joined import fine, volume
from tests.core.shared import edited
from zygon.check.run import check
from zygon.edits.drawings.begin_section import begin_section
from zygon.edits.drawings.relate import relate
from zygon.geometry.boolean import region_polygon
from zygon.making.asked.drawings.of import place_of
from zygon.making.kinds.registry import exact_of, meshes_of, volume_of_part
from zygon.making.pipeline import build
from zygon.making.tube.mesh import member_mesh
from zygon.measure.entry import Entry
from zygon.owner import stock_id


def drawn(built, *names):
    for name in names:
        built = edited(built, begin_section(built, stock_id(key(name)))[1])
    return built


def closed(corners):
    """A loop of lines through corners, as records: points, curves."""
    return corners, [(n, (n + 1) % len(corners)) for n in range(len(corners))]


def drawing(*loops):
    points, curves = {}, {}
    for corners, pairs in loops:
        at = len(points)
        points |= {f"p{at + n}": {"x": x, "y": y} for n, (x, y) in enumerate(corners)}
        curves |= {f"c{at + n}": {"kind": "line", "a": f"p{at + a}", "b": f"p{at + b}", "order": at + n} for n, (a, b) in enumerate(pairs)}
    return {"points": points, "curves": curves}


#: An extrusion of two chambers with a fin: no quarter turn or mirror lays it on itself.
PROFILE = drawing(
    closed([(0, 0), (50, 0), (50, 8), (60, 8), (60, 11), (50, 11), (50, 30), (0, 30)]),
    closed([(3, 3), (22, 3), (22, 27), (3, 27)]),
    closed([(25, 3), (47, 3), (47, 27), (25, 27)]),
)
AREA = 50 * 30 + 10 * 3 - 19 * 24 - 22 * 24


def of_profile(d, record=PROFILE):
    d.data["stocks"]["own"] = {
        "kind": "bar", "name": "own", "shape": "drawn", "drawing": record, "nominal": {"text": "30"}, "material": "aluminium", "density": 2.7,
        "tint": "#9FA8B0", "lengths": {"bar": {"length": {"text": "6 m"}, "price": 30}},
    }  # fmt: skip
    return d


@pytest.mark.parametrize("name", SECTIONS)
def test_a_section_that_is_drawn_is_the_one_that_was_said(name):
    built = build(stocked(name).document())
    after = drawn(built, name)
    assert after.faults == ()
    place, _ = place_of(after, stock_id(key(name)))
    section, said = place.values.sections[key(name)], section_of(name)
    assert section.shape == "drawn"
    assert section.extents == pytest.approx(said.extents, abs=1e-6)
    assert section.area == pytest.approx(said.area, rel=1e-7)
    assert section.mirrored.area == pytest.approx(said.area, rel=1e-7)
    assert len(section.region.inner) == len(said.region.inner)


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("wide", ["first", "second"])
def test_a_rod_of_it_is_as_long_and_as_heavy_as_its_area_says(axis, wide):
    d = of_profile(stocked())
    across = [a for a in "xyz" if a != axis]
    d.rod("bar", "own", axis, ("10", "310"), **dict.fromkeys(across, "100"))
    d.data["parts"]["bar"]["wide"] = across[0 if wide == "first" else 1]
    built = build(d.document())
    assert built.faults == ()
    part = built.made["bar"]
    assert volume_of_part(part) == pytest.approx(AREA * 300, rel=1e-9)
    assert volume(exact_of(part)) == pytest.approx(AREA * 300, rel=1e-9)
    low, high = np.array(part.box.low), np.array(part.box.high)
    sizes = dict(zip("xyz", high - low, strict=True))
    first, second = (60, 30) if wide == "first" else (30, 60)
    assert (sizes[across[0]], sizes[across[1]], sizes[axis]) == pytest.approx((first, second, 300))


@pytest.mark.parametrize(
    ("one", "other"), [("own", "square tube"), ("square tube", "own"), ("own", "angle"), ("angle", "own"), ("own", "own")]
)
@pytest.mark.parametrize("turn", [0, 90, 180, 270])
def test_its_ends_are_butted_and_mitred(one, other, turn):
    for joint, far in (("member_butt", (0, 0, 300)), ("member_mitre", (0, 0, 300))):
        d = of_profile(
            two(
                *(n if n != "own" else "flat" for n in (one, other)),
                [(400, 0, 0), far],
                joint,
                turns=(0, turn),
                span=(0, 1) if joint == "member_mitre" else (-1, 1),
            )
        )
        for name, section in (("one", one), ("other", other)):
            if section == "own":
                record = next(p for p in d.data["parts"].values() if p["name"] == name)
                record["stock"] = "own"
        built = build(d.document())
        assert not built.faults
        if not built.joints["one-other"].refused:
            fine(built)
            assert not {p.fault.code for p in check(built)} & {"overlap"}


def test_its_mirror_image_is_another_piece_and_one_that_is_turned_is_not():
    d = of_profile(stocked())
    d.frame(
        "f",
        {"p": ("0", "0", "0"), "q": ("300", "0", "0"), "r": ("0", "200", "0"), "s": ("300", "200", "0")},
        {"l": ("p", "q"), "m": ("r", "s")},
    )
    d.member("one", "own", "f", "l", against="z")
    d.member("other", "own", "f", "m", against="z", turn="90 deg")
    d.mirror("m", "y", "500 mm", "part:one", name="m")
    built = build(d.document())
    assert not built.faults
    one, other = built.made["one"], built.made["other"]
    image = next(p for k, p in built.made.items() if k.startswith("one@"))
    assert one.body.alike == other.body.alike
    # it lies on itself end for end only in a mirror: as a mirror image it is its own piece, seen from the other end the same
    flipped = member_mesh(image.body).moments()[0]
    assert flipped == pytest.approx(member_mesh(one.body).moments()[0])


def test_it_is_bent_along_its_own_middle():
    d = of_profile(stocked())
    d.frame("f", {"p": ("0", "0", "0"), "q": ("400", "0", "0"), "r": ("400", "400", "0")}, {"l": ("p", "q"), "m": ("q", "r")})
    d.member("one", "own", "f", "l", "m", against="z", radius="120 mm")
    built = build(d.document())
    assert built.faults == ()
    part = built.made["one"]
    straight = 2 * (400 - 120)
    # by Pappus: the area's own middle runs round the bend
    off = region_polygon(part.body.region).centroid.x
    known = [AREA * (straight + math.pi / 2 * (120 - side * off)) for side in (1, -1)]
    assert any(volume(exact_of(part)) == pytest.approx(v, rel=1e-4) for v in known)
    assert abs(off) > 0.5


def test_a_round_drawn_one_is_butted_on_whichever_side():
    ring = {
        "points": {"m": {"x": 7, "y": 3}},
        "curves": {"o": {"kind": "circle", "centre": "m", "radius": 20}, "i": {"kind": "circle", "centre": "m", "radius": 17, "order": 1}},
    }
    for way in ((0, 0, 300), (0, 300, 0)):
        d = of_profile(two("square tube", "flat", [(400, 0, 0), way], "member_butt"), ring)
        next(p for p in d.data["parts"].values() if p["name"] == "other")["stock"] = "own"
        built = build(d.document())
        # no flat of it is there to be butted on, which is said
        assert [f.code for f in built.faults] == ["joint_refused"]


@pytest.mark.parametrize(
    ("record", "said"),
    [
        (None, "its section is not drawn yet"),
        ({}, "nothing is drawn"),
        (drawing(([(0, 0), (40, 0), (40, 30)], [(0, 1), (1, 2)])), "open"),
        (drawing(closed([(0, 0), (40, 30), (40, 0), (0, 30)])), "crosses itself"),
        (drawing(closed([(0, 0), (40, 0), (40, 30), (0, 30)]), closed([(50, 0), (60, 0), (60, 9)])), "beside its outline"),
        (
            drawing(
                closed([(0, 0), (40, 0), (40, 30), (0, 30)]),
                closed([(5, 5), (35, 5), (35, 25), (5, 25)]),
                closed([(9, 9), (12, 9), (12, 12)]),
            ),
            "a loop lies in a hollow",
        ),
    ],
)
def test_what_is_no_section_is_said_and_a_rectangle_stands(record, said):
    d = of_profile(stocked(), record)
    if record is None:
        del d.data["stocks"]["own"]["drawing"]
    d.rod("bar", "own", "x", ("10", "310"), y="0", z="0")
    built = build(d.document())
    assert any(said in f.message for f in built.faults), [f.message for f in built.faults]
    assert all(f.code == "bad_section" and f.entry.startswith("/stocks/own/drawing") for f in built.faults)
    assert volume_of_part(built.made["bar"]) == pytest.approx(30 * 30 * 300)


def test_its_figures_are_its_own():
    built = drawn(build(stocked("square tube").document()), "square tube")
    where = stock_id("square_tube")
    _, record = place_of(built, where)
    level = next(k for k, c in record.curves.items() if c.kind == "line" and abs(record.points[c.a].y - record.points[c.b].y) < 1e-9)
    made = edited(built, relate(built, where, "", "distance", [level], Entry(text="50 mm"))[1])
    assert made.faults == ()
    section = place_of(made, where)[0].values.sections["square_tube"]
    # its sides are equal, and its corners stay as round as they were
    assert section.extents == pytest.approx((62, 62), abs=0.5)


@pytest.mark.parametrize("axis", "xy")
def test_what_looks_up_in_a_drawn_section_looks_up_in_a_rod_that_lies(axis):
    tee = drawing(closed([(0, 0), (40, 0), (40, 4), (22, 4), (22, 30), (18, 30), (18, 4), (0, 4)]))
    d = of_profile(stocked(), tee)
    across = next(a for a in "xy" if a != axis)
    d.rod("bar", "own", axis, ("0", "100"), **{across: "0", "z": "15"})
    d.data["parts"]["bar"]["wide"] = across
    built = build(d.document())
    assert built.faults == ()
    part = built.made["bar"]
    places = np.array(part.matrix)[:3, :3] @ meshes_of(part)[0].positions.T + np.array(part.matrix)[:3, 3:]
    wide = {round(float(z), 3): np.ptp(places["xyz".index(across)][np.abs(places[2] - z) < 1e-6]) for z in (0.0, 30.0)}
    assert wide[0.0] == pytest.approx(40) and wide[30.0] == pytest.approx(4)
