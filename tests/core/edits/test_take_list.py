"""A shop's list of hardware: what the catalogue knows gets its price, the rest is the shop's own and can be counted."""

import pytest

from tests.core.making.sets.stacks import stack
from zygon.design.patch import patched
from zygon.edits.hardware import take_list
from zygon.errors import DocumentError
from zygon.exchange.to_buy import to_buy
from zygon.making.pipeline import build

LIST = """Name;Number;Price;Mass g
Plain washer M5;;0,02;
;ISO 4032 - M5;0,05;
"Felt pad, round 20";TH-77;0,3;0,8
Bee brush;;4.5;
"""


def washed():
    return stack("ply12", "ply12", head="socket", size="M5", washer="plain_washer", nut_washer="plain_washer").document()


def taken(text, document=None):
    document = document or washed()
    label, patch = take_list(document, text)
    return label, patched(document.dump(), patch)


def test_known_pieces_get_prices_and_unknown_ones_are_the_shops_own():
    label, document = taken(LIST)
    assert label == "A list of hardware: 2 of the catalogue, 2 of the shop's own"
    assert document.hardware.prices == {"ISO 7089 - M5": 0.02, "ISO 4032 - M5": 0.05, "TH-77": 0.3, "Bee brush": 4.5}
    assert {k: (o.name, o.mass) for k, o in document.hardware.own.items()} == {
        "TH-77": ("Felt pad, round 20", 0.8),
        "Bee brush": ("Bee brush", None),
    }
    rows = {r.designation: r for r in to_buy(build(document))}
    assert (rows["ISO 7089 - M5"].price, rows["ISO 7089 - M5"].total) == (0.02, pytest.approx(0.04))
    assert rows["ISO 4032 - M5"].total == pytest.approx(0.05)


def test_what_is_the_shops_own_is_counted_and_summed_once():
    data = taken(LIST)[1].dump()
    for n, name in enumerate(("pads", "more_pads")):
        data["parts"][name] = {"kind": "item", "name": name, "order": 90 + n, "quantity": 4, "designation": "TH-77"}
    built = build(patched(data, []))
    row = next(r for r in to_buy(built) if r.designation == "TH-77")
    assert (row.name, row.needed, row.price, row.mass, row.total) == ("Felt pad, round 20", 8, 0.3, 0.8, pytest.approx(2.4))
    assert sum(r.name in ("pads", "more pads") for r in to_buy(built)) == 0
    data["parts"]["pads"]["designation"] = "TH-78"
    with pytest.raises(DocumentError, match="there is no TH-78"):
        patched(data, [])


def test_a_newer_list_changes_prices_and_keeps_what_it_does_not_name():
    _, first = taken(LIST)
    label, second = taken("designation,price\nTH-77,0.35\n", first)
    assert label == "A list of hardware: 0 of the catalogue, 0 of the shop's own"
    assert second.hardware.prices["TH-77"] == 0.35 and second.hardware.prices["ISO 7089 - M5"] == 0.02
    assert set(second.hardware.own) == {"TH-77", "Bee brush"}


@pytest.mark.parametrize(
    ("text", "said"),
    [("", "headings"), ("price\n1\n", "headings"), ("name\n", "at least one row"), ("name,price\nfelt,cheap\n", "row 2, price"),
     ("name,price\nfelt,-1\n", "row 2, price"), ("name,price\nfelt,nan\n", "row 2, price"), ("name,price\n,3\n", "row 2"),
     ("name\n" + "x\n" * 501, "rows")],
)  # fmt: skip
def test_a_list_that_cannot_be_read_says_where(text, said):
    with pytest.raises(DocumentError, match=said):
        take_list(washed(), text)


def test_tabs_and_commas_part_columns_too_and_more_columns_are_left():
    _, document = taken("Article\tWhat\tPrice each\tSupplier\nDIN 65\tClip\t1.25\tsomebody\n")
    assert document.hardware.prices == {"DIN 65": 1.25} and document.hardware.own["DIN 65"].name == "Clip"
