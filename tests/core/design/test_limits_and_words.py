"""How much of everything a design may have, as it is published, and the words that entries and choices of joints are shown with."""

import copy

import pytest

from tests.core.figures import compared, condensed
from zygon import limits
from zygon.design import arrangement
from zygon.design.examples import brood_box
from zygon.design.forms import Forms, forms
from zygon.design.patch import patched
from zygon.design.upgrade import load
from zygon.errors import DocumentError, PatchError

PUBLISHED = {
    "MAX_PARTS": 400,
    "MAX_JOINTS": 1200,
    "MAX_MOVES": 100,
    "MAX_POSITIONS": 40,
    "MAX_PAPERS": 1000,
    "MAX_PAPER_EDITS": 500,
    "MAX_PAPER_NOTE": 2000,
    "MAX_TIES": 200,
    "MAX_SIZES": 400,
    "MAX_SOCKETS": 12,
    "MAX_MEMBER_HOLES": 60,
    "MAX_FEATURES": 200,
    "MAX_HOLES": 4000,
    "MAX_REPEATED": 1000,
    "MAX_FIELD_HOLES": 10_000,
    "MAX_FLANGES": 200,
    "MAX_BORES": 400,
    "MAX_BORES_IN_ROWS": 500,
    "MAX_QUANTITY": 500,
    "MAX_GROUPS": 200,
    "MAX_COPY_RECORDS": 200,
    "MAX_COPIES": 200,
    "MAX_INSTANCES": 1500,
    "MAX_NEST_PARTS": 1500,
    "MAX_VERTICES": 250_000,
    "MAX_CONTOURS": 50_000,
    "MAX_PATCH_OPERATIONS": 2000,
    "MAX_PATCH_BYTES": 1_000_000,
    "MAX_DOCUMENT_BYTES": 4_000_000,
    "MAX_UPLOAD_BYTES": 12_000_000,
    "MAX_LENGTH": 100_000.0,
    "MAX_FRAMES": 40,
    "MAX_FRAME_POINTS": 400,
    "MAX_DRAWN_CURVES": 1000,
    "MAX_DRAWN_POINTS": 1000,
    "MAX_DRAWN_REFERENCES": 100,
    "MAX_DRAWN_RELATIONS": 2000,
    "MAX_PICTURE": 3000,
    "MAX_FRAME_LINES": 400,
    "MIN_THICKNESS": 0.01,
    "MAX_BIT": 100.0,
    "FARTHEST": 1_000_000.0,
}


def test_the_limits_are_those_that_are_published():
    assert {n: getattr(limits, n) for n in limits.__all__} == PUBLISHED and arrangement.MAX_SHEETS == 200


def many(group, number):
    data = brood_box().dump()
    record = next(iter(data[group].values()))
    for i in range(number - len(data[group])):
        data[group][f"more{i}"] = {**copy.deepcopy(record), **({"name": f"more_{i}"} if "name" in record else {})}
    return data


@pytest.mark.parametrize(("group", "most"), [("sizes", 400), ("parts", 400), ("joints", 1200)])
def test_so_many_and_not_one_more(group, most):
    assert len(getattr(load(many(group, most)), group)) == most
    with pytest.raises(DocumentError, match=f"/{group}: .*{most}"):
        load(many(group, most + 1))


def test_an_edit_has_two_thousand_operations_and_not_one_more():
    edit = [{"op": "replace", "path": "/note", "value": "x"}]
    assert patched(brood_box().dump(), edit * 2000).note == "x"
    with pytest.raises(PatchError, match="2000"):
        patched(brood_box().dump(), edit * 2001)


def test_pieces_of_a_part_are_one_to_five_hundred():
    data = brood_box().dump()
    for quantity, fine in ((1, True), (500, True), (0, False), (501, False)):
        data["parts"]["front"]["quantity"] = quantity
        if fine:
            assert load(data).parts["front"].quantity == quantity
        else:
            with pytest.raises(DocumentError, match="/parts/front/quantity"):
                load(data)


@pytest.mark.parametrize("group", list(Forms.model_fields))
def test_every_form_is_shown_in_the_words_it_was_shown_in(group):
    said = getattr(forms(), group)
    compared(f"words {group}", {f.kind: condensed(f.model_dump()) for f in (said if isinstance(said, tuple) else (said,))})
