"""What moves, in the real browser: a lid played and stopped by what stands behind it, a crank pulled round, end play asked and mended."""

import re

from playwright.sync_api import expect


def moving(page):
    page.get_by_role("button", name="Move", exact=True).click()
    expect(page.get_by_test_id("moves")).to_be_visible()
    expect(page.get_by_text("Looking how far it goes")).to_have_count(0, timeout=60_000)


def choose(page, words):
    page.get_by_role("option").filter(has_text=words).click()


def far(page):
    """How far what is chosen is moved, as it is shown."""
    return float(re.sub(r"[^0-9.\-]", "", page.get_by_test_id("moved").inner_text().replace("−", "-")))
