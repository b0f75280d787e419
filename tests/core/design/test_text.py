"""Texts hold what can be seen, in one form: what an edit or a file brings is refused where it does not, what was kept before is cleaned."""

import io
import json
import unicodedata

import ezdxf
import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.design.examples import brood_box
from zygon.design.patch import apply_patch
from zygon.design.text import UnprintableError, cleaned, printable
from zygon.design.upgrade import load
from zygon.exchange.bundle import part_files
from zygon.exchange.design_in import read_design
from zygon.making.pipeline import build

LAYER = "/cutters/laser/layers/outside/name"
#: What cannot be seen, and how it is called.
UNSEEN = [
    ("\n", "a line break"),
    ("\r", "a line break"),
    ("\u2028", "a line break"),
    ("\t", "a tab"),
    ("\x00", "the control character U+0000"),
    ("\x1b", "the control character U+001B"),
    ("\x7f", "the control character U+007F"),
    ("\u202e", "the control character U+202E"),
    ("\ud800", "half a character"),
]


@pytest.mark.parametrize(("char", "called"), UNSEEN)
@pytest.mark.parametrize("path", ["/name", LAYER, "/parts/front/note"])
def test_an_edit_cannot_write_what_cannot_be_seen(char, called, path):
    patch = [{"op": "add", "path": path, "value": f"AB{char}CD"}]
    if path.endswith("note") and char in "\n\r\t":
        assert apply_patch(brood_box().dump(), patch)[1]["parts"]["front"]["note"] == f"AB{char}CD"
        return
    with pytest.raises(UnprintableError) as caught:
        apply_patch(brood_box().dump(), patch)
    fault = caught.value
    assert fault.message == f"{path}: {called} cannot be part of it (after 'AB')"
    assert (fault.entry, fault.value, fault.code) == (path, f"U+{ord(char):04X}", "bad_text")


def test_it_is_found_wherever_in_a_value_it_stands():
    value = {**brood_box().dump()["parts"]["front"], "name": "another"}
    value["features"] = {"f": {"kind": "mark_text", "text": "one\ntwo"}}
    with pytest.raises(UnprintableError, match=r"^/parts/x/features/f/text: a line break"):
        apply_patch(brood_box().dump(), [{"op": "add", "path": "/parts/x", "value": value}])
    with pytest.raises(UnprintableError, match=r"^/a/1/b"):
        printable({"a": ["x", {"b": "\x01"}]})
    with pytest.raises(UnprintableError):
        printable({"a\n": 1})


@pytest.mark.parametrize("char", [c for c, _ in UNSEEN if c != "\ud800"])
def test_a_file_cannot_bring_it(tmp_path, char):
    data = brood_box().dump()
    data["cutters"]["laser"]["layers"]["outside"]["name"] = f"CUT{char}OUT"
    path = tmp_path / "d.json"
    path.write_text(json.dumps(data), "utf-8")
    with pytest.raises(UnprintableError) as caught:
        read_design(path)
    assert caught.value.entry == LAYER


def test_what_was_kept_before_is_cleaned_and_its_files_can_be_read():
    data = brood_box().dump()
    data["cutters"]["laser"]["layers"]["outside"]["name"] = "CUT\nOUT"
    data["note"] = "one\ntwo\x07"
    for document in (load(data), apply_patch(data, [{"op": "replace", "path": "/name", "value": "B"}])[0]):
        assert document.cutters["laser"].layers.outside.name == "CUT OUT"
        assert document.note == "one\ntwo "
        for name, text in part_files(build(document), "dxf", "nominal").items():
            layers = ezdxf.read(io.StringIO(text)).layers
            assert "CUT OUT" in [layer.dxf.name for layer in layers], name
    assert data["cutters"]["laser"]["layers"]["outside"]["name"] == "CUT\nOUT"  # what was given is left as it is


def test_letters_that_look_alike_are_alike():
    apart, whole = "Ru\u0308ckwand", "R\u00fcckwand"
    _, data, _ = apply_patch(brood_box().dump(), [{"op": "replace", "path": "/name", "value": apart}])
    assert data["name"] == whole != apart


@given(
    st.recursive(
        st.one_of(st.text(), st.integers(), st.none()), lambda inner: st.lists(inner) | st.dictionaries(st.text(), inner), max_leaves=12
    )
)
def test_whatever_is_cleaned_is_printable_and_stays_as_it_is(value):
    tidy = cleaned(value)

    def texts(v):
        if isinstance(v, str):
            yield v
        for x in v.values() if isinstance(v, dict) else v if isinstance(v, list) else ():
            yield from texts(x)

    for text in texts(tidy):
        assert text == "" or printable(unicodedata.normalize("NFC", text), "/note") == unicodedata.normalize("NFC", text)
    assert cleaned(tidy) == tidy


def test_secrets_are_taken_as_they_are_typed_but_for_half_characters():
    typed = {"password": "a\tb u\u0308", "name": "u\u0308"}
    assert printable(typed, secrets=("password",)) == {"password": "a\tb u\u0308", "name": "\u00fc"}
    with pytest.raises(UnprintableError):
        printable({"password": "\udc00"}, secrets=("password",))
