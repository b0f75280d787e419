"""Outlines of tools by their geometry, legs and gauges by hand, and what the brake refuses at each limit, on every edge and bent both ways."""

import math

import pytest
import shapely

from zygon.brake.order import bend_order, strokes_and_tools, strokes_of
from zygon.brake.profiles import die_profile, punch_profiles
from zygon.brake.slabs import TOUCH
from zygon.check.brake import brake_faults
from zygon.design.draft import Draft
from zygon.making.pipeline import build
from zygon.stock.brake import Die, Punch

EDGES = ["left", "right", "front", "back"]


def whole(*shapes):
    """Tools are taken a hair smaller than they are, so that what touches them does not run into them."""
    return [s.buffer(TOUCH, join_style="mitre") for s in shapes]


# -- outlines ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("angle", "radius", "width", "height"), [(88, 1.0, 12.0, 100.0), (30, 0.5, 20.0, 90.0), (60, 3.0, 14.0, 110.0)])
def test_a_plain_punch_is_a_round_tip_two_flanks_and_a_body(angle, radius, width, height):
    ((shape, ram),) = punch_profiles(Punch(name="p", angle=angle, radius=radius, width=width, height=height))
    shape, ram = whole(shape, ram)
    x0, y0, x1, y1 = shape.bounds
    assert (x1 - x0, y0, y1) == (pytest.approx(width, abs=0.05), pytest.approx(0, abs=0.03), pytest.approx(height, abs=0.03))
    assert x0 == pytest.approx(-x1)
    # at a height between tip and shoulder the flanks are as far apart as the angle says: tangent to the tip's circle
    half = math.radians(angle) / 2
    for z in (radius + 0.5, radius + 2.0):
        across = shape.intersection(shapely.LineString([(-50, z), (50, z)])).length
        assert across == pytest.approx(min(2 * (radius / math.cos(half) + (z - radius) * math.tan(half)), width), abs=0.12)
    # where the flanks touch it, and below, it is the circle itself
    z = radius * (1 - math.sin(half)) * 0.8
    assert shape.intersection(shapely.LineString([(-50, z), (50, z)])).length <= 2 * math.sqrt(radius**2 - (radius - z) ** 2) + 0.05
    rx0, ry0, rx1, ry1 = ram.bounds
    assert (rx1 - rx0, ry0, ry1 - ry0) == (pytest.approx(56, abs=0.05), pytest.approx(height, abs=0.03), pytest.approx(400, abs=0.05))


def test_a_punch_of_another_shape_is_tried_both_ways_round():
    goose = Punch(name="g", profile=[(0, 0), (8, 10), (8, 40), (20, 60), (20, 90), (-4, 90), (-4, 10)])
    (one, _), (other, _) = punch_profiles(goose)
    one, other = whole(one, other)
    assert one.bounds == pytest.approx((-4, 0, 20, 90), abs=0.06) and other.bounds == pytest.approx((-20, 0, 4, 90), abs=0.06)
    slightly = Punch(name="s", profile=[(0, 0), (8, 10), (8, 90), (-8, 90), (-8, 9.9)])
    assert (
        len(punch_profiles(slightly)) == 2
        and len(punch_profiles(Punch(name="e", profile=[(0, 0), (8, 10), (8, 90), (-8, 90), (-8, 10)]))) == 1
    )


@pytest.mark.parametrize(("v", "angle", "width", "height"), [(8, 88, 30, 60), (16, 30, 50, 80)])
def test_a_die_has_its_v_in_the_middle_of_its_top_and_stands_on_the_bed(v, angle, width, height):
    body, bed = die_profile(Die(name="d", v=v, angle=angle, width=width, height=height))
    body, bed = whole(body, bed)
    assert body.bounds == pytest.approx((-width / 2, -height, width / 2, 0), abs=0.06)
    deep = min(v / 2 / math.tan(math.radians(angle) / 2) + 0.5, height * 0.9)
    assert body.area == pytest.approx(width * height - v * deep / 2, rel=0.01)
    for z in (-0.5, -deep / 2):
        assert body.intersection(shapely.LineString([(-200, z), (200, z)])).length == pytest.approx(width - v * (1 + z / deep), abs=0.12)
    assert bed.bounds == pytest.approx((-45, -height - 700, 45, -height), abs=0.06)


# -- strokes, legs, gauges ---------------------------------------------------------------------------------------------


def plate(*flanges, length="200 mm", depth="150 mm"):
    d = Draft("bent", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", length), ("0", depth), up="a")
    d.fold("tray")
    for key, edge, size, more in flanges:
        d.flange("tray", key, edge, size, **more)
    return d


def worked(d, brake=None, **tools):
    document = d.document()
    part = build(document).parts["tray"]
    bending = document.stocks["galv20"].bending
    shop = brake or document.brakes["bench"].model_copy(update=tools)
    return (
        part.flat,
        strokes_and_tools(part.flat.fold, part.flat.thickness, bending, shop),
        bend_order(part.flat.fold, part.flat.thickness, bending, shop),
    )


@pytest.mark.parametrize("edge", EDGES)
@pytest.mark.parametrize("toward", ["a", "b"])
@pytest.mark.parametrize(("length", "beyond"), [("31 mm", True), ("260 mm", False)])
def test_the_leg_is_the_shorter_flat_from_the_bend_line_and_known_by_its_side(edge, toward, length, beyond):
    flat, ((stroke, _),), (step,) = worked(plate(("f", edge, length, {"toward": toward})))
    (bend,) = flat.fold.bends
    across = 200 if edge in ("left", "right") else 150
    # the whole flat less the plate's side up to the bend line, or that side
    x0, y0, x1, y1 = flat.bounds
    whole = (x1 - x0) if edge in ("left", "right") else (y1 - y0)
    plate_side = {"left": x1 - bend.start[0], "right": bend.start[0] - x0, "front": y1 - bend.start[1], "back": bend.start[1] - y0}[
        edge
    ] + bend.width / 2
    assert stroke.leg == pytest.approx(min(plate_side, whole - plate_side), abs=1e-6) and (stroke.beyond is not None) == beyond
    assert across - 4 < plate_side < across + 4
    assert stroke.length == pytest.approx(150 if edge in ("left", "right") else 200) and stroke.up == (toward == "a")
    assert step.length == stroke.length and step.force == pytest.approx(step.tool.force) and not step.collides
    assert step.gauge.distance == pytest.approx(whole - plate_side, abs=0.05) and "f" in step.gauge.against


@pytest.mark.parametrize(("joggle", "made"), [(0.0, 2), (2.99, 2), (3.01, 1)])
def test_an_offset_is_one_stroke_up_to_what_the_offset_tool_reaches(joggle, made):
    d = plate(("f", "left", "30 mm", {"kind": "offset", "height": "3 mm", "angle": "40 deg"}))
    part = build(d.document()).parts["tray"]
    assert len(strokes_of(part.flat.fold, joggle)) == made
    # two flanges one after the other that turn back are no offset
    two = plate(("f", "left", "30 mm", {"angle": "40 deg"}), ("g", "end", "30 mm", {"on": "f", "angle": "40 deg", "toward": "b"}))
    assert len(strokes_of(build(two.document()).parts["tray"].flat.fold, 100.0)) == 2


@pytest.mark.parametrize(("change", "made"), [({}, 1), ({"angle": "91 deg"}, 2), ({"radius": "2.5 mm"}, 2)])
def test_bends_on_one_line_by_one_angle_and_radius_are_one_stroke(change, made):
    low = {"extent": "between", "first": "0", "second": "60 mm", "radius": "2 mm", "angle": "90 deg"}
    high = {"extent": "between", "first": "90 mm", "second": "150 mm", "radius": "2 mm", "angle": "90 deg"} | change
    _, strokes, _ = worked(plate(("one", "left", "30 mm", low), ("two", "left", "30 mm", high)))
    assert len(strokes) == made
    if made == 1:
        assert strokes[0][0].length == pytest.approx(120, abs=2) and strokes[0][0].extent[0] == pytest.approx(0, abs=1)


# -- what the brake refuses --------------------------------------------------------------------------------------------


def faults(d, **brake):
    document = d.document()
    shop = document.brakes["bench"].model_copy(update=brake)
    document = document.model_copy(update={"brakes": {"bench": shop}, "brake": "bench"})
    return {f.code: f for f in brake_faults(build(document))}


@pytest.mark.parametrize("edge", EDGES)
@pytest.mark.parametrize("toward", ["a", "b"])
@pytest.mark.parametrize("over", [-0.01, 0.01])
def test_a_bend_is_as_long_as_the_brake_at_most(edge, toward, over):
    along = 150 if edge in ("left", "right") else 200
    found = faults(plate(("f", edge, "30 mm", {"toward": toward})), length=along - over)
    assert ("long_bend" in found) == (over > 0)
    if over > 0:
        f = found["long_bend"]
        assert (f.severity, f.value, f.rule, f.part) == ("error", f"{along} mm", f"at most {along - 0.01:g} mm", "tray")
        assert f"{along} mm is longer than the brake" in f.message


@pytest.mark.parametrize("over", [-0.01, 0.01])
def test_a_bend_takes_as_much_force_as_the_brake_has_at_most(over):
    d = plate(("f", "left", "30 mm", {}))
    _, ((_, tools),), _ = worked(d)
    found = faults(d, force=tools[0].force - over)
    assert ("brake_force" in found) == (over > 0)
    if over > 0:
        f = found["brake_force"]
        assert (f.severity, f.value) == ("error", f"{tools[0].force:.0f} kN") and f.rule == f"at most {tools[0].force - over:g} kN"


@pytest.mark.parametrize("edge", EDGES)
@pytest.mark.parametrize("toward", ["a", "b"])
@pytest.mark.parametrize("over", [-0.02, 0.02])
def test_a_leg_lies_on_the_die_at_least(edge, toward, over):
    _, ((stroke, tools),), _ = worked(plate(("f", edge, "30 mm", {"toward": toward})))
    least = min(t.least for t in tools)
    length = 30 - stroke.leg + least - over
    found = faults(plate(("f", edge, f"{length:.4f} mm", {"toward": toward})))
    assert ("short_flange" in found) == (over > 0)
    if over > 0:
        f = found["short_flange"]
        assert f.severity == "error" and f.entry == "/parts/tray/folding/flanges/f/length" and "slips off the shoulder" in f.message
        (mend,) = f.mends
        text = mend.patch[0]["value"]["text"]
        assert "short_flange" not in faults(plate(("f", edge, text, {"toward": toward}))) and float(text.split()[0]) == pytest.approx(
            length + over, abs=0.011
        )


def test_no_tools_and_no_brake_are_told_apart():
    d = plate(("f", "left", "30 mm", {}))
    none = faults(d, dies={})
    assert none["no_tool"].rule.startswith("a die of 5 to 14 times") and none["no_tool"].severity == "error"
    document = d.document().model_copy(update={"brake": ""})
    assert brake_faults(build(document)) == []
