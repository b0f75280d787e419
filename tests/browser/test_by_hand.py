"""Boards placed by hand in the picture: with the mouse in a few actions, which are counted, and with the keyboard alone."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.by_hand import Counted
from tests.browser.test_main_job import live


@pytest.fixture
def box(designs):
    """An open box of 300 x 200 x 150 mm, and a counter that begins at nothing."""
    page = designs
    page.get_by_role("button", name="New design").click()
    page.get_by_label("Name").fill("By hand")
    page.get_by_role("button", name="Open box").click()
    page.get_by_role("button", name="Begin").click()
    expect(live(page, "build")).to_have_text("5 parts")
    expect(page.locator("canvas[data-framed]")).to_be_visible()
    return Counted(page)


def point(page, x, y):
    """Moves the pointer over the picture, to a place that is given by shares of it."""
    area = page.get_by_test_id("scene").bounding_box()
    place = area["x"] + area["width"] * x, area["y"] + area["height"] * y
    page.mouse.move(*place)
    page.mouse.move(place[0] + 1, place[1] + 1)
    return place[0] + 1, place[1] + 1


def entries(page, part):
    """What the document says of a part, as the server keeps it."""
    name = page.url.split("/designs/")[1].split("/")[0].split("?")[0]
    document = page.request.get(f"/api/designs/{name}").json()["document"]
    record = document["parts"][part]
    spans = {a: (s["low"]["text"], s["high"]["text"]) for a, s in record["spans"].items()}
    return {**spans, "face": record["position"]["face"], "at": record["position"]["at"]["text"]}, document


def test_a_divider_is_placed_and_joined_in_four_actions(box):
    page = box.page
    box.key("b")
    expect(page.get_by_role("heading", name="Place a board")).to_be_visible()
    place = point(page, 0.45, 0.42)  # on the inside of the back
    ghost = page.get_by_test_id("ghost")
    expect(ghost).to_contain_text("left.right to right.left")
    box.key("s")
    box.key("s")
    expect(ghost).to_contain_text("front.back to back.front")
    expect(page.locator(".ghostname", has_text="back.front")).to_be_visible()
    box.press_at(*place)
    expect(page.get_by_role("heading", name="divider touches")).to_be_visible()
    for end in ("front", "back", "floor"):
        expect(page.get_by_label(re.compile(f"^{end} "))).to_have_value("Tab and slot")
    box.press(page.get_by_role("button", name="Join them all"))
    expect(page.get_by_text("saved, revision 3")).to_be_visible()
    told, document = entries(page, "divider")
    assert told["y"] == ("front.back", "back.front") and told["z"] == ("floor.top", "back.top")
    assert told["at"].startswith("left.right + ") and told["face"] == "left"
    assert {k for j in document["joints"].values() if "divider" in (j["a"], j["b"]) for k in (j["a"], j["b"])} == {
        "divider",
        "front",
        "back",
        "floor",
    }
    assert box.actions == 5
    page.keyboard.press("Control+z")
    expect(page.get_by_text("saved, revision 4")).to_be_visible()
    page.keyboard.press("Control+z")
    expect(live(page, "build")).to_have_text("5 parts")


def test_three_shelves_stand_evenly_by_the_keyboard_alone(box):
    page = box.page
    box.key("b")
    page.get_by_label("Before the face").focus()
    page.keyboard.type("left, right")
    expect(page.get_by_role("option")).to_have_count(1)
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    box.actions += 1
    ghost = page.get_by_test_id("ghost")
    expect(ghost).to_contain_text("276.4 × 176.4 mm")
    page.get_by_role("button", name="Place it").focus()
    box.key("PageUp")
    expect(ghost).to_contain_text("(two thirds)")
    box.key("PageDown")
    box.key("7")
    expect(ghost).to_contain_text("bottom at floor.top + 7 mm")
    box.key("+")
    box.key("+")
    expect(ghost).to_contain_text("3 boards, evenly between floor.top and")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="shelf touches")).to_be_visible()
    expect(live(page, "build")).to_have_text("8 parts")
    told, document = entries(page, "shelf")
    assert told["at"] == "floor.top + (left.top - floor.top - 3 * shelf.thickness) / 4"
    assert [c["number"]["text"] for c in document["copies"].values()] == ["3"]


def test_where_nothing_fits_it_says_why_and_pressing_changes_nothing(box):
    page = box.page
    page.keyboard.press("b")
    page.get_by_label("Before the face").fill("floor, top")
    page.get_by_role("option", name="floor, top").click()
    expect(page.get_by_test_id("ghost")).to_contain_text("276.4 × 176.4 mm")
    page.get_by_label("Before the face").fill("floor, left")
    page.get_by_role("option", name="floor, left").click()
    expect(page.get_by_test_id("ghost")).to_contain_text("free before floor")
    expect(page.get_by_role("button", name="Place it")).to_be_disabled()
    page.keyboard.press("Escape")
    expect(live(page, "build")).to_have_text("5 parts")


def test_a_face_is_pulled_onto_another_and_back(box):
    page = box.page
    page.locator(".partrow", has_text="floor").click()
    point_ = page.get_by_role("slider", name="Pull floor, bottom")
    expect(point_).to_be_visible()
    place = point_.bounding_box()
    x, y = place["x"] + place["width"] / 2, place["y"] + place["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - 20)
    page.mouse.move(x, y - 60)
    said = page.locator(".gripsays")
    expect(said).to_contain_text(" mm")
    expect(page.get_by_text("trying a value")).to_be_visible()
    figure = said.inner_text()
    page.mouse.up()
    expect(page.get_by_text("saved, revision 2")).to_be_visible()
    at = entries(page, "floor")[0]["at"]
    assert float(figure.split()[0]) == float(at.split()[0]) > 10
    page.keyboard.press("Control+z")
    expect(page.get_by_text("saved, revision 3")).to_be_visible()
    assert entries(page, "floor")[0]["at"] == "0"


def test_a_face_is_pulled_by_keys_and_put_back_by_escape(box):
    page = box.page
    page.locator(".partrow", has_text="floor").click()
    point_ = page.get_by_role("slider", name="Pull floor, right")
    point_.focus()
    page.keyboard.type("-12.5")
    expect(point_).to_have_attribute("aria-valuetext", re.compile(r"right\.left - 12\.5 mm = 275\.7 mm"))
    page.keyboard.press("Escape")
    expect(page.get_by_text("saved, revision 1")).to_be_visible()
    point_.focus()
    page.keyboard.type("-12.5")
    page.keyboard.press("Enter")
    expect(page.get_by_text("saved, revision 2")).to_be_visible()
    assert entries(page, "floor")[0]["x"] == ("left.right", "right.left - 12.5 mm")


def test_an_entry_takes_presses_in_the_picture_and_in_the_list(box):
    page = box.page
    page.locator(".partrow", has_text="floor").click()
    hint = page.locator(".hint")
    field = page.get_by_label("front from", exact=True)
    field.focus()
    expect(hint).to_contain_text("Press a face to write its name")
    place = point(page, 0.45, 0.42)  # the inside of the back
    expect(hint).to_contain_text("Press to write back.front")
    page.mouse.click(*place)
    expect(field).to_have_value("back.front")
    expect(field).to_be_focused()
    expect(page.get_by_text("trying a value")).to_be_visible()
    field.press("Escape")
    expect(field).to_have_value("front.back")
    along_x = page.get_by_label("left from", exact=True)
    along_x.focus()
    page.mouse.click(*place)
    expect(hint).to_contain_text("back.front lies along y; here a left or a right face is meant")
    expect(along_x).to_have_value("left.right")
    page.locator(".partrow", has_text="left, right").click()
    expect(along_x).to_have_value("left.")
    page.keyboard.type("right + 3 mm")
    page.keyboard.press("Enter")
    expect(page.get_by_text("saved, revision 2")).to_be_visible()
    assert entries(page, "floor")[0]["x"][0] == "left.right + 3 mm"
    page.mouse.click(*place)  # the entry is done: a press selects again
    expect(page.get_by_role("heading", name="back")).to_be_visible()


@pytest.fixture
def counted(nothing):
    """An empty design, and a counter that begins at nothing."""
    return Counted(nothing)


def test_the_first_board_is_drawn_on_the_ground_with_two_presses(counted):
    page = counted.page
    counted.press(page.get_by_role("button", name="Draw the first board"))
    expect(page.locator(".hint")).to_contain_text("Press where one corner of the board is")
    counted.press_at(*point(page, 0.5, 0.5))
    expect(page.get_by_test_id("ghost")).to_contain_text("Now the other corner")
    place = point(page, 0.7, 0.42)
    size = page.get_by_test_id("ghost")
    expect(size).to_contain_text(re.compile(r"^\d+ × \d+ mm$"))
    counted.press_at(*place)
    expect(page.get_by_role("heading", name="floor", exact=True)).to_be_visible()
    told, _ = entries(page, "floor")
    assert all(re.fullmatch(r"-?\d*0 mm", end) for span in (told["x"], told["y"]) for end in span), told  # round steps
    assert counted.actions == 3


def test_a_floor_with_a_wall_is_built_from_nothing_by_the_keyboard_alone(counted):
    page = counted.page
    counted.key("b")
    page.keyboard.type("300x200")
    expect(page.get_by_test_id("ghost")).to_contain_text("300 × 200 mm")
    counted.key("Enter")
    expect(page.get_by_role("heading", name="floor", exact=True)).to_be_visible()
    counted.key("b")
    page.get_by_label("Before the face").focus()
    page.keyboard.type("floor, top")
    expect(page.get_by_role("option")).to_have_count(1)
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    ghost = page.get_by_test_id("ghost")
    expect(ghost).to_contain_text("300 × 200 mm, floor.left to floor.right")
    page.get_by_role("button", name="Place it").focus()
    counted.key("s")
    counted.key("s")
    expect(ghost).to_contain_text("in the middle")
    for words in ("a third", "a quarter", "at floor.left"):
        counted.key("PageDown")
        expect(ghost).to_contain_text(f"({words})")
    counted.key("Enter")
    expect(page.get_by_role("heading", name="left touches")).to_be_visible()
    expect(page.get_by_role("button", name="Join it")).to_be_enabled()
    page.get_by_role("button", name="Join it").focus()
    counted.key("Enter")
    expect(page.get_by_text("saved, revision 4")).to_be_visible()
    told, document = entries(page, "left")
    assert (told["face"], told["at"]) == ("left", "floor.left")
    assert told["y"] == ("floor.front", "floor.back") and told["z"][0] == "floor.top"
    assert len(document["joints"]) == 1 and counted.actions == 10


def test_a_pressed_face_has_its_acts_at_hand_and_a_hole_begins_where_it_was_pressed(box):
    page = box.page
    place = point(page, 0.45, 0.42)  # the inside of the back
    page.mouse.click(*place)
    acts = page.get_by_role("toolbar", name="What can be done on back, front")
    expect(acts).to_be_visible()
    expect(acts.get_by_role("button")).to_have_text(
        ["Board", "Hole", "Cut-out", "Pocket", "Text", "Bore", "Screw", "Axle", "Hardware", "Joint", "Measure"]
    )
    acts.get_by_role("button", name="Hole").click()
    expect(page.get_by_role("heading", name="Hole, pocket or mark")).to_be_visible()
    expect(page.get_by_label("by", exact=True).first).to_have_value(re.compile(r"^\d+ mm$"))
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("heading", name="Hole", exact=True)).to_be_visible()
    _, document = entries(page, "back")
    (hole,) = document["parts"]["back"]["features"].values()
    assert (hole["u"]["origin"], hole["v"]["origin"]) == ("left", "bottom")
    assert 50 < float(hole["u"]["offset"]["text"].split()[0]) < 200 and 30 < float(hole["v"]["offset"]["text"].split()[0]) < 145

    page.keyboard.press("Escape")
    page.mouse.click(*point(page, 0.5, 0.44))
    page.get_by_role("toolbar", name="What can be done on back, front").get_by_role("button", name="Board").click()
    expect(page.get_by_test_id("ghost")).to_contain_text("front.back to back.front")


def test_a_bore_begins_where_a_face_was_pressed_leans_and_is_drilled(box):
    page = box.page
    page.mouse.click(*point(page, 0.45, 0.42))  # the inside of the back
    page.get_by_role("toolbar", name="What can be done on back, front").get_by_role("button", name="Bore", exact=True).click()
    expect(page.get_by_role("heading", name="New bore")).to_be_visible()
    expect(page.get_by_role("radiogroup", name="front: bore")).to_be_visible()  # what lies before it too
    page.get_by_label("Leans", exact=True).fill("12")
    drilled = page.get_by_role("radiogroup", name="back: bore")
    drilled.get_by_text("Drill", exact=True).click()
    expect(page.get_by_text("Drilled by hand, at its angle.").first).to_be_visible()
    page.get_by_role("button", name="Add bore").click()
    expect(page.get_by_role("heading", name="bore", exact=True)).to_be_visible()
    _, document = entries(page, "back")
    (bore,) = document["bores"].values()
    assert (bore["axis"], bore["lean"]["text"], bore["toward"]["text"], bore["at"]["y"]["text"]) == ("y", "12", "0 deg", "back.centre")
    assert bore["parts"]["back"]["action"] == "drill"
    expect(page.locator(".partrow", has_text="back").first).to_contain_text("drill at an angle")
    page.keyboard.press("3")
    page.locator(".partrow", has_text="back").first.click()
    expect(page.get_by_test_id("skew-bore")).to_have_count(1)
    expect(page.get_by_test_id("skew-bore").locator("title")).to_have_text("8 mm bore, 12° off square, by the drill")
    page.keyboard.press("5")
    row = page.get_by_role("table", name="Drilling list").get_by_role("row", name=re.compile("^back"))
    expect(row).to_contain_text(re.compile("through.*12° to the "))

    # straight again, it is a round hole that the cutter makes
    page.keyboard.press("2")
    page.locator(".partrow", has_text="back").first.click()
    page.get_by_role("button", name=re.compile("bore")).last.click()
    page.get_by_role("button", name="Stand it straight").click()
    expect(page.get_by_role("button", name="Let it lean")).to_be_visible()
    expect(page.locator(".partrow", has_text="drill at an angle")).to_have_count(0)


def test_a_feature_is_dragged_on_its_face_and_its_distances_are_typed(box):
    page = box.page
    page.mouse.click(*point(page, 0.45, 0.42))  # the inside of the back
    page.get_by_role("toolbar", name="What can be done on back, front").get_by_role("button", name="Hole").click()
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("heading", name="Hole", exact=True)).to_be_visible()
    drag = page.get_by_role("button", name=re.compile("^Drag back, hole"))
    to_left = page.get_by_role("button", name=re.compile("distance to left edge"))
    expect(drag).to_be_visible()
    place = drag.bounding_box()
    x, y = place["x"] + place["width"] / 2, place["y"] + place["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 10, y)
    page.mouse.move(x + 40, y + 12)
    expect(page.get_by_text("trying a value")).to_be_visible()
    page.mouse.up()
    expect(page.get_by_text("saved, revision 3")).to_be_visible()
    to_left.click()
    page.keyboard.type("61.5 mm")
    page.keyboard.press("Enter")
    expect(page.get_by_text("saved, revision 4")).to_be_visible()
    expect(to_left).to_have_text("61.5 mm")
    _, document = entries(page, "back")
    (hole,) = document["parts"]["back"]["features"].values()
    assert hole["u"] == {"origin": "left", "offset": {"text": "61.5 mm", "unit": "mm"}}
    drag.focus()
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    page.keyboard.press("Escape")
    expect(to_left).to_have_text("61.5 mm")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    expect(page.get_by_text("saved, revision 5")).to_be_visible()
    expect(to_left).to_have_text("62.5 mm")
    # its side is pulled, and it grows to both
    side = page.get_by_role("slider", name=re.compile("^Pull diameter of back, hole"))
    expect(side).to_have_attribute("aria-disabled", "false")
    now = float(side.get_attribute("aria-valuenow"))
    place = side.bounding_box()
    x, y = place["x"] + place["width"] / 2, place["y"] + place["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 6, y)
    page.mouse.move(x + 16, y)
    page.mouse.up()
    expect(page.get_by_text("saved, revision 6")).to_be_visible()
    _, document = entries(page, "back")
    (hole,) = document["parts"]["back"]["features"].values()
    assert float(hole["diameter"]["text"].split()[0]) > now + 4
    assert hole["u"]["offset"]["text"] == "62.5 mm"


def test_shelf_pins_stand_in_rows_on_both_sides(box):
    page = box.page
    page.mouse.click(*point(page, 0.45, 0.42))
    page.get_by_role("toolbar", name="What can be done on back, front").get_by_role("button", name="Hole").click()
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("heading", name="In rows")).to_be_visible()
    for n, (label, text) in enumerate([("How many, left to right", "3"), ("Spacing there", "16 mm")]):
        field = page.get_by_label(label, exact=True)
        field.fill(text)
        field.press("Enter")
        expect(page.get_by_text(f"saved, revision {3 + n}")).to_be_visible()
    _, document = entries(page, "back")
    (hole,) = document["parts"]["back"]["features"].values()
    assert (hole["number"]["text"], hole["spacing"]["text"]) == ("3", "16 mm")
    built = page.request.get(page.url.replace("/designs/", "/api/designs/")).json()["built"]
    assert not built["problems"], built["problems"]


@pytest.fixture
def bar(box):
    """The quick bar, opened by its key, as a function that types into it."""
    page = box.page

    def typed(text):
        page.keyboard.press("/")
        field = page.get_by_label("What do you want?")
        expect(field).to_be_focused()
        field.fill(text)
        return field

    return typed


def test_the_quick_bar_does_what_a_sentence_says_and_shows_it_before(box, bar):
    page = box.page
    field = bar("3 shelves between left and right")
    expect(page.get_by_role("status").filter(has_text="Shown in the picture: 8 parts instead of 5")).to_be_visible()
    expect(page.get_by_role("option").first).to_contain_text("3 boards shelf, evenly")
    field.press("Enter")
    expect(page.get_by_text("saved, revision 2")).to_be_visible()
    told, document = entries(page, "shelf")
    assert told["x"] == ("left.right", "right.left")
    assert [c["number"]["text"] for c in document["copies"].values()] == ["3"]

    field = bar("tab and slot shelf left")
    expect(page.get_by_role("option").first).to_contain_text("Tabs on shelf through left")
    expect(page.get_by_role("status").filter(has_text="Shown in the picture: 8 parts")).to_be_visible()
    field.press("Enter")
    expect(page.get_by_text("saved, revision 3")).to_be_visible()
    assert [j["kind"] for j in entries(page, "shelf")[1]["joints"].values()].count("tab_slot") == 1

    bar("width 360").press("Enter")
    expect(page.get_by_text("saved, revision 4")).to_be_visible()
    assert entries(page, "shelf")[1]["sizes"]["width"]["entry"]["text"] == "360"

    # typed and done at once, before it is worked out
    page.keyboard.press("/")
    page.keyboard.type("depth 210")
    page.keyboard.press("Enter")
    expect(page.get_by_text("saved, revision 5")).to_be_visible()
    page.keyboard.press("/")
    page.keyboard.type("tab and slot shelf right")
    page.keyboard.press("Enter")
    expect(page.get_by_text("saved, revision 6")).to_be_visible()

    bar("hide shelf").press("Enter")
    expect(page.locator(".partrow[data-part=shelf]")).to_be_visible()
    field = bar("mirror frnt")
    expect(page.get_by_text("Understood: mirror. Not understood: frnt.")).to_be_visible()
    field.fill("finger joint left right")
    expect(page.get_by_role("status").filter(has_text=re.compile("do not meet|touch|apart|meet"))).to_be_visible()
    field.press("Escape")
    expect(page.get_by_text("saved, revision 6")).to_be_visible()


def test_other_designs_are_opened_from_the_quick_bar_with_their_pictures(box, bar):
    page = box.page
    field = bar("brood")
    offer = page.get_by_role("option", name=re.compile("^Brood box open"))
    expect(offer.locator("img")).to_be_visible()
    field.press("Enter")
    expect(page.locator(".partrow[data-part=cover]")).to_be_visible()


def test_a_group_is_pulled_by_keys(box):
    page = box.page
    page.locator(".partrow", has_text="floor").click()
    page.keyboard.press("u")
    page.get_by_role("button", name="Group them").click()
    expect(page.get_by_text("saved, revision 2")).to_be_visible()
    page.locator(".grouphead").first.click()
    expect(page.get_by_role("heading", name="Moved by")).to_be_visible()
    point_ = page.get_by_role("slider", name=re.compile("along z"))
    point_.focus()
    page.keyboard.type("12.5")
    page.keyboard.press("Enter")
    expect(page.get_by_text("saved, revision 3")).to_be_visible()
    _, document = entries(page, "floor")
    (group,) = document["groups"].values()
    assert group["move"] == {"z": {"text": "12.5 mm", "unit": "mm"}}
