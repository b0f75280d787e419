"""Common sizes of bar and tube, and the shop's own from a list."""

import pytest

from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.stocks import add_bars
from zygon.errors import DocumentError
from zygon.making.datums.solving import solve
from zygon.making.pipeline import build
from zygon.stock.bar_list import read_bars
from zygon.stock.common_bars import COMMON_BARS

#: Masses of a metre in kg as tables of the trade have them (from memory, to the last figure given).
MASSES = {
    "Steel pipe 21.3 × 2.6": 1.20,
    "Steel pipe 33.7 × 3.2": 2.41,
    "Steel pipe 42.4 × 3.2": 3.09,
    "Steel pipe 48.3 × 3.2": 3.56,
    "Steel pipe 60.3 × 3.6": 5.03,
    "Steel tube 25 × 2": 1.13,
    "Steel tube 30 × 2": 1.38,
    "Steel square tube 40 × 3": 3.30,
    "Steel square tube 50 × 3": 4.25,
    "Steel square tube 60 × 3": 5.19,
    "Steel rectangular tube 60 × 40 × 3": 4.25,
    "Steel round bar 10": 0.617,
    "Steel round bar 20": 2.47,
    "Steel square bar 12": 1.13,
    "Steel flat bar 30 × 5": 1.18,
    "Steel flat bar 40 × 8": 2.51,
    "Steel hexagon bar 17": 1.96,
    "Aluminium tube 25 × 2": 0.390,
    "Stainless tube 42.4 × 2": 2.00,
}


def test_every_common_size_is_a_stock_that_can_be_cut():
    assert len({c.name for c in COMMON_BARS}) == len(COMMON_BARS) > 60
    for c in COMMON_BARS:
        d = Draft("bars", "ply18")
        d.data["stocks"]["bar"] = {**c.start, "order": 90}
        assert not solve(d.document()).faults, c.name
        assert "memory" in c.source or c.source == "common practice"


@pytest.mark.parametrize("name", MASSES)
def test_they_weigh_what_tables_say(name):
    common = next(c for c in COMMON_BARS if c.name == name)
    d = Draft("bars", "ply18")
    d.data["stocks"]["bar"] = {**common.start, "order": 90}
    section = solve(d.document()).sections["bar"]
    assert section.mass(common.start["density"]) == pytest.approx(MASSES[name], rel=0.012)


@pytest.mark.parametrize("common", [c for c in COMMON_BARS if "metre" in c.start], ids=lambda c: c.name)
def test_a_mass_that_is_stated_is_nearly_what_the_drawn_section_has(common):
    """Toes are rounded and flanges thinner there, which is not drawn."""
    d = Draft("bars", "ply18")
    d.data["stocks"]["bar"] = {**common.start, "order": 90}
    solved = solve(d.document())
    assert solved.sections["bar"].open and solved.sections["bar"].mass(7.85) == pytest.approx(common.start["metre"], rel=0.025)


LIST = "Name;Section;Across;Width;Wall;Corner;Material;Density;kg per m;Length;Price;Kerf\nRack tube;round;26,9;;2,3;;steel;7,85;;6 m;14,50;2\nRack tube;round;26,9;;2,3;;;;;3 m;8;\nFlat;flat;5 mm;30 mm;;;steel;7.85;1.18;6 m;11;\n"


@pytest.mark.parametrize("parted", [";", "\t"])
def test_a_list_becomes_stocks_and_rows_of_one_name_are_lengths_of_one(parted):
    document = Draft("bars", "ply18").document()
    text = "\ufeff" + LIST.replace(";", parted)
    label, patch = add_bars(document, text)
    assert label == "Add 2 bars from a list"
    after = patched(document.dump(), patch)
    tube, flat = (next(s for s in after.stocks.values() if s.name == n) for n in ("Rack tube", "Flat"))
    assert (tube.shape, tube.nominal.text, tube.wall.text, tube.kerf.text) == ("round", "26.9", "2.3", "2")
    assert [(x.length.text, x.price) for x in tube.lengths.values()] == [("6 m", 14.5), ("3 m", 8.0)]
    assert (flat.shape, flat.nominal.text, flat.width.text, flat.metre) == ("rectangle", "5 mm", "30 mm", 1.18)
    assert not build(after).faults
    with pytest.raises(DocumentError, match="All of these bars are in this design"):
        add_bars(after, text)


def test_commas_part_columns_where_figures_have_points():
    (record,) = read_bars('name,section,across,length,price\n"Rod, bright",round,8,3 m,4.2\n', "mm")
    assert (record["name"], record["nominal"]) == ("Rod, bright", {"text": "8", "unit": "mm"})
    assert read_bars("name,section,across\nRod,round,1/2\n", "in")[0]["nominal"] == {"text": "1/2", "unit": "in"}


@pytest.mark.parametrize(
    ("text", "entry", "words"),
    [
        ("", "columns", "headings"),
        ("name;across\na;3\n", "columns", "section is missing"),
        ("name;section;across\n", "rows", "at least one row"),
        ("name;section;across\na;star;3\n", "row 2, section", "one of round"),
        ("name;section;across\na;round;\n", "row 2, across", "a bar has a across"),
        ("name;section;across;price\na;round;3;cheap\n", "row 2, price", "a plain number"),
        ("name;section;across;price\na;round;3;-4\n", "row 2, price", "from 0 on"),
        ("name;section;across\n" + "a;round;3\n" * 201, "rows", "at most 200"),
    ],
)
def test_what_a_list_cannot_say_is_told_by_row_and_column(text, entry, words):
    with pytest.raises(DocumentError, match=words) as told:
        read_bars(text, "mm")
    assert told.value.entry == entry


def test_an_entry_that_cannot_be_read_is_a_problem_at_its_field():
    document = Draft("bars", "ply18").document()
    after = patched(document.dump(), add_bars(document, "name;section;across;wall\nTube;round;20 mm;12 mm\n")[1])
    key = next(k for k, s in after.stocks.items() if s.name == "Tube")
    assert [f.entry for f in build(after).faults] == [f"/stocks/{key}/wall"]
