"""Orders of bending: what runs into what, and that an order which is found can be bent."""

import math
from itertools import pairwise

import numpy as np
import pytest

from zygon.brake.bend_plan import plan_of
from zygon.brake.order import bend_order, strokes_of
from zygon.brake.pose import Pose, Workpiece
from zygon.brake.slabs import Piece, runs_into
from zygon.check.brake import brake_faults
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.examples import example
from zygon.design.patch import patched
from zygon.design.upgrade import load
from zygon.making.pipeline import build
from zygon.stock.bending import Bending
from zygon.stock.brake import Brake


def draft(width="200 mm", depth="150 mm") -> Draft:
    d = Draft("bent", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", width), ("0", depth), up="a")
    d.fold("tray")
    return d


def built(d: Draft):
    document = d.document()
    part = build(document).parts["tray"]
    return document, part


def steps(d: Draft, by_hand=()):
    document, part = built(d)
    stock = document.stocks["galv20"]
    return part.flat.fold, bend_order(part.flat.fold, part.flat.thickness, stock.bending, document.brakes["bench"], by_hand)


def keys(fold, found):
    return [fold.bends[s.bends[0]].key for s in found]


def test_a_tray_is_bent_side_by_side_without_turning_it_over():
    d = draft()
    for side in ("left", "front", "right", "back"):
        d.flange("tray", side, side, "30 mm")
    fold, found = steps(d)
    assert sorted(keys(fold, found)) == ["back", "front", "left", "right"]
    assert not any(s.collides or s.flipped for s in found)
    assert [s.turned for s in found] == [False, True, True, True]


def test_hems_come_before_the_sides_that_would_be_in_the_punch_s_way():
    document = example("roof")
    part = build(document).parts["roof"]
    found = plan_of(document, part, part.flat)
    order = [part.flat.fold.bends[s.bends[0]].key for s in found]
    assert not any(s.collides for s in found)
    for side in ("left", "front", "right", "back"):
        assert order.index(f"{side}_hem") < order.index(side)


def test_bends_on_one_line_are_one_stroke():
    d = draft()
    d.flange("tray", "one", "left", "20 mm", extent="between", first="10 mm", second="50 mm")
    d.flange("tray", "two", "left", "25 mm", extent="between", first="70 mm", second="140 mm")
    fold, found = steps(d)
    assert len(found) == 1
    assert found[0].length == pytest.approx(110.0)
    assert strokes_of(fold) == [(0, 1)]


def test_a_deep_narrow_channel_cannot_be_bent_with_a_straight_punch_and_it_is_said_with_what_it_collides():
    d = draft("22 mm")
    d.flange("tray", "left", "left", "90 mm").flange("tray", "right", "right", "90 mm")
    d.data["brakes"]["bench"]["punches"].pop("goose")
    _, found = steps(d)
    assert not found[0].collides
    assert any("the punch" in c or "the ram" in c for c in found[1].collides)
    problems = check(build(d.document()))
    assert [p.fault.part for p in problems if p.fault.code == "bend_order"] == ["tray"]


def test_a_wide_channel_is_bent_by_the_same_tools():
    d = draft("200 mm")
    d.flange("tray", "left", "left", "90 mm").flange("tray", "right", "right", "90 mm")
    d.data["brakes"]["bench"]["punches"].pop("goose")
    _, found = steps(d)
    assert not any(s.collides for s in found)


def test_a_closed_ring_runs_into_itself_only_where_it_overlaps():
    d = draft("60 mm")
    d.flange("tray", "left", "left", "40 mm").flange("tray", "over", "end", "58 mm", on="left")
    d.flange("tray", "right", "right", "38.5 mm")
    _, fine = steps(d)
    assert not any("runs into" in c and "punch" not in c and "ram" not in c for s in fine for c in s.collides)
    d.flange("tray", "right", "right", "45 mm")
    _, found = steps(d)
    assert any("left" in c or "over" in c or "right" in c for s in found for c in s.collides)


def test_an_order_by_hand_stands_and_its_collisions_are_said():
    document = example("roof")
    part = build(document).parts["roof"]
    stock = document.stocks["galv20"]
    wrong = ["left", "left_hem", "front", "front_hem"]
    found = bend_order(part.flat.fold, part.flat.thickness, stock.bending, document.brakes["bench"], wrong)
    assert keys(part.flat.fold, found)[:4] == wrong
    assert any("the punch" in c or "the ram" in c or "the die" in c or "bed" in c for c in found[1].collides)
    data = document.dump()
    data["parts"]["roof"]["folding"]["sequence"] = wrong
    codes = [p.fault.code for p in check(build(load(data)))]
    assert "bend_order" in codes


def test_the_gauge_is_the_flange_less_half_the_deduction():
    """From the bend line to the edge: outer length - deduction / 2 (common practice)."""
    d = draft()
    d.flange("tray", "left", "left", "30 mm")
    fold, found = steps(d)
    b = fold.bends[0]
    deduction = 2 * (b.radius + b.thickness) - b.width
    assert found[0].gauge.distance == pytest.approx(30 - deduction / 2)
    assert found[0].gauge.against == "edge of left"


def test_a_flange_already_bent_is_gauged_at_its_outer_face():
    d = draft()
    d.flange("tray", "left", "left", "30 mm").flange("tray", "lip", "end", "15 mm", on="left")
    fold, found = steps(d, ("lip", "left"))
    b = fold.bends[0]
    deduction = 2 * (b.radius + b.thickness) - b.width
    assert found[1].gauge.distance == pytest.approx(30 - deduction / 2, abs=1e-6)
    assert "outer face" in found[1].gauge.against


def test_both_bends_of_a_low_offset_are_one_stroke_and_of_a_high_one_two():
    for height, strokes in (("6 mm", 1), ("20 mm", 2)):
        d = draft()
        d.flange("tray", "step", "left", "15 mm", kind="offset", height=height)
        document, part = built(d)
        assert len(strokes_of(part.flat.fold, document.brakes["bench"].joggle)) == strokes


def test_what_lies_on_the_die_touches_it_and_no_more():
    """Both legs of a bend rest on the shoulders: outer faces at height 0, half the opening from the middle."""
    d = draft()
    d.flange("tray", "left", "left", "60 mm")
    _, part = built(d)
    work = Workpiece(part.flat.fold, part.flat.thickness)
    for share in (0.3, 1.0):
        pose = Pose.of(work, 0, [share], v=8.0, extent=(0.0, 150.0))
        for piece in (pose.slabs.piece(i) for i in np.flatnonzero(pose.slabs.zones >= 0)):
            normal = piece.sides[-1] / np.linalg.norm(piece.sides[-1])
            for end in (-4.0, 4.0):
                if (piece.points[:, 1].mean() > 0) == (end > 0):
                    shoulder = np.array([0.0, end, 0.0])
                    assert abs(min((shoulder - piece.low[0]) @ normal, (shoulder - piece.high[0]) @ normal, key=abs)) < 1e-6


def test_separating_axes_agree_with_boxes():
    def slab(x, y, z):
        low = np.array([[x, y, z], [x + 10, y, z], [x + 10, y + 10, z], [x, y + 10, z]], dtype=float)
        return Piece(0, low, low + [0, 0, 1])

    assert runs_into(slab(0, 0, 0), slab(5, 5, 0.5))
    assert not runs_into(slab(0, 0, 0), slab(5, 5, 1.0))
    assert not runs_into(slab(0, 0, 0), slab(10, 0, 0))


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"length": 100.0}, "long_bend"),
        ({"force": 1.0}, "brake_force"),
        ({"dies": {}}, "no_tool"),
    ],
)
def test_what_the_brake_cannot_do_is_said(change, code):
    d = draft()
    d.flange("tray", "left", "left", "30 mm")
    d.data["brakes"]["bench"].update(change)
    assert code in [p.fault.code for p in check(build(d.document()))]


def test_a_radius_that_no_tool_gives_is_mended_to_one_that_is_there():
    d = draft()
    d.flange("tray", "left", "left", "30 mm")
    d.data["parts"]["tray"]["folding"]["radius"] = d.entry("1.1 mm")
    d.data["brakes"]["bench"]["punches"] = {"wide": d.data["brakes"]["bench"]["punches"]["wide"]}
    document = d.document()
    problem = next(p for p in check(build(document)) if p.fault.code == "tool_radius")
    mended = patched(document.dump(), problem.fault.mends[0].patch)
    assert not [p for p in check(build(mended)) if p.fault.code == "tool_radius"]


def test_a_leg_that_slips_off_the_die_is_said():
    d = draft()
    d.flange("tray", "left", "left", "4 mm")
    assert "short_flange" in [p.fault.code for p in check(build(d.document()))]


def test_every_part_of_a_found_order_stays_possible_step_by_step():
    """What the search says can be done is tried again step by step in the order that it gives."""
    d = draft("300 mm", "220 mm")
    for side in ("left", "front", "right", "back"):
        d.flange("tray", side, side, "40 mm")
        d.flange("tray", f"{side}_lip", "end", "12 mm", on=side)
    fold, found = steps(d)
    assert not any(s.collides for s in found)
    order = keys(fold, found)
    _, again = steps(d, order)
    assert keys(fold, again) == order
    assert not any(s.collides for s in again)
    assert all(a.bends != b.bends for a, b in pairwise(found))


def test_neighbours_lips_ask_for_a_punch_that_is_shorter_than_the_bend():
    d = draft("300 mm", "220 mm")
    for side in ("left", "front", "right", "back"):
        d.flange("tray", side, side, "40 mm")
        d.flange("tray", f"{side}_lip", "end", "12 mm", on=side)
    d.data["brakes"]["bench"]["free"] = 0.0
    _, found = steps(d)
    assert any("the punch" in c for s in found for c in s.collides)


def test_no_brake_no_order():
    d = draft()
    d.flange("tray", "left", "left", "30 mm")
    d.data["brake"] = ""
    document, part = built(d)
    assert plan_of(document, part, part.flat) == []
    assert math.isclose(part.flat.fold.bends[0].radius, part.flat.thickness)


def test_a_brake_without_tools_still_gives_every_step():
    d = draft()
    d.flange("tray", "left", "left", "30 mm")
    _, part = built(d)
    found = bend_order(part.flat.fold, part.flat.thickness, Bending(), Brake(name="bare"))
    assert len(found) == 1
    assert found[0].tool is None
    assert found[0].collides


SHORT = {
    "outer": {"length": "4 mm"},
    "inner": {"length": "3 mm", "measured": "inner"},
    "tangent": {"length": "2 mm", "measured": "tangent"},
    "sharp": {"length": "5 mm", "angle": "120 deg"},
    "blunt": {"length": "2 mm", "angle": "30 deg"},
}


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
@pytest.mark.parametrize("how", SHORT)
def test_the_least_leg_is_said_as_it_is_entered_and_is_the_least_of_all_dies(how, edge):
    d = draft()
    more = dict(SHORT[how])
    d.flange("tray", "f", edge, more.pop("length"), **more)
    document = d.document()
    (fault,) = [p.fault for p in check(build(document)) if p.fault.code == "short_flange"]
    (mend,) = fault.mends
    shown = mend.label.removeprefix("Make it ")
    assert f"{shown} as it is entered" in fault.rule and fault.entry.endswith("/f/length")

    def short(length):
        patch = [{"op": "add", "path": fault.entry, "value": {"text": f"{length:.4f} mm", "unit": "mm"}}]
        return any(p.fault.code == "short_flange" for p in check(build(patched(document.dump(), patch))))

    least = float(shown.removesuffix(" mm"))
    assert not short(least) and short(least - 0.02)


def test_the_last_leg_of_a_profile_is_lengthened_where_it_is_entered():
    d = draft()
    d.profile("tray", "f", "left", ("30 mm", "90 deg"), ("4 mm", "90 deg"))
    document = d.document()
    (fault,) = [p.fault for p in check(build(document)) if p.fault.code == "short_flange"]
    assert fault.entry.endswith("/f/legs/1/length")
    mended = patched(document.dump(), list(fault.mends[0].patch))
    assert not [p for p in check(build(mended)) if p.fault.code == "short_flange"]


def test_a_problem_names_the_tools_of_the_table():
    """Lips that run into the blunt punch are bent with another; what comes out is told of that one."""
    d = draft("60 mm", "60 mm")
    d.data["parts"]["tray"]["folding"]["radius"] = d.entry("2.4 mm")
    for side in ("left", "right"):
        d.flange("tray", side, side, "40 mm")
        d.flange("tray", f"{side}_lip", "end", "16 mm", on=side)
    document = d.document()
    built = build(document)
    fold = built.parts["tray"].flat.fold
    tools = {fold.bends[b].owner: s.tool.name for s in plan_of(document, built.parts["tray"], built.parts["tray"].flat) for b in s.bends}
    told = [f for f in brake_faults(built) if f.code == "tool_radius"]
    assert len(told) == 4 and len(set(tools.values())) == 2
    assert all(tools[f.owner] in f.message for f in told)
