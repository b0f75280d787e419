"""The order of assembly, checked by another way: every step is walked with exact booleans of the solids."""

import numpy as np
import pytest

from tests.core.making.joints.pairs import pair, solid
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES
from zygon.design.layout_operations import group_parts
from zygon.design.patch import patched
from zygon.design.starters import STARTERS
from zygon.making.assembly.plan import _distance, _together, assembly, way_word
from zygon.making.assembly.sweep import WAYS, Blocks, blockers, solid_parts
from zygon.making.pipeline import build

DESIGNS = {**EXAMPLES, **{k: lambda k=k: STARTERS[k].begin(k) for k in ("closed-box", "tray", "shelf-case")}}


def ways_of(document):
    return {x.part: {way_word(w) for w in x.ways} for x in assembly(build(document)).loose}


@pytest.mark.parametrize("name", DESIGNS)
def test_every_step_can_be_walked_without_running_into_what_stands(name):
    """Referee: the manifold library's intersections along each way, which share no code with the search."""
    built = build(DESIGNS[name]())
    found = assembly(built)
    assert not found.locked
    solids = {p.key: solid(p) for p in built.made.values() if not p.body.empty}
    assert sorted(k for k in solids) == sorted({*found.first, *(k for s in found.steps for k in s.parts)})
    # the parts of a press fit bite into one another by half of it a flank
    pressed = {frozenset(p) for j in built.joints.values() if j.fit < 0 for p in j.pairs}
    # a swivel takes its tube at any angle, and lets it in as it is swung
    pressed |= {p for p, s in built.seated.items() if built.made[s.connector].body.of(s.socket).swings}
    groups = [set(found.first)] + [set() for _ in found.steps]
    for n, step in enumerate(found.steps):
        moving = set(step.parts)
        standing = {k for g in groups for k in g} - moving
        for share in (0.0, 0.02, 0.1, 0.3, 0.6, 1.0):
            shift = np.zeros(3)
            shift["xyz".index(step.way[0])] = -step.way[1] * step.distance * share
            for key in moving:
                moved = solids[key].translate(shift.tolist())
                for other in standing:
                    common = (moved ^ solids[other]).volume()
                    swung = frozenset((key, other)) in built.seated
                    bites = frozenset((key, other)) in pressed
                    # a rod and its hole are drawn by chords of their own
                    most = 20.0 if frozenset((key, other)) in built.bored else 8.0 if bites else 2.0
                    assert common < most or (bites and swung), (step, share, key, other, common)
        groups[n + 1] = moving


def slid_box(*, open_end: bool):
    """A box whose lid slides in grooves of the sides; the front is low enough for it, or is not."""
    d = Draft("slid", "ply12", "ply6", cutter="router")
    d.board("left", "ply12", "facing_side", 0, (0, 200), (0, 100))
    d.board("right", "ply12", "facing_side", 150, (0, 200), (0, 100), face="right")
    d.board("back", "ply12", "facing_front", 200, ("left.right", "right.left"), (0, 100), face="back")
    d.board("front", "ply12", "facing_front", 0, ("left.right", "right.left"), (0, "lid.bottom" if open_end else 100))
    d.board("lid", "ply6", "lying", 85, ("left.right", "right.left"), (0 if open_end else "front.back", "back.front"))
    for end in ("front", "back"):
        for side in ("left", "right"):
            d.joint("dowels", end, side)
    for side in ("left", "right"):
        d.joint("groove", "lid", side, fit="slip", end_play="0.5 mm", ends="open_low" if open_end else "through", stop="0")
    return d.document()


def test_a_sliding_lid_goes_out_to_the_front_and_only_there():
    assert ways_of(slid_box(open_end=True))["lid"] == {"to the front"}
    assert "lid" not in ways_of(slid_box(open_end=False))


def test_dovetails_come_apart_along_the_tails_only():
    found = ways_of(pair("dovetail").document())
    assert found == {"a": {"to the left"}, "b": {"to the right"}}


def locked_frame():
    """Rails halved over one another go together up and down; a panel in grooves of all four needs them to come from the sides."""
    d = Draft("locked", "ply12", "ply6", cutter="router")
    d.board("left", "ply12", "facing_side", 20, (0, 300), (0, 40))
    d.board("right", "ply12", "facing_side", 200, (0, 300), (0, 40))
    d.board("front", "ply12", "facing_front", 20, (0, 240), (0, 40))
    d.board("back", "ply12", "facing_front", 260, (0, 240), (0, 40))
    d.board("panel", "ply6", "lying", 17, ("left.right", "right.left"), ("front.back", "back.front"))
    for a in ("front", "back"):
        for b in ("left", "right"):
            d.joint("cross_lap", a, b)
    for rail in ("left", "right", "front", "back"):
        d.joint("groove", "panel", rail, fit="slip", end_play="0.5 mm", ends="stopped")
    return d


def test_parts_that_lock_each_other_out_are_named():
    built = build(locked_frame().document())
    (group,) = assembly(built).locked
    assert "panel" in group and len(group) >= 3
    (fault,) = [p.fault for p in check(built) if p.fault.code == "locked"]
    assert "lock each other out" in fault.message and "panel" in fault.message
    assert not [p for p in check(built, assembled=False) if p.fault.code == "locked"]


def test_a_group_that_only_goes_in_as_one_is_put_together_first():
    """Two boards whose tails point down into a third: each is held by the other until both are lifted together."""
    d = Draft("group", "ply12", cutter="router")
    d.board("base", "ply12", "lying", 0, (0, 200), (0, 200))
    d.board("one", "ply12", "facing_side", 60, (40, 160), ("base.top", 90))
    d.board("two", "ply12", "facing_front", 90, ("one.right", 160), ("base.top", 90))
    d.joint("mortise_tenon", "one", "base", number=1)
    d.joint("mortise_tenon", "two", "base", number=1)
    d.joint("mortise_tenon", "two", "one", number=1)
    found = assembly(build(d.document()))
    assert not found.locked
    (joined,) = [s for s in found.steps if len(s.parts) == 2]
    assert set(joined.parts) == {"one", "two"} and joined.way == ("z", -1)


def test_dowelled_boards_come_apart_along_the_dowels_and_glued_ones_say_so():
    assert ways_of(pair("dowels").document()) == {"a": {"to the back"}, "b": {"to the front"}}
    loose = assembly(build(pair("butt").document())).loose
    assert {x.kept_by for x in loose} == {"glued"}


def test_an_empty_design_and_one_part_need_no_order():
    assert assembly(build(Draft("none", "ply12").document())).steps == ()
    d = Draft("one", "ply12")
    d.board("only", "ply12", "lying", 0, (0, 100), (0, 100))
    found = assembly(build(d.document()))
    assert found.first == ("only",) and not found.steps and not found.loose


def turned(draft, *turns):
    """A design with all of its parts in a group that is turned about axes in their order."""
    document = draft.document()
    data = patched(document.dump(), group_parts(document, list(document.parts), "whole")[1]).dump()
    data["groups"]["whole"]["turns"] = {
        f"t{i}": {"axis": axis, "at": {a: {"text": "0 mm"} for a in "xyz" if a != axis}, "angle": {"text": f"{angle} deg"}, "order": i}
        for i, (axis, angle) in enumerate(turns)
    }
    return patched(data, [])


TURNS = [(("z", 30),), (("x", 20), ("z", 30)), (("y", 90), ("x", 15)), (("x", 90),), (("z", 90), ("y", 90))]


@pytest.mark.parametrize("turns", TURNS)
@pytest.mark.parametrize("kind", ["finger", "dovetail", "dowels", "tab_slot"])
def test_a_group_that_is_turned_is_locked_no_more_than_before(kind, turns):
    document = turned(pair(kind), *turns)
    built = build(document)
    assert not assembly(built).locked
    assert not [p for p in check(built) if p.fault.code == "locked"]


@pytest.mark.parametrize("turns", TURNS)
def test_what_locks_itself_does_so_however_it_is_turned(turns):
    assert len(assembly(build(turned(locked_frame(), *turns))).locked) == 1


@pytest.mark.parametrize(("axis", "way"), [("z", "x"), ("x", "z"), ("y", "y")])
def test_dowels_that_are_turned_by_a_quarter_come_apart_along_themselves(axis, way):
    loose = assembly(build(turned(pair("dowels"), (axis, 90)))).loose
    assert {w[0] for x in loose for w in x.ways} <= {way}
    assert len(loose) >= (1 if way == "z" else 2)


@pytest.mark.parametrize(
    ("at", "way"),
    [
        ((120, 80, 12), ("z", -1)),
        ((-40, 80, 0), ("x", 1)),
        ((300, 80, 0), ("x", -1)),
        ((120, -30, 0), ("y", 1)),
        ((120, 200, 0), ("y", -1)),
    ],
)
def test_of_several_ways_the_shortest_is_gone(at, way):
    """A small board on top of a large one or beside it is put there from where it lies nearest to free: all other ways lead past the large one."""
    d = Draft("two", "ply12")
    d.data["stocks"]["ply12"].pop("measured", None)
    d.board("a", "ply12", "lying", 0, (0, 300), (0, 200))
    d.board("b", "ply12", "lying", at[2], (at[0], at[0] + 40), (at[1], at[1] + 30))
    found = assembly(build(d.document()))
    assert found.first == ("a",)
    (step,) = found.steps
    assert (step.parts, step.way) == (("b",), way)
    # as it is clear at once, what it goes is the little more alone
    assert step.distance < 60
    across = build(d.document())
    i, (low, high) = "xyz".index(way[0]), across.parts["a"].reaches
    assert _distance(across.made, frozenset("b"), frozenset("a"), way) == pytest.approx(
        step.distance + high[i] - low[i] + (12 if i == 2 else (40, 30)[i])
    )


def test_where_none_comes_off_alone_the_smallest_group_does():
    """Two that hold one another stand on a third."""
    d = Draft("pair", "ply12", cutter="router")
    d.board("ground", "ply12", "lying", -12, (-100, 300), (-100, 300))
    d.board("one", "ply12", "facing_front", 60, (0, 200), (0, 80))
    d.board("other", "ply12", "facing_side", 60, (0, 200), (0, 80))
    d.joint("cross_lap", "one", "other")
    built = build(d.document())
    blocks = blockers(built, solid_parts(built))
    by_key = {p.key: p for p in solid_parts(built)}
    # as if neither could leave the other in any way
    held = {(k, w): blocks.of(k, w, frozenset(by_key)) | ({"one": {"other"}, "other": {"one"}}.get(k, set())) for k in by_key for w in WAYS}
    tied = Blocks({k: frozenset(v) for k, v in held.items()})
    found, way = _together(by_key, frozenset(by_key), tied)
    # the smallest of those that come off as one, on the first way that is free
    assert found == frozenset({"ground"}) and not tied.of("ground", way, frozenset(by_key))
    stuck = Blocks({(k, w): frozenset(v) | (frozenset({"one"}) if k == "ground" else frozenset()) for (k, w), v in held.items()})
    assert _together(by_key, frozenset(by_key), stuck) == (frozenset({"one", "other"}), ("z", 1))
    nothing = Blocks({(k, w): frozenset(set(by_key) - {k}) for k in by_key for w in WAYS})
    assert _together(by_key, frozenset(by_key), nothing) is None
