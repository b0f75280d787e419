"""The bars of a design: which lengths are cut, of which copies and pieces, on which bars; the standard worked example through a design's own list."""

import pytest

from zygon.check.bars import bar_faults
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.examples import example
from zygon.making.pipeline import build
from zygon.nest.bars_of_design import bar_work, lengths_of
from zygon.screen.design import built_data

#: The cutting-stock problem's standard worked example (from memory; recomputed): 73 bars of 5600 without kerf.
DEMAND = "1380x22 1520x25 1560x12 1710x14 1820x18 1880x18 1930x20 2000x10 2050x12 2100x14 2140x16 2150x18 2200x20"


def bars(d: Draft, stock: str = "steel6", kerf: str = "0", **sold):
    """Sells a stock in these lengths: each text with a price."""
    d.data["stocks"][stock] |= {
        "kerf": {"text": kerf},
        "lengths": {k: {"length": {"text": text}, "price": price, "order": n} for n, (k, (text, price)) in enumerate(sold.items())},
    }
    return d


def rods(*lengths: tuple[str, int], stock: str = "steel6") -> Draft:
    d = Draft("bars", "steel6", "beech12")
    for n, (length, quantity) in enumerate(lengths):
        d.rod(f"rod_{n}", stock, "x", ("0", length), y=f"{30 * n} mm", z="0")
        d.data["parts"][f"rod_{n}"]["quantity"] = quantity
    return d


def cost(work) -> float:
    return work.plan["cost"] if work.plan else 0.0


def test_the_worked_example_takes_73_bars_through_a_design():
    wanted = [tuple(map(int, w.split("x"))) for w in DEMAND.split()]
    d = bars(rods(*((f"{length} mm", n) for length, n in wanted)), one=("5600 mm", 3.0))
    (work,) = bar_work(build(d.document()))
    assert work.plan and (work.plan["bars"], work.plan["proven"], cost(work)) == (73, True, pytest.approx(219.0))
    cut = {}
    for p in work.plan["patterns"]:
        assert sum(c["length"] * c["count"] for c in p["cuts"]) + p["rest"] == pytest.approx(5600)
        for c in p["cuts"]:
            cut[c["length"]] = cut.get(c["length"], 0) + c["count"] * p["times"]
    assert cut == {float(length): n for length, n in wanted}
    shown = built_data(build(d.document()), [])
    assert shown["bars"] == [{"stock": "steel6", "plan": work.plan, "refused": "", "digest": work.digest}]


def test_the_saw_takes_its_kerf_and_the_last_piece_of_a_bar_needs_none():
    for kerf, length, n in (("2 mm", "499 mm", 1), ("2.1 mm", "499 mm", 2), ("0", "500 mm", 1)):
        (work,) = bar_work(build(bars(rods((length, 2)), kerf=kerf, one=("1 m", 5.0)).document()))
        assert work.plan and work.plan["bars"] == n, kerf


@pytest.mark.parametrize(("trim", "n"), [("0", 1), ("18.9 mm", 1), ("19.1 mm", 2), ("0.7 in", 1)])
def test_what_is_trimmed_off_both_ends_of_a_bar_is_not_cut_from(trim, n):
    d = bars(rods(("480 mm", 2)), kerf="2 mm", one=("1 m", 5.0))
    d.data["stocks"]["steel6"]["trim"] = {"text": trim}
    built = build(d.document())
    (work,) = bar_work(built)
    assert work.plan and work.plan["bars"] == n
    assert "too_large" not in [f.code for f in bar_faults(built)]
    d.data["stocks"]["steel6"]["trim"] = {"text": "261 mm"}
    said = [f for f in bar_faults(build(d.document())) if f.code == "too_large"]
    assert len(said) == 1 and "without its trims" in said[0].rule


def test_copies_and_pieces_count_and_what_lies_aside_is_cut_too():
    d = bars(rods(("300 mm", 2), ("400 mm", 1)), one=("2 m", 5.0))
    d.mirror("other", "y", "-200 mm", "part:rod_0", names={"rod_0": "twin"})
    d.data["parts"]["rod_1"]["aside"] = True
    (work,) = bar_work(build(d.document()))
    assert work.plan and [(c["name"], c["length"], c["count"]) for p in work.plan["patterns"] for c in p["cuts"]] == [
        ("rod_1", 400.0, 1),
        ("rod_0", 300.0, 4),
    ]


def test_each_stock_has_its_own_bars_and_the_cheapest_are_taken():
    d = bars(rods(("600 mm", 3)), short=("1 m", 4.0), long=("2 m", 6.0))
    bars(d, "beech12", one=("1 m", 2.0))
    d.rod("pin", "beech12", "x", ("0", "100 mm"), y="0", z="200 mm")
    beech, steel = sorted(bar_work(build(d.document(), on_hand={"steel6": {"long": 1}})), key=lambda w: w.stock)
    assert (beech.stock, steel.stock) == ("beech12", "steel6")
    assert cost(beech) == 2.0 and steel.plan and steel.plan["bars"] == 1 and cost(steel) == 6.0
    more = bars(rods(("600 mm", 4)), short=("1 m", 4.0), long=("2 m", 6.0))
    (work,) = bar_work(build(more.document(), on_hand={"steel6": {"long": 1}}))
    assert cost(work) == 10.0 and sorted(p["bar"] for p in work.plan["patterns"]) == [1000.0, 2000.0]


def test_without_prices_the_fewest_bars_are_taken_and_nothing_is_paid():
    (work,) = bar_work(build(bars(rods(("600 mm", 3)), short=("1 m", 0.0), long=("2 m", 0.0)).document()))
    assert work.plan and work.plan["bars"] == 1 and cost(work) == 0.0


@pytest.mark.parametrize(
    "spoil, said, code, entry",
    [
        (bars, "no length is entered", "no_bars", "/stocks/steel6/lengths"),
        (lambda d: bars(d, one=("250 mm", 1.0)), "at most 250 mm", "too_large", ""),
        (lambda d: bars(d, kerf="2 + ", one=("1 m", 1.0)), "steel", "broken_expression", "/stocks/steel6/kerf"),
        (lambda d: bars(d, one=("2 + ", 1.0)), "steel", "broken_expression", "/stocks/steel6/lengths/one/length"),
    ],
)
def test_what_cannot_be_planned_is_said_there_and_among_the_problems(spoil, said, code, entry):
    built = build(spoil(rods(("300 mm", 1))).document())
    (work,) = bar_work(built)
    assert work.plan is None and cost(work) == 0.0 and said in work.refused.lower()
    found = [p.fault for p in check(built) if p.fault.code == code]
    assert len(found) == 1 and found[0].entry == entry and found[0].rule


def test_a_length_that_just_goes_is_no_problem_and_too_many_lengths_are_not_waited_for():
    built = build(bars(rods(("300 mm", 1)), one=("300 mm", 1.0)).document())
    assert not [p for p in check(built) if p.fault.code in ("too_large", "no_bars")] and bar_work(built)[0].plan
    many = bars(rods(*((f"{100 + n} mm", 1) for n in range(41))), one=("1 m", 1.0))
    (work,) = bar_work(build(many.document()))
    assert work.plan is None and "41 different lengths; at most 40" in work.refused
    assert bar_work(build(Draft("none", "steel6").document())) == []


def test_bars_that_run_out_are_told():
    document = bars(rods(("600 mm", 3)), one=("1 m", 4.0)).document()
    for there, missing in ((2, [(600.0, 1)]), (3, []), (0, [(600.0, 3)])):
        (work,) = bar_work(build(document, on_hand={"steel6": {"one": there}}))
        assert work.plan and [(m["length"], m["count"]) for m in work.plan["missing"]] == missing
        assert work.plan["bars"] == min(there, 3) and all(p["size"] == "one" for p in work.plan["patterns"])
    # the shelf counts another stock, or another length: as many as are needed
    for other in ({"beech12": {"one": 1}}, {"steel6": {"two": 1}}):
        (work,) = bar_work(build(document, on_hand=other))
        assert work.plan and work.plan["bars"] == 3 and not work.plan["missing"]


def test_a_plan_that_was_cut_stays_as_it_was_cut_whatever_the_shelf_has_now():
    """Three bars were there and were cut by the plan: the shelf has none of them, and the plan is still that one. What is changed since is planned on what there is."""
    d = bars(rods(("600 mm", 3)), one=("1 m", 4.0))
    (work,) = bar_work(build(d.document(), on_hand={"steel6": {"one": 3}}))
    d.data["stocks"]["steel6"] |= {"sawn": work.digest, "taken": {"one": 3}}
    (after,) = bar_work(build(d.document(), on_hand={"steel6": {"one": 0}}))
    assert (after.digest, after.plan) == (work.digest, work.plan)
    d.data["parts"]["rod_0"]["quantity"] = 4
    (later,) = bar_work(build(d.document(), on_hand={"steel6": {"one": 1}}))
    assert later.plan and later.digest != work.digest and later.plan["bars"] == 1 and later.plan["missing"][0]["count"] == 3


def test_mitred_members_are_planned_on_their_long_points_with_a_wider_cut():
    built = build(example("tube-stand"))
    found = lengths_of(built)["tube42"]
    assert sum(found.values()) == 8
    assert {(length, slant) for _, length, slant in found} == {(502.4, 1.4142), (422.4, 1.4142)}
    assert {slant for _, _, slant in lengths_of(built)["tube33"]} == {1.0}


def with_left(d: Draft, *left: tuple[str, float], trim="0", **sold) -> Draft:
    bars(d, **sold)
    d.data["stocks"]["steel6"] |= {
        "remainders": {k: {"name": k, "length": x, "order": n} for n, (k, x) in enumerate(left)},
        "trim": {"text": trim},
    }
    return d


@pytest.mark.parametrize("price", [0.0, 5.0])
def test_what_is_left_of_other_bars_is_used_first_and_costs_nothing(price):
    """Three pieces of 400: two of them on what is left, a new bar for the third only; without anything left all three on the new bar."""
    lengths = [("400 mm", 3)]
    (plain,) = bar_work(build(bars(rods(*lengths), one=("1300 mm", price)).document()))
    assert plain.plan["bars"] == 1
    (work,) = bar_work(build(with_left(rods(*lengths), ("R1", 410.0), ("R2", 400.0), ("R3", 399.0), one=("1300 mm", price)).document()))
    used = {p["remainder"]: p for p in work.plan["patterns"]}
    assert set(used) >= {"R1", "R2"} or work.plan["cost"] == price
    assert "R3" not in used and work.plan["cost"] <= plain.plan["cost"]
    # all of it on what is left: no new bar at all
    (work,) = bar_work(build(with_left(rods(("400 mm", 2)), ("R1", 410.0), ("R2", 400.0), one=("1300 mm", price)).document()))
    assert {p["remainder"] for p in work.plan["patterns"]} == {"R1", "R2"} and work.plan["cost"] == 0
    assert {p["bar"]: p["rest"] for p in work.plan["patterns"]} == {410.0: pytest.approx(10), 400.0: pytest.approx(0)}


def test_a_remainder_is_not_trimmed_again_and_serves_where_no_bar_is_sold():
    d = with_left(rods(("400 mm", 1)), ("R1", 400.0), trim="10 mm")
    (work,) = bar_work(build(d.document()))
    assert work.plan and work.plan["patterns"][0]["remainder"] == "R1" and not work.plan["missing"]
    (work,) = bar_work(build(with_left(rods(("400 mm", 2)), ("R1", 400.0)).document()))
    assert work.plan["missing"] == [{"name": "rod_0", "length": 400.0, "count": 1}]


def test_the_plans_hash_changes_with_what_is_cut_and_with_nothing_else():
    def of(length, name="one"):
        d = bars(rods((length, 2)), one=("1 m", 5.0))
        d.data["name"] = name
        (work,) = bar_work(build(d.document()))
        return work.digest

    assert of("400 mm") == of("400 mm", "another") != of("401 mm")
