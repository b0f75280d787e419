"""Bars in the browser: a stock's section is chosen, parts and what they weigh follow, and Shop has the plan of the bars."""

import re

from playwright.sync_api import expect

from tests.browser.test_main_job import station


def entry(page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True).first
    field.fill(text)
    field.press("Enter")


def test_a_bar_becomes_a_tube_and_its_parts_and_the_plan_follow(rack):
    page = rack
    spacer = page.locator("[data-part=spacer]")
    station(page, "Shop")
    plan = page.get_by_role("region", name="Steel rod 6 mm")
    expect(plan.get_by_role("status")).to_have_text("1 bar, 5.20 EUR: proven, nothing cheaper can do")
    expect(plan).to_contain_text("1 × spacer 436 mm; left 2563 mm")
    expect(page.get_by_test_id("sums")).to_contain_text(re.compile(r"2 bars\s*7\.60 EUR"))
    station(page, "Sizes")
    page.get_by_role("tab", name="Stock").click()
    page.get_by_role("row", name="Steel rod 6 mm").get_by_role("button", name="Change").click()
    expect(page.get_by_label("Width", exact=True)).to_have_count(0)
    page.get_by_role("combobox", name="Section", exact=True).click()
    page.get_by_role("option", name="rectangle or flat").click()
    entry(page, "Width", "9 mm")
    expect(spacer).to_contain_text("436 × 9 mm")
    entry(page, "Wall", "1 mm")
    spacer.click()
    card = page.get_by_role("complementary", name="Job card")
    # 9 x 6 less 7 x 4, of steel: 26 mm2, 89 g
    expect(card).to_contain_text("436 × 9 × 6 mm")
    expect(card).to_contain_text("89 g")
    card.get_by_role("combobox", name="Its width lies").click()
    page.get_by_role("option", name="bottom to top").click()
    expect(card.get_by_role("combobox", name="Its width lies")).to_have_value("bottom to top")
    entry(page, "Wall", "3 mm")
    expect(page.get_by_text("a wall of 3 mm").first).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_text("a wall of 3 mm")).to_have_count(0)
    # two more of it go on the same bar, and an eighth does not
    for pieces, bars in (("6", "1 bar, 5.20 EUR"), ("7", "2 bars, 10.40 EUR")):
        card.get_by_label("Pieces").fill(pieces)
        card.get_by_label("Pieces").press("Enter")
        station(page, "Shop")
        expect(plan.get_by_role("status")).to_contain_text(bars)


def test_what_the_shelf_has_is_counted_there_and_plans_take_no_more(rack):
    page = rack
    bench = page.url
    shelf = page.context.new_page()
    shelf.goto("/shelf")
    counted = shelf.get_by_role("region", name="Steel rod 6 mm").get_by_label("3 m")

    def count(number: str) -> None:
        counted.fill(number)
        with shelf.expect_response(lambda r: "/on-hand/steel6/bar" in r.url and r.ok):
            counted.press("Enter")

    plan = page.get_by_role("region", name="Steel rod 6 mm")
    count("0")
    page.goto(bench)
    station(page, "Shop")
    expect(plan).to_contain_text("spacer: 1 piece found no bar; none is left")
    expect(plan).to_contain_text("On the shelf: 0 of 3 m")
    # bought, and said where the stock is entered: the plan follows at once
    station(page, "Sizes")
    page.get_by_role("tab", name="Stock").click()
    page.get_by_role("row", name="Steel rod 6 mm").get_by_role("button", name="Change").click()
    entry(page, "In stock", "2")
    station(page, "Shop")
    expect(plan.get_by_role("status").first).to_contain_text("1 bar, 5.20 EUR")
    plan.get_by_role("button", name="These bars are cut").click()
    expect(plan).to_contain_text("On the shelf: 1 of 3 m")
    page.keyboard.press("Control+z")
    expect(plan).to_contain_text("On the shelf: 2 of 3 m")
    # lengths in no design are cut from the same
    page.goto("/bars")
    page.get_by_role("combobox", name="Bars from the shelf").click()
    page.get_by_role("option", name="Steel rod 6 mm").click()
    bars = page.get_by_label(re.compile(r"^Length of bar \d"))
    expect(bars.last).to_have_value("3 m")
    expect(page.get_by_label(re.compile(r"^How many of bar \d")).last).to_have_value("2 there")
    count("")
    expect(counted).to_have_value("")
