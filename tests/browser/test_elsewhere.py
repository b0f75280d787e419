"""Cut elsewhere: the brood box asked for, ordered, received piece by piece; and what the cutter does not cut."""

from __future__ import annotations

import json

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import proof
from tests.browser.test_main_job import station
from zygon.design.examples import example

pytestmark = pytest.mark.browser


def test_a_box_is_asked_for_ordered_and_received(page):
    file = {
        "name": "a.json",
        "mimeType": "application/json",
        "buffer": json.dumps({**example("brood-box").dump(), "name": "Box elsewhere"}).encode(),
    }
    made = page.request.post("/api/designs/upload", headers=proof(page.context), multipart={"file": file})
    page.goto(f"/designs/{made.json()['id']}")
    station(page, "Shop")
    paper = page.locator("#elsewhere")
    paper.get_by_role("button", name="Ask for a price").click()
    page.get_by_role("menuitem", name="Quern Lane Metals").click()
    expect(paper.get_by_role("alert")).to_contain_text("does not cut plywood")
    paper.get_by_role("combobox", name="Parts to ask for").click()
    page.get_by_role("option", name="floor").click()
    page.get_by_role("option", name="cover").click()
    page.keyboard.press("Escape")
    paper.get_by_role("button", name="Ask for a price").click()
    page.get_by_role("menuitem", name="Pebbleford Laser Cutting").click()
    order = page.get_by_role("region", name="Order to Pebbleford Laser Cutting")
    expect(order).to_contain_text("2 pieces of revision 1")
    expect(order).to_contain_text("EUR")
    with page.expect_download() as got:
        order.get_by_role("link", name="Drawings, ZIP").click()
    assert got.value.suggested_filename.endswith("revision-1.zip")
    order.get_by_role("button", name="Order it").click()
    expect(order).to_contain_text("Being cut")
    come = order.get_by_label("Come of floor")
    come.fill("1")
    come.blur()
    expect(order).to_contain_text("1 of 2 good pieces have come.")
    order.get_by_role("button", name="All have come").click()
    expect(order).to_contain_text("Received")
    expect(order).to_contain_text("2 of 2 good pieces have come.")
