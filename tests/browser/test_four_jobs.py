"""Four pieces built from nothing by hand: every press, drag, key and finished entry is counted, and what comes out is reckoned again."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.by_hand import Counted, KeysAlone, begun, document_of, find_face
from tests.browser.test_main_job import live

#: What may be done at most, in actions.
MOST = {"box": 24, "stool": 30, "pencils": 52, "chest": 100}


@pytest.fixture
def nothing(designs):
    return begun(designs, "From nothing", "Nothing")


def first_board(hand: Counted, figures: str) -> None:
    """The floor: in hand, its figures, placed."""
    hand.key("b")
    hand.type(figures)
    hand.key("Enter")
    expect(hand.page.get_by_role("heading", name="floor", exact=True)).to_be_visible()


def join(hand: Counted, *, then_another: bool = False) -> None:
    """What it touches, with the joints that suit best."""
    button = hand.page.get_by_role("button", name="Join, next board" if then_another else re.compile("^Join (them all|it)$"))
    expect(button).to_be_enabled()
    hand.press(button)
    if then_another:
        expect(hand.page.get_by_role("heading", name="Place a board")).to_be_visible()


def sides(hand: Counted, height: str) -> None:
    """Two sides on the floor as a pair, and front and back between them."""
    page = hand.page
    hand.key("b")
    place = find_face(page, "floor top", along="left")
    hand.key("p")
    hand.entry("Height", height)
    expect(page.get_by_test_id("ghost")).to_contain_text("A pair:")
    hand.press_at(*place)
    join(hand, then_another=True)
    place = find_face(page, "floor top", along="front")
    hand.key("p")
    expect(page.get_by_test_id("ghost")).to_contain_text("left.right to right.left, floor.top to left.top")
    hand.press_at(*place)
    join(hand, then_another=True)


def part(document, name):
    return next(p for p in document["parts"].values() if p["name"] == name)


def spans(record):
    return {a: (s["low"]["text"], s["high"]["text"]) for a, s in record["spans"].items()}


def sizes(page):
    """What the cut list says: by name, the size as it is cut."""
    rows = page.locator(".partrow").all()
    return {r.locator(".title").inner_text().strip(): r.locator(".size").first.inner_text().partition("(")[0].strip() for r in rows}


def test_a_closed_box_with_an_axle(nothing):
    hand, page = nothing, nothing.page
    first_board(hand, "300x200")
    sides(hand, "138.2 mm")
    outside = find_face(page, "left@mirror_x.1 right")
    place = find_face(page, "front@mirror_y.1 front", along="top")
    expect(page.get_by_test_id("ghost")).to_contain_text("left.right to right.left, front.back to back.front")
    hand.press_at(*place)
    join(hand)
    expect(page.get_by_role("heading", name="top", exact=True)).to_be_visible()
    expect(live(page, "build")).to_have_text("6 parts")
    hand.press_at(*outside)
    hand.press(page.get_by_role("toolbar").get_by_role("button", name="Axle"))
    add = page.get_by_role("button", name="Add axle")
    expect(add).to_be_enabled()
    hand.press(add)
    expect(page.get_by_role("heading", name="axle", exact=True)).to_be_visible()
    # it turns in both walls, and so slides out of them until it is fixed in one
    expect(live(page, "build")).to_have_text("7 parts, 1 problem")
    document = document_of(page)
    rod, (hole,) = part(document, "axle"), document["bores"].values()
    assert (rod["span"]["low"]["text"], rod["span"]["high"]["text"]) == ("left.left", "right.right")
    axle = next(k for k, p in document["parts"].items() if p["name"] == "axle")
    assert hole["member"] == axle and hole["at"] == {} and list(hole["parts"]) == ["left"]
    assert len(document["copies"]) == 2 and len(document["joints"]) == 5
    cut = {name: size for name, size in sizes(page).items() if name != "axle"}
    assert sizes(page)["axle"] == "300 mm long"
    assert cut == {
        "floor": "300 × 200 mm",
        "left": "200 × 150 mm",
        "right": "200 × 150 mm",
        "front, back ×2": "300 × 150 mm",
        "top": "300 × 200 mm",
    }
    assert hand.actions <= MOST["box"], hand.actions
    page.get_by_role("button", name="Fix it in left").click()
    expect(live(page, "build")).to_have_text("7 parts")


@pytest.mark.parametrize("way", [Counted, KeysAlone])
def test_a_stool(nothing, way):
    page = nothing.page
    hand = way(page)
    first_board(hand, "360x260")
    hand.entry("bottom at", "400 mm")
    hand.key("b")
    hand.choose("Before the face", "floor, bottom")
    ghost = page.get_by_test_id("ghost")
    expect(ghost).to_be_focused()
    hand.key("s")
    hand.key("s")
    hand.type("40")
    hand.key("p")
    expect(ghost).to_contain_text("A pair: 260 × 400 mm, floor.front to floor.back, 0 mm to floor.bottom; left at floor.left + 40 mm")
    hand.key("Enter")
    join(hand, then_another=True)
    hand.choose("Before the face", "left, right")
    expect(ghost).to_be_focused()
    hand.key("s")
    hand.key("s")
    expect(ghost).to_contain_text(
        "left.right to right.left, left.bottom to floor.bottom; centre at mid(left.front, left.back) (in the middle)"
    )
    hand.press(page.get_by_role("button", name="Place it"))
    join(hand)
    expect(page.get_by_role("heading", name="panel", exact=True)).to_be_visible()
    hand.entry("bottom from", "floor.bottom - 120 mm")
    expect(page.get_by_text("saved, revision 8")).to_be_visible()
    expect(live(page, "build")).to_have_text("4 parts")
    document = document_of(page)
    legs, rail = part(document, "left"), part(document, "panel")
    assert spans(legs) == {"y": ("floor.front", "floor.back"), "z": ("0 mm", "floor.bottom")}
    assert spans(rail) == {"x": ("left.right", "right.left"), "z": ("floor.bottom - 120 mm", "floor.bottom")}
    assert rail["position"]["at"]["text"] == "mid(left.front, left.back)"
    # tabs go through seat and legs: each board is as much longer as the other is thick
    assert sizes(page) == {"floor": "360 × 260 mm", "left, right ×2": "260 × 411.8 mm", "panel": "280 × 131.8 mm"}
    assert hand.actions <= MOST["stool"], hand.actions


def test_a_pencil_box_with_a_sliding_lid(nothing):
    hand, page = nothing, nothing.page
    first_board(hand, "80x240")
    sides(hand, "50 mm")
    ghost = page.get_by_test_id("ghost")
    hand.choose("Stock", "Birch plywood 6 mm")
    place = find_face(page, "front@mirror_y.1 front", along="top")
    hand.choose("Slides out at", "front")
    expect(ghost).to_contain_text("slides out at front")
    hand.press_at(*place)
    expect(page.get_by_role("heading", name="top", exact=True)).to_be_visible()
    document = document_of(page)
    lid = part(document, "top")
    assert spans(lid) == {"x": ("left.right", "right.left"), "y": ("front.front", "back.front")}
    assert part(document, "front")["spans"]["z"]["high"]["text"] == "top.bottom"
    assert {j["ends"] for j in document["joints"].values() if j["kind"] == "groove"} == {"open_low", "through"}
    # grooves are 4 mm deep, and the lid has 0.5 mm of play in them: 80 - 2 * 11.8 + 2 * 3.5 across, 240 - 11.8 + 3.5 along
    assert sizes(page)["top"] == "63.4 × 231.7 mm"
    assert hand.actions <= MOST["pencils"], hand.actions


def test_a_chest_of_three_drawers(nothing):
    hand, page = nothing, nothing.page
    ghost = page.get_by_test_id("ghost")
    first_board(hand, "400x300")
    hand.key("b")
    place = find_face(page, "floor top", along="left")
    hand.key("p")
    hand.entry("Height", "450 mm")
    expect(ghost).to_contain_text("A pair:")
    hand.press_at(*place)
    join(hand, then_another=True)
    place = find_face(page, "floor top", along="back")
    hand.press_at(*place)
    join(hand, then_another=True)
    place = find_face(page, "back front", along="top")
    hand.press_at(*place)
    join(hand, then_another=True)
    hand.key("d")
    hand.choose("How many", "3")
    place = find_face(page, "back front")
    expect(ghost).to_contain_text("3 drawers in")
    expect(ghost).to_contain_text("drawn out at front")
    hand.press_at(*place)
    expect(page.get_by_role("heading", name="drawer", exact=True)).to_be_visible()
    expect(live(page, "build")).to_have_text("20 parts")
    document = document_of(page)
    assert len(document["groups"]) == 1 and [c["kind"] for c in document["copies"].values()] == ["mirror", "row"]
    front = part(document, "drawer_front")
    assert front["position"]["at"]["text"] in ("left.front", "floor.front") and front["spans"]["x"]["low"]["text"] == "left.right + 0.5 mm"
    # 400 - 2 * 11.8 - 2 * 0.5 across; a third of 450 - 11.8 - 4 * 0.5 high
    assert sizes(page)["drawer front ×3"] == "375.4 × 145.4 mm"
    assert hand.actions <= MOST["chest"], hand.actions
