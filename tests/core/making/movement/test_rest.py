"""Geometry stays at rest: what is said of movements changes no flat, no file and no digest; entries read how far a thing is moved, and never where its faces are then."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making.movement.scenes import moving_of
from zygon.check.run import check
from zygon.design.examples import EXAMPLES
from zygon.design.operations import rename
from zygon.design.patch import patched
from zygon.design.upgrade import load
from zygon.errors import DocumentError
from zygon.exchange.cutlist import cut_list
from zygon.making.movement.said import said_of
from zygon.making.pipeline import build


def entry(text):
    return {"text": text, "unit": "mm"}


def digests(built):
    return {k: (p.body.digest, p.matrix) for k, p in built.made.items()}


@pytest.mark.parametrize("name", ["tool-chest", "hand-crank", "entrance-disc", "hive-floor", "fold-down-leg"])
def test_what_is_said_of_movements_changes_nothing_that_is_cut(name):
    data = EXAMPLES[name]().dump()
    bare = load(data | {"moves": {}, "positions": {}})
    said = load(data | {"moves": {k: m | {"to": entry("20 deg" if m["kind"] == "turns" else "20 mm")} for k, m in data["moves"].items()}})
    one, other = build(bare), build(said)
    assert digests(one) == digests(other)
    assert cut_list(one) == cut_list(other)
    assert [p.fault.code for p in check(one)] == [p.fault.code for p in check(other)]
    assert moving_of(bare).digest == moving_of(said).digest


@settings(max_examples=15, deadline=None)
@given(st.floats(-360, 360))
def test_other_entries_read_how_far_a_thing_is_moved(angle):
    data = EXAMPLES["tool-chest"]().dump()
    data["moves"]["lid"]["to"] = entry(f"{angle:.4f} deg")
    data["sizes"]["shown"] = {"name": "shown", "kind": "number", "entry": entry("lid_opens.at / 1 deg"), "order": 99}
    built = build(load(data))
    assert built.values["/sizes/shown/entry"].value == pytest.approx(round(angle, 4), abs=1e-6)


def test_what_is_not_moved_is_at_nought_and_a_movement_has_no_faces():
    data = EXAMPLES["tool-chest"]().dump()
    data["sizes"]["shown"] = {"name": "shown", "kind": "length", "entry": entry("drawer_out.at + 5 mm"), "order": 99}
    assert build(load(data)).values["/sizes/shown/entry"].value == pytest.approx(5)
    data["sizes"]["shown"]["entry"] = entry("drawer_out.left")
    (fault,) = [f for f in build(load(data)).faults if f.entry == "/sizes/shown/entry"]
    assert "drawer_out.at is how far it is moved" in fault.message


def test_a_circle_through_a_movement_is_told():
    data = EXAMPLES["tool-chest"]().dump()
    data["moves"]["lid"]["to"] = entry("shown")
    data["sizes"]["shown"] = {"name": "shown", "kind": "angle", "entry": entry("lid_opens.at"), "order": 99}
    assert "cycle" in {f.code for f in build(load(data)).faults}


def test_a_movement_is_renamed_with_what_reads_it():
    data = EXAMPLES["tool-chest"]().dump()
    data["sizes"]["shown"] = {"name": "shown", "kind": "angle", "entry": entry("lid_opens.at"), "order": 99}
    document = load(data)
    label, patch = rename(document, "moves", "lid", "flap")
    after = patched(document.dump(), patch)
    assert label == "Rename lid_opens to flap"
    assert after.moves["lid"].name == "flap"
    assert after.sizes["shown"].entry.text == "flap.at"
    with pytest.raises(DocumentError, match="taken"):
        rename(document, "moves", "lid", "drawer")


@pytest.mark.parametrize("change, words", [
    ({"moves": {"a": {"name": "left", "part": "lid", "kind": "turns"}}}, "already the name of a part"),
    ({"moves": {"a": {"name": "a", "part": "lid", "kind": "spins"}}}, "turns"),
    ({"moves": {"a": {"name": "a", "part": "lid", "kind": "turns", "follows": {"move": "b"}}}}, "no movement with the key"),
    ({"moves": {"a": {"name": "a", "part": "lid", "kind": "turns", "follows": {"move": "a"}}}}, "cannot follow itself"),
    ({"positions": {"p": {"name": "p", "at": {"gone": {"text": "1", "unit": "mm"}}}}}, "no movement with the key"),
    ({"ties": {"t": {"a": "lid", "b": "left", "how": "glued"}}}, "held"),
])  # fmt: skip
def test_what_cannot_be_said_is_refused_by_name(change, words):
    with pytest.raises(DocumentError, match=words):
        load(EXAMPLES["tool-chest"]().dump() | {"moves": {}, "positions": {}} | change)


def test_a_ring_of_followers_is_refused():
    data = EXAMPLES["tool-chest"]().dump()
    data["moves"]["lid"]["follows"] = {"move": "drawer"}
    data["moves"]["drawer"]["follows"] = {"move": "lid"}
    with pytest.raises(DocumentError, match="cannot follow itself, nor one that follows it"):
        load(data)


def test_a_lid_that_follows_the_drawer_goes_as_far_as_is_said():
    data = EXAMPLES["tool-chest"]().dump()
    data["moves"]["lid"]["follows"] = {"move": "drawer", "ratio": entry("0.3")}
    data["moves"]["drawer"]["to"] = entry("200 mm")
    said = said_of(build(load(data)))
    at = said.posed().at
    assert at["slides:drawer_left"] == pytest.approx(200)
    assert at["turns:lid"] == pytest.approx(60 * 3.141592653589793 / 180, abs=1e-6)
