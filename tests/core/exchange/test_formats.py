"""Every file that goes out is of a kind that is known, and whatever can be chosen anywhere is one of them."""

import io
import typing
import zipfile

import pytest

from tests.core.making.joints.pairs import pair
from tests.core.making.metal.trays import flange, folded
from zygon.cli import EXPORTS
from zygon.design.examples import example
from zygon.exchange.bundle import Drawing, bundle
from zygon.exchange.formats import FORMATS, LISTS, lists_of, media_type
from zygon.exchange.solids import SolidFile
from zygon.making.pipeline import build


def test_what_can_be_chosen_is_what_there_is():
    of = {kind: {k for k, f in FORMATS.items() if f.of == kind} for kind in ("drawing", "solid", "list")}
    assert set(typing.get_args(Drawing)) == of["drawing"] and set(typing.get_args(SolidFile)) == of["solid"]
    assert set(EXPORTS) == of["drawing"] | of["solid"] | {"csv"}
    assert all(key == f.suffix and "/" in f.media for key, f in FORMATS.items()) and all(
        one.suffix in {*of["list"], "json"} for one in LISTS.values()
    )
    assert media_type("a.b_x2.dxf") == "image/vnd.dxf"
    with pytest.raises(KeyError):
        media_type("a.exe")


def test_a_design_has_the_lists_that_have_something_to_say():
    assert list(lists_of(build(pair("dowels").document()))) == ["cut-list.csv", "to-buy.csv", "drilling-list.csv", "assembly.txt"]
    assert list(lists_of(folded({"l": flange("left")}))) == ["cut-list.csv", "bend-table.csv"]
    assert list(LISTS) == [
        "cut-list",
        "to-buy",
        "bend-table",
        "brake-program",
        "brake-strokes",
        "drilling-list",
        "saw-list",
        "tube-cuts",
        "bender-table",
        "assembly",
    ]
    assert list(lists_of(build(example("carrying-bail")))) == [
        "cut-list.csv",
        "to-buy.csv",
        "saw-list.csv",
        "tube-cuts.json",
        "bender-table.csv",
        "assembly.txt",
    ]


def test_everything_in_one_file_is_of_known_kinds_and_has_each_list():
    built = build(pair("dowels").document())
    names = zipfile.ZipFile(io.BytesIO(bundle(built, [], [], "nominal"))).namelist()
    assert all(media_type(n) for n in names)
    assert {f"pair_{end}" for end in lists_of(built)} <= set(names) and {"pair.json", "problems.txt"} <= set(names)


def test_step_alone_of_the_solids_has_true_faces_and_pictures_have_no_true_lines():
    assert {k for k, f in FORMATS.items() if f.of == "solid" and f.exact} == {"step"}
    assert {k for k, f in FORMATS.items() if f.of != "solid" and not f.exact} == {"png"}
