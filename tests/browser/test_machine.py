"""From the nested brood box to a finished job: sent, started, held, gone on with, a piece spoiled; at the machine as its operator sees it."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import proof
from tests.browser.test_cutter import begun
from tests.browser.test_main_job import station

pytestmark = pytest.mark.browser


@pytest.fixture
def box(page):
    """The brood box at the laser, its 6 mm sheets shown."""
    begun(page, "brood-box", "Box for the machine")
    expect(page.get_by_test_id("dry run")).to_be_visible()
    page.get_by_role("combobox", name="Sheet").click()
    page.get_by_role("option", name=re.compile(r"6 mm, sheet 1 of 2")).click()
    yield page
    # what lies on the bed would be in the way of whoever comes next
    for machine in page.request.get("/api/machines").json():
        jobs = [*machine["queue"], *([machine["on_bed"]] if machine["on_bed"] else [])]
        for job in jobs:
            at, headers = f"/api/jobs/{job['id']}", proof(page.context)
            page.request.delete(at, headers=headers)
            for what in ("stop", "give_up"):
                page.request.post(f"{at}/acts", data={"act": what}, headers=headers)
            pieces = page.request.get(at).json()["pieces"]
            marks = [{"key": p["key"], "number": p["number"], "mark": "off"} for p in pieces]
            page.request.post(f"{at}/pieces", data={"marks": marks}, headers=headers)
            page.request.post(f"{at}/finish", data={}, headers=headers)


def state(page):
    return page.locator(".bedstate")


def button(page, name):
    return page.get_by_role("button", name=name)


def test_from_the_nested_sheet_to_a_finished_job_with_a_hold_and_a_spoiled_piece(page, box):
    design = page.url.rsplit("/", 1)[1].partition("?")[0]
    button(page, "Send").click()
    page.get_by_role("menuitem", name="This sheet to Laser").click()
    expect(page.get_by_text("It waits at the machine")).to_be_visible()
    # once more is refused with the reason, and nothing waits twice
    button(page, "Send").click()
    page.get_by_role("menuitem", name="This sheet to Laser").click()
    expect(page.get_by_role("alert")).to_contain_text("waits at laser already")

    page.goto("/machines?machine=laser")
    expect(state(page)).to_have_text("Next")
    expect(page.get_by_label("Next sheet")).to_contain_text("Birch plywood 6 mm")
    home = button(page, "Home it")
    if page.get_by_role("status").filter(has_text="Not homed").count():
        expect(button(page, "It lies there: start")).to_be_disabled()
        home.click()
    button(page, "It lies there: start").click()
    expect(state(page)).to_have_text("Cutting")
    button(page, "Hold").click()
    expect(state(page)).to_have_text("Held")
    held = page.locator(".percent").inner_text()
    expect(page.get_by_role("status").filter(has_text="Held").first).to_be_visible()
    # another tab of another operator starts nothing: it sees what is on
    other = page.context.new_page()
    other.goto("/machines?machine=laser")
    expect(other.locator(".bedstate")).to_have_text("Held")
    assert other.locator(".percent").inner_text() == held
    button(other, "Go on").click()
    expect(other.locator(".bedstate")).to_have_text(re.compile("Cutting|Take the pieces off"))
    other.close()

    expect(state(page)).to_have_text("Take the pieces off", timeout=120_000)
    expect(page.locator(".percent")).to_have_text("100 %")
    expect(button(page, "2 still to take off")).to_be_disabled()
    button(page, re.compile("^Off: cover")).click()
    button(page, re.compile("^Spoiled: floor")).click()
    expect(button(page, re.compile("^Spoiled: floor"))).to_have_attribute("aria-pressed", "true")
    page.get_by_label("What is left of the sheet goes to").fill("rack seven")
    button(page, "The bed is clear").click()
    expect(page.get_by_role("status").filter(has_text="back to be nested")).to_contain_text("1 spoiled piece goes back to be nested.")
    expect(page.get_by_label("Cut lately")).to_contain_text("Box for the machine, sheet 1 of 2")

    # the sheet counts as cut, what was spoiled lies on another one, what is left is on the shelf
    page.goto(f"/designs/{design}")
    station(page, "Nest")
    expect(page.get_by_text("· cut")).to_have_count(1)
    laid = page.request.get(f"/api/designs/{design}/nest").json()
    layout = next(s for s in laid["stocks"] if s["stock"] == "ply6")["layout"]
    on = [(s["cut"], sorted(p["part"] for p in s["parts"])) for s in layout["sheets"]]
    assert (True, ["cover"]) in on and any(not cut and "floor" in parts for cut, parts in on), on
    offcuts = page.request.get("/api/offcuts").json()
    assert any(o["place"] == "rack seven" and o["stock"] == "ply6" for o in offcuts)


def test_a_queue_is_ordered_and_a_sheet_leaves_it(page, box):
    button(page, "Send").click()
    page.get_by_role("menuitem", name="All 2 sheets to Laser").click()
    expect(page.get_by_text("It waits at the machine")).to_be_visible()
    page.goto("/machines?machine=laser")
    queue = page.get_by_role("region", name="Queue")
    expect(queue).to_contain_text("sheet 2 of 2")
    queue.get_by_role("button", name=re.compile("^Order: Box for the machine, sheet 2")).click()
    page.get_by_role("menuitem", name="First", exact=True).click()
    expect(queue).to_contain_text("sheet 1 of 2")
    expect(page.get_by_label("Next sheet")).to_contain_text("sheet 2 of 2")
    due = queue.get_by_label(re.compile("^Due: Box for the machine, sheet 1"))
    due.fill("2020-02-03")
    due.blur()
    expect(queue).to_contain_text("late")
    button(page, "By the day due").click()
    expect(page.get_by_label("Next sheet")).to_contain_text("sheet 1 of 2, revision")
    expect(page.get_by_label("Next sheet")).to_contain_text("due 2020-02-03")
    button(page, "Out of the queue").click()
    expect(page.get_by_label("Next sheet")).to_contain_text("sheet 2 of 2")
    expect(queue).to_have_count(0)
