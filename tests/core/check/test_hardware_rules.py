"""Bearings on their shafts, bits that the shop has, screws that cannot be put in; blind tapped holes, a gear's pitch."""

import pytest

from tests.core.making.kinds.test_rods_in_bores import walls
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.making.pipeline import build


def told(built, code):
    return [p.fault for p in check(built) if p.fault.code == code]


def borne(designation, axis="x", thick=None):
    """The walls with a bearing let into the outer face of the first."""
    d = walls(axis, low="-9 mm", high="9 mm", fits=("4 mm", "4 mm"))
    if thick:
        d.data["stocks"]["steel8"]["nominal"] = d.entry(thick)
        d.data["stocks"]["steel8"].pop("measured", None)
    face = {"x": "left", "y": "front", "z": "bottom"}[axis]
    at = {a: "rod.centre" for a in "xyz" if a != axis} | {axis: f"one.{face}"}
    d.put(
        "bearing", designation, at, by={axis: face}, looks=f"-{axis}", along="+y" if axis != "y" else "+z", on={"a": "one"}, let_in="7 mm"
    )
    return d.document()


@pytest.mark.parametrize("axis", "xyz")
def test_a_bearing_that_fits_its_shaft_says_nothing(axis):
    built = build(borne("ISO 15 - 608", axis))
    assert not built.faults
    assert not [f for code in ("bearing_shaft", "bearing_empty", "overlap") for f in told(built, code)]


@pytest.mark.parametrize(("thick", "what"), [("7.84 mm", "thin"), ("6 mm", "thin"), ("8.1 mm", "thick")])
def test_a_shaft_too_thin_or_too_thick_for_its_bearing_is_said(thick, what):
    found = told(build(borne("ISO 15 - 608", thick=thick)), "bearing_shaft")
    assert len(found) == 1 and f"rod is too {what} for bearing" in found[0].message and "8 mm" in found[0].rule


def test_a_shaft_drawn_to_h11_fits():
    assert not told(build(borne("ISO 15 - 608", thick="7.89 mm")), "bearing_shaft")


def test_a_bearing_beside_every_shaft_is_empty():
    data = borne("ISO 15 - 608").dump()
    data["parts"]["bearing"]["at"]["y"] = {"text": "80 mm", "unit": "mm"}
    assert told(build(patched(data, [])), "bearing_empty")


def edged(bits):
    """A rail on the edge of a board by dowels of 8."""
    d = Draft("edged", "ply18", cutter="router")
    d.board("side", "ply18", "facing_side", "0", ("0", "300 mm"), ("0", "200 mm"))
    d.board("shelf", "ply18", "lying", "90 mm", ("side.right", "400 mm"), ("0", "300 mm"))
    d.joint("dowels", "shelf", "side")
    d.data["hardware"] = {"bits": bits}
    return build(d.document())


@pytest.mark.parametrize(
    ("bits", "said"), [("", False), ("3 4 5 8 10", False), ("8mm", False), ("7.96", False), ("6 7 10", True), ("3; 4,5", True)]
)
def test_a_hole_to_drill_wants_a_bit_of_the_shop(bits, said):
    found = told(edged(bits), "no_bit")
    assert bool(found) == said
    if bits == "6 7 10":
        assert "holes of 8 mm to drill, and no such bit" in found[0].message and "7 mm or 10 mm" in found[0].rule


def screwed_in_a_channel(room):
    """A board screwed down, with a roof over the screw that is there from the start."""
    d = Draft("channel", "ply18", cutter="router")
    d.data["stocks"]["ply18"]["nominal"] = d.entry("18 mm")
    d.data["stocks"]["ply18"].pop("measured", None)
    d.board("floor", "ply18", "lying", "0", ("0", "200 mm"), ("0", "200 mm"))
    d.board("rail", "ply18", "lying", "floor.top", ("60 mm", "140 mm"), ("0", "200 mm"), face="bottom")
    d.bore("hole", "z", {"x": "100 mm", "y": "100 mm"}, "5 mm", rail=("cut", "0"), floor=("cut", "0"))
    d.hardware("hole", head="socket", size="M5", side="high")
    d.board("wall", "ply18", "facing_side", "floor.left", ("0", "200 mm"), ("floor.top", f"rail.top + {room} + 18 mm"), face="left")
    d.board("roof", "ply18", "lying", f"rail.top + {room}", ("wall.right", "200 mm"), ("0", "200 mm"), face="bottom")
    return build(d.document())


@pytest.mark.parametrize(("room", "said"), [("20 mm", True), ("46 mm", True), ("60 mm", False)])
def test_a_screw_longer_than_the_room_before_its_hole_cannot_be_put_in(room, said):
    """M5 through 36 and a nut: 45 long, under a roof that comes before it or after it: what is there later is no hindrance."""
    built = screwed_in_a_channel(room)
    from zygon.making.assembly.plan import assembly

    plan = assembly(built)
    arrives = dict.fromkeys(plan.first, 0) | {k: n for n, s in enumerate(plan.steps, 1) for k in s.parts}
    turn = max(arrives[k] for k in ("rail", "floor"))
    found = told(built, "cannot_be_put_in")
    # 5 of the head stand over the rail: what is left under the roof must take 45
    assert bool(found) == (said and arrives["roof"] <= turn)


def tapped(thick, **said):
    d = Draft("tapped", "galv20", "ply12")
    d.data["stocks"]["galv20"] |= {"nominal": d.entry(thick)}
    d.data["stocks"]["galv20"].pop("measured", None)
    d.data["stocks"]["ply12"]["nominal"] = d.entry("5 mm")
    d.data["stocks"]["ply12"].pop("measured", None)
    d.board("plate", "galv20", "lying", "0", ("0", "100 mm"), ("0", "100 mm"))
    d.board("cover", "ply12", "lying", "plate.top", ("0", "100 mm"), ("0", "100 mm"), face="bottom")
    d.bore("hole", "z", {"x": "50 mm", "y": "50 mm"}, "5 mm", plate=("cut", "0"), cover=("cut", "0"))
    d.hardware("hole", head="socket", size="M5", into="thread", side="high", **said)
    return build(d.document())


def test_a_tapped_hole_goes_through_or_is_blind_by_three_pitches():
    through, blind = tapped("20 mm"), tapped("20 mm", tapped="blind")
    assert not through.flats["plate"].flat.pockets
    assert [c.as_circle[2] * 2 for c in through.flats["plate"].flat.inside] == pytest.approx([4.2])
    one = blind.sets["hole"]
    # one diameter of thread in steel: 5 + 5, and the hole 3 pitches of 0.8 deeper than the screw
    assert (one.needed, one.length) == (pytest.approx(10.0), 10.0)
    assert [p.depth for p in blind.flats["plate"].flat.pockets] == pytest.approx([5 + 2.4])
    assert not blind.faults


def test_a_blind_tapped_hole_in_what_is_too_thin_is_said():
    """8 of steel: 8 - 2.4 - 1 = 4.6 of thread at most, and 5 are wanted: no M5 does, as 8 gives 3 and 10 bottoms."""
    assert "no_length" in {f.code for f in tapped("8 mm", tapped="blind").faults}
    assert "screw_too_long" in {f.code for f in tapped("8 mm", tapped="blind", length="12 mm").faults}


def test_the_centre_distance_of_two_gears_is_half_the_sum_of_their_pitches():
    d = Draft("gears", "ply6")
    d.size("module_of_both", "2 mm")
    d.size("apart", "(wheel.pitch + pinion.pitch) / 2")
    gear = {"kind": "gear", "module": d.entry("module_of_both")}
    d.board("wheel", "ply6", "lying", "0", ("0", "52 mm"), ("0", "52 mm"), outline={**gear, "teeth": 24})
    d.board("pinion", "ply6", "lying", "0", ("100 mm", "140 mm"), ("0", "40 mm"), outline={**gear, "teeth": 18})
    built = build(d.document())
    assert not built.faults and built.values["/sizes/apart/entry"].value == pytest.approx(2 * (24 + 18) / 2)
    data = d.document().dump()
    data["sizes"]["module_of_both"]["entry"]["text"] = "2.5 mm"
    assert build(patched(data, [])).values["/sizes/apart/entry"].value == pytest.approx(2.5 * 21)
    data["sizes"]["apart"]["entry"]["text"] = "wheel.pitch + plate.pitch"
    data["parts"]["plate"] = {**data["parts"]["wheel"], "name": "plate", "outline": None}
    fault = build(patched(data, [])).faults[0]
    assert fault.code == "broken_expression" and "plate is no gear" in fault.message
