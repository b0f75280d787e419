"""Rules about what moves: each told where it is, with its value, its rule and a mend that works; and no false alarm beside it."""

import pytest

from tests.core.making.movement.scenes import arm, four_bar, held, shaft
from tests.core.making.movement.test_travel import gears
from zygon.check.moves import move_faults
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES
from zygon.design.patch import patched
from zygon.design.upgrade import load
from zygon.making.movement.report import play_of
from zygon.making.movement.said import said_of
from zygon.making.pipeline import build


def entry(text):
    return {"text": text, "unit": "mm"}


def said(document, key, part, kind, **fields):
    data = document.dump()
    data["moves"][key] = {"name": key, "part": part, "kind": kind, "order": len(data["moves"]), **{k: entry(v) for k, v in fields.items()}}
    return load(data)


def faults(document):
    return move_faults(build(document))


@pytest.mark.parametrize("name", sorted(EXAMPLES))
def test_the_examples_move_as_they_are_said_to(name):
    assert faults(EXAMPLES[name]()) == []


@pytest.mark.parametrize("field, text, at", [("most", "60 deg", "34.29°"), ("to", "35 deg", "34.29°"), ("least", "-300 deg", "-259.19°")])
def test_what_strikes_before_it_has_gone_as_far_as_it_is_said_to(field, text, at):
    document = said(arm(), "swing", "arm", "turns", **{field: text})
    (fault,) = faults(document)
    assert (fault.code, fault.value, fault.part, fault.other) == ("strikes", at, "arm", "stop")
    assert fault.entry == f"/moves/swing/{field}"
    assert "swing: arm strikes stop at" in fault.message
    (mend,) = fault.mends
    assert faults(patched(document.dump(), mend.patch)) == []


@pytest.mark.parametrize("fields", [{"most": "34.2 deg"}, {"to": "34 deg"}, {"least": "-90 deg", "most": "30 deg"}, {}])
def test_what_goes_as_far_as_it_is_said_to_is_not_told(fields):
    assert faults(said(arm(), "swing", "arm", "turns", **fields)) == []


@pytest.mark.parametrize(
    "field, text, told", [("to", "400 mm", True), ("to", "350 mm", False), ("to", "-5 mm", True), ("most", "900 mm", False)]
)
def test_what_is_moved_farther_than_its_slides_let_it_is_told(field, text, told):
    data = EXAMPLES["tool-chest"]().dump()
    data["positions"] = {}
    data["moves"]["drawer"][field] = entry(text)
    found = faults(load(data))
    assert [f.code for f in found] == (["beyond"] if told else [])
    for fault in found:
        assert fault.message.startswith("drawer_out: drawer_out ends at ")
        assert fault.part == "drawer_left"
        assert faults(patched(load(data).dump(), fault.mends[0].patch)) == []


def test_a_position_beyond_a_limit_is_told():
    data = EXAMPLES["tool-chest"]().dump()
    data["positions"]["open"]["at"]["lid"] = entry("120 deg")
    (fault,) = faults(load(data))
    assert (fault.code, fault.entry, fault.value) == ("position_beyond", "/positions/open/at/lid", "105°")


def test_a_position_behind_a_stop_is_told_with_its_entry():
    data = said(arm(), "swing", "arm", "turns").dump()
    data["positions"] = {"up": {"name": "up", "at": {"swing": entry("80 deg")}}, "low": {"name": "low", "at": {"swing": entry("10 deg")}}}
    (fault,) = faults(load(data))
    assert (fault.code, fault.entry) == ("position_strikes", "/positions/up/at/swing")
    assert "up: arm strikes stop at 34.29°" in fault.message


@pytest.mark.parametrize(
    "least, most, code",
    [("2 mm", "3 mm", "end_play"), ("3 mm", None, "end_play"), (None, "2 mm", "end_play"), ("1 mm", "3 mm", None), ("2.4 mm", None, None)],
)
def test_end_play_under_and_over_what_is_asked(least, most, code):
    """The rings leave 6 - 4 - 0.8 = 1.2 mm at each end: 2.4 in all."""
    asked = {k: v for k, v in (("play_least", least), ("play_most", most)) if v is not None}
    document = said(shaft(ring=4.3 if least == "2 mm" else 4), "turn", "shaft", "turns", **asked)
    found = faults(document)
    assert [f.code for f in found] == ([code] if code else [])
    for fault in found:
        assert fault.value in ("2.4 mm", "1.8 mm")
        assert "shaft and left" in fault.message
        assert "shaft and right" in fault.message
        assert len(fault.mends) == 2
        for mend in fault.mends:
            assert mend.label.startswith("Move the ring at end ")
            after = patched(document.dump(), mend.patch)
            assert faults(after) == []
            play = play_of(said_of(build(after)), "turns:shaft")
            bounds = [float(x.split()[0]) for x in (least, most) if x]
            assert play is not None
            assert play.size == pytest.approx(sum(bounds) / len(bounds), abs=2e-3)


@pytest.mark.parametrize(
    "asked, moves", [({"play_least": "3 mm"}, 0.6), ({"play_most": "1 mm"}, -1.4), ({"play_least": "2 mm", "play_most": "3 mm"}, 0.0)]
)
def test_a_shaft_between_covers_has_their_distance_less_its_own_as_play(asked, moves):
    """No ring is there to be moved: either cover is, by what is missing."""
    data = shaft().dump()
    data["parts"]["shaft"]["worked"] = {}
    d = Draft("covers", "ply12", cutter="router")
    d.board("low", "ply12", "facing_side", "shaft.left - 1 mm", (0, 60), ("floor.top", 80), face="right")
    d.board("high", "ply12", "facing_side", "shaft.right + 1.4 mm", (0, 60), ("floor.top", 80), face="left")
    for n, name in enumerate(("low", "high")):
        data["parts"][name] = d.data["parts"][name] | {"order": 20 + n}
        held(d, name, "left")
    data["ties"] = d.data["ties"]
    document = said(load(data), "turn", "shaft", "turns", **asked)
    found = faults(document)
    assert bool(found) is bool(moves)
    for fault in found:
        assert fault.value == "2.4 mm"
        assert {m.label.split(" mm ")[1] for m in fault.mends} == {"away from the shaft" if moves > 0 else "toward the shaft"}
        # the lower cover has 1 mm of room and cannot give 1.4
        assert len(fault.mends) == (2 if moves > 0 else 1)
        for mend in fault.mends:
            after = patched(document.dump(), mend.patch)
            assert faults(after) == []
            play = play_of(said_of(build(after)), "turns:shaft")
            assert play is not None
            assert play.size == pytest.approx(2.4 + moves, abs=2e-3)


def test_play_of_what_is_not_stopped_at_both_ends_is_told_as_none():
    data = said(shaft(), "turn", "shaft", "turns", play_least="1 mm").dump()
    data["parts"]["shaft"]["worked"] = {"a": data["parts"]["shaft"]["worked"]["a"]}
    assert [f.code for f in faults(load(data))] == ["play_none"]


@pytest.mark.parametrize("clear, code", [("1 mm", None), ("3 mm", None), ("12 mm", "comes_near")])
def test_room_that_is_kept_on_the_way(clear, code):
    """Between limits the arm stays under the stop: at 20 degrees its corner is 80 - r sin(20 + 7.125) below it."""
    import math

    document = said(arm(), "swing", "arm", "turns", least="0 deg", most="30 deg", clear=clear)
    found = faults(document)
    assert [f.code for f in found] == ([code] if code else [])
    if found:
        left = 80 - math.hypot(120, 15) * math.sin(math.radians(30) + math.atan2(15, 120))
        assert float(found[0].value.removeprefix("≈").split()[0]) == pytest.approx(left, abs=0.02)
        assert "at 30°" in found[0].message


def test_couplings_that_contradict_are_told_once_with_a_way_out():
    data = gears(20, 30).dump()
    for name in ("one", "other"):
        data["moves"][name] = {"name": f"{name}_turns", "part": name, "kind": "turns"}
    data["moves"]["other"]["follows"] = {"move": "one", "ratio": entry("-20/30")}
    assert faults(load(data)) == []
    data["moves"]["other"]["follows"]["ratio"] = entry("1")
    document = load(data)
    (fault,) = faults(document)
    assert fault.code == "coupling"
    assert "one and other stand still" in fault.message
    assert faults(patched(document.dump(), fault.mends[0].patch)) == []


def test_what_is_said_of_what_does_not_move_is_told_and_can_be_forgotten():
    data = said(arm(), "swing", "arm", "turns").dump()
    data["moves"]["lost"] = {"name": "lost", "part": "stop", "kind": "slides", "order": 5}
    data["positions"] = {"up": {"name": "up", "at": {"swing": entry("10 deg"), "lost": entry("5 mm")}}}
    document = load(data)
    (fault,) = faults(document)
    assert (fault.code, fault.part, fault.severity) == ("lost_move", "stop", "warning")
    after = patched(document.dump(), fault.mends[0].patch)
    assert faults(after) == []
    assert list(after.positions["up"].at) == ["swing"]


def case(joint, fit, **more):
    """A shelf between two sides that are held apart, open to the front and the back."""
    d = Draft("case", "ply12", cutter="router")
    d.board("floor", "ply12", "lying", 0, (0, 400), (0, 200))
    for side, at, face in (("left", 0, "left"), ("right", 400, "right")):
        d.board(side, "ply12", "facing_side", at, (0, 200), ("floor.top", 300), face=face)
        d.joint("dowels", side, "floor")
    d.board("shelf", "ply12", "lying", 100, ("left.right", "right.left"), (0, 200))
    for side in ("left", "right"):
        d.joint(joint, "shelf", side, fit=fit, **more)
    return d.document()


@pytest.mark.parametrize("joint", ["groove", "tab_slot"])
@pytest.mark.parametrize("fit, told", [("press", False), ("snug", False), ("slip", True)])
def test_a_shelf_on_a_running_fit_is_told(joint, fit, told):
    document = case(joint, fit)
    found = [f for f in faults(document) if f.code == "runs_free"]
    # tabs keep it between sides that are held; a groove leaves it to slide
    assert bool(found) is (told and joint == "groove")
    for fault in found:
        assert "shelf slides" in fault.message
        for mend in fault.mends:
            after = patched(document.dump(), mend.patch)
            assert [f.code for f in faults(after)] == []


@pytest.mark.parametrize("fit, held_by", [("loose", "usual"), ("slip", "glued"), ("slip", "dry")])
def test_what_is_meant_to_slide_or_is_glued_is_not_told(fit, held_by):
    assert [f.code for f in faults(case("groove", fit, held=held_by))] == []


def test_checks_tell_them_with_all_others_once_it_is_assembled():
    document = said(arm(), "swing", "arm", "turns", most="60 deg")
    built = build(document)
    assert "strikes" in {p.fault.code for p in check(built)}
    assert "strikes" not in {p.fault.code for p in check(built, assembled=False)}


def test_a_four_bar_that_strikes_is_told_at_the_crank_that_drives_it():
    points = {"A": (0.0, 0.0), "B": (0.0, 60.0), "C": (160.0, 120.0), "D": (200.0, 0.0)}
    data = four_bar(points).dump()
    d = Draft("more", "ply12", cutter="router")
    d.board("block", "ply12", "facing_front", "base.front", (60, 90), (60, 110), face="back")
    data["parts"]["block"] = d.data["parts"]["block"] | {"order": 9}
    d.data["ties"] = {}
    held(d, "block", "base")
    data["ties"] = d.data["ties"]
    document = said(load(data), "drive", "crank", "turns", least="-180 deg", most="180 deg")
    (fault,) = [f for f in faults(document) if f.code == "strikes"][:1]
    assert {fault.part, fault.other} == {"rocker", "block"}
