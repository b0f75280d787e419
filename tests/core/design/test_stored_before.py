"""Edits of documents that were stored before a field was there: they fit as if it had been; and what does not fit is said in a line."""

import pytest

from zygon.design.examples import example
from zygon.design.patch import apply_patch, patched
from zygon.edits import papers as say
from zygon.errors import PatchError

#: Fields of a document that are maps or records, each of which an older file may lack.
LATER = ("papers", "moves", "positions", "ties", "copies", "clearances", "frames", "brakes", "kept", "tests", "marks", "rules", "hardware")


@pytest.mark.parametrize("field", LATER)
def test_an_edit_speaks_of_a_field_that_the_stored_document_lacks(field):
    data = example("hand-crank").dump()
    full = data.pop(field)
    value = {"papers": "B", "rules": 2.0, "marks": True}.get(field)
    name = {"papers": "revision", "rules": "web", "marks": "grain"}.get(field)
    if name:
        document, clean, inverse = apply_patch(data, [{"op": "replace", "path": f"/{field}/{name}", "value": value}])
        assert clean[field][name] == value
        back = apply_patch(clean, inverse)[1]
        assert field not in back or back[field] == full
    else:
        document = patched(
            data, [{"op": "test", "path": f"/{field}", "value": {} if isinstance(full, dict) and field != "hardware" else full}]
        )
    assert document.parts.keys() == example("hand-crank").parts.keys()


def test_a_sheet_that_was_kept_before_sections_takes_one():
    document = example("hand-crank")
    data = document.dump()
    data["papers"]["sheets"] = {"whole": {"called": "Crank"}}
    stored = patched(data, [])
    _, patch = say.move_on_paper(stored, "whole", "corner/balloon/floor", 1, 2)
    _, clean, _ = apply_patch(data, patch)
    assert clean["papers"]["sheets"]["whole"]["moved"] == {"corner/balloon/floor": {"x": 1.0, "y": 2.0}}
    assert clean["papers"]["sheets"]["whole"]["called"] == "Crank"


@pytest.mark.parametrize("path", ["/nothing/here", "/parts/none/name", "/papers/sheets/none/out", "/sizes/width/entry/text/deep"])
def test_what_does_not_fit_is_said_in_a_line_without_the_design(path):
    with pytest.raises(PatchError) as error:
        apply_patch(example("hand-crank").dump(), [{"op": "replace", "path": path, "value": 1}])
    assert len(error.value.message) < 300 and "Birch" not in error.value.message and "fit the design: " in error.value.message
    assert not error.value.message.endswith(": ")
