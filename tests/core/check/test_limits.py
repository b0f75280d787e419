"""Every rule with a number is kept a hundredth above it and broken a hundredth below, with unlike rules, on each edge and face; and says what it means."""

import pytest

from tests.core.making.joints.pairs import pair
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.making.pipeline import build

EDGES = ["left", "right", "front", "back"]
#: Rules that are all different, in thicknesses of 11.8 mm.
RULES = {"finger": 0.6, "web": 0.8, "edge": 1.3, "floor": 0.3}
T = 11.8
OFF = [(-0.01, True), (0.0, False), (0.01, False)]


def faults(d, code=""):
    found = [p.fault for p in check(build(d.document()))]
    return [f for f in found if f.code == code] if code else found


def board(cutter="laser", stock="ply12", **more):
    d = Draft("d", stock, cutter=cutter)
    d.data["rules"] = RULES
    d.board("p", stock, "lying", 0, (0, 300), (0, 200), up="a", **more)
    return d


def spot(edge, distance, along=100):
    return (
        ("left" if edge in ("front", "back") else edge, along if edge in ("front", "back") else distance),
        ("front" if edge in ("left", "right") else edge, along if edge in ("left", "right") else distance),
    )


@pytest.mark.parametrize("edge", EDGES)
@pytest.mark.parametrize(("off", "broken"), OFF)
def test_wood_between_a_hole_and_each_edge(edge, off, broken):
    d = board()
    u, v = spot(edge, f"{1.3 * T + 5 + off:.4f}")
    d.feature("p", "h", "hole", u, v, diameter="10")
    found = faults(d)
    assert [f.code for f in found] == (["near_edge"] if broken else [])
    for f in found:
        assert (f.severity, f.part, f.owner, f.value, f.rule) == (
            "error",
            "p",
            "feature:p:h",
            "15.33 mm",
            "at least 15.34 mm (1.3 thicknesses)",
        )
        x, y = {"left": (0, 100), "right": (300, 100), "front": (100, 0), "back": (100, 200)}[edge]
        assert abs(f.at[0] - x) < 21 and abs(f.at[1] - y) < 21 and "from the hole" in f.message and "to the edge" in f.message


@pytest.mark.parametrize("angle", [0, 90, 30])
@pytest.mark.parametrize(("off", "broken"), OFF)
def test_wood_between_two_cuts(angle, off, broken):
    import math

    d = board()
    gap = 0.8 * T + 12 + off
    a = math.radians(angle)
    d.feature("p", "h", "hole", ("left", 100), ("front", 80), diameter="10")
    d.feature("p", "k", "hole", ("left", f"{100 + gap * math.cos(a):.5f}"), ("front", f"{80 + gap * math.sin(a):.5f}"), diameter="14")
    found = faults(d)
    assert [f.code for f in found] == (["thin_web"] if broken else [])
    for f in found:
        assert (f.severity, f.part, f.value, f.rule) == ("error", "p", "9.43 mm", "at least 9.44 mm (0.8 thicknesses)")
        assert f.owner in ("feature:p:h", "feature:p:k") and "hole" in f.message


@pytest.mark.parametrize("face", ["top", "bottom"])
@pytest.mark.parametrize(("off", "broken"), OFF)
def test_wood_under_a_pocket(face, off, broken):
    d = board("router")
    d.feature(
        "p", "k", "pocket", ("left", 100), ("front", 80), width="40", height="30", radius="3", depth=f"{0.7 * T - off:.4f}", face=face
    )
    found = [f for f in faults(d) if f.code != "underside"]
    assert [f.code for f in found] == (["thin_floor"] if broken else [])
    for f in found:
        assert (f.severity, f.value, f.rule, f.owner, f.at) == (
            "error",
            "3.53 mm",
            "at least 3.54 mm (0.3 thicknesses)",
            "feature:p:k",
            pytest.approx((100, 80)),
        )


@pytest.mark.parametrize(("off", "code"), [(-0.01, "thin_floor"), (0.01, ""), (-3.54, "floors_meet"), (-5.0, "floors_meet")])
def test_wood_between_pockets_of_both_faces(off, code):
    d = board("router")
    for key, face, depth, u in (("k", "top", 5.0, 100), ("m", "bottom", T - 5.0 - 3.54 - off, 115)):
        d.feature("p", key, "pocket", ("left", u), ("front", 80), width="40", height="30", radius="3", depth=f"{depth:.4f}", face=face)
    found = [f for f in faults(d) if f.code in ("thin_floor", "floors_meet") and ("other face" in f.message)]
    assert [f.code for f in found] == ([code] if code else [])
    # told at the first one's middle
    assert [f.at for f in found] == ([pytest.approx((100, 80))] if code else [])
    # beside each other they do not meet
    d.data["parts"]["p"]["features"]["m"]["u"]["offset"] = d.entry("200")
    assert not [f for f in faults(d) if "other face" in f.message]


@pytest.mark.parametrize(("off", "broken"), OFF)
@pytest.mark.parametrize("edge", EDGES)
def test_a_hole_keeps_two_thicknesses_and_the_radius_from_a_bend(edge, off, broken):
    d = board(stock="galv20")
    d.fold("p")
    d.flange("p", "f", edge, "40")
    built = build(d.document())
    (bend,) = built.parts["p"].flat.fold.bends
    t = built.parts["p"].flat.thickness
    # the bend's zone begins at the plate's side of its outline
    k = 0 if edge in ("left", "right") else 1
    lines = [p[k] for p in bend.outline.points]
    side = max(lines) if edge in ("left", "front") else min(lines)
    away = abs(side - {"left": 0, "front": 0, "right": 300, "back": 200}[edge])
    u, v = spot(edge, f"{away + 2 * t + bend.radius + 4 + off:.5f}")
    d.feature("p", "h", "hole", u, v, diameter="8")
    found = faults(d, "near_bend")
    assert bool(found) == broken
    for f in found:
        limit = 2 * t + bend.radius
        assert (
            f.severity == "warning"
            and f.owner == "feature:p:h"
            and f.rule.endswith("(2 T + R)")
            and f.measure == pytest.approx(limit + off, abs=1e-3)
        )
        assert f.at == pytest.approx(
            {
                "left": (away + limit + 4 + off, 100),
                "right": (300 - away - limit - 4 - off, 100),
                "front": (100, away + limit + 4 + off),
                "back": (100, 200 - away - limit - 4 - off),
            }[edge],
            abs=0.01,
        )
    # the stock may have a distance of its own
    d.data["stocks"]["galv20"]["bending"]["hole_distance"] = d.entry("1 mm")
    assert not faults(d, "near_bend")


@pytest.mark.parametrize(("off", "broken"), OFF)
@pytest.mark.parametrize(("ta", "tb"), [(9.0, 15.0), (15.0, 9.0)])
def test_tabs_are_so_wide_at_least_by_the_thicker_board(off, broken, ta, tb):
    d = pair("tab_slot", ta, tb, 120.0, number="2", length=f"{0.6 * 15 + off:.4f} mm")
    d.data["rules"] = RULES
    found = faults(d, "thin_finger")
    assert bool(found) == broken
    for f in found:
        assert (f.severity, f.part, f.other, f.owner, f.value, f.rule) == (
            "error",
            "a",
            "b",
            "joint:a-b",
            "8.99 mm",
            "at least 9 mm (0.6 thicknesses)",
        )
        assert "a tab is 8.99 mm wide" in f.message and f.mends[0].patch == [{"op": "remove", "path": "/joints/a-b/length"}]


#: The starting sheets of the stock, their margins unlike.
def on_sheet(length, width, **edges):
    d = Draft("d", "ply12")
    d.data["stocks"]["ply12"]["sheets"] = {"s": {"length": d.entry("1000"), "width": d.entry("600")}}
    d.data["nest"] = {"gap": d.entry("3"), "margin": d.entry("10"), "edges": {k: d.entry(v) for k, v in edges.items()}}
    d.board("p", "ply12", "lying", 0, (0, length), (0, width))
    return d


@pytest.mark.parametrize(
    ("length", "width", "broken"), [(980, 580, False), (980.01, 580, True), (980, 580.01, True), (580, 980, False), (580.01, 980, True)]
)
def test_a_part_is_as_large_as_a_sheet_less_its_margins_at_most(length, width, broken):
    found = faults(on_sheet(length, width), "too_large")
    assert bool(found) == broken
    for f in found:
        assert (f.severity, f.part, f.rule) == ("error", "p", "at most 980 mm × 580 mm, the largest sheet less its margins")


@pytest.mark.parametrize(("bed", "broken"), [((1000, 600), False), ((600, 1000), False), ((999.99, 600), True), ((1000, 599.99), True)])
def test_a_sheet_lies_on_the_cutter_s_bed(bed, broken):
    d = on_sheet(100, 100)
    d.data["cutters"]["laser"] |= {"bed_length": d.entry(bed[0]), "bed_width": d.entry(bed[1])}
    found = faults(d, "over_bed")
    assert [(f.severity, f.entry, f.value) for f in found] == (
        [("warning", "/stocks/ply12/sheets/s", "1000 mm × 600 mm")] if broken else []
    )


@pytest.mark.parametrize(("gap", "broken"), [("0.24", False), ("0.25", False), ("0.23", True)])
def test_parts_lie_as_far_apart_as_the_cut_is_wide(gap, broken):
    d = on_sheet(100, 100)
    d.data["nest"]["gap"] = d.entry(gap)
    found = faults(d, "narrow_gap")
    assert bool(found) == broken
    for f in found:
        assert (f.severity, f.entry, f.value, f.rule) == ("error", "/nest/gap", "0.23 mm", "at least 0.24 mm")
        assert f.mends[0].patch == [{"op": "replace", "path": "/nest/gap", "value": {"text": "0.24 mm", "unit": "mm"}}]


@pytest.mark.parametrize(
    ("limits", "broken"),
    [
        ({"least": "49.99"}, ""),
        ({"least": "50"}, ""),
        ({"least": "50.01"}, "less than"),
        ({"most": "49.99"}, "more than"),
        ({"most": "50"}, ""),
        ({"most": "50.01"}, ""),
        ({"least": "50.01", "most": "80"}, "less than"),
        ({"least": "20", "most": "49.99"}, "more than"),
    ],
)
@pytest.mark.parametrize("along", ["x", "shortest"])
def test_room_that_was_stated(limits, broken, along):
    d = Draft("d", "ply12")
    for key, at in (("one", 0), ("two", 150)):
        d.board(key, "ply12", "lying", 0, (at, at + 100), (0, 70))
    d.clearance("room", {"part": "one"}, {"part": "two"}, along, **limits)
    found = faults(d, "clearance")
    assert bool(found) == bool(broken)
    for f in found:
        assert (f.severity, f.value, f.part, f.other, f.entry) == (
            "error",
            "50 mm",
            "one",
            "two",
            "/clearances/room",
        ) and broken in f.message
        assert f.rule == " and ".join(f"{w} {limits[k]} mm" for k, w in (("least", "at least"), ("most", "at most")) if k in limits)


@pytest.mark.parametrize(
    ("angle", "cutter", "warned"),
    [
        ("44.9 deg", "saw", False),
        ("45 deg", "saw", False),
        ("45.2 deg", "saw", True),
        ("54 deg", "saw", True),
        ("20 deg", "router", True),
        ("20 deg", "laser", True),
    ],
)
def test_a_saw_tilts_to_45_degrees_and_others_not_at_all(angle, cutter, warned):
    d = Draft("d", "ply12", cutter=cutter)
    d.board("top", "ply12", "lying", 300, (0, 400), (0, 200))
    d.board("leg", "ply12", "facing_side", "60 mm", ("40 mm", "160 mm"), (0, "top.bottom"))
    d.turn("leg", "y", angle, x="leg.left", z="leg.top")
    d.joint("bevel", "leg", "top")
    found = faults(d, "bevelled_edge")
    assert bool(found) == warned
    for f in found:
        assert f.severity == "warning" and f.part == "leg" and f.value == f"{float(angle.split()[0]):.3g}°"
        assert ("tilts no farther than 45°" in f.message) == (cutter == "saw")


@pytest.mark.parametrize("field", ["kerf", "smallest", "bed_length", "bed_width", "bit", "pass_depth"])
@pytest.mark.parametrize("value, said", [("-0.01 mm", "-0.01 mm"), ("0", "0 mm"), ("1 mm", ""), ("101 mm", "101 mm")])
def test_each_size_of_a_cutter_is_what_a_cutter_can_have(field, value, said):
    """A kerf or least width of nothing is a plasma's dream and no mistake; a bit over 100 mm is no router's."""
    d = board("router")
    d.data["cutters"]["router"][field] = d.entry(value)
    fine = said == "" or (value == "0" and field in ("kerf", "smallest")) or (value == "101 mm" and field not in ("kerf", "bit"))
    found = [f for f in faults(d, "bad_value") if f.entry == f"/cutters/router/{field}"]
    assert [f.value for f in found] == ([] if fine else [said])
    assert all(f"its {field.replace('_', ' ')} is {said}" in f.message for f in found)


@pytest.mark.parametrize(("joints", "width", "said"), [(0, "0", False), (2, "0", True), (2, "-1 mm", True), (2, "0.4 mm", False)])
@pytest.mark.parametrize(("lead", "wrong"), [("0", False), ("-3 mm", True), ("3 mm", False), ("broad", True)])
def test_leads_and_micro_joints_of_a_beam_can_be_had(joints, width, said, lead, wrong):
    d = board("laser")
    d.data["cutters"]["laser"] |= {"joints": joints, "joint_width": d.entry(width), "lead_length": d.entry(lead)}
    found = {f.entry for f in [*faults(d, "bad_value"), *faults(d, "broken_expression")]}
    assert ("/cutters/laser/joint_width" in found, "/cutters/laser/lead_length" in found) == (said, wrong)


@pytest.mark.parametrize("first", [3.0, 4.31, 5.62])
def test_holes_of_every_size_are_found_however_their_chords_lie(first):
    # chords of a round hole fall short of it by as much as they are coarse, most where one lies across the nearest way to its neighbour
    d = board()
    sizes = [first + 0.101 * k for k in range(13)]
    for k, size in enumerate(sizes):
        # above one another, and nearer by a thousandth than the rule says; farther from the next ones
        for n, v in enumerate((80.0, 80 + 0.8 * T + size - 0.001)):
            d.feature("p", f"h{k}_{n}", "hole", ("left", f"{25 + 20 * k}"), ("front", f"{v:.5f}"), diameter=f"{size}")
    found = {f.owner for f in faults(d, "thin_web") if f.measure == pytest.approx(0.8 * T - 0.001, abs=1e-4)}
    assert found == {f"feature:p:h{k}_0" for k in range(len(sizes))}


@pytest.mark.parametrize("edge", EDGES)
def test_holes_of_every_size_near_a_bend_are_found_however_their_chords_lie(edge):
    sizes = [5 + 0.43 * k for k in range(16)]
    d = board("laser", "galv20")
    d.fold("p")
    d.flange("p", "f", edge, "40")
    built = build(d.document())
    (bend,) = built.parts["p"].flat.fold.bends
    k = 0 if edge in ("left", "right") else 1
    lines = [p[k] for p in bend.outline.points]
    side = max(lines) if edge in ("left", "front") else min(lines)
    away = abs(side - {"left": 0, "front": 0, "right": 300, "back": 200}[edge])
    limit = 2 * built.parts["p"].flat.thickness + bend.radius
    for n, size in enumerate(sizes):
        u, v = spot(edge, f"{away + limit - 0.0015 + size / 2:.5f}", along=5 + size + 11 * n)
        d.feature("p", f"h{n}", "hole", u, v, diameter=f"{size}")
    assert {f.owner for f in faults(d, "near_bend")} == {f"feature:p:h{n}" for n in range(len(sizes))}
