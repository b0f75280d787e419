"""No text of any table is a formula to a spreadsheet; figures stay figures."""

import csv
import io

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.design.examples import EXAMPLES
from zygon.design.patch import apply_patch
from zygon.exchange.formats import lists_of
from zygon.exchange.table import csv_text
from zygon.making.pipeline import build

FORMULA = ("=", "+", "-", "@", "\t", "\r", "\n")


@pytest.mark.parametrize(
    ("given_", "written"),
    [
        ("=1+1", "'=1+1"),
        ("+A1", "'+A1"),
        ("-2 + 3", "'-2 + 3"),
        ("@x", "'@x"),
        ("\tx", "'\tx"),
        ("\rx", "'\rx"),
        ("-2.5", "-2.5"),
        ("+3", "+3"),
        ("-", "'-"),
        ("-2.5.1", "'-2.5.1"),
        ("--2", "'--2"),
        ("plain = text", "plain = text"),
        ("", ""),
        (-2.5, "-2.5"),
        (7, "7"),
    ],
)
def test_a_text_that_begins_as_a_formula_is_marked_as_text(given_, written):
    assert list(csv.reader(io.StringIO(csv_text(["h"], [[given_, "x"]]), newline="")))[1] == [written, "x"]


@given(st.lists(st.lists(st.text(st.characters(codec="utf-8")), min_size=1, max_size=4), max_size=4))
def test_every_cell_comes_back_as_a_text_or_a_number(rows):
    found = list(csv.reader(io.StringIO(csv_text(["a"], rows), newline="")))[1:]
    for before, after in zip(rows, found, strict=False):
        for x, y in zip(before, after, strict=True):
            assert y in (x, f"'{x}")
            assert not y.startswith(FORMULA) or y.lstrip("+-").replace(".", "", 1).isdigit()


@pytest.mark.parametrize("name", ["rebated-box", "electronics-box", "hive-floor"])
def test_whatever_a_maker_calls_things_no_list_holds_a_formula(name):
    data = EXAMPLES[name]().dump()
    bad = "=1+1"
    patch = [{"op": "add", "path": f"/parts/{k}/note", "value": bad} for k in data["parts"]]
    patch += [{"op": "replace", "path": f"/stocks/{k}/name", "value": f"@{k}"} for k in data["stocks"]]
    for b, brake in data.get("brakes", {}).items():
        patch += [{"op": "replace", "path": f"/brakes/{b}/punches/{p}/name", "value": f"-{p}"} for p in brake["punches"]]
    for j in data.get("joints", {}):
        patch.append({"op": "add", "path": f"/joints/{j}/name", "value": f"+{j}"}) if "name" in data["joints"][j] else None
    lists = lists_of(build(apply_patch(data, patch)[0]))
    marked = 0
    for text in lists.values():
        for row in list(csv.reader(io.StringIO(text, newline="")))[1:]:
            for cell in row:
                assert not cell.startswith(FORMULA) or cell.lstrip("+-").replace(".", "", 1).isdigit()
                marked += cell.startswith("'")
    assert marked
