"""What sheets take, from their programs: both faces counted, the hour's price, and nothing where a cutter takes no programs."""

from __future__ import annotations

import pytest

from tests.core.toolpath.sheets import laid, with_laser
from zygon.cut.reckon import Reckoning
from zygon.nest.design import reckon_sheet
from zygon.program.of_design import program_of
from zygon.program.times import sheet_time
from zygon.toolpath.router import worked_under


@pytest.mark.parametrize(("name", "stock"), [("brood-box", "ply12"), ("electronics-box", "galv20"), ("hive-floor", "ply18")])
def test_a_sheets_time_is_that_of_its_programs_and_costs_by_the_hour(name, stock):
    document, nest = laid(name, stock)
    looked = [program_of(document, nest, 1, under=under).looked for under in (True, False)[not worked_under(document, nest, 1) :]]
    found = sheet_time(document, nest, 1)
    hourly = document.cutters[document.cutter].hourly
    seconds = sum(one.seconds for one in looked)
    assert hourly > 0
    assert found == Reckoning(
        cut_length=sum(one.cut for one in looked),
        travel_length=sum(one.rapid for one in looked),
        pierces=sum(one.pierces for one in looked),
        seconds=seconds,
        cost=seconds / 3600 * hourly,
    )


def test_a_sheet_worked_on_both_faces_takes_both_programs():
    for name, stock in (("inner-cover", "ply12"), ("tool-chest", "ply18"), ("cupboard", "ply12"), ("hive-floor", "ply18")):
        document, nest = laid(name, stock)
        if worked_under(document, nest, 1):
            upper, under = (program_of(document, nest, 1, under=u).looked.seconds for u in (False, True))
            assert under > 0 and sheet_time(document, nest, 1).seconds == pytest.approx(upper + under)
            return
    raise AssertionError("no example is worked on both faces")


def test_a_slower_laser_takes_longer_at_once():
    document, nest = laid("brood-box", "ply12")
    slow = with_laser(document, acceleration=20.0)
    assert sheet_time(slow, nest, 1).seconds > 1.02 * sheet_time(document, nest, 1).seconds
    dear = with_laser(document, hourly=120.0)
    assert sheet_time(dear, nest, 1).cost == pytest.approx(sheet_time(dear, nest, 1).seconds / 30)


def test_a_long_way_of_cutting_takes_about_what_lengths_and_speeds_say():
    document, nest = laid("brood-box", "ply12")
    estimate = reckon_sheet(document, nest.plan, nest.layout.sheets[0])
    assert sheet_time(document, nest, 1).seconds == pytest.approx(estimate.seconds, rel=0.03)


def test_a_saw_and_a_stock_without_speeds_have_no_time_of_a_program():
    document, nest = laid("brood-box", "ply12")
    assert sheet_time(with_laser(document, kind="saw"), nest, 1) is None
    assert sheet_time(with_laser(document, work={}), nest, 1) is None
    assert sheet_time(with_laser(document, lead_length="no length"), nest, 1) is None
