"""Edges worked and banded from the card; text drawn on a face, said otherwise; a line named and read."""

import re

from playwright.sync_api import expect

from tests.browser.by_hand import document_of
from tests.browser.test_joints import bench
from tests.browser.test_outline import Sheet, opened, plain, soon


def add(page, kind, **choices):
    page.get_by_role("button", name="Cut or mark").click()
    page.locator("#feature-kind").click()
    page.get_by_role("option", name=kind).click()
    for label, choice in choices.items():
        page.get_by_role("combobox", name=label.replace("_", " "), exact=True).click()
        page.get_by_role("option", name=choice, exact=True).click()
    page.get_by_role("button", name="Add", exact=True).click()


def test_an_edge_is_rounded_another_banded_and_both_are_on_the_flat(page):
    bench(page, plain())
    page.locator(".partrow[data-part=plate]").click()
    add(page, "Edge, rounded or chamfered", Which_edge="left edge", How="chamfered")
    row = page.locator(".partrow[data-part=plate]")
    expect(row).to_contain_text("left edge chamfered 3 mm")
    page.get_by_role("combobox", name="On its", exact=True).click()
    page.get_by_role("option", name="bottom face").click()
    soon(page, lambda: any(f.get("face") == "bottom" for f in document_of(page)["parts"]["plate"]["features"].values()))
    page.locator(".partrow[data-part=plate]").click()
    add(page, "Edge band", Which_edge="right edge")
    expect(row).to_contain_text("right edge banded, 1 mm birch, cut 119 mm x 80 mm")
    page.keyboard.press("3")
    expect(page.get_by_test_id("along-edge")).to_have_count(2)
    expect(page.get_by_test_id("along-edge").filter(has_text="1 mm band")).to_have_count(1)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_test_id("along-edge")).to_have_count(1)


def test_a_text_is_drawn_and_said_otherwise_and_a_line_is_named(page):
    sheet: Sheet = opened(page, plain())
    sheet.tool("Text")
    sheet.press(20, 30)
    expect(page.get_by_test_id("drawbar").get_by_role("alert")).to_contain_text("There is no text to draw")
    page.get_by_label("Text to draw").fill("Leg")
    page.get_by_role("textbox", name="height").fill("25 mm")
    page.keyboard.down("Alt")
    sheet.press(20, 30)
    page.keyboard.up("Alt")
    sheet.drawn("text", 1)
    sheet.tool("Choose")
    page.get_by_test_id("curve text1").locator("path").click(force=True, position={"x": 2, "y": 40})
    said = page.get_by_label("What it says")
    expect(said).to_have_value("Leg")
    said.fill("Lid")
    said.press("Enter")
    soon(page, lambda: [c["text"] for c in outline(page)["curves"].values() if c["kind"] == "text"] == ["Lid"])
    sheet.press(60, 80)
    name = page.get_by_label("Name of the line")
    name.fill("rear edge")
    name.press("Enter")
    soon(page, lambda: "rear_edge" in [c.get("name") for c in outline(page)["curves"].values()])
    sheet.press(60, 80)
    expect(page.get_by_label("Name of the line")).to_have_value(re.compile("rear_edge"))


def outline(page):
    return document_of(page)["parts"]["plate"]["outline"]["drawing"]
