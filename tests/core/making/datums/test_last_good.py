"""A bad value in a copy or a clearance: it is said, and what stood before stands on, exactly as it stood."""

import copy

import pytest

from zygon.check.clearance import clearance_faults
from zygon.design.draft import Draft
from zygon.making.pipeline import build


def bars() -> Draft:
    d = Draft("d", "ply12")
    d.size("width", "300 mm")
    d.board("bar", "ply12", "facing_front", "80 mm", ("0", "30 mm"), ("0", "70 mm"))
    return d


KINDS = {
    "mirror": {"kind": "mirror", "axis": "x", "at": {"text": "width / 2"}},
    "row": {"kind": "row", "axis": "y", "number": {"text": "4"}, "spacing": {"text": "50 mm"}},
    "filled": {"kind": "row", "axis": "x", "length": {"text": "600 mm"}, "largest": {"text": "200 mm"}},
    "grid": {
        "kind": "grid",
        "axis": "x",
        "number": {"text": "3"},
        "spacing": {"text": "50 mm"},
        "axis_2": "z",
        "number_2": {"text": "2"},
        "spacing_2": {"text": "90 mm"},
    },
    "ring": {"kind": "ring", "axis": "z", "at": {"x": {"text": "15 mm"}, "y": {"text": "0"}}, "number": {"text": "5"}},
}

BAD = [
    ("mirror", "at", "10 mm", "bad_copy", "goes through bar, which would stand in itself"),
    ("mirror", "at", "nobody", "broken_expression", "nobody"),
    ("row", "number", "0", "bad_copy", "0 in all"),
    ("row", "number", "100000", "bad_copy", "100000 in all"),
    ("row", "number", "2.5", "broken_expression", "whole"),
    ("row", "spacing", "0", "bad_copy", "a spacing of 0 mm"),
    ("row", "spacing", "width +", "broken_expression", "stops too early"),
    ("filled", "length", "0", "bad_copy", "a length of 0 mm to fill"),
    ("filled", "largest", "0", "bad_copy", "a largest spacing of 0 mm"),
    ("filled", "largest", "-5 mm", "bad_copy", "a largest spacing of -5 mm"),
    ("filled", "largest", "1 mm", "bad_copy", "601 in all"),
    ("filled", "length", "90 m", "bad_copy", "451 in all"),
    ("grid", "number", "0", "bad_copy", "0 in all"),
    ("grid", "spacing_2", "0", "bad_copy", "a spacing of 0 mm"),
    ("grid", "number_2", "150", "bad_copy", "450 in all"),
    ("ring", "number", "201", "bad_copy", "201 in all"),
    ("ring", "angle", "0 deg", "bad_copy", "a ring over 0°"),
    ("ring", "at/x", "bar.", "broken_expression", ""),
]


def places(built):
    return {k: p.matrix for k, p in built.parts.items()}


@pytest.mark.parametrize(("kind", "field", "text", "code", "words"), BAD, ids=[f"{b[0]}-{b[1]}-{b[2]}" for b in BAD])
def test_a_bad_entry_is_said_at_itself_and_the_copies_stay_where_they_were(kind, field, text, code, words):
    draft = bars()
    draft.data["copies"]["c"] = {"name": "the copy", "of": ["part:bar"], **copy.deepcopy(KINDS[kind])}
    before = build(draft.document())
    assert not before.faults and len(before.parts) > 1
    record = draft.data["copies"]["c"]
    for step in field.split("/")[:-1]:
        record = record[step]
    record[field.split("/")[-1]] = {"text": text}
    after = build(draft.document(), before.good)
    (fault,) = after.faults
    assert fault.code == code and words in fault.message and fault.owner == "copy:c"
    assert fault.entry == f"/copies/c/{field}" or (fault.entry == "/copies/c/largest" and field == "length")
    assert fault.severity == "error"
    assert places(after) == places(before)
    assert places(build(draft.document(), after.good)) == places(before)  # and it goes on standing


def test_a_fraction_of_a_copy_is_no_number_of_copies():
    draft = bars()
    draft.repeat("c", "row", "part:bar", axis="y", number="7 / 2", spacing="50 mm")
    (fault,) = build(draft.document()).faults
    assert fault.entry == "/copies/c/number" and fault.code == "broken_expression"


@pytest.mark.parametrize(
    ("field", "text", "words"), [("least", "0 +", "stops too early"), ("most", "nobody.left", "nobody"), ("least", "10 deg", "length")]
)
def test_a_broken_limit_of_a_clearance_is_said_and_the_last_good_one_is_watched(field, text, words):
    draft = bars()
    draft.board("other", "ply12", "facing_front", "200 mm", ("0", "30 mm"), ("0", "70 mm"))
    face = {"part": "bar", "what": "face", "name": "back"}, {"part": "other", "what": "face", "name": "front"}
    limits = {"least": "110 mm", "most": "120 mm"} if field == "least" else {"least": "10 mm", "most": "100 mm"}
    draft.clearance("reach", *face, along="y", **limits)
    before = build(draft.document())
    assert not before.faults
    (kept,) = clearance_faults(before)  # there is 108.2 mm
    assert "108.2 mm of room" in kept.message and kept.rule == f"at least {limits['least']} and at most {limits['most']}"
    draft.data["clearances"]["reach"][field] = {"text": text}
    after = build(draft.document(), before.good)
    (fault,) = after.faults
    assert words in fault.message and fault.entry == f"/clearances/reach/{field}"
    assert clearance_faults(after) == [kept]
    draft.data["clearances"]["reach"]["out"] = True
    assert not clearance_faults(build(draft.document(), before.good))
