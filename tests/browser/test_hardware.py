"""Hardware in the browser: a screw from a pressed face, a piece found by its words, a thicker board that changes the order; an axle with a ring turned for it."""

import re

from playwright.sync_api import expect

from tests.browser.by_hand import document_of
from tests.browser.test_joints import bench
from zygon.design.draft import Draft


def entry(page, label, text):
    field = page.get_by_label(label, exact=True).first
    field.fill(text)
    field.press("Enter")


def press_face(page, face):
    """Presses the picture where that face is what is hit first."""
    area = page.get_by_test_id("scene").bounding_box()
    acts = page.get_by_role("toolbar", name=f"What can be done on {face}")
    for row, column in [(r, c) for far in (4, 2, 1) for r in range(2, 14, far) for c in range(2, 14, far)]:
        page.mouse.click(area["x"] + area["width"] * column / 15, area["y"] + area["height"] * row / 15)
        page.evaluate("() => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)))")
        if acts.count():
            return acts
    raise AssertionError(face)


def station(page, name):
    page.locator(f"[data-station={name}]").click()


def test_a_screw_is_put_through_and_its_length_and_the_order_follow_the_boards(page):
    d = Draft("Two boards", "ply12", "ply18")
    d.data["stocks"]["ply18"]["nominal"] = d.entry("18 mm")
    d.data["stocks"]["ply18"].pop("measured", None)
    d.board("lower", "ply18", "lying", "0 mm", ("0 mm", "300 mm"), ("0 mm", "200 mm"))
    d.board("upper", "ply12", "lying", "lower.top", ("0 mm", "300 mm"), ("0 mm", "200 mm"), face="bottom")
    bench(page, d.document().dump())
    press_face(page, "upper, top").get_by_role("button", name="Screw").click()
    expect(page.get_by_role("heading", name="New screw")).to_be_visible()
    page.get_by_role("button", name="Add screw").click()
    made = page.get_by_test_id("set")
    # 1 + 11.8 + 18 + 1 + 4.7 + 0.8 = 37.3
    expect(made).to_contain_text("Socket head screw M5 × 40")
    expect(made).to_contain_text("2 × Plain washer M5")
    expect(made).to_contain_text("37.3 mm needed, 40 mm long")
    page.get_by_label("Find a piece").fill("locking nut M6")
    page.get_by_role("button", name=re.compile("Locking nut M6")).click()
    # 1.6 + 29.8 + 1.6 + 6 + 1 = 40
    expect(made).to_contain_text("Socket head screw M6 × 40")
    expect(made).to_contain_text("Locking nut M6")
    page.get_by_label("Length", exact=True).fill("30 mm")
    page.get_by_label("Length", exact=True).press("Enter")
    page.get_by_role("button", name="Take the shortest that does").click()
    expect(made).to_contain_text("Socket head screw M6 × 40")
    station(page, "shop")
    table = page.get_by_role("table", name="To buy")
    expect(table.get_by_role("row", name=re.compile("Socket head screw M6 × 40"))).to_contain_text("ISO 4762")
    # a board is made thicker, and the order is another
    station(page, "sizes")
    page.get_by_role("tab", name="Stock", exact=True).click()
    page.get_by_role("table", name="Stock").get_by_role("row").filter(has_text="Birch plywood 18 mm").get_by_role(
        "button", name="Change"
    ).click()
    nominal = page.get_by_label("Nominal", exact=True)
    nominal.fill("25 mm")
    nominal.press("Enter")
    station(page, "shop")
    # 1.6 + 36.8 + 1.6 + 6 + 1 = 47
    expect(table.get_by_role("row", name=re.compile("Socket head screw M6 × 50"))).to_be_visible()
    expect(table.get_by_role("row", name=re.compile("M6 × 40"))).to_have_count(0)


def test_an_axle_gets_a_ring_that_is_turned_for_it(page):
    d = Draft("Crank", "ply12", "steel8")
    for name, at in (("left", "0 mm"), ("right", "150 mm")):
        d.board(name, "ply12", "facing_side", at, ("0 mm", "160 mm"), ("0 mm", "120 mm"), face="left")
    bench(page, d.document().dump())
    press_face(page, "right, right").get_by_role("button", name="Axle").click()
    page.get_by_role("button", name="Add axle").click()
    expect(page.get_by_role("heading", name="axle", exact=True)).to_be_visible()
    entry(page, "left from", "left.left - 30 mm")
    page.get_by_role("button", name="Work on end A").click()
    page.get_by_label("Retaining ring").fill("2 mm")
    page.get_by_label("Retaining ring").press("Enter")
    expect(page.get_by_text(re.compile("saved, revision 4|saved, revision 5"))).to_be_visible()
    page.get_by_role("button", name="Part", exact=True).click()
    page.get_by_role("menuitem", name=re.compile("Turned part")).click()
    page.get_by_role("combobox", name="Begin with").click()
    page.get_by_role("option", name="Ring", exact=True).click()
    page.get_by_label("left from", exact=True).fill("axle.left + 5 mm")
    page.get_by_label("to right", exact=True).fill("axle.left + 15 mm")
    page.get_by_role("button", name="Add turned part").click()
    expect(page.get_by_role("region", name="Profile")).to_contain_text("⌀ 20 mm")
    document = document_of(page)
    ring = next(p for p in document["parts"].values() if p["kind"] == "turned")
    assert ring["bores"]["b0"]["across"]["text"] == "axle.thickness + 0.2 mm" and ring["axis"] == "x"
    station(page, "shop")
    expect(page.get_by_role("table", name="To buy")).to_contain_text("Retaining ring for shafts 8")
    expect(page.get_by_role("table", name="Cut list")).to_contain_text(re.compile("bore ⌀8[.1]*"))


def chest():
    d = Draft("Hung chest", "ply18", cutter="router")
    d.board("back", "ply18", "facing_front", "300 mm", ("0 mm", "420 mm"), ("0 mm", "220 mm"), face="back")
    d.board("front", "ply18", "facing_front", "0 mm", ("0 mm", "420 mm"), ("0 mm", "220 mm"))
    d.board("lid", "ply18", "lying", "back.top", ("0 mm", "420 mm"), ("-10 mm", "back.back"))
    return d.document().dump()


def choose(page, label, option):
    page.get_by_role("combobox", name=label).click()
    page.get_by_role("option", name=option, exact=True).click()


def test_a_lid_hangs_on_two_hinges_from_the_catalogue(page):
    bench(page, chest())
    page.locator(".partrow").filter(has_text="lid").click()
    page.get_by_role("button", name="Part", exact=True).click()
    page.get_by_role("menuitem", name="Hinges or a slide").click()
    choose(page, "It hangs on", "back")
    # the longest that is at most a sixth of 420 and lies on a lid of 17.7 without being let in
    expect(page.get_by_role("combobox", name="Piece")).to_have_value("Butt hinge 50")
    expect(page.get_by_role("combobox", name="Lies")).to_have_value("Flat on the back of both")
    page.get_by_role("button", name="Hang it").click()
    expect(page.get_by_role("heading", name="hinge", exact=True)).to_be_visible()
    expect(page.get_by_test_id("lying")).to_contain_text("It turns, 0 to 270°; 180° open here.")
    document = document_of(page)
    assert document["parts"]["hinge"]["on"] == {"a": "back", "b": "lid"}
    assert {k: list(b["parts"]) for k, b in document["bores"].items()} == {"screws_hinge_a": ["back"], "screws_hinge_b": ["lid"]}
    station(page, "shop")
    table = page.get_by_role("table", name="To buy")
    expect(table.get_by_role("row", name=re.compile("Butt hinge 50"))).to_contain_text("2")
    # 1.2 of leaf and 4 diameters into a face, 6 along the lid's edge
    expect(table.get_by_role("row", name=re.compile("Wood screw, countersunk 3.5 × 16"))).to_be_visible()
    expect(table.get_by_role("row", name=re.compile("Wood screw, countersunk 3.5 × 25"))).to_be_visible()
    # what was hung is one edit
    page.keyboard.press("Control+z")
    expect(table.get_by_role("row", name=re.compile("Butt hinge 50"))).to_have_count(0)


def test_a_crank_from_shaft_to_handle_in_one_go(page):
    d = Draft("Crank", "ply12", "steel8")
    for name, at in (("left", "0 mm"), ("right", "150 mm")):
        d.board(name, "ply12", "facing_side", at, ("0 mm", "160 mm"), ("0 mm", "120 mm"), face="left")
    d.rod("shaft", "steel8", "x", ("left.left - 10 mm", "right.right + 20 mm"), y="80 mm", z="60 mm")
    d.bore("holes", "x", {}, "8 mm", left=("cut", "0.2 mm"), right=("cut", "0.2 mm"))
    d.data["bores"]["holes"] |= {"at": {}, "member": "shaft"}
    bench(page, d.document().dump())
    page.locator(".partrow").filter(has_text="shaft").click()
    page.get_by_role("button", name="Put a crank on it").click()
    page.get_by_label("Handle off the shaft").fill("75 mm")
    page.get_by_label("Handle off the shaft").press("Enter")
    page.get_by_role("button", name="Add crank").click()
    expect(page.get_by_role("heading", name="crank", exact=True)).to_be_visible()
    document = document_of(page)
    assert document["parts"]["handle"]["at"]["z"]["text"] == "shaft.centre + (75 mm)"
    assert document["bores"]["holes"]["parts"]["crank"]["fit"]["text"] == "0"
    assert list(document["bores"]["handle_hole"]["parts"]) == ["crank"]


def test_a_magnet_is_let_in_where_a_face_is_pressed(page):
    d = Draft("Board", "ply18", cutter="router")
    d.board("board", "ply18", "lying", "0 mm", ("0 mm", "300 mm"), ("0 mm", "200 mm"))
    bench(page, d.document().dump())
    press_face(page, "board, top").get_by_role("button", name="Hardware").click()
    expect(page.get_by_role("heading", name="Hardware on board")).to_be_visible()
    page.get_by_label("Find a piece").fill("hinge 50")
    expect(page.get_by_text("That does not stand on a face by itself.")).to_be_visible()
    page.get_by_label("Find a piece").fill("magnet 10 x 3")
    page.get_by_role("button", name=re.compile("Disc magnet 10 × 3")).click()
    expect(page.get_by_test_id("taken")).to_contain_text("It is let in flush with the face.")
    page.get_by_role("button", name="Put it there").click()
    expect(page.get_by_role("heading", name="magnet", exact=True)).to_be_visible()
    document = document_of(page)
    assert document["parts"]["magnet"]["let_in"]["text"] == "3 mm" and document["parts"]["magnet"]["by"] == {"z": "top"}
