"""From the brood box to a checked set of papers, in the real interface."""

import json
import re
from pathlib import Path

import pypdfium2 as pdfium
import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.conftest import proof
from tests.sent import bomb, png
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


def put_in(page, what):
    page.get_by_role("button", name="Put in").click()
    page.get_by_role("menuitem", name=what).click()


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
    put_in(page, "Dimension")
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
    put_in(page, "Note or symbol")
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


def places_of(page, box, subject, view):
    """The named places of a view, and where one of them is on the screen."""
    (paper,) = page.request.get(f"/api/designs/{box}/papers/{subject}").json()
    on = sheet(page, subject).bounding_box()
    scale = on["width"] / paper["width"]
    at = {a["name"]: a for a in paper["anchors"][view]}
    return lambda name, dy=0.0: (on["x"] + at[name]["x"] * scale, on["y"] + (at[name]["y"] + dy) * scale)


def test_a_figure_is_changed_on_its_paper_and_a_view_dragged_stays_where_it_was_put(page, box):
    turn_to(page, "front", "part:front")
    # the entry that the figure comes from stands beside it
    held(page, "front/size/across").locator("text").click()
    entry = page.get_by_role("group", name="The chosen dimension").get_by_role("textbox", name="width")
    entry.fill("430 mm")
    entry.press("Enter")
    expect(held(page, "front/size/across")).to_have_text("430")
    saved(page, 2)
    # a view is dragged by one of its lines, and goes back with undo
    turn_to(page, "Box on paper", "whole")
    own = held(page, "view/left")
    line = own.locator("[data-of='left'] path").last.bounding_box()
    x, y = line["x"] + 1, line["y"] + line["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 40, y - 25, steps=5)
    page.mouse.up()
    saved(page, 3)
    said = page.request.get(f"/api/designs/{box}").json()["document"]["papers"]["sheets"]["whole"]["moved"]["view/left"]
    assert said["x"] > 5 and said["y"] > 5
    page.keyboard.press("Control+z")
    saved(page, 4)
    assert "view/left" not in page.request.get(f"/api/designs/{box}").json()["document"]["papers"]["sheets"].get("whole", {}).get(
        "moved", {}
    )


def test_a_sheet_with_the_parts_pulled_apart_a_detail_and_a_table_of_holes(page, box):
    put_in(page, "Pulled apart, with balloons")
    expect(sheet(page, "own:sheet")).to_be_visible()
    expect(held(page, "view/view1/balloon/front")).to_have_text("1")
    page.get_by_role("button", name="Sheet…").click()
    page.get_by_role("group", name="Columns: Parts list").get_by_label("Stock").click()
    expect(sheet(page, "own:sheet")).not_to_contain_text("Birch plywood 12 mm")
    page.get_by_role("button", name="Take this sheet away").click()
    expect(sheet(page, "whole")).to_be_visible()
    page.keyboard.press("Escape")

    turn_to(page, "front", "part:front")
    put_in(page, "Detail, drawn larger")
    expect(page.get_by_text("Press the place that the detail shows")).to_be_visible()
    page.mouse.click(*places_of(page, box, "part:front", "front")(f"{HOLD}/1/centre"))
    expect(sheet(page, "part:front")).to_contain_text("Detail Z (2 : 1)")
    page.get_by_role("button", name="Sheet…").click()
    page.get_by_role("combobox", name="Places of holes").click()
    page.get_by_role("option", name="In a table of holes").click()
    expect(sheet(page, "part:front")).to_contain_text("Places from the lower left corner")
    page.get_by_role("button", name="Take detail Z away").click()
    expect(sheet(page, "part:front")).not_to_contain_text("Detail Z")


def test_a_template_with_a_logo_is_kept_and_taken_and_a_bomb_is_said(page, box):
    page.get_by_role("button", name="Set…").click()
    logo = page.get_by_role("group", name="Logo")
    with page.expect_file_chooser() as chooser:
        logo.get_by_role("button", name="Choose a picture").click()
    chooser.value.set_files({"name": "logo.png", "mimeType": "image/png", "buffer": bomb()})
    expect(logo.get_by_role("alert")).to_contain_text("60000 × 60000 pixels")
    with page.expect_file_chooser() as chooser:
        logo.get_by_role("button", name="Choose a picture").click()
    chooser.value.set_files({"name": "logo.png", "mimeType": "image/png", "buffer": png(300, 200)})
    expect(logo.get_by_alt_text("The logo")).to_be_visible()
    expect(sheet(page, "whole").locator("image")).to_have_count(1)
    own = page.get_by_role("group", name="Templates")
    own.get_by_label("Keep these as a template").fill("Lake house")
    own.get_by_role("button", name="Keep it").click()
    expect(own.get_by_text("Lake house")).to_be_visible()
    logo.get_by_role("button", name="None").click()
    expect(sheet(page, "whole").locator("image")).to_have_count(0)
    own.get_by_role("button", name="Take it").click()
    expect(sheet(page, "whole").locator("image")).to_have_count(1)
    own.get_by_role("button", name="Forget the template Lake house").click()
    expect(own.get_by_text("Lake house")).to_have_count(0)


def test_letters_are_cut_narrow_and_a_field_of_ones_own_stands_in_the_title_block(page, box):
    page.get_by_role("button", name="Set…").click()
    page.get_by_role("combobox", name="Width of letters").click()
    page.get_by_role("option", name="Narrow").click()
    expect(sheet(page, "whole")).to_have_attribute("data-face", "narrow")
    block = page.get_by_role("group", name="Title block")
    block.get_by_role("checkbox", name="Grain").click()
    expect(sheet(page, "whole").get_by_text("Grain", exact=True)).to_have_count(0)
    block.get_by_label("In its place").fill("Customer")
    block.get_by_label("In its place").press("Enter")
    expect(sheet(page, "whole").get_by_text("Customer", exact=True)).to_have_count(1)
    block.get_by_label("Words").fill("Lake house")
    block.get_by_label("Words").press("Enter")
    expect(sheet(page, "whole").get_by_text("Lake house", exact=True)).to_have_count(1)
    block.get_by_role("checkbox", name="Grain").click()
    expect(sheet(page, "whole").get_by_text("Customer", exact=True)).to_have_count(0)


def test_a_picture_is_taken_and_put_on_the_cover(page, box):
    page.get_by_role("button", name="Picture", exact=True).click()
    shown = page.get_by_role("img", name="The picture")
    expect(shown).to_have_attribute("data-taken", "35 24", timeout=60_000)
    page.get_by_role("combobox", name="Seen from").click()
    page.get_by_role("option", name="From above", exact=True).click()
    expect(shown).to_have_attribute("data-taken", "0 90", timeout=60_000)
    page.get_by_label("Clear behind it").click()
    page.get_by_label("Ground with a shadow").click()
    page.get_by_role("combobox", name="Wide").click()
    page.get_by_role("option", name="1000 px").click()
    with page.expect_download(timeout=120_000) as download:
        page.get_by_role("button", name="Save as PNG").click()
    picture = Image.open(Path(download.value.path()))
    assert picture.size == (1000, 750) and picture.mode == "RGBA"
    clear, middle_ = picture.getpixel((5, 5)), picture.getpixel((500, 300))
    assert clear[3] == 0 and middle_[3] == 255
    # birch from above: light, and warmer than it is blue
    assert middle_[0] > 150 and middle_[0] > middle_[2] + 20
    # as wide as high as the box is, 420 to 500 seen from above
    x0, y0, x1, y1 = picture.getchannel("A").point(lambda a: 255 if a > 128 else 0).getbbox()
    assert (x1 - x0) / (y1 - y0) == pytest.approx(420 / 500, abs=0.02)
    page.get_by_role("button", name="Put it on the cover").click()
    expect(sheet(page, "cover")).to_be_visible(timeout=120_000)
    expect(sheet(page, "cover").locator("image")).to_have_count(1)
    expect(sheet(page, "cover")).to_contain_text("420 × 500 × 245.9")
