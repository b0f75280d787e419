"""What a set is made of: lengths by hand and by sums of what it passes, over axes, ends, heads, stocks and thicknesses."""

import itertools

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.sets.stacks import stack
from zygon.design.patch import patched
from zygon.making.pipeline import build
from zygon.stock.hardware.nuts import NUTS, WASHERS
from zygon.stock.hardware.screws import SCREWS
from zygon.stock.hardware.threads import METRIC, diameter_of


def only(draft):
    built = build(draft.document())
    return built, built.sets["hole"]


def test_two_boards_of_25_two_washers_and_an_m5_nut_take_60():
    built, one = only(
        stack("ply18", "ply12", thick={"ply18": "25 mm", "ply12": "25 mm"}, size="M5", washer="plain_washer", nut_washer="plain_washer")
    )
    # by hand: 25 + 25 + 1 + 1 + 4.7 + 0.8 of pitch = 57.5
    assert one.needed == pytest.approx(57.5) and one.length == 60 and not built.faults
    assert one.words == "socket head screw M5 × 60, 2 plain washers, hexagon nut"


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("side", ["low", "high"])
@pytest.mark.parametrize("head", [k for k, s in SCREWS.items() if s.thread == "metric"])
def test_every_head_along_every_axis_from_both_ends_is_as_long_as_all_that_it_passes(axis, side, head):
    size = "M6"
    built, one = only(
        stack(
            "ply18",
            "ply12",
            axis=axis,
            side=side,
            head=head,
            size=size,
            washer="plain_washer",
            nut_washer="large_washer",
            nut="locking_nut",
        )
    )
    under = 0.0 if SCREWS[head].flush or head == "carriage" else WASHERS["plain_washer"].rows[size][2]
    total = under + 17.7 + 11.8 + WASHERS["large_washer"].rows[size][2] + NUTS["locking_nut"].rows[size][1] + METRIC[size]
    assert one.needed == pytest.approx(total)
    assert one.length == min(x for x in SCREWS[head].lengths_of(size) if x >= total)
    assert not built.faults
    # where its pieces lie: head's bearing face, washers, nut, one against the other from the head on
    (place,) = one.places
    k = "xyz".index(axis)
    sign = 1 if side == "low" else -1
    start = 0.0 if side == "low" else 29.5
    along = [sign * (p.motion.shift[k] - start) for p in place.pieces]
    names = [p.hardware.family for p in place.pieces]
    wanted = {head: -under, "plain_washer": -under, "large_washer": 29.5, "locking_nut": 29.5 + WASHERS["large_washer"].rows[size][2]}
    assert dict(zip(names, along, strict=True)) == pytest.approx({n: wanted[n] for n in names})
    assert set(names) == set(wanted) - (set() if under else {"plain_washer"})
    across = [60.0, 50.0]
    for p in place.pieces:
        assert [p.motion.shift[i] for i in range(3) if i != k] == pytest.approx(across)
        assert p.motion.vector((0, 0, 1))[k] == pytest.approx(sign) and p.motion.handed == 1
    assert place.parts == (("b0", "b1") if side == "low" else ("b1", "b0"))


@given(
    first=st.floats(2, 30),
    second=st.floats(2, 30),
    size=st.sampled_from(["M3", "M4", "M5", "M6", "M8", "M10"]),
    washers=st.tuples(st.sampled_from(["none", "plain_washer", "large_washer"]), st.sampled_from(["none", "plain_washer", "large_washer"])),
    nut=st.sampled_from(["hexagon_nut", "locking_nut"]),
)
@settings(deadline=None, max_examples=60)
def test_the_shortest_that_reaches_one_pitch_past_the_nut_is_taken(first, second, size, washers, nut):
    thick = {"ply18": f"{first:.4f} mm", "ply12": f"{second:.4f} mm"}
    _, one = only(stack("ply18", "ply12", thick=thick, size=size, washer=washers[0], nut_washer=washers[1], nut=nut))
    own = [0.0 if w == "none" else WASHERS[w].rows[size][2] for w in washers]
    total = float(f"{first:.4f}") + float(f"{second:.4f}") + sum(own) + NUTS[nut].rows[size][1] + METRIC[size]
    assert one.needed == pytest.approx(total)
    assert one.length >= total - 1e-6
    assert not any(x for x in SCREWS["socket"].lengths_of(size) if total <= x < one.length)
    # the nut never lies on the shank: it is wholly on the thread, which ends at the tip
    nut_face = total - NUTS[nut].rows[size][1] - METRIC[size]
    assert nut_face >= one.length - SCREWS["socket"].thread_of(size, one.length) - 1e-9


def test_a_thickness_that_is_changed_changes_the_length():
    found = []
    for thick in (6, 12, 18, 24, 40):
        _, one = only(stack("ply18", "ply12", thick={"ply18": f"{thick} mm"}, size="M5"))
        found.append(one.length)
    # 11.8 + 4.7 + 0.8 and the thickness
    assert found == [25, 30, 40, 45, 60]


def test_air_between_parts_is_passed_too():
    _, one = only(stack("ply12", "ply12", gap="10 mm", size="M5"))
    assert one.needed == pytest.approx(2 * 11.8 + 10 + 4.7 + 0.8)


@pytest.mark.parametrize(("side", "faces"), [("low", ("b", "")), ("high", ("", "a"))])
def test_a_sunk_head_lies_in_a_counterbore_of_its_face(side, faces):
    built, one = only(stack("ply18", "ply18", side=side, seat="sunk", washer="plain_washer", size="M5"))
    # head 5 high, washer 1, 0.4 under the face (common practice); DIN 974 has 10 across, the washer wants 11
    for key, face in zip(("b0", "b1"), faces, strict=True):
        pockets = built.flats[key].flat.pockets
        assert [(p.face, p.as_circle[2] * 2, round(p.depth, 6)) for p in pockets] == ([(face, 11.0, 6.4)] if face else [])
    assert one.needed == pytest.approx(2 * 17.7 - 5.4 + 4.7 + 0.8)


def test_a_pocket_where_the_head_lies_is_taken_off():
    d = stack("ply18", "ply12", size="M5", side="high")
    d.feature("b1", "p", "pocket", ("left", "60 mm"), ("front", "50 mm"), width="30 mm", height="30 mm", depth="4 mm")
    _, one = only(d)
    assert one.needed == pytest.approx(17.7 + 11.8 - 4 + 4.7 + 0.8)
    assert one.places[0].at[2] == pytest.approx(29.5 - 4)
    d.data["bores"]["hole"]["hardware"]["side"] = "low"
    _, one = only(d)
    assert one.needed == pytest.approx(17.7 + 11.8 - 4 + 4.7 + 0.8)


@pytest.mark.parametrize("size", ["3", "4", "5", "6"])
def test_a_wood_screw_reaches_four_diameters_across_the_grain(size):
    # Eurocode 5 (from memory): 4 d across
    built, one = only(stack("ply18", "ply12", thick={"ply18": "60 mm"}, head="wood", size=size, side="high"))
    assert one.engaged >= 4 * float(size) and not built.faults
    assert one.length == min(x for x in SCREWS["wood"].lengths_of(size) if x >= 11.8 + 4 * float(size))
    (hole,) = built.flats["b0"].flat.pockets  # blind, as deep as the screw reaches
    assert hole.depth == pytest.approx(one.length - 11.8) and hole.face == "a"


def test_a_screw_that_finds_too_little_wood_says_so_and_does_not_come_out():
    built, one = only(stack("ply12", "ply12", head="wood", size="5", side="high"))
    assert [f.code for f in built.faults] == ["grips_little"] and built.faults[0].severity == "warning"
    assert one.length == 20 and one.engaged == pytest.approx(20 - 11.8)
    built, _ = only(stack("ply12", "ply12", head="wood", size="5", side="high", length="25 mm"))
    assert [f.code for f in built.faults] == ["screw_too_long"]


@pytest.mark.parametrize(("material", "wanted"), [("steel", 1), ("aluminium", 2)])
def test_a_tapped_part_holds_by_one_diameter_in_steel_and_two_in_aluminium(material, wanted):
    d = stack("ply12", "galv20", thick={"galv20": "14 mm"}, size="M6", into="thread", side="low")
    d.data["stocks"]["galv20"]["material"] = material
    built, one = only(d)
    assert one.needed == pytest.approx(11.8 + wanted * 6) and one.engaged >= wanted * 6 and not built.faults
    assert [2 * c.as_circle[2] for c in built.flats["b1"].flat.inside] == pytest.approx([5.0])  # core hole: M6 less 1
    # what the stock itself says goes before
    d.data["stocks"]["galv20"]["engages"] = 1.5
    assert only(d)[1].needed == pytest.approx(11.8 + 9)
    d.data["stocks"]["galv20"]["nominal"] = d.entry("3 mm")
    built, one = only(d)
    assert [f.code for f in built.faults] == ["thread_too_short"] and one.engaged == pytest.approx(3)


def test_an_insert_has_its_hole_and_holds_one_diameter():
    built, one = only(stack("ply18", "ply12", into="insert", size="M6", side="high"))
    # 14 long, a hole 1 deeper in 17.7 (memory; common practice); the screw is no longer than the insert
    (hole,) = built.flats["b0"].flat.pockets
    assert (2 * hole.as_circle[2], hole.depth, hole.face) == (10.5, 15, "a")
    assert one.length == 20 and one.engaged == pytest.approx(20 - 11.8) and not built.faults
    built, _ = only(stack("ply12", "ply12", into="insert", size="M6", side="high"))
    assert "insert_room" in [f.code for f in built.faults]


def test_a_rivet_nut_closes_on_thin_sheet_only_and_its_collar_is_told():
    built, _ = only(stack("galv20", "ply12", into="rivet_nut", size="M5", side="high"))
    assert [f.code for f in built.faults] == ["rivet_nut_collar"]
    assert [2 * c.as_circle[2] for c in built.flats["b0"].flat.inside] == [7.0]
    built, _ = only(stack("ply12", "ply12", into="rivet_nut", size="M5", side="high"))
    assert "insert_room" in [f.code for f in built.faults]


@pytest.mark.parametrize("size", ["3.2", "4", "4.8"])
def test_a_rivet_is_the_shortest_that_closes_on_the_stack(size):
    built, one = only(stack("galv20", "galv20", head="blind_rivet", size=size))
    grip = 2 * built.flats["b0"].flat.thickness
    # it closes on what is over 0.9 d (common practice)
    assert one.length - 0.9 * float(size) >= grip and one.length == min(x for x in (6, 8, 10, 12) if x - 0.9 * float(size) >= grip)
    for key in ("b0", "b1"):
        assert [2 * c.as_circle[2] for c in built.flats[key].flat.inside] == pytest.approx([float(size) + 0.1])
    built, _ = only(stack("galv20", "galv20", head="blind_rivet", size=size, length="2 mm"))
    assert [f.code for f in built.faults] == ["screw_too_short"]


def test_a_cap_nut_is_never_run_to_its_bottom():
    for thick in range(4, 40):
        built, one = only(stack("ply18", "ply12", thick={"ply18": f"{thick} mm"}, nut="cap_nut", size="M6"))
        if built.faults:
            assert [f.code for f in built.faults] == ["no_length"]
            continue
        into = one.length - thick - 11.8
        # as deep as a plain nut is high (ISO 4032: 5.2), at most as deep as its thread (DIN 1587: 8), from memory
        assert 5.2 - 1e-9 <= into <= 8 + 1e-9


def test_a_length_that_is_typed_is_kept_and_judged():
    codes = {x: [f.code for f in only(stack("ply12", "ply12", size="M5", length=f"{x} mm"))[0].faults] for x in (25, 29, 30, 31, 35, 60)}
    # 23.6 + 4.7 + 0.8 = 29.1; the shank of 60 is 60 - 22 = 38 long
    assert codes == {25: ["screw_too_short"], 29: ["screw_too_short"], 30: [], 31: ["length_not_sold"], 35: [], 60: ["nut_on_shank"]}
    built, one = only(stack("ply12", "ply12", size="M5", length="-3 mm"))
    assert [f.code for f in built.faults] == ["bad_value"] and one.length == 30
    built, one = only(stack("ply12", "ply12", size="M5", length="no_such"))
    assert [f.code for f in built.faults] == ["broken_expression"] and one.length == 30


def test_a_bolt_whose_nut_would_lie_on_its_shank_is_said_and_another_offered():
    built, _ = only(stack("galv20", "galv20", head="hexagon_shank", size="M6"))
    (fault,) = built.faults
    assert fault.code == "nut_on_shank"
    mended = build(patched(built.document.dump(), fault.mends[0].patch))
    assert not mended.faults and mended.sets["hole"].pieces[0].standard == "ISO 4017"


def test_a_countersunk_head_is_sunk_in_what_is_thick_enough():
    built, _ = only(stack("galv20", "ply12", head="countersunk", size="M5", side="low"))
    assert "countersunk_through" in [f.code for f in built.faults]
    for head, side in itertools.product(("countersunk", "countersunk_recess", "wood"), ("low", "high")):
        size = "4" if head == "wood" else "M4"
        built, _ = only(stack("ply18", "ply18", head=head, size=size, side=side))
        key, face = ("b0", "b") if side == "low" else ("b1", "a")
        (sink,) = built.flats[key].flat.sinks
        assert (sink.face, sink.diameter) == (face, SCREWS[head].rows[size][0])
        assert not built.flats["b1" if key == "b0" else "b0"].flat.sinks


@pytest.mark.parametrize("fit", ["fine", "medium", "coarse"])
@pytest.mark.parametrize("size", ["M3", "M5", "M8", "M12"])
def test_holes_are_those_of_iso_273(size, fit):
    from zygon.stock.hardware.holes import CLEARANCE

    built, one = only(stack("ply18", "ply18", size=size, hole=fit))
    wide = CLEARANCE[size[1:]][("fine", "medium", "coarse").index(fit)]
    for key in ("b0", "b1"):
        assert [2 * c.as_circle[2] for c in built.flats[key].flat.inside] == pytest.approx([wide])
        assert one.holes[key] == wide
    d = stack("ply18", "ply18", size=size, hole=fit)
    d.data["bores"]["hole"]["parts"]["b0"]["fit"] = d.entry("0.3 mm")
    flats = build(d.document()).flats
    assert 2 * flats["b0"].flat.inside[0].as_circle[2] == pytest.approx(wide + 0.3)
    assert 2 * flats["b1"].flat.inside[0].as_circle[2] == pytest.approx(wide)


def test_a_set_on_nothing_and_one_on_a_slope_are_said():
    d = stack("ply12", "ply12", size="M5")
    for key in ("b0", "b1"):
        d.data["bores"]["hole"]["parts"][key]["action"] = "mark"
    built = build(d.document())
    assert [f.code for f in built.faults] == ["set_holds_nothing"] and not built.sets
    d = stack("ply12", "ply12", size="M5")
    d.askew("hole", "", "20 deg", "0 deg")
    d.data["bores"]["hole"]["at"]["z"] = d.entry("10 mm")
    for key in ("b0", "b1"):
        d.data["bores"]["hole"]["parts"][key]["action"] = "drill"
    built = build(d.document())
    assert [f.code for f in built.faults] == ["set_askew"] and not built.sets


def test_thread_and_diameter_are_one_size():
    assert all(diameter_of(s) == float(s[1:]) for s in METRIC)


@pytest.mark.parametrize("head", [*SCREWS, "blind_rivet"])
@pytest.mark.parametrize("boards", [1, 2, 3])
def test_every_way_of_holding_is_laid_and_bored_or_refused_in_words(head, boards):
    """All that can be chosen together, through one, two and three boards: what is laid lies in a row along the axis, and every part has its hole."""
    size = {"wood": "4", "wood_round": "4", "wood_hexagon": "6", "sheet": "ST4.2", "blind_rivet": "4"}.get(head, "M5")
    choices = itertools.product(("on", "sunk"), ("none", "plain_washer"), ("nut", "thread", "insert", "rivet_nut"), ("low", "high"))
    for seat, washer, into, side in choices:
        d = stack(*["ply18"] * boards, head=head, size=size, seat=seat, washer=washer, into=into, side=side)
        built = build(d.document())
        assert all(f.message and f.rule for f in built.faults)
        one = built.sets["hole"]
        (place,) = one.places
        assert len(place.parts) == boards
        # the pieces but the screw do not lie in one another
        spans = []
        for p in place.pieces[1:]:
            start = (np.array(p.motion.shift) - np.array(place.at)) @ np.array(place.way)
            spans.append((start + p.hardware.span[0], start + p.hardware.span[1]))
        spans.sort()
        assert all(a[1] <= b[0] + 1e-9 for a, b in itertools.pairwise(spans))
        for k in range(boards):
            flat = built.flats[f"b{k}"].flat
            assert len(flat.inside) + len([p for p in flat.pockets if p.what == "hole"]) >= 1, (head, seat, into, side, k)
