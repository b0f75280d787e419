"""How a part is made: what is cut or bent here comes from a stock and is cut, nested and reckoned; what is bought, turned or printed has a price of its own."""

import csv
import io

import pytest

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.errors import DocumentError
from zygon.exchange.cutlist import cut_list, write_csv
from zygon.making.pipeline import build
from zygon.nest.design import plans
from zygon.screen.design import built_data

MADE = {"board": ["cut"], "folded": ["bent", "bought"], "block": ["bought", "turned", "printed"], "rod": ["cut"], "item": ["bought"]}
CUT = {"cut", "bent"}


def design(kind, made=None):
    d = Draft("d", "galv20", "ply12", "beech12", cutter="laser")
    match kind:
        case "board":
            d.board("p", "ply12", "lying", 0, (0, 120), (0, 80))
        case "folded":
            d.board("p", "galv20", "lying", 0, (0, 120), (0, 80)).fold("p").flange("p", "one", "left", "20")
        case "block":
            d.block("p", (0, 40), (0, 40), (0, 20), price=2.25, quantity=3)
        case "rod":
            d.rod("p", "beech12", "x", (0, 200), y=0, z=0)
        case "item":
            d.data["parts"]["p"] = {"kind": "item", "name": "p", "price": 2.25, "quantity": 3}
    data = d.document().dump()
    if made is not None:
        data["parts"]["p"]["made"] = made
    if kind == "folded":
        data["parts"]["p"]["price"] = 4.5
    return data


@pytest.mark.parametrize(("kind", "made"), [(kind, made) for kind, ways in MADE.items() for made in ways])
def test_what_is_cut_here_is_nested_and_what_is_not_is_paid_for(kind, made):
    told = made if len(MADE[kind]) > 1 else None
    built = build(patched(design(kind, told), []))
    assert built.faults == ()
    (row,) = cut_list(built)
    assert row.made == made == next(csv.DictReader(io.StringIO(write_csv(built))))["Made"]
    shown = built_data(built, check(built))
    assert [p["made"] for p in shown["parts"]] == [made]
    price = 0.0 if made in CUT else 4.5 if kind == "folded" else 3 * 2.25
    assert shown["totals"]["bought"] == pytest.approx(price) and row.price == pytest.approx(price / row.quantity)
    assert bool([p for p in plans(built) if p.flats]) == (made in CUT and kind in ("board", "folded"))
    assert (shown["totals"]["cut_seconds"] > 0) == (made in CUT and kind in ("board", "folded"))


@pytest.mark.parametrize("kind", MADE)
@pytest.mark.parametrize("made", ["cut", "bent", "turned", "printed", "bought", "carved"])
def test_each_kind_may_be_made_in_its_own_ways(kind, made):
    if len(MADE[kind]) > 1 and made in MADE[kind]:
        assert patched(design(kind, made), []).parts["p"].made == made
        return
    with pytest.raises(DocumentError) as refused:
        patched(design(kind, made), [])
    assert refused.value.entry.startswith("/parts/p/made")
