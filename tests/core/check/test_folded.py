"""What is wrong with a folded part: it runs into itself, its corners stand open, holes stand too near its bends."""

import pytest

from tests.core.making.metal.trays import entry, flange, folded
from zygon.check.run import check
from zygon.design.flange_words import flange_words
from zygon.design.patch import patched
from zygon.making.pipeline import build

RING = {"left": flange("left", 40), "right": flange("right", 40, order=1), "over": flange("end", 250, on="left", order=2)}


def codes(built):
    return [p.fault.code for p in check(built, assembled=False)]


def test_a_flange_that_runs_into_another_says_so_and_how_long_it_may_be():
    built = folded(RING)
    fault = next(p.fault for p in check(built, assembled=False) if p.fault.code == "folds_into_itself")
    assert fault.message.startswith("tray: over runs into right flange: make it at most 19")
    shorter = next(m for m in fault.mends if m.label.startswith("Make it"))
    most = float(shorter.patch[0]["value"]["text"].split()[0])
    # from the left side's outer face to the right side's inner one
    assert most == pytest.approx(199, abs=0.1)
    for mend in fault.mends:
        assert "folds_into_itself" not in codes(build(patched(built.document.dump(), mend.patch)))


@pytest.mark.parametrize("extra", [0.0, -1.0])
def test_as_long_as_it_may_be_it_touches_and_a_little_more_it_clashes(extra):
    fine = folded({**RING, "over": flange("end", 199 - 0.1 + extra, on="left", order=2)})
    assert "folds_into_itself" not in codes(fine)
    assert "folds_into_itself" in codes(folded({**RING, "over": flange("end", 199.5, on="left", order=2)}))


def test_a_closed_tray_with_lips_and_hems_runs_nowhere_into_itself():
    sides = {s: flange(s, 40, order=n) for n, s in enumerate(("left", "front", "right", "back"))}
    lips = {f"{s}_lip": flange("end", 15, on=s, order=9) for s in sides}
    hems = {f"{s}_hem": flange("end", 9, kind="hem", on=s, order=9) for s in sides}
    for more in ({}, lips, hems):
        for radius in (0.5, 2, 6):
            assert "folds_into_itself" not in codes(folded({**sides, **more}, radius=radius)), (more.keys(), radius)


def test_a_gap_wider_than_the_sheet_is_said_and_mended():
    sides = {s: flange(s, 30, order=n) for n, s in enumerate(("left", "front", "right", "back"))}
    built = folded(sides, gap=3)
    fault = next(p.fault for p in check(built, assembled=False) if p.fault.code == "wide_gap")
    (part,) = built.parts
    assert (fault.entry, fault.owner, fault.severity) == (f"/parts/{part}/folding/gap", "folding", "warning")
    assert "wide_gap" not in codes(build(patched(built.document.dump(), fault.mends[0].patch)))
    assert "wide_gap" not in codes(folded(sides, gap=3, corner="open"))
    assert "wide_gap" not in codes(folded({"left": sides["left"], "right": sides["right"]}, gap=3))


def test_the_stock_may_say_how_near_a_hole_comes_to_a_bend():
    hole = {
        "kind": "hole",
        "u": {"origin": "right", "offset": entry(10)},
        "v": {"origin": "centre", "offset": entry(0)},
        "diameter": entry(6),
    }
    built = folded({"right": flange("right", 30)}, features={"h": hole}, radius=1)
    assert "near_bend" not in codes(built)
    stricter = [{"op": "add", "path": "/stocks/s/bending/hole_distance", "value": entry(20)}]
    assert "near_bend" in codes(build(patched(built.document.dump(), stricter)))


def test_flanges_are_called_as_on_their_cards():
    flanges = (
        folded(
            {
                "right": flange("right", 40),
                "right_end": flange("end", 20, on="right", order=1),
                "end_2": flange("end", 10, on="right_end", order=2),
                "locking_tab": flange("left", 20, order=3),
                "back": {**flange("back", 12, order=4), "name": "rear_wall"},
            }
        )
        .document.parts["p"]
        .folding.flanges
    )
    assert [flange_words(k, flanges) for k in flanges] == [
        "right flange",
        "end flange of right flange",
        "end flange of end flange of right flange",
        "locking tab",
        "rear wall",
    ]
