"""From the brood box to a checked set of papers, in the real interface."""

import json
import re
from pathlib import Path

import pypdfium2 as pdfium
import pytest
from playwright.sync_api import expect

from tests.browser.conftest import proof
from zygon.design.examples import example

pytestmark = pytest.mark.browser

HOLD = "feature:front:hold"


@pytest.fixture
def box(page):
    """The brood box, anew, with its papers open."""
    file = {
        "name": "box.json",
        "mimeType": "application/json",
        "buffer": json.dumps({**example("brood-box").dump(), "name": "Box on paper"}).encode(),
    }
    made = page.request.post("/api/designs/upload", headers=proof(page.context), multipart={"file": file})
    assert made.ok, made.text()
    page.goto(f"/designs/{made.json()['id']}")
    expect(page.locator(".partrow").first).to_be_visible()
    page.keyboard.press("5")
    page.get_by_role("radiogroup", name="What Shop shows").get_by_text("Papers").click()
    expect(sheet(page, "whole")).to_be_visible()
    return made.json()["id"]


def sheet(page, subject):
    return page.locator(f"svg.papersheet[data-subject='{subject}']")


def held(page, name):
    return page.locator(f".paperheld[data-name='{name}']")


def middle(page, name):
    """Where the words of something on the paper are on the screen."""
    at = held(page, name).locator("text").first.bounding_box()
    return at["x"] + at["width"] / 2, at["y"] + at["height"] / 2


def turn_to(page, title, subject):
    page.get_by_role("combobox", name="Sheet", exact=True).click()
    page.get_by_role("option", name=re.compile(rf"^\d+\s+{title}$")).click()
    expect(sheet(page, subject)).to_be_visible()


def saved(page, revision):
    expect(page.get_by_text(f"saved, revision {revision}")).to_be_visible()


def test_from_the_brood_box_to_a_checked_set_of_papers(page, box):
    # a balloon is moved on the whole
    name = "corner/balloon/front"
    x, y = middle(page, name)
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 30, y + 10, steps=4)
    page.mouse.up()
    saved(page, 2)
    moved = middle(page, name)
    assert abs(moved[0] - (x - 30)) < 3 and abs(moved[1] - (y + 10)) < 3

    # the front: a press on a figure shows the card of what it is of; changed there, the figure follows
    turn_to(page, "front", "part:front")
    hold = held(page, f"front/shape/{HOLD}/1")
    expect(hold).to_have_text("slot 30 × 105")
    hold.locator("text").click()
    card = page.get_by_label("Width", exact=True)
    card.fill("32")
    card.press("Enter")
    expect(hold).to_have_text("slot 32 × 105")
    saved(page, 3)

    # the datum is switched: the middle of the hand hold is 80 from above
    place = held(page, f"front/y/{HOLD}/1/centre")
    expect(place).to_have_text("160")
    page.get_by_role("button", name="Sheet…").click()
    page.get_by_role("combobox", name="Measured from").click()
    page.get_by_role("option", name="upper left").click()
    expect(place).to_have_text("80")
    page.keyboard.press("Escape")

    # words about a figure, another left out
    held(page, "front/size/across").locator("text").click()
    tolerance = page.get_by_label("Tolerance")
    tolerance.fill("±0.2")
    tolerance.press("Enter")
    expect(held(page, "front/size/across")).to_have_text("420 ±0.2")
    held(page, f"front/x/{HOLD}/1/centre").locator("text").click()
    page.get_by_role("button", name="Leave it out").click()
    expect(held(page, f"front/x/{HOLD}/1/centre")).to_have_count(0)
    expect(page.get_by_text("1 dimension is left out.")).to_be_visible()

    _changed_and_taken(page, box, name)


def _changed_and_taken(page, box, name):
    """A size changes: the figures follow, the balloon is still where it was put; and the set leaves."""
    page.keyboard.press("Escape")
    page.keyboard.press("1")
    width = page.get_by_role("textbox", name="width", exact=True)
    width.fill("430")
    width.press("Enter")
    page.keyboard.press("Escape")
    page.locator("body").press("5")
    expect(held(page, "front/size/across")).to_have_text("430 ±0.2")
    turn_to(page, "Box on paper", "whole")
    expect(held(page, "front/size/across")).to_have_text("430")
    kept = page.request.get(f"/api/designs/{box}").json()["document"]["papers"]["sheets"]
    assert kept["whole"]["moved"][name]["x"] < -3

    # the set, as one PDF with all of it
    page.get_by_role("button", name="Take", exact=True).click()
    with page.expect_download() as download:
        page.get_by_role("menuitem", name="One PDF, true to scale").click()
    document = pdfium.PdfDocument(Path(download.value.path()).read_bytes())
    assert len(document) >= 9
    text = "".join(document[1].get_textpage().get_text_range().split())
    assert "430±0.2" in text and "slot32×107.5" in text and "Finishedsize" in text  # the hold is a quarter of the width


def test_a_dimension_is_put_in_by_two_presses_and_a_third_for_its_line(page, box):
    turn_to(page, "front", "part:front")
    page.get_by_role("button", name="Dimension").click()
    expect(page.get_by_text("Press the first place")).to_be_visible()
    box_ = sheet(page, "part:front").bounding_box()
    (paper,) = page.request.get(f"/api/designs/{box}/papers/part:front").json()
    at = {a["name"]: a for a in paper["anchors"]["front"]}
    scale = box_["width"] / paper["width"]

    def press(x, y):
        page.mouse.click(box_["x"] + x * scale, box_["y"] + y * scale)

    centre, other = at[f"{HOLD}/1/centre"], at["feature:front:entrance/1/low x"]
    press(other["x"], other["y"] - 3)
    expect(page.get_by_text("Press the second place")).to_be_visible()
    press(centre["x"], centre["y"])
    press((centre["x"] + other["x"]) / 2, centre["y"] - 22)
    added = held(page, "added/dimension")
    expect(added).to_have_text("60")
    # by the keyboard it is moved, and taken away
    added.locator("text").click()
    page.keyboard.press("ArrowUp")
    saved(page, 3)
    page.get_by_role("button", name="Take it away").click()
    expect(added).to_have_count(0)


def test_a_note_is_written_and_a_scale_that_does_not_fit_is_said(page, box):
    turn_to(page, "front", "part:front")
    page.get_by_role("button", name="Note").click()
    at = sheet(page, "part:front").bounding_box()
    page.mouse.click(at["x"] + at["width"] * 0.2, at["y"] + at["height"] * 0.1)
    note = held(page, "note/note")
    expect(note).to_have_text("Note")
    note.locator("text").click()
    field = page.get_by_role("group", name="The chosen note").get_by_role("textbox")
    field.fill("Oil twice before use")
    field.press("Enter")
    expect(note).to_have_text("Oil twice before use")
    page.get_by_role("button", name="Sheet…").click()
    scale = page.get_by_role("textbox", name="Scale")
    scale.fill("5 : 1")
    scale.press("Enter")
    expect(page.get_by_text("At 5 : 1 it does not fit on this paper; 1 : 2 does")).to_be_visible()
    scale.fill("large")
    scale.press("Enter")
    expect(page.get_by_text(re.compile("Scale 'large' is not one"))).to_be_visible()
    expect(sheet(page, "part:front")).to_be_visible()
