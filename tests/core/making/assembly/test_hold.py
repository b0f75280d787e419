"""What holds a part up, how far it would drop, and the mends."""

import pytest

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.split import split_part
from zygon.making.assembly.hold import drops, halves
from zygon.making.pipeline import build

T = 11.8


def case(joint: str = "", **more):
    """A shelf between two sides, 100 mm over a floor that they stand on."""
    d = Draft("case", "ply12", cutter="router")
    d.board("floor", "ply12", "lying", 0, (0, 400), (0, 200))
    d.board("left", "ply12", "facing_side", 0, (0, 200), ("floor.top", 300))
    d.board("right", "ply12", "facing_side", 400, (0, 200), ("floor.top", 300), face="right")
    d.board("shelf", "ply12", "lying", 100, ("left.right", "right.left"), (0, 200))
    if joint:
        for side in ("left", "right"):
            d.joint(joint, "shelf", side, **more)
    return d.document()


def test_a_shelf_with_no_joint_drops_on_to_the_floor():
    (drop,) = drops(build(case()))
    assert (drop.part, drop.onto) == ("shelf", "floor")
    assert drop.height == pytest.approx(100 - T, abs=0.02)


@pytest.mark.parametrize("joint", ["tab_slot", "groove", "mortise_tenon", "dowels", "screws", "butt"])
def test_every_joint_that_holds_holds(joint):
    assert drops(build(case(joint))) == []


def test_a_loose_fit_still_holds_and_a_groove_that_ends_above_does_not():
    assert drops(build(case("tab_slot", fit="loose"))) == []


def test_each_mend_holds_it_up_and_brings_no_new_problem():
    document = case()
    (problem,) = check(build(document))
    assert problem.fault.code == "drops" and "it would drop 88.2 mm onto floor" in problem.fault.message
    assert [m.label for m in problem.fault.mends] == [
        "Tab shelf through left and right",
        "Add ledges under shelf on left and right",
        "Add a support under shelf",
    ]
    for mend in problem.fault.mends:
        assert check(build(patched(document.dump(), list(mend.patch)))) == []


@pytest.mark.parametrize(
    "place",
    [
        (("left.right", "left.right + 40 mm"), (80, 120), (150, 190)),
        (("right.left - 40 mm", "right.left"), (80, 120), (150, 190)),
        ((100, 140), (80, 120), ("shelf.bottom - 40 mm", "shelf.bottom")),
        ((100, 140), (80, 340), ("shelf.top", "shelf.top + 20 mm")),
    ],
)
def test_what_is_bought_is_screwed_to_what_it_lies_against(place):
    """On a wall, under a board or out over its edge: no board would stay there, a fan or a board of parts does."""
    d = Draft("case", "ply12", cutter="router")
    d.data = case("tab_slot").dump()
    d.block("fan", *place)
    assert drops(build(d.document())) == []
    del d.data["parts"]["fan"]["deep"], d.data["parts"]["fan"]["price"]
    d.data["parts"]["fan"] |= {"kind": "board", "stock": "ply12"}
    assert drops(build(d.document()))


def test_what_is_bought_and_touches_nothing_drops():
    d = Draft("case", "ply12", cutter="router")
    d.data = case("tab_slot").dump()
    d.block("fan", (100, 140), (80, 120), (150, 190))
    assert [x.part for x in drops(build(d.document()))] == ["fan"]


def test_an_upright_board_and_one_over_nothing_drop_to_the_ground():
    d = Draft("air", "ply12")
    d.board("foot", "ply12", "lying", 0, (0, 100), (0, 100))
    d.board("flag", "ply12", "facing_front", 300, (0, 100), (50, 120))
    (drop,) = drops(build(d.document()))
    assert (drop.part, drop.height, drop.onto) == ("flag", 50.0, "")
    (fault,) = [p.fault for p in check(build(d.document())) if p.fault.code == "drops"]
    mended = patched(d.document().dump(), list(fault.mends[-1].patch))
    assert not [p for p in check(build(mended)) if p.fault.code in ("drops", "overlap")]


def test_a_stack_is_held_from_below_and_what_hangs_on_a_held_part_is_held():
    d = Draft("stack", "ply12")
    for i in range(5):
        d.board(f"layer_{i}", "ply12", "lying", f"{i} * {T} mm", (0, 100), (0, 100))
    assert drops(build(d.document())) == []


def ledge(side, depth, rails=1):
    """A shelf of 200 by 200 on a rail along one of its sides, ``depth`` mm under it; or on the one across too."""
    d = Draft("ledge", "ply12")
    d.board("base", "ply12", "lying", 0, (-50, 250), (-50, 250))
    d.board("shelf", "ply12", "lying", 100, (0, 200), (0, 200))
    across = {"left": "right", "right": "left", "front": "back", "back": "front"}
    for n, own in enumerate((side, across[side])[:rails]):
        t = 11.8
        low = {"left": depth - t, "front": depth - t, "right": 200 - depth, "back": 200 - depth}[own]
        plane = "facing_side" if own in ("left", "right") else "facing_front"
        d.board(f"rail{n}", "ply12", plane, f"{low} mm", (0, 200), ("base.top", "shelf.bottom"))
    return d.document()


@pytest.mark.parametrize("side", ["left", "right", "front", "back"])
@pytest.mark.parametrize(("depth", "tips"), [(11.8, True), (60, True), (99, True), (101, False), (106, False)])
def test_a_shelf_on_one_rail_tips_away_from_it_unless_its_middle_lies_over_it(side, depth, tips):
    built = build(ledge(side, depth))
    found = {d.part: d for d in drops(built)}
    assert ("shelf" in found) == tips
    if tips:
        assert found["shelf"].beyond == pytest.approx(100 - depth)
        away = {"left": ("x", 1), "right": ("x", -1), "front": ("y", 1), "back": ("y", -1)}[side]
        assert found["shelf"].way == away
        (fault,) = [p.fault for p in check(built) if p.fault.code == "tips"]
        word = {"left": "right", "right": "left", "front": "back", "back": "front"}[side]
        assert f"tips to the {word}" in fault.message
        assert not [p for p in check(built) if p.fault.code == "drops"]


@pytest.mark.parametrize("side", ["left", "front"])
def test_two_rails_bear_it_and_joints_hold_it_on_one(side):
    assert drops(build(ledge(side, 11.8, rails=2))) == []
    data = ledge(side, 11.8).dump()
    data["joints"]["j"] = {"kind": "screws", "a": "rail0", "b": "shelf"}
    assert drops(build(patched(data, []))) == []


def test_the_mend_of_what_tips_holds_it():
    d = Draft("ledge", "ply12")
    d.board("wall", "ply12", "facing_side", 0, (0, 200), (0, 300))
    d.board("rail", "ply12", "facing_side", "wall.right", (0, 200), (0, 100))
    d.board("shelf", "ply12", "lying", 100, ("wall.right", 300), (0, 200))
    (fault,) = [p.fault for p in check(build(d.document())) if p.fault.code == "tips"]
    mended = patched(d.document().dump(), list(fault.mends[0].patch))
    assert not [p for p in check(build(mended)) if p.fault.code in ("tips", "drops")]


@pytest.mark.parametrize("held", ["glued", "screwed", "riveted", "welded"])
def test_a_floor_that_is_held_does_not_drop_and_the_mend_glues_it(held):
    """A floor let in from below between four walls: dry it falls out, held it stays."""
    d = Draft("d", "ply12")
    d.board("left", "ply12", "facing_side", 0, (0, 200), (0, 150))
    d.board("right", "ply12", "facing_side", 300, (0, 200), (0, 150), face="right")
    d.board("floor", "ply12", "lying", 60, ("left.right", "right.left"), (0, 200))
    for side in ("left", "right"):
        d.joint("groove", "floor", side, depth="4 mm", ends="through")
    assert drops(build(d.document())) == []  # the grooves hold it
    e = Draft("d", "ply12")
    e.board("left", "ply12", "facing_side", 0, (0, 200), (0, 150))
    e.board("floor", "ply12", "lying", 0, ("left.left", 300), (0, 200))
    e.board("lid", "ply12", "lying", 0, (600, 700), (0, 50))
    e.data["parts"]["floor"]["position"]["at"] = e.entry("20 mm")
    e.data["parts"]["left"]["spans"]["z"]["low"] = e.entry("floor.bottom")
    e.joint("finger", "floor", "left")
    (problem,) = [p.fault for p in check(build(e.document())) if p.fault.code in ("drops", "tips")]
    assert problem.code == "drops"
    held_doc = e.document().dump()
    held_doc["parts"]["left"]["spans"]["z"]["low"] = {"text": "0", "unit": "mm"}
    held_doc["joints"]["floor-left"] = {"kind": "butt", "a": "floor", "b": "left", "held": "dry"}
    held_doc["parts"]["floor"]["spans"]["x"]["low"] = {"text": "left.right", "unit": "mm"}
    dry = build(patched(held_doc, []))
    (fault,) = [p.fault for p in check(dry) if p.fault.code == "drops"]
    assert fault.mends[0].label == "Glue it to left"
    glued = build(patched(held_doc, fault.mends[0].patch))
    assert glued.joints["floor-left"].fastened == "glued" and not drops(glued)
    held_doc["joints"]["floor-left"]["held"] = held
    assert not drops(build(patched(held_doc, [])))


@pytest.mark.parametrize(("kind", "usual"), [("screws", "screwed"), ("butt", "glued"), ("mitre", "glued"), ("finger", ""), ("groove", "")])
def test_what_holds_a_joint_is_as_usual_unless_it_is_said(kind, usual):
    from zygon.making.joints.joining import _fastened
    from zygon.making.joints.registry import REGISTRY

    assert _fastened("usual", REGISTRY[kind]) == usual
    assert _fastened("dry", REGISTRY[kind]) == "" and _fastened("welded", REGISTRY[kind]) == "welded"


def shelved(axis, height, group, floor=True):
    """A shelf between two walls across an axis, over a floor or the ground, in a group that is moved or in none."""
    d = Draft("case", "ply12", cutter="router")
    if group:
        d.group("box", x="137 mm", y="-51 mm", z="83 mm")
    spans = ((0, 400), (0, 200)) if axis == "x" else ((0, 200), (0, 400))
    if floor:
        d.board("floor", "ply12", "lying", 0, *spans)
    bottom = "floor.top" if floor else "0"
    plane, names = ("facing_side", ("left", "right")) if axis == "x" else ("facing_front", ("front", "back"))
    d.board("one", "ply12", plane, 0, (0, 200), (bottom, 300))
    d.board("two", "ply12", plane, 400, (0, 200), (bottom, 300), face=names[1])
    between = (f"one.{names[1]}", f"two.{names[0]}")
    d.board("shelf", "ply12", "lying", height, *((between, (0, 200)) if axis == "x" else ((0, 200), between)))
    return d.document()


@pytest.mark.parametrize("axis", ["x", "y"])
@pytest.mark.parametrize("height", [26, 100])
@pytest.mark.parametrize("group", [False, True])
@pytest.mark.parametrize("floor", [False, True])
def test_a_shelf_is_held_by_tabs_ledges_or_a_support_in_a_group_too(axis, height, group, floor):
    document = shelved(axis, height, group, floor)
    (fault,) = [p.fault for p in check(build(document)) if p.fault.code == "drops"]
    labels = [m.label for m in fault.mends]
    assert labels[0] == "Tab shelf through one and two" and labels[-1] == "Add a support under shelf"
    assert ("Add ledges under shelf on one and two" in labels) == (height - (T if floor else 0) >= T)
    for mend in fault.mends:
        assert [p.fault.message for p in check(build(patched(document.dump(), list(mend.patch))))] == [], mend.label


def test_ledges_are_not_offered_where_something_stands():
    d = Draft("case", "ply12")
    d.board("one", "ply12", "facing_side", 0, (0, 200), (0, 300))
    d.board("two", "ply12", "facing_side", 400, (0, 200), (0, 300), face="right")
    d.board("shelf", "ply12", "lying", 100, ("one.right", "two.left"), (0, 200))
    d.board("block", "ply12", "facing_front", 50, ("one.right", "one.right + 60 mm"), (0, 95))
    (fault,) = [p.fault for p in check(build(d.document())) if p.fault.code == "drops"]
    assert not [m for m in fault.mends if "ledge" in m.label]


@pytest.mark.parametrize("copied", ["row", "mirror"])
def test_what_holds_a_shelf_is_copied_with_it(copied):
    """Three shelves in a row, or a pair on both sides of a middle wall: one press holds all of them."""
    d = Draft("case", "ply12", cutter="router")
    d.board("one", "ply12", "facing_side", 0, (0, 200), (0, 400))
    d.board("two", "ply12", "facing_side", 400, (0, 200), (0, 400), face="right")
    d.board("shelf", "ply12", "lying", 100, ("one.right", "two.left"), (0, 200))
    if copied == "row":
        d.repeat("shelves", "row", "part:shelf", axis="z", number="3", spacing="100 mm")
    else:
        d.mirror("other", "x", "two.centre", "part:one", "part:shelf")
    document = d.document()
    fault = next(p.fault for p in check(build(document)) if p.fault.code == "drops")
    labels = [m.label for m in fault.mends]
    # a support of the lowest shelf is none for the next one, and tabs of two shelves would meet in the middle wall
    assert (
        labels
        == {
            "row": ["Tab shelf through one and two", "Add ledges under shelf on one and two", "Add a support under shelf"],
            "mirror": ["Add ledges under shelf on one and two", "Add a support under shelf"],
        }[copied]
    )
    for mend in fault.mends:
        left = [p.fault for p in check(build(patched(document.dump(), list(mend.patch))))]
        if copied == "row" and "support" in mend.label:
            assert [f.part for f in left] == ["shelf@shelves.1"]
            continue
        assert [f.message for f in left] == [], mend.label


def test_onlyhalves_of_one_part_hold_one_another_at_their_cut():
    """Two trays side by side that are cut at the same place, one of them along the other axis too: four pieces, two pairs."""
    d = Draft("t", "galv20")
    for key, y in (("one", 0), ("two", 300)):
        d.board(key, "galv20", "lying", "0", ("0", "300 mm"), (f"{y} mm", f"{y + 120} mm"), up="a")
        d.fold(key)
        d.flange(key, "f", "front", "30 mm").flange(key, "b", "back", "30 mm")
    document = d.document()
    for key in ("one", "two"):
        _, patch = split_part(build(document), key, "x", 150.0, hold="none")
        document = patched(document.dump(), patch)
    built = build(document)
    pairs = halves(built)
    assert len(built.parts) == 4 and len(pairs) == 2
    for pair in pairs:
        low, high = (built.parts[k].span_box.span("y") for k in sorted(pair))
        assert low == pytest.approx(high)
