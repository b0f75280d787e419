"""Starters: each builds without a problem in both units, as its answers say, over what may be answered; what cannot be is said."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zygon.check.overlap import overlap_faults
from zygon.check.run import check
from zygon.design.starters import STARTERS, starter, starter_forms
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.measure.units import INCH

ASKING = [k for k, s in STARTERS.items() if s.asks]


def reach(built):
    low = [min(p.reaches[0][i] for p in built.made.values()) for i in range(3)]
    high = [max(p.reaches[1][i] for p in built.made.values()) for i in range(3)]
    return [b - a for a, b in zip(low, high, strict=True)]


@pytest.mark.parametrize("unit", ["mm", "in"])
@pytest.mark.parametrize("kind", list(STARTERS))
def test_every_starter_builds_without_a_problem(kind, unit):
    document = starter(kind, "Fresh", unit)
    built = build(document)
    assert (document.name, document.unit, document.display) == ("Fresh", unit, "mm" if unit == "mm" else "fraction")
    assert not built.faults and not check(built) and not overlap_faults(built)
    assert {s.kind for s in document.stocks.values()} == {"sheet", "bar"}
    if unit == "in":  # nothing of it is said in millimetres but what a stock or a cutter is
        texts = [s.entry.text for s in document.sizes.values()]
        assert not [t for t in texts if "mm" in t] and all(s.entry.unit == "in" for s in document.sizes.values())


@pytest.mark.parametrize("kind", ASKING)
@pytest.mark.parametrize(("unit", "mm"), [("mm", 1.0), ("in", INCH)])
def test_it_is_as_large_as_was_answered(kind, unit, mm):
    wide, deep, high = (430, 310, 440) if unit == "mm" else (17, 12.5, 17.25)
    if kind in ("folded-box", "enclosure"):
        high = 61 if unit == "mm" else 2.5
    built = build(starter(kind, "As asked", unit, {"width": str(wide), "depth": str(deep), "height": str(high)}))
    assert not built.faults
    asked = [wide * mm, deep * mm, high * mm]
    if kind in ("folded-box", "enclosure"):  # the lid reaches over it at both sides
        lid = built.flats["lid"].flat.thickness + built.good["/sizes/play/entry"]
        asked[0] += 2 * lid
        asked[2] += built.flats["lid"].flat.thickness
    assert reach(built) == pytest.approx(asked, abs=0.02)


@settings(max_examples=25)
@given(data=st.data())
def test_whatever_may_be_answered_builds_without_overlaps(data):
    kind = data.draw(st.sampled_from(ASKING))
    answers = {}
    for asked in STARTERS[kind].asks:
        if asked.kind == "length":
            low, high = max(asked.low, 0.8 * asked.low), min(asked.high, 900.0)
            answers[asked.name] = f"{data.draw(st.floats(low, high)):.1f} mm"
            value = float(answers[asked.name].split()[0])
            answers[asked.name] = f"{min(max(value, asked.low), asked.high)} mm"
        elif asked.kind == "count":
            answers[asked.name] = str(data.draw(st.integers(int(asked.low), min(int(asked.high), 3))))
    built = build(starter(kind, "Drawn", data.draw(st.sampled_from(["mm", "in"])), answers))
    assert not [f for f in built.faults if f.severity == "error"], (kind, answers)
    assert not overlap_faults(built), (kind, answers)


@pytest.mark.parametrize(
    ("kind", "name", "part"),
    [("shelf-case", "shelves", "shelf"), ("cabinet", "shelves", "shelf"), ("drawer-unit", "drawers", "drawer_front")],
)
def test_so_many_as_were_asked_for(kind, name, part):
    for n in (1, 2, 5):
        built = build(starter(kind, "Many", "mm", {name: str(n), "height": "700 mm"}))
        assert not built.faults and len([p for p in built.made.values() if p.record.name.startswith(part)]) == n
    if kind != "drawer-unit":
        assert not [p for p in build(starter(kind, "None", "mm", {name: "0"})).made.values() if p.record.name.startswith(part)]


def test_the_stock_that_is_chosen_is_cut():
    built = build(starter("drawer-unit", "Thick", "mm", {"stock": "ply18", "drawer": "ply6"}))
    assert built.flats["left"].record.stock == "ply18" and built.flats["drawer_front"].record.stock == "ply6"


@pytest.mark.parametrize(
    ("values", "entry", "words"),
    [
        ({"width": "5 mm"}, "values/width", "is not from 60 to 2400 mm"),
        ({"width": "9 m"}, "values/width", "is not from"),
        ({"width": "wide"}, "values/width", "Width"),
        ({"width": "0x12"}, "values/width", "Width"),
        ({"colour": "red"}, "values/colour", "does not ask for colour"),
        ({"stock": "galv20"}, "values/stock", "does not bend"),
        ({"stock": "gold"}, "values/stock", "gold is not"),
    ],
)
def test_an_answer_that_cannot_be_is_said(values, entry, words):
    with pytest.raises(DocumentError, match=words) as refused:
        starter("open-box", "Box", "mm", values)
    assert refused.value.entry == entry


@pytest.mark.parametrize("text", ["-1", "13", "2.5", "many", "³"])
def test_a_number_of_shelves_that_cannot_be_is_said(text):
    with pytest.raises(DocumentError, match="whole number from 0 to 12"):
        starter("shelf-case", "Case", "mm", {"shelves": text})


def test_a_unit_that_there_is_not_is_said():
    with pytest.raises(DocumentError, match="is not mm or in"):
        starter("open-box", "Box", "cm")


def test_forms_tell_what_is_asked_in_both_units():
    forms = {f["key"]: f for f in starter_forms()}
    assert list(forms) == list(STARTERS) and forms["nothing"]["asks"] == []
    width, *_, stock = forms["open-box"]["asks"]
    assert (width["words"], width["mm"], width["inch"]) == ("Width", "300 mm", "12 in")
    inch = {c["value"]: c["label"] for c in stock["choices"] if c["unit"] == "in"}
    assert inch["ply12"] == "Birch plywood 1/2 in" and "galv20" not in inch
