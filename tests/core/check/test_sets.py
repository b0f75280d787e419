"""Rules of sets: what they run into, whether a tool gets at their heads, washers on wood, threads that nuts find."""

import pytest

from tests.core.making.sets.stacks import stack
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.examples import example
from zygon.design.patch import patched
from zygon.design.upgrade import load
from zygon.making.pipeline import build
from zygon.stock.hardware.screws import KEY_ARMS, SCREWS


def codes(draft_or_document, wanted=None):
    document = draft_or_document.document() if isinstance(draft_or_document, Draft) else draft_or_document
    found = [p.fault for p in check(build(document))]
    return [f for f in found if f.code in (wanted or (f.code,))]


@pytest.mark.parametrize("axis", "xyz")
@pytest.mark.parametrize("side", ["low", "high"])
def test_a_key_has_room_over_a_head_to_the_length_of_its_arm(axis, side):
    """A board stands over the head, nearer and nearer: M6 is turned by a key of 5, whose arm is 32 long (ISO 2936, from memory)."""
    arm = KEY_ARMS[5]
    word = {"x": ("left", "right"), "y": ("front", "back"), "z": ("bottom", "top")}[axis]
    for room in (arm + 0.5, arm - 0.5, 8.0):
        d = stack("galv20", "galv20", axis=axis, side=side, size="M6")
        outer = f"b0.{word[0]} - {6 + room} mm" if side == "low" else f"b1.{word[1]} + {6 + room} mm"
        plane = {"x": "facing_side", "y": "facing_front", "z": "lying"}[axis]
        d.board("over", "galv20", plane, outer, ("0 mm", "200 mm"), ("0 mm", "160 mm"), face=word[1] if side == "low" else word[0])
        found = codes(d, ("no_room_for_tool",))
        if room > arm:
            assert not found
            continue
        (fault,) = found
        assert fault.part == "over" and fault.measure == pytest.approx(room, abs=0.01) and fault.severity == "warning"


@pytest.mark.parametrize("side", ["low", "high"])
def test_hardware_that_runs_into_a_part_is_said(side):
    # a rib stands on both faces right where head and nut lie
    d = stack("galv20", "galv20", side=side, size="M6")
    d.board("rib", "galv20", "facing_side", "60 mm", ("40 mm", "60 mm"), ("b1.top", "b1.top + 30 mm"), face="centre")
    d.board("under", "galv20", "facing_side", "60 mm", ("40 mm", "60 mm"), ("b0.bottom - 30 mm", "b0.bottom"), face="centre")
    found = codes(d, ("set_runs_into",))
    assert {f.part for f in found} == {"rib", "under"}
    assert all("socket head" in f.message or "nut" in f.message for f in found)
    moved = stack("galv20", "galv20", side=side, size="M6")
    for name, span in (("rib", ("b1.top", "b1.top + 30 mm")), ("under", ("b0.bottom - 30 mm", "b0.bottom"))):
        moved.board(name, "galv20", "facing_side", "70 mm", ("40 mm", "60 mm"), span, face="centre")
    assert not codes(moved, ("set_runs_into",))


def test_a_screw_that_comes_out_into_another_part_is_said():
    d = stack("galv20", "galv20", side="high", size="M6", length="40 mm")
    d.board("under", "galv20", "lying", "b0.bottom - 20 mm", ("0 mm", "200 mm"), ("0 mm", "160 mm"), face="top")
    found = codes(d, ("set_runs_into",))
    assert [f.part for f in found] == ["under"]


def test_screws_that_cross_are_said_once():
    d = Draft("d", "ply18")
    d.board("a", "ply18", "lying", "0 mm", ("0 mm", "100 mm"), ("0 mm", "100 mm"))
    for name, x in (("one", "50 mm"), ("two", "56 mm")):
        d.bore(name, "z", {"x": x, "y": "50 mm"}, "5 mm", a=("cut", "0"))
        d.hardware(name, size="M5", nut_washer="plain_washer", washer="plain_washer")
    (fault,) = codes(d, ("sets_meet",))
    assert fault.owner == "bore:one" and fault.entry == "/bores/two/hardware"
    d.data["bores"]["two"]["at"]["x"] = d.entry("66 mm")
    assert not codes(d, ("sets_meet",))


@pytest.mark.parametrize("head", [k for k, s in SCREWS.items() if s.thread == "metric"])
def test_what_bears_on_wood_wants_a_washer(head):
    found = codes(stack("ply18", "ply12", head=head, size="M6", side="high"), ("no_washer",))
    wanted = {"/bores/hole/hardware/nut_washer"} | (set() if SCREWS[head].flush or head == "carriage" else {"/bores/hole/hardware/washer"})
    assert {f.entry for f in found} == wanted
    for fault in found:  # each mend does away with it
        for mend in fault.mends:
            again = codes(patched(stack("ply18", "ply12", head=head, size="M6", side="high").document().dump(), mend.patch), ("no_washer",))
            assert fault.entry not in {f.entry for f in again} and len(again) == len(found) - 1
    assert not codes(stack("galv20", "galv20", head="hexagon", size="M6"), ("no_washer",))


def test_a_nut_on_a_threaded_end_finds_its_thread():
    document = example("carrying-bail")
    assert not codes(document, ("no_thread", "thread_too_short"))
    data = document.dump()
    data["bores"]["hole_left"]["hardware"]["size"] = "M6"
    assert [f.code for f in codes(load(data), ("no_thread", "thread_too_short"))] == ["no_thread"]
    # 9 mm of thread stand over the bracket: a washer of 1.6 and a nut of 6.8 take 8.4
    for past, codes_ in (("thread - 8.5 mm", []), ("thread - 8.3 mm", ["thread_too_short"])):
        data = document.dump()
        data["parts"]["bail"]["past_a"]["text"] = past
        assert [f.code for f in codes(load(data), ("no_thread", "thread_too_short"))] == codes_
    # below: 12 of bracket, 1.6 and 8 under it, 1.25 of pitch: 22.85 and the 9 over it
    for long, codes_ in (("31.9 mm", []), ("31.8 mm", ["thread_too_short", "thread_too_short"])):
        data = document.dump()
        data["sizes"]["thread"] |= {"low": {"text": "20 mm"}, "entry": {"text": long}}
        assert [f.code for f in codes(load(data), ("no_thread", "thread_too_short"))] == codes_


def test_demo_designs_are_held_by_their_sets():
    for name in ("electronics-box", "carrying-bail", "fold-down-leg"):
        document = example(name)
        assert not document.kept and not [p for p in check(build(document)) if p.fault.severity == "error"]
