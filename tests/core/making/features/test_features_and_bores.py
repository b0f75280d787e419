"""Holes, slots, marks and bores: where they land and how large they come out."""

import math

import pytest

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.geometry.stroke_font import strokes, text_width
from zygon.making.asked.questions import parts_along
from zygon.making.pipeline import build


def plate(kind="hole", u=("centre", 0), v=("centre", 0), **more):
    draft = Draft("d", "ply12")
    draft.size("width", "200 mm")
    draft.board("front", "ply12", "facing_front", 0, ("10 mm", "10 mm + width"), ("20 mm", "120 mm"))
    draft.feature("front", "f", kind, u, v, **more)
    return draft


def middle(draft, part="front"):
    b = build(draft.document()).parts[part].flat.inside[0].bounds
    return ((b[0] + b[2]) / 2, (b[1] + b[3]) / 2)


@pytest.mark.parametrize(
    ("u", "v", "place"),
    [
        (("centre", 0), ("centre", 0), (100, 50)),
        (("centre", "-15 mm"), ("centre", "10 mm"), (85, 60)),
        (("left", "30 mm"), ("bottom", "40 mm"), (30, 40)),
        (("right", "30 mm"), ("top", "40 mm"), (170, 60)),
        (("room", "60 mm"), ("room", "front.bottom + 45 mm"), (50, 45)),
        (("left", "width / 4"), ("opening", 0), (50, 50)),
    ],
)
def test_a_feature_is_placed_from_edges_centre_room_or_opening(u, v, place):
    assert middle(plate(u=u, v=v, diameter="10 mm")) == pytest.approx(place)


def test_the_opening_is_what_the_neighbours_leave():
    draft = plate(u=("opening", 0), v=("opening", 0), diameter="10 mm", face="back")
    draft.board("post", "ply12", "facing_side", "10 mm", ("front.back", "80 mm"), ("20 mm", "120 mm"))
    draft.board("floor", "ply12", "lying", "20 mm", ("post.right", "210 mm"), ("front.back", "80 mm"))
    assert middle(draft) == pytest.approx((11.8 + (200 - 11.8) / 2, 11.8 + (100 - 11.8) / 2))
    # the outer face has no neighbours
    draft.data["parts"]["front"]["features"]["f"]["face"] = "front"
    assert middle(draft) == pytest.approx((100, 50))


@pytest.mark.parametrize(
    ("kind", "more", "area"),
    [
        ("hole", {"diameter": "20 mm"}, math.pi * 100),
        ("slot", {"length": "60 mm", "width": "20 mm", "angle": "30 deg"}, 40 * 20 + math.pi * 100),
        ("hand_hold", {}, 68 * 32 + math.pi * 256),
        ("rectangle", {"width": "50 mm", "height": "30 mm", "radius": "5 mm"}, 1500 - (4 - math.pi) * 25),
        ("rectangle", {"width": "50 mm", "height": "30 mm", "angle": "45 deg"}, 1500),
    ],
)
def test_cut_outs_have_their_exact_area(kind, more, area):
    flat = build(plate(kind, **more).document()).parts["front"].flat
    assert -flat.inside[0].area == pytest.approx(area, rel=1e-9)
    assert flat.area == pytest.approx(200 * 100 - area, rel=1e-9)


def test_a_cut_out_over_the_edge_becomes_part_of_the_outline():
    flat = build(plate(u=("right", "0"), diameter="40 mm").document()).parts["front"].flat
    assert flat.inside == []
    assert flat.area == pytest.approx(20000 - math.pi * 200, rel=1e-6)


@pytest.mark.parametrize(
    ("kind", "more", "entry", "rule"),
    [
        ("hole", {"diameter": "-3 mm"}, "diameter", "greater than 0"),
        ("slot", {"length": "10 mm", "width": "20 mm"}, "length", "at least its width"),
        ("rectangle", {"width": "20 mm", "height": "20 mm", "radius": "11 mm"}, "radius", "half the shorter side"),
        ("mark_text", {"text": "Ωmega"}, "text", "capitals, digits"),
        ("hole", {"diameter": "5 mm", "face": "left"}, "face", "front or back"),
    ],
)
def test_entries_that_make_no_sense_are_said_with_their_rule(kind, more, entry, rule):
    built = build(plate(kind, **more).document())
    assert built.faults[0].entry == f"/parts/front/features/f/{entry}"
    assert rule in built.faults[0].rule


def test_a_place_from_a_face_of_another_axis_is_refused():
    built = build(plate(u=("top", 0), diameter="5 mm").document())
    assert "left, right, centre, opening or room" in built.faults[0].rule and not built.parts["front"].flat.inside


def test_marks_are_kept_apart_from_cuts_and_the_underside_is_said():
    draft = plate("mark_circle", diameter="30 mm")
    flat = build(draft.document()).parts["front"].flat
    assert flat.inside == [] and flat.marks[0].as_circle[2] == pytest.approx(15)
    draft.data["parts"]["front"]["features"]["f"]["face"] = "back"
    problem = next(p for p in check(build(draft.document())) if p.fault.code == "underside")
    assert problem.fault.mends[0].patch == [{"op": "add", "path": "/parts/front/up", "value": "b"}]


def test_lettering_has_the_height_and_width_that_it_promises():
    runs = strokes("HEX 8", 0, 0, 12)
    xs = [p[0] for r in runs for p in r.points]
    ys = [p[1] for r in runs for p in r.points]
    assert (min(ys), max(ys)) == pytest.approx((-6, 6))
    assert max(xs) - min(xs) == pytest.approx(text_width("HEX 8", 12), abs=1e-9)


def axle(**parts):
    draft = Draft("d", "ply12")
    draft.board("left", "ply12", "facing_side", 0, (0, "200 mm"), (0, "100 mm"))
    draft.board("right", "ply12", "facing_side", "300 mm", (0, "200 mm"), (0, "100 mm"))
    draft.board("shelf", "ply12", "lying", "25 mm", ("left.right", "right.left"), (0, "200 mm"))
    return draft.bore("axle", "x", {"y": "80 mm", "z": "30 mm"}, "10 mm", **parts)


def bored(**parts):
    return build(axle(**parts).document())


def test_each_part_is_cut_marked_or_left_alone_with_a_fit_of_its_own():
    built = bored(left=("cut", "0.4 mm"), right=("mark", "0"))
    assert built.parts["left"].flat.inside[0].as_circle == pytest.approx((80, 30, 5.2))
    assert built.parts["right"].flat.marks[0].as_circle == pytest.approx((80, 30, 5.0))
    assert built.parts["right"].flat.inside == []
    glued = bored(left=("cut", "snug"), right=("leave", "0"))
    assert glued.parts["left"].flat.inside[0].as_circle[2] == pytest.approx(5.04)


def test_an_axle_in_a_hole_cut_on_the_line_turns_freely():
    # common practice: 0.248 in axle, hole drawn 0.250 in and cut on the line comes out at 0.256 to 0.258 in; compensated, 0.002 in is left
    from zygon.cut.kerf import cut_on_the_line
    from zygon.geometry.contour import circle

    hole = circle(0, 0, 0.125 * 25.4)
    for kerf in (0.15, 0.20):
        assert 0.2555 < cut_on_the_line(hole, kerf, outer=False)[0] / 25.4 < 0.2585
    assert pytest.approx(0.002) == 0.250 - 0.248


def test_a_bore_that_enters_an_edge_or_misses_is_said():
    codes = {f.code for f in bored(shelf=("cut", "0")).faults}
    assert codes == {"bore_in_edge"}
    draft = Draft("d", "ply12")
    draft.board("left", "ply12", "facing_side", 0, (0, "200 mm"), (0, "100 mm"))
    draft.bore("axle", "x", {"y": "500 mm", "z": "30 mm"}, "10 mm", left=("cut", "0"))
    assert [f.code for f in build(draft.document()).faults] == ["bore_misses"]


@pytest.mark.parametrize(
    ("low", "high", "bored_parts", "codes"),
    [
        ("100 mm", None, ["right"], ["bore_misses"]),
        (None, "left.right", ["left"], ["bore_misses"]),
        ("-1 mm", "400 mm", ["left", "right"], []),
        ("left.right", "right.left", [], ["bore_misses"] * 2),
        ("10 mm", "10 mm", ["left", "right"], ["bad_value"]),
    ],
)
def test_a_bore_runs_from_where_to_where_it_is_said(low, high, bored_parts, codes):
    draft = Draft("d", "ply12")
    for name, at in (("left", "0"), ("right", "300 mm")):
        draft.board(name, "ply12", "facing_side", at, (0, "200 mm"), (0, "100 mm"))
    draft.bore("axle", "x", {"y": "80 mm", "z": "30 mm"}, "10 mm", left=("cut", "0"), right=("cut", "0"))
    draft.data["bores"]["axle"] |= {k: draft.entry(v) for k, v in (("low", low), ("high", high)) if v}
    built = build(draft.document())
    assert [k for k, p in built.parts.items() if p.flat.inside] == bored_parts
    assert [f.code for f in built.faults] == codes


def test_parts_on_an_axis_say_how_it_meets_them():
    draft = Draft("d", "ply12", "galv20")
    draft.board("box", "galv20", "lying", "0", (0, "200 mm"), (0, "100 mm"))
    draft.fold("box").flange("box", "left", "left", "40 mm").flange("box", "right", "right", "40 mm", angle="60 deg")
    draft.board("shelf", "ply12", "lying", "14 mm", ("20 mm", "150 mm"), (0, "100 mm"))
    draft.board("far", "ply12", "facing_side", "400 mm", (0, "100 mm"), ("30 mm", "90 mm"))

    def along(axis, **at):
        return parts_along(draft.document(), axis, {a: draft.entry(t) for a, t in at.items()})

    assert along("x", y="50 mm", z="20 mm") == [{"part": "box", "how": "angle"}, {"part": "shelf", "how": "edge"}]
    assert along("z", x="100 mm", y="50 mm") == [{"part": "box", "how": "square"}, {"part": "shelf", "how": "square"}]
    assert along("x", y="50 mm", z="60 mm") == [{"part": "far", "how": "square"}]
    assert along("y", x="100 mm", z="200 mm") == []


@pytest.mark.parametrize("end", ["low", "high"])
def test_an_end_of_a_bore_that_cannot_be_read_is_said_there_as_the_bore_s(end):
    draft = Draft("d", "ply12")
    draft.board("left", "ply12", "facing_side", 0, (0, "200 mm"), (0, "100 mm"))
    draft.bore("axle", "x", {"y": "80 mm", "z": "30 mm"}, "10 mm", left=("cut", "0"))
    draft.data["bores"]["axle"][end] = draft.entry("nobody.left")
    (fault, *_) = build(draft.document()).faults
    assert (fault.code, fault.owner, fault.entry) == ("broken_expression", "bore:axle", f"/bores/axle/{end}")


def test_a_bore_that_ends_before_it_begins_is_said_with_both_places():
    draft = Draft("d", "ply12")
    draft.board("left", "ply12", "facing_side", 0, (0, "200 mm"), (0, "100 mm"))
    draft.bore("axle", "x", {"y": "80 mm", "z": "30 mm"}, "10 mm", stretch=("7 mm", "4.5 mm"), left=("cut", "0"))
    (fault,) = build(draft.document()).faults
    assert (fault.code, fault.owner, fault.entry, fault.value) == ("bad_value", "bore:axle", "/bores/axle/high", "4.5 mm")
    assert fault.message == "axle: it would end at 4.5 mm, before it begins at 7 mm"


@pytest.mark.parametrize("action", ["cut", "mark"])
def test_a_bore_that_is_left_out_does_nothing_until_it_is_taken_back(action):
    def drilled(out):
        draft = axle(left=(action, "0"), right=(action, "0.3 mm"))
        draft.data["bores"]["axle"]["out"] = out
        parts = build(draft.document()).parts
        return {k: (len(p.flat.inside), len(p.flat.marks)) for k, p in parts.items()}

    one = (1, 0) if action == "cut" else (0, 1)
    assert drilled(True) == {"left": (0, 0), "right": (0, 0), "shelf": (0, 0)}
    assert drilled(False) == {"left": one, "right": one, "shelf": (0, 0)}


@pytest.mark.parametrize("fit, hole", [("0.4 mm", 10.4), ("-3 mm", 7.0), ("-9.99 mm", 0.01), ("-10 mm", None), ("-12 mm", None)])
def test_a_fit_that_leaves_no_hole_is_said_at_its_part(fit, hole):
    built = bored(left=("cut", fit), right=("cut", "0"))
    found = [(f.entry, f.value, f.rule, f.message) for f in built.faults]
    said = ("/bores/axle/parts/left/fit", fit, "diameter plus fit is greater than 0", "axle: its fit in left leaves no hole")
    assert found == ([] if hole else [said])
    assert [2 * c.as_circle[2] for c in built.parts["left"].flat.inside] == ([pytest.approx(hole)] if hole else [])
    assert len(built.parts["right"].flat.inside) == 1
    # a mark has no fit to speak of
    assert not bored(left=("mark", fit)).faults
