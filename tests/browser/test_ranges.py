"""The range test as its maker sees it: a size that breaks within its range, looked at where it does, and the range that works taken over."""

from __future__ import annotations

import json
import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import proof
from tests.browser.test_main_job import station
from tests.core.range_test.test_range_test import hole, plate

pytestmark = pytest.mark.browser


def test_a_range_that_breaks_is_shown_looked_at_and_taken_over(page):
    d = plate(inset=("60 mm", "10 mm", "100 mm"), other=("100 mm", "90 mm", "110 mm"))
    hole(d, "h", ("left", "inset"), ("front", "other"))
    file = {
        "name": "a.json",
        "mimeType": "application/json",
        "buffer": json.dumps({**d.document().dump(), "name": "Plate to try"}).encode(),
    }
    page.goto("/")
    made = page.request.post("/api/designs/upload", headers=proof(page.context), multipart={"file": file})
    assert made.ok, made.text()
    page.goto(f"/designs/{made.json()['id']}")
    expect(page.locator(".partrow").first).to_be_visible()
    station(page, "Sizes")
    test = page.get_by_role("region", name="Range test")
    test.get_by_role("button", name="Try the ranges").click()
    expect(test).to_contain_text("inset works from 20.4 mm to 100 mm, of 10 mm to 100 mm", timeout=60_000)
    expect(test).to_contain_text("other works from 90 mm to 110 mm")
    expect(test.get_by_role("status")).to_contain_text("halved between", timeout=60_000)
    expect(test.get_by_role("button", name=re.compile("Stop|Go on|Try"))).to_have_count(0)

    # where it breaks is looked at, and put back
    test.get_by_role("button", name="Show 20.3 mm").click()
    expect(page.get_by_label("inset", exact=True)).to_have_value("20.3 mm")
    expect(page.get_by_role("complementary").filter(has_text=re.compile("15.3 mm of material from the hole"))).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_label("inset", exact=True)).to_have_value("60 mm")

    # what works becomes its range, in one step, and what was tried stays
    test.get_by_role("button", name="Take 20.4 mm to 100 mm").click()
    expect(page.get_by_role("list", name="Sizes")).to_contain_text("20.4–100")
    expect(test).to_contain_text("inset works from 20.4 mm to 100 mm")
    expect(test).not_to_contain_text("20.3 mm")
    expect(test.get_by_role("button", name=re.compile("^Take"))).to_have_count(0)
    expect(test.get_by_role("status")).to_contain_text("halved between", timeout=60_000)
    expect(test.get_by_role("button", name=re.compile("Stop|Go on"))).to_have_count(0)
    page.reload()
    station(page, "Sizes")
    expect(page.get_by_role("region", name="Range test")).to_contain_text("inset works from 20.4 mm to 100 mm")
