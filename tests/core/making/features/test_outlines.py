"""Outlines that are no rectangles: areas by formula, shapes by an independent drawing, and what cannot be is said."""

import math

import ezdxf
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.shared import same_shape
from tests.explore import drawn
from zygon.design.draft import Draft
from zygon.exchange.outline_in import drawn_outline
from zygon.geometry.boolean import region_polygon
from zygon.making.pipeline import build


def plate(outline=None, width="200 mm", height="200 mm") -> Draft:
    d = Draft("d", "ply12")
    d.board("p", "ply12", "lying", 0, (0, width), (0, height))
    if outline:
        d.data["parts"]["p"]["outline"] = outline
    return d


def flat(draft, key="p"):
    built = build(draft.document())
    assert not built.faults, [f.message for f in built.faults]
    return built.parts[key].flat


def e(text):
    return {"text": text}


def test_disc_ring_and_link_have_the_areas_of_their_formulas():
    disc = flat(plate({"kind": "disc"}))
    assert disc.pieces[0].outer.as_circle == pytest.approx((100, 100, 100)) and disc.area == pytest.approx(math.pi * 100**2)
    ring = flat(plate({"kind": "ring", "inner": e("120 mm")}))
    assert ring.area == pytest.approx(math.pi * (100**2 - 60**2))
    for width, height in (("200 mm", "50 mm"), ("50 mm", "200 mm")):
        link = flat(
            plate({"kind": "link", "low": e("50 mm"), "high": e("30 mm"), "bore_low": e("10 mm"), "bore_high": e("8 mm")}, width, height)
        )
        r, s, apart = 25.0, 15.0, 200 - 40.0
        lean = math.acos((r - s) / apart)
        # two sectors and the two quadrilaterals between the centres and the tangents
        area = r * r * (math.pi - lean) + s * s * lean + (r + s) * math.sqrt(apart**2 - (r - s) ** 2)
        assert link.area == pytest.approx(area - math.pi * (25 + 16)) and len(link.inside) == 2
        points = shapely.union_all([shapely.Point(25, 25).buffer(r, 400), shapely.Point(185, 25).buffer(s, 400)]).convex_hull
        points = points if width == "200 mm" else shapely.transform(points, lambda xy: xy[:, ::-1])
        same_shape(shapely.Polygon(region_polygon(link.pieces[0]).exterior), points, 0.01)


@settings(max_examples=drawn(40))
@given(
    st.sampled_from(["round", "cut", "hollow", "step"]),
    st.sampled_from(["all", "front-left", "right-back", "left-back", "front-right"]),
    st.floats(2, 90),
    st.floats(2, 90),
)
def test_corners_take_off_what_their_style_says(style, corner, size, other):
    draft = plate()
    draft.feature(
        "p", "c", "corner", ("centre", "0"), ("centre", "0"), corner=corner, style=style, size=f"{size:.4f} mm", size_2=f"{other:.4f} mm"
    )
    n = 4 if corner == "all" else 1
    s, o = round(size, 4), round(other, 4)
    gone = {"round": s * s * (1 - math.pi / 4), "hollow": s * s * math.pi / 4, "cut": s * o / 2, "step": s * o}[style]
    found = flat(draft)
    assert found.area == pytest.approx(200 * 200 - n * gone, abs=1e-4) and len(found.pieces) == 1
    assert found.bounds == pytest.approx((0, 0, 200, 200))
    if style == "round" and corner == "all":
        ideal = shapely.box(s, s, 200 - s, 200 - s).buffer(s, 400)
        same_shape(region_polygon(found.pieces[0]), ideal, 0.01)


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
def test_tapers_curves_and_notches_on_every_edge(edge):
    along_x = edge in ("front", "back")
    inward = {"left": (1, 0), "right": (-1, 0), "front": (0, 1), "back": (0, -1)}[edge]
    middle = {"left": (0, 100), "right": (200, 100), "front": (100, 0), "back": (100, 200)}[edge]

    def has(found, deep, across=0.0):
        x = middle[0] + inward[0] * deep + (across if along_x else 0)
        y = middle[1] + inward[1] * deep + (0 if along_x else across)
        return region_polygon(found.pieces[0]).contains(shapely.Point(x, y))

    draft = plate()
    draft.feature("p", "t", "taper", ("centre", "0"), ("centre", "0"), edge=edge, low="10 mm", high="50 mm")
    found = flat(draft)
    assert found.area == pytest.approx(200 * 200 - 30 * 200) and has(found, 31) and not has(found, 29)
    assert has(found, 15, -90) and not has(found, 45, 90)
    for bulge, at_middle, at_end in (("in", 20.0, 0.0), ("out", 0.0, 20.0)):
        draft = plate()
        draft.feature("p", "c", "edge_curve", ("centre", "0"), ("centre", "0"), edge=edge, rise="20 mm", bulge=bulge)
        found = flat(draft)
        radius = (100**2 + 20**2) / 40
        half = math.asin(100 / radius)
        segment = radius**2 * (half - math.sin(half) * math.cos(half))
        assert found.area == pytest.approx(200 * 200 - (segment if bulge == "in" else 200 * 20 - segment))
        assert has(found, at_middle + 0.1) and (at_middle == 0 or not has(found, at_middle - 0.1))
        assert has(found, at_end + 0.5, 99.9)
    shapes = {"square": 30 * 12, "vee": 30 * 12 / 2, "round": None}
    for shape, area in shapes.items():
        draft = plate()
        spots = {"u": ("left", "70 mm"), "v": ("front", "70 mm")}
        draft.feature("p", "n", "edge_notch", spots["u"], spots["v"], edge=edge, shape=shape, width="30 mm", depth="12 mm")
        found = flat(draft)
        if area is None:
            radius = (15**2 + 12**2) / 24
            half = math.asin(15 / radius)
            area = radius**2 * (half - math.sin(half) * math.cos(half))
        assert found.area == pytest.approx(200 * 200 - area, abs=1e-3) and not has(found, 11, -30) and has(found, 12.5, -30)


def test_a_round_notch_deeper_than_half_its_width_has_straight_sides():
    draft = plate()
    draft.feature("p", "n", "edge_notch", ("centre", "0"), ("centre", "0"), edge="front", shape="round", width="20 mm", depth="50 mm")
    assert flat(draft).area == pytest.approx(200 * 200 - (40 * 20 + math.pi * 100 / 2))
    draft.data["parts"]["p"]["features"]["n"] |= {"shape": "square", "radius": e("4 mm")}
    assert flat(draft).area == pytest.approx(200 * 200 - (50 * 20 - 2 * 16 * (1 - math.pi / 4)))


def test_an_outline_is_traced_from_a_neighbour_with_an_offset_and_follows_it():
    draft = plate()
    draft.feature("p", "c", "corner", ("centre", "0"), ("centre", "0"), corner="all", style="round", size="30 mm")
    draft.feature("p", "h", "hole", ("centre", "0"), ("centre", "0"), diameter="40 mm")
    draft.board("lid", "ply12", "lying", "100 mm", (0, "1 mm"), (0, "1 mm"), outline={"kind": "traced", "part": "p", "offset": e("8 mm")})
    lid = flat(draft, "lid")
    assert not lid.inside and lid.size == pytest.approx((216, 216))
    same_shape(region_polygon(lid.pieces[0]), shapely.box(38, 38, 178, 178).buffer(38, 400), 0.01)
    built = build(draft.document())
    assert built.parts["lid"].span_box.low[:2] == pytest.approx((-8, -8))
    draft.data["parts"]["p"]["spans"]["x"]["high"]["text"] = "300 mm"
    assert flat(draft, "lid").size == pytest.approx((316, 216))
    draft.data["parts"]["p"]["outline"] = {"kind": "traced", "part": "lid", "offset": e("0")}
    (fault, *_) = build(draft.document()).faults
    assert "traced from itself" in fault.message and fault.entry.endswith("/outline/part")


def test_an_outline_is_taken_over_from_a_drawing(tmp_path):
    drawing = ezdxf.new(units=4)  # mm
    space = drawing.modelspace()
    space.add_lwpolyline([(10, 10, 0, 0, 0), (110, 10, 0, 0, 1), (110, 60, 0, 0, 0), (10, 60, 0, 0, 0)], format="xyseb", close=True)
    space.add_circle((50, 35), 8)
    path = tmp_path / "tag.dxf"
    drawing.saveas(path)
    found = drawn_outline(path)
    assert (found["width"], found["height"]) == pytest.approx((125, 50))
    part = flat(plate(found["outline"], "125 mm", "50 mm"))
    assert part.area == pytest.approx(100 * 50 + math.pi * 25**2 / 2 - math.pi * 64)
    assert any(b for b in part.pieces[0].outer.bulges)  # the arc is still one
    built = build(plate(found["outline"], "130 mm", "50 mm").document())
    assert "its drawing is 125 mm along x, and its span 130 mm" in built.faults[0].message


@pytest.mark.parametrize(
    ("outline", "size", "words"),
    [
        ({"kind": "disc"}, ("200 mm", "180 mm"), "a disc is as high as it is wide"),
        ({"kind": "ring", "inner": {"text": "210 mm"}}, ("200 mm", "200 mm"), "an opening of 210 mm in a ring of 200 mm"),
        ({"kind": "link", "low": {"text": "60 mm"}}, ("200 mm", "50 mm"), "an end of 60 mm in a link 50 mm wide"),
        ({"kind": "link", "bore_low": {"text": "50 mm"}}, ("200 mm", "50 mm"), "a bore of 50 mm in an end of 50 mm"),
        ({"kind": "traced", "part": "p"}, ("200 mm", "50 mm"), "traced from itself: p → p"),
    ],
)
def test_an_outline_that_cannot_be_is_said(outline, size, words):
    built = build(plate(outline, *size).document())
    assert any(words in f.message for f in built.faults)
    assert built.parts["p"].flat.pieces


@pytest.mark.parametrize(
    ("kind", "fields", "words"),
    [
        ("corner", {"corner": "left-right", "size": "5 mm"}, "it has no corner left-right"),
        ("corner", {"corner": "all", "size": "101 mm"}, "a corner of 101 mm"),
        ("taper", {"edge": "front", "low": "250 mm"}, "250 mm off the edge at its low end"),
        ("taper", {"edge": "top", "low": "5 mm"}, "it has no edge at its top"),
        ("edge_curve", {"edge": "front", "rise": "200 mm"}, "a rise of 200 mm"),
        ("edge_notch", {"edge": "front", "width": "20 mm", "depth": "200 mm"}, "cuts the board in two"),
        ("edge_notch", {"edge": "front", "width": "20 mm", "depth": "9 mm", "radius": "11 mm"}, "a corner radius of 11 mm"),
        ("trim", {"axis": "z", "at": "3 mm"}, "the plane is parallel to the board"),
    ],
)
def test_a_feature_of_the_outline_that_cannot_be_is_said(kind, fields, words):
    draft = plate()
    draft.feature("p", "f", kind, ("centre", "0"), ("centre", "0"), **fields)
    built = build(draft.document())
    assert any(words in f.message and f.owner == "feature:p:f" for f in built.faults), [f.message for f in built.faults]
    assert built.parts["p"].flat.area > 0


def test_a_joint_that_needs_a_straight_edge_is_refused_at_an_outline_of_its_own():
    draft = plate({"kind": "disc"})
    draft.board("post", "ply12", "facing_side", "90 mm", ("80 mm", "120 mm"), ("p.top", "100 mm"))
    draft.joint("tab_slot", "post", "p")
    assert len(flat(draft).inside) == 1  # into its face it goes
    draft.board("wall", "ply12", "facing_side", "200 mm", (0, "200 mm"), ("-50 mm", "100 mm"))
    draft.joint("tab_slot", "p", "wall")
    (fault,) = build(draft.document()).faults
    assert "p has an outline of its own there" in fault.message


@pytest.mark.parametrize("width, height", [(200, 170), (170, 200)])
def test_a_disc_in_unequal_spans_says_by_how_much_and_stands_as_the_smaller_one_in_their_middle(width, height):
    built = build(plate({"kind": "disc"}, f"{width} mm", f"{height} mm").document())
    (fault,) = built.faults
    assert (fault.value, fault.rule) == ("30 mm", "equal spans")
    assert f"its spans are {width} mm and {height} mm" in fault.message
    assert built.parts["p"].flat.pieces[0].outer.as_circle == pytest.approx((width / 2, height / 2, 85))


@pytest.mark.parametrize(
    "width, height, places", [(200, 80, {"low": (40, 40), "high": (170, 40)}), (80, 200, {"low": (40, 40), "high": (40, 170)})]
)
@pytest.mark.parametrize("bored", [(), ("low",), ("high",), ("low", "high")])
def test_a_link_has_the_bores_that_it_is_given_in_the_middles_of_its_ends(width, height, places, bored):
    bores = {f"bore_{end}": e("20 mm" if end == "low" else "14 mm") for end in bored}
    link = plate({"kind": "link", "low": e("80 mm"), "high": e("60 mm"), **bores}, f"{width} mm", f"{height} mm")
    holes = {c.as_circle[2]: c.as_circle[:2] for c in flat(link).inside}
    radius = {"low": 10, "high": 7}
    assert holes == {radius[end]: pytest.approx(places[end]) for end in bored}


@pytest.mark.parametrize(
    "kind, fields",
    [
        ("corner", {"corner": "front-left", "style": "cut", "size": "30 mm"}),
        ("taper", {"edge": "left", "low": "5 mm", "high": "25 mm"}),
        ("edge_curve", {"edge": "back", "rise": "18 mm", "bulge": "in"}),
        ("edge_curve", {"edge": "right", "rise": "18 mm", "bulge": "out"}),
    ],
)
def test_what_shapes_a_neighbour_s_outline_is_traced_and_what_is_cut_out_of_it_is_not(kind, fields):
    draft = plate()
    draft.feature("p", "s", kind, ("centre", "0"), ("centre", "0"), **fields)
    alone = flat(draft).area
    draft.feature("p", "n", "edge_notch", ("centre", "0"), ("centre", "0"), edge="front", width="30 mm", depth="12 mm")
    draft.board("lid", "ply12", "lying", "100 mm", (0, "1 mm"), (0, "1 mm"), outline={"kind": "traced", "part": "p", "offset": e("0")})
    assert alone < 200 * 200 - 100 or fields.get("bulge") == "out"
    assert flat(draft, "lid").area == pytest.approx(alone, rel=1e-6)
    assert flat(draft).area == pytest.approx(alone - 30 * 12, rel=1e-6)


@pytest.mark.parametrize("width, depth, most", [(30, 40, 15), (60, 12, 12), (24, 12, 12)])
def test_a_notch_s_corners_are_as_round_as_it_has_room(width, depth, most):
    for radius, fine in ((0, True), (most - 0.01, True), (most, True), (most + 0.01, False), (-0.01, False)):
        draft = plate()
        draft.feature(
            "p",
            "n",
            "edge_notch",
            ("centre", "0"),
            ("centre", "0"),
            edge="front",
            width=f"{width} mm",
            depth=f"{depth} mm",
            radius=f"{radius} mm",
        )
        built = build(draft.document())
        assert [f.rule for f in built.faults] == ([] if fine else [f"from 0 to {most} mm"])
        assert bool(built.faults) is not fine
        taken = 200 * 200 - built.parts["p"].flat.area
        rounded = (2 - math.pi / 2) * radius**2 if fine else 0
        assert taken == pytest.approx(width * depth - rounded, abs=1e-6)
