"""What a laser, a router and a saw cannot make is said, with another cutter of the design as its mend."""

import pytest

from tests.core.making.joints.pairs import pair
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.making.pipeline import build


def codes(document):
    return {p.fault.code for p in check(build(document))}


@pytest.mark.parametrize("kind", ["groove", "rebate", "half_lap", "dovetail_lap"])
def test_a_laser_has_no_depth_and_the_mend_takes_the_router(kind):
    draft = pair(kind, ta=12, tb=12)
    for record in draft.data["cutters"].values():
        record["work"] |= dict.fromkeys(("sa", "sb"), record["work"]["ply12"])
    document = draft.document()
    found = [p.fault for p in check(build(document)) if p.fault.code == "needs_depth"]
    assert found and "cuts straight through" in found[0].message
    mended = patched(document.dump(), list(found[0].mends[0].patch))
    assert mended.cutter == "router" and "needs_depth" not in codes(mended)


def test_blind_round_holes_are_left_to_a_drill_on_a_laser():
    assert "needs_depth" not in codes(pair("dowels").document())


def sawn(**feature):
    d = Draft("sawn", "ply12", cutter="saw")
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 120))
    if feature:
        kind = feature.pop("kind")
        d.feature("p", "f", kind, feature.pop("u", ("centre", "0")), feature.pop("v", ("centre", "0")), **feature)
    return d.document()


@pytest.mark.parametrize(
    ("feature", "code"),
    [
        ({}, ""),
        ({"kind": "groove", "width": 6, "depth": 5}, ""),
        ({"kind": "rebate", "edge": "left", "width": 10, "depth": 5}, ""),
        ({"kind": "hole", "diameter": 20}, ""),
        ({"kind": "groove", "width": 6, "depth": 5, "length": 50}, "not_sawn"),
        ({"kind": "pocket", "width": 60, "height": 30, "depth": 5}, "not_sawn"),
        ({"kind": "slot", "length": 60, "width": 20}, "not_sawn"),
        ({"kind": "rectangle", "width": 60, "height": 20, "v": ("back", "0")}, "by_hand"),
        ({"kind": "rectangle", "width": 60, "height": 40, "radius": 15, "v": ("back", "0")}, "not_sawn"),
    ],
)
def test_a_saw_cuts_from_edge_to_edge(feature, code):
    found = codes(sawn(**feature)) & {"not_sawn", "by_hand"}
    assert code in found if code else not found


def test_a_slot_narrower_than_every_bit_is_a_problem_and_a_small_round_hole_is_drilled():
    d = Draft("small", "ply12", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 120))
    d.feature("p", "s", "slot", ("centre", "0"), ("front", "40"), length=40, width=2.9)
    d.feature("p", "h", "hole", ("centre", "0"), ("back", "30"), diameter=4)
    found = [p.fault for p in check(build(d.document()))]
    assert {f.owner for f in found} == {"feature:p:s"}


def test_a_groove_narrower_than_every_bit_is_a_problem():
    found = [p.fault for p in check(build(pair("groove", ta=2.5, tb=15, cutter="router").document())) if p.fault.code == "under_kerf"]
    assert found and "narrower than the bit of 6 mm" in found[0].message


def test_dovetail_pins_are_sawn_by_hand_whatever_cuts_the_rest():
    for cutter in ("", "router"):
        built = build(pair("dovetail", ta=20, cutter=cutter).document())
        found = [p.fault for p in check(built) if p.fault.code == "by_hand"]
        x0, y0, x1, y1 = built.parts["b"].flat.bevels[-1].on_a.bounds
        assert found[0].at == pytest.approx(((x0 + x1) / 2, (y0 + y1) / 2)) and built.parts["b"].flat.bevels[-1].on_b.bounds != (
            x0,
            y0,
            x1,
            y1,
        )
        assert found and found[0].part == "b" and found[0].severity == "warning"


def test_parts_that_lie_nearer_than_the_bit_is_wide_are_said_and_the_mend_makes_room():
    d = Draft("near", "ply12", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 200), (0, 120))
    d.data["nest"]["gap"] = d.entry("3 mm")
    document = d.document()
    (fault,) = [p.fault for p in check(build(document))]
    assert fault.code == "narrow_gap" and fault.entry == "/nest/gap" and "6 mm wide" in fault.message
    mended = patched(document.dump(), list(fault.mends[0].patch))
    assert check(build(mended)) == []


def test_a_bit_wider_than_any_router_turns_is_said_and_nothing_breaks():
    draft = pair("mortise_tenon", cutter="router")
    for text in ("1e300", "250 mm"):
        draft.data["cutters"]["router"] = {**draft.data["cutters"]["router"], "bit": draft.entry(text)}
        found = [p.fault for p in check(build(draft.document())) if p.fault.code == "bad_value"]
        assert [f.entry for f in found] == ["/cutters/router/bit"] and "at most 100 mm" in found[0].rule
