"""Margins edge by edge; what the other hand of a name is; what a flange is called."""

import pytest

from zygon.design.document import NestSettings
from zygon.design.examples import EXAMPLES
from zygon.design.flange_words import flange_words
from zygon.design.folding import CUT_EDGES
from zygon.design.layout_operations import other_hand
from zygon.design.margins import broken_margin, margins_of
from zygon.design.upgrade import load
from zygon.measure.entry import Entry


@pytest.mark.parametrize(("edge", "place"), [("left", 0), ("bottom", 1), ("right", 2), ("top", 3)])
def test_each_edge_of_a_sheet_has_its_own_margin(edge, place):
    nest = NestSettings.model_validate({"margin": {"text": "4 mm"}, "edges": {edge: {"text": "1 in"}}})
    expected = [4.0] * 4
    expected[place] = 25.4
    assert margins_of(nest) == pytest.approx(expected) and broken_margin(nest) is None
    broken = NestSettings.model_validate({"margin": {"text": "4 mm"}, "edges": {edge: {"text": "wide"}}})
    assert broken_margin(broken)[0] == f"/nest/edges/{edge}"


def test_a_margin_for_all_that_cannot_be_worked_out_is_named():
    assert broken_margin(NestSettings(margin=Entry(text="((")))[0] == "/nest/margin"


@pytest.mark.parametrize(
    ("name", "other"),
    [
        ("left", "right"),
        ("side_right", "side_left"),
        ("front_rail", "back_rail"),
        ("back", "front"),
        ("top", "bottom"),
        ("bottom_1", "top_1"),
        ("upper_shelf", "lower_shelf"),
        ("shelf_lower", "shelf_upper"),
    ],
)
def test_the_other_hand_of_a_name(name, other):
    assert other_hand(name) == other


@pytest.mark.parametrize(
    ("kind", "word"),
    [
        ("flange", "left flange"),
        ("hem", "left hem"),
        ("offset", "left offset bend"),
        ("profile", "left profile"),
        ("line", "left bend line"),
    ],
)
def test_a_flange_is_called_by_its_edge_and_kind(kind, word):
    own = (
        {"length": {"text": "9 mm"}}
        if kind in ("flange", "hem")
        else {"height": {"text": "9 mm"}, "length": {"text": "9 mm"}}
        if kind == "offset"
        else {"legs": [{"length": {"text": "9 mm"}, "angle": {"text": "90 deg"}}]}
        if kind == "profile"
        else {"at": {"text": "9 mm"}}
    )
    data = EXAMPLES["vent-plate"]().dump()
    data["parts"]["vent"]["folding"]["flanges"] = {"left": {"kind": kind, "edge": "left", **own}}
    flanges = load(data).parts["vent"].folding.flanges
    assert flange_words("left", flanges) == word


def test_a_half_is_cut_at_its_low_and_its_high_edge():
    assert CUT_EDGES == ("cut_low", "cut_high")
