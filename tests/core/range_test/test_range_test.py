"""Designs that break at values that are known beforehand: the range test finds these, alone and in pairs, and says no more than it tried."""

from __future__ import annotations

import json
import math

import pytest

from tests.core.check.test_limits import RULES, T
from zygon.check.run import check
from zygon.cli import main
from zygon.design.document import Kept
from zygon.design.draft import Draft
from zygon.design.examples import example
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.range_test.pairs import acting_pairs
from zygon.range_test.run import RangeTest, range_test
from zygon.range_test.tries import Tries, with_sizes
from zygon.screen.ranges import ranges_data

#: Wood that is wanted from the middle of a hole of 10 mm to an edge, and between the middles of two (mm).
EDGE, WEB = 1.3 * T + 5, 0.8 * T + 10


def plate(unit: str = "mm", **sizes: tuple) -> Draft:
    """300 × 200 mm with rules of its own."""
    d = Draft("plate", "ply12", unit=unit)
    d.data["rules"] = RULES
    for name, said in sizes.items():
        d.size(name, *said)
    d.board("p", "ply12", "lying", 0, (0, "300 mm"), (0, "200 mm"), up="a")
    return d


def hole(d: Draft, key: str, u: tuple, v: tuple = ("front", "100 mm")) -> Draft:
    return d.feature("p", key, "hole", u, v, diameter="10 mm")


def walked_over(d: Draft, *names: str) -> RangeTest:
    return range_test(Tries(d.document()), names)


@pytest.mark.parametrize(("edge", "across"), [("left", 300), ("right", 300), ("front", 200), ("back", 200)])
def test_a_hole_breaks_at_either_edge_where_its_rule_says(edge, across):
    d = plate(inset=("60 mm", "10 mm", f"{across - 10} mm"))
    along = edge in ("left", "right")
    hole(d, "h", (edge, "inset") if along else ("left", "150 mm"), ("front", "100 mm") if along else (edge, "inset"))
    one = walked_over(d).sizes[0]
    for reach, true, side in ((one.below, EDGE, 1), (one.above, across - EDGE, -1)):
        assert reach.at is not None and side * reach.at < side * true <= side * reach.good + 1e-9
        assert abs(reach.at - reach.good) == pytest.approx(0.1)
        assert reach.broken is not None and reach.broken.code == "near_edge" and reach.broken.part == "p"


def test_what_is_good_to_a_tenth_to_the_very_value():
    """The wood between two holes is just enough at 18 mm: 8 mm, and their own widths."""
    d = plate(apart=("40 mm", "5 mm", "60 mm"))
    d.data["rules"] = RULES | {"web": 8 / T}
    hole(d, "h", ("left", "100 mm"))
    hole(d, "k", ("left", "100 mm + apart"))
    one = walked_over(d).sizes[0]
    assert (round(one.below.good, 6), round(one.below.at or 0, 6)) == (18.0, 17.9) and one.above.broken is None


@pytest.mark.parametrize("most", ["138 mm", "143 mm"])
def test_two_that_are_good_alone_and_meet_are_found_as_a_pair(most):
    d = plate(a=("60 mm", "50 mm", "145 mm"), b=("60 mm", "50 mm", most))
    hole(d, "h", ("left", "a"))
    hole(d, "k", ("right", "b"))
    found = walked_over(d)
    assert [s.whole for s in found.sizes] == [True, True] and found.finished
    (pair,) = found.pairs
    room = 300 - WEB
    assert sum(pair.good) <= room + 1e-6 < sum(pair.at) and pair.keys == ("a", "b")
    assert all(abs(x - y) <= 0.1 + 1e-9 for x, y in zip(pair.at, pair.good, strict=True))
    assert pair.broken.code in ("thin_web", "overlap", "cut_through")
    # together with one of them the other is looked at too
    assert walked_over(d, "b").pairs == found.pairs and [s.key for s in walked_over(d, "b").sizes] == ["b"]


def test_sizes_of_different_parts_are_no_pair_and_a_reckoned_one_is_none_with_what_it_reads():
    d = plate(
        a=("60 mm", "50 mm", "180 mm"), b=("60 mm", "50 mm", "70 mm"), twice=("2*a", "10 mm", "400 mm"), none=("3 mm", "1 mm", "4 mm")
    )
    hole(d, "h", ("left", "a"))
    d.board("q", "ply12", "lying", "100 mm", (0, "300 mm"), (0, "200 mm"), up="a")
    d.feature("q", "h", "hole", ("left", "b"), ("front", "100 mm"), diameter="10 mm")
    d.feature("p", "k", "hole", ("left", "twice"), ("front", "40 mm"), diameter="10 mm")
    assert acting_pairs(d.document(), ["a", "b", "twice", "none"]) == []
    d.feature("q", "k", "hole", ("right", "a"), ("front", "40 mm"), diameter="10 mm")
    assert acting_pairs(d.document(), ["a", "b", "twice", "none"]) == [("a", "b")]


def test_errors_that_are_there_today_are_no_break_kept_or_not_and_a_warning_is_none():
    d = plate(inset=("10 mm", "8 mm", "100 mm"))
    hole(d, "h", ("left", "inset"))
    assert [p.fault.code for p in check(build(d.document()))] == ["near_edge"]
    assert walked_over(d).sizes[0].whole
    # one that is kept with a reason at its value is aside at any value
    document = d.document()
    problem = check(build(document))[0]
    kept = Kept(reason="it holds", by="Ilse", value=problem.fault.value, rule=problem.fault.rule)
    assert range_test(Tries(document.model_copy(update={"kept": {problem.id: kept}}))).sizes[0].whole


@pytest.mark.parametrize("after", [1, 2, 5, 9])
def test_stopped_and_gone_on_with_it_finds_the_same_and_tries_nothing_twice(after):
    d = plate(a=("60 mm", "10 mm", "180 mm"), b=("60 mm", "50 mm", "190 mm"))
    hole(d, "h", ("left", "a"))
    hole(d, "k", ("right", "b"))
    document = d.document()
    whole = range_test(Tries(document))
    known: dict = {}
    for _ in range(400):
        begun = len(known)
        part = range_test(Tries(document, known, lambda begun=begun: len(known) < begun + after))
        assert len(known) - begun <= after and part.done <= part.total
        if part.finished:
            break
    assert part == whole and len(known) == whole.tried
    data = ranges_data(document, part)
    assert data["words"].startswith(f"Tried at {whole.tried} places")


def test_in_inches_the_break_is_a_binary_fraction_and_the_offer_reads_back():
    d = plate("in", inset=("2 in", "0.5 in", "4 in"))
    hole(d, "h", ("left", "inset"))
    document = d.document()
    found = range_test(Tries(document))
    reach = found.sizes[0].below
    assert (reach.good / 25.4 * 256) == pytest.approx(round(reach.good / 25.4 * 256), abs=1e-6) and reach.at < EDGE <= reach.good
    offer = ranges_data(document, found)["sizes"][0]["offer"]
    assert [e["unit"] for e in offer] == ["in", "in"] and offer[0]["text"].endswith(" in") and offer[1]["text"] == "4 in"
    sizes = document.sizes["inset"].model_copy(update={"low": type(document.sizes["inset"].entry)(**offer[0])})
    again = range_test(Tries(document.model_copy(update={"sizes": {"inset": sizes}})))
    assert again.sizes[0].whole, "taken over, it is good all over"


def test_angles_counts_and_numbers_are_walked_in_their_own_steps():
    d = plate(n=("2", "1", "20", "count"), share=("0.5", "0.1", "0.9", "number"), lean=("20 deg", "0 deg", "80 deg", "angle"))
    hole(d, "h", ("left", "20 mm + 30 mm * n"))
    d.feature("p", "k", "hole", ("left", "150 mm"), ("front", "200 mm * share"), diameter="10 mm")
    d.feature("p", "m", "hole", ("left", "30 mm"), ("front", "100 mm + 100 mm * sin(lean)"), diameter="10 mm")
    by = {s.key: s for s in walked_over(d).sizes}
    # 20 + 30 n stays clear of the hole at 150 (not in its row) and of the edge: n = 8 lies at 260, 9 at 290
    assert (by["n"].above.good, by["n"].above.at) == (8.0, 9.0)
    low, high = EDGE / 200, 1 - EDGE / 200
    assert by["share"].below.at < low <= by["share"].below.good and by["share"].above.good <= high < by["share"].above.at
    lean = math.asin((100 - EDGE) / 100)
    assert by["lean"].above.good <= lean < by["lean"].above.at <= by["lean"].above.good + math.radians(0.1) + 1e-9


@pytest.mark.parametrize(
    ("said", "wrong", "low", "high"),
    [
        (("60 mm",), "", 30, 120),
        (("60 mm", "40 mm"), "", 40, 120),
        (("60 mm", None, "90 mm"), "", 30, 90),
        (("0 mm",), "it has no range: give it a least and a greatest value", 0, 0),
        (("0 mm", "0 mm"), "it has no range: give it a least and a greatest value", 0, 0),
        (("60 mm", "90 mm", "30 mm"), "its least value is over its greatest", 60, 60),
        (("60 mm", "nothing", "90 mm"), "its value or its range cannot be worked out", 0, 0),
        (("60 mm", "60 mm", "60 mm"), "", 60, 60),
        (("60 mm", "70 mm", "90 mm"), "", 70, 90),
    ],
)
def test_a_range_without_ends_or_that_is_none_is_said_and_the_others_stand(said, wrong, low, high):
    d = plate(inset=said, other=("100 mm", "90 mm", "110 mm"))
    hole(d, "h", ("left", "inset + 20 mm"), ("front", "other"))
    found = walked_over(d)
    by = {s.key: s for s in found.sizes}
    assert (by["inset"].wrong, by["inset"].low, by["inset"].high) == (wrong, low, high)
    assert by["other"].whole and found.finished
    words = ranges_data(d.document(), found)["sizes"][0]["words"]
    assert ("half and twice" in words) == ((not wrong and len(said) < 3) or None in said)


def test_measured_sizes_are_not_tried_and_a_name_that_is_none_is_refused():
    d = plate(a=("60 mm", "50 mm", "180 mm"))
    hole(d, "h", ("left", "a"))
    with pytest.raises(DocumentError, match="There is no size 'b' that can be tried: it is not one of a"):
        walked_over(d, "b")
    with pytest.raises(DocumentError, match="this design has none"):
        range_test(Tries(plate().document()), ["b"])
    assert range_test(Tries(plate().document())).finished


def test_a_try_is_the_design_with_the_size_typed_by_hand():
    document = example("brood-box")
    typed = document.model_copy(
        update={
            "sizes": {
                **document.sizes,
                "hold": document.sizes["hold"].model_copy(update={"entry": type(document.sizes["hold"].entry)(text="99.5 mm")}),
            }
        }
    )
    tried = with_sizes(document, {"hold": 99.5})
    assert {k: f.flat.digest for k, f in build(tried).flats.items()} == {k: f.flat.digest for k, f in build(typed).flats.items()}
    assert build(tried).values["/sizes/hold/entry"].value == 99.5


def test_the_command_line_says_it_in_words_and_as_json(tmp_path, capsys):
    d = plate(inset=("60 mm", "10 mm", "100 mm"))
    hole(d, "h", ("left", "inset"))
    path = tmp_path / "plate.json"
    path.write_text(d.document().model_dump_json(by_alias=True))
    assert main(["range", str(path)]) == 0
    lines = capsys.readouterr().out.splitlines()
    assert lines[0] == "inset: works from 20.4 mm to 100 mm, of 10 mm to 100 mm" and lines[1].startswith("    inset 20.3 mm: p: ")
    assert main(["range", str(path), "--size", "inset", "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["sizes"][0]["below"]["code"] == "near_edge" and told["sizes"][0]["offer"][0] == {"text": "20.4 mm", "unit": "mm"}
    assert main(["range", str(path), "--size", "x"]) == 2
    assert "There is no size 'x'" in capsys.readouterr().err
