"""What is said of movements, each as one edit that can be taken back, and what cannot be said."""

import math

import pytest

from tests.core.making.movement.scenes import arm, shaft
from tests.core.making.movement.test_travel import gears
from zygon.design.examples import EXAMPLES
from zygon.design.operations import remove_part
from zygon.design.patch import apply_patch, patched
from zygon.edits.operations import OPERATIONS
from zygon.errors import DocumentError
from zygon.making.movement.said import said_of
from zygon.making.pipeline import build


def worked(document, operation, **fields):
    label, patch = OPERATIONS[operation].model_validate({"operation": operation, **fields}).work(build(document))
    after = patched(document.dump(), patch)
    _, _, inverse = apply_patch(document.dump(), patch)
    assert patched(after.dump(), inverse).dump() == document.dump()
    return label, after


@pytest.mark.parametrize("field, text, value", [
    ("to", "12 deg", math.radians(12)),
    ("least", "-5 deg", math.radians(-5)),
    ("most", "30 deg", math.radians(30)),
    ("clear", "1.5 mm", 1.5),
])  # fmt: skip
def test_what_is_said_first_makes_a_record_and_then_changes_it(field, text, value):
    label, after = worked(arm(), "say_move", movement="turns:arm", field=field, text=text)
    assert (
        label == f"arm_turn: {({'to': 'moved to', 'least': 'not under', 'most': 'not over', 'clear': 'never nearer than'})[field]} {text}"
    )
    said = said_of(build(after)).of["turns:arm"]
    assert getattr(said, field) == pytest.approx(value)
    _, again = worked(after, "say_move", movement="turns:arm", field=field, text="1 deg" if field != "clear" else "2 mm")
    assert list(again.moves) == list(after.moves)
    _, none = worked(again, "say_move", movement="turns:arm", field=field, text=None)
    assert getattr(said_of(build(none)).of["turns:arm"], field) is None


def test_turns_and_slides_of_one_thing_are_told_apart():
    _, after = worked(shaft(), "say_move", movement="slides:shaft", field="to", text="0.5 mm")
    _, after = worked(after, "say_move", movement="turns:shaft", field="to", text="90 deg")
    said = said_of(build(after))
    assert {k: s.to for k, s in said.of.items()} == {"slides:shaft": 0.5, "turns:shaft": pytest.approx(math.pi / 2)}
    assert not said.lost


@pytest.mark.parametrize("operation, fields, words", [
    ("say_move", {"movement": "turns:gone", "field": "to", "text": "1 deg"}, "Nothing moves as turns:gone"),
    ("say_move", {"movement": "turns:arm", "field": "to", "text": None}, "Nothing of this is said"),
    ("couple_moves", {"movement": "turns:arm", "follows": "turns:gone"}, "Nothing moves as turns:gone"),
    ("couple_moves", {"movement": "turns:arm"}, "follows nothing"),
    ("forget_move", {"key": "gone"}, "Nothing is said of gone"),
    ("stand_still", {"part": "gone"}, "There is no part gone"),
    ("tie_parts", {"a": "arm", "b": "gone", "how": "held"}, "There is no part gone"),
    ("tie_parts", {"a": "arm", "b": "arm", "how": "held"}, "one with itself"),
    ("tie_parts", {"a": "arm", "b": "wall", "how": "as found"}, "Nothing is said of"),
    ("keep_position", {"name": " ", "at": {}}, "A position has a name"),
    ("keep_position", {"name": "up", "at": {"turns:gone": 1.0}}, "Nothing moves as turns:gone"),
])  # fmt: skip
def test_what_cannot_be_said_is_told_by_name(operation, fields, words):
    with pytest.raises(DocumentError, match=words):
        worked(arm(), operation, **fields)


def test_play_is_asked_of_what_turns():
    with pytest.raises(DocumentError, match="end play is asked of what turns"):
        worked(shaft(), "say_move", movement="slides:shaft", field="play_least", text="1 mm")


def test_a_movement_follows_another_and_goes_by_itself_again():
    document = gears(20, 30, apart=5.0)
    label, after = worked(document, "couple_moves", movement="turns:other", follows="turns:one", ratio="-2/3")
    assert label == "other_turn follows one_turn, -2/3 times as far"
    (coupling,) = said_of(build(after)).couplings
    assert (coupling.first, coupling.second, coupling.ratio) == ("turns:one", "turns:other", pytest.approx(-2 / 3))
    _, alone = worked(after, "couple_moves", movement="turns:other")
    assert not said_of(build(alone)).couplings


def test_parts_are_held_freed_and_left_as_they_are_found():
    _, held = worked(arm(), "tie_parts", a="arm", b="wall", how="held")
    assert not said_of(build(held)).moving.movements
    _, free = worked(held, "tie_parts", a="wall", b="arm", how="free")
    assert len([t for t in free.ties.values() if {t.a, t.b} == {"arm", "wall"}]) == 1
    assert said_of(build(free)).moving.movements
    _, found = worked(free, "tie_parts", a="arm", b="wall", how="as found")
    assert found.dump()["ties"] == arm().dump()["ties"]


def test_what_stands_still_is_chosen_and_left_again():
    _, chosen = worked(arm(), "stand_still", part="arm")
    assert chosen.still == "arm"
    label, again = worked(chosen, "stand_still", part="")
    assert (label, again.still) == ("What bears the rest stands still", "")


def test_positions_are_kept_under_names_and_said_anew():
    document = EXAMPLES["tool-chest"]()
    at = {"turns:lid": math.radians(45.004), "slides:drawer_left": 120.5}
    label, after = worked(document, "keep_position", name="half", at=at)
    assert label == "Position half"
    said = said_of(build(after))
    key = next(k for k, p in after.positions.items() if p.name == "half")
    assert said.positions[key] == {"turns:lid": pytest.approx(math.radians(45)), "slides:drawer_left": 120.5}
    _, anew = worked(after, "keep_position", name="half", at={"turns:lid": 0.5})
    assert len(anew.positions) == len(after.positions)
    assert list(said_of(build(anew)).positions[key]) == ["turns:lid"]


def test_what_is_said_of_a_part_that_goes_goes_with_it():
    document = EXAMPLES["tool-chest"]()
    _, tied = worked(document, "tie_parts", a="lid", b="left", how="free")
    _, patch = remove_part(tied, "lid")
    after = patched(tied.dump(), patch)
    assert set(after.moves) == {"drawer"}
    assert not after.ties
    assert all(set(p.at) <= {"drawer"} for p in after.positions.values())


def test_what_is_said_is_forgotten_with_what_hangs_on_it():
    document = EXAMPLES["tool-chest"]()
    _, led = worked(document, "couple_moves", movement="turns:lid", follows="slides:drawer_left", ratio="0.3")
    label, after = worked(led, "forget_move", key="drawer")
    assert label == "Forget what is said of drawer_out"
    assert set(after.moves) == {"lid"}
    assert after.moves["lid"].follows is None
    assert all(set(p.at) == {"lid"} for p in after.positions.values())
