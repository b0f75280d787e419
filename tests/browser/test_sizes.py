"""Sizes beside their picture: lines are pulled, what reads a size is told and lit, and the picture is seen from where it was left."""

from playwright.sync_api import expect

from tests.browser.test_folding import pull
from tests.browser.test_main_job import live, size, station


def test_a_size_is_pulled_by_its_line_in_the_picture(brood):
    page = brood
    station(page, "Sizes")
    expect(page.locator("canvas[data-framed]")).to_be_visible()
    for name in ("width 420 mm", "depth 500 mm", "height 240 mm", "rest 22 mm"):
        expect(page.get_by_role("button", name=f"Size {name.split()[0]}, {name.split(maxsplit=1)[1]}")).to_be_visible()
    page.get_by_role("button", name="Size height, 240 mm").click()
    expect(page.get_by_role("heading", name="height", exact=True)).to_be_visible()
    expect(page.get_by_role("button", name="Size width, 420 mm")).to_have_count(0)
    pull(page, "Pull height", 0, -60)
    field = page.get_by_role("list", name="Sizes").get_by_label("height", exact=True)
    expect(page.locator(".sizetag")).not_to_contain_text("240 mm")
    said = page.locator(".sizetag .figure").inner_text()
    expect(size(page, "front")).to_contain_text(f"420 × {said}")  # the parts follow while it is in hand
    expect(field).to_have_value("240 mm")
    page.mouse.up()
    expect(field).to_have_value(said)
    page.keyboard.press("Control+z")
    expect(field).to_have_value("240 mm")
    # by the keyboard alone
    grip = page.get_by_role("slider", name="Pull height")
    expect(grip).to_have_attribute("aria-valuenow", "240")
    expect(grip).to_have_attribute("aria-disabled", "false")
    grip.focus()
    page.keyboard.type("12")
    expect(page.locator(".sizetag")).to_contain_text("252 mm")
    page.keyboard.press("Escape")
    expect(page.locator(".sizetag")).to_contain_text("240 mm")
    page.keyboard.press("ArrowUp")
    page.keyboard.press("Enter")
    expect(field).to_have_value("241 mm")
    expect(grip).to_be_focused()  # and goes on from there
    expect(grip).to_have_attribute("aria-valuenow", "241")


def test_a_size_tells_and_lights_what_reads_it(brood):
    page = brood
    station(page, "Sizes")
    row = page.get_by_role("list", name="Sizes").get_by_role("listitem").filter(has_text="carrying rod")
    expect(row).to_contain_text("read by carrying rod")
    page.get_by_role("list", name="Sizes").get_by_label("depth", exact=True).click()
    card = page.get_by_role("complementary", name="Job card")
    expect(card.get_by_role("button", name="back", exact=True)).to_be_visible()
    expect(page.locator(".partrow[aria-pressed=true]")).to_have_count(1)
    card.get_by_role("button", name="back", exact=True).click()
    expect(card.get_by_role("heading", name="back")).to_be_visible()


def test_the_picture_is_seen_from_where_it_was_left(brood):
    page = brood
    canvas = page.get_by_test_id("scene").locator("canvas[data-framed]")
    expect(canvas).to_be_visible()
    corner = canvas.screenshot()
    area = canvas.bounding_box()
    page.mouse.move(area["x"] + 60, area["y"] + 200)
    page.mouse.down()
    page.mouse.move(area["x"] + 190, area["y"] + 180, steps=5)
    page.mouse.up()
    page.mouse.move(area["x"] + 5, area["y"] + area["height"] - 60)
    turned = canvas.screenshot()
    assert turned != corner
    station(page, "Flats")
    expect(canvas).to_have_count(0)
    station(page, "Build")
    expect(canvas).to_be_visible()
    page.mouse.move(area["x"] + 5, area["y"] + area["height"] - 60)
    page.wait_for_function("() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => done(true))))")
    assert canvas.screenshot() == turned
    expect(live(page, "build")).to_have_text("10 parts")
