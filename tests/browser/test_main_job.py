"""The main job in the real interface: from sign-in to a cut file whose contents are checked."""

import io
import re
import zipfile

import ezdxf
import pytest
from playwright.sync_api import expect

pytestmark = pytest.mark.browser


def size(page, key):
    return page.locator(f".partrow[data-part={key}] .size").first


def station(page, name):
    page.get_by_role("navigation", name="Job line").get_by_role("button", name=name).click()


def live(page, name):
    return page.locator(f"[data-station={name}]")


def settled(page):
    """All sheets are those of what is shown, and nothing is being saved."""
    expect(page.get_by_text(re.compile(r"saved, revision \d+"))).to_be_visible()
    expect(page.locator(".strip .estimate")).to_have_count(0)
    expect(page.locator(".sheetmini svg").first).to_be_visible()


def test_from_a_new_width_to_a_cut_file(brood, tmp_path):
    page = brood
    settled(page)
    before = page.get_by_test_id("sums").inner_text()
    station(page, "Sizes")
    width = page.get_by_label("width", exact=True)
    width.fill("width")
    expect(page.get_by_role("alert")).to_contain_text("depends on itself")
    width.fill("452 mm")
    expect(size(page, "front")).to_have_text("452 × 240 mm")
    expect(page.get_by_text("trying a value")).to_be_visible()
    width.press("Enter")
    expect(page.get_by_text("saved, revision 2")).to_be_visible()
    settled(page)
    assert page.get_by_test_id("sums").inner_text() != before
    expect(live(page, "nest")).to_have_text(re.compile(r"^\d+ sheets?, \d+ %$"))

    station(page, "Flats")
    page.locator(".partrow[data-part=front]").click()
    expect(page.get_by_test_id("flat").get_by_text("452 mm")).to_be_visible()
    page.get_by_text("As cut", exact=True).click()
    expect(page.get_by_test_id("flat-facts")).to_contain_text("0.12 mm off the nominal line")

    station(page, "Nest")
    expect(page.get_by_role("heading", name="Birch plywood 12 mm")).to_be_visible()

    station(page, "Shop")
    expect(page.get_by_role("row", name=re.compile("front")).first).to_contain_text("452")
    with page.expect_download() as download:
        page.get_by_label("front as DXF", exact=True).click()
    name = download.value.suggested_filename
    assert name == "brood-box-copy_front_x1_compensated-0.24mm.dxf"
    download.value.save_as(tmp_path / name)
    doc = ezdxf.readfile(tmp_path / name)
    assert not doc.audit().has_issues and doc.header["$INSUNITS"] == 4
    (outline,) = doc.modelspace().query("LWPOLYLINE[layer=='CUT_OUTSIDE']")
    xs = [x for x, _, _ in outline.get_points("xyb")]
    assert max(xs) - min(xs) == pytest.approx(452 + 0.24)
    assert any("COMPENSATED for a kerf of 0.24 mm" in t.dxf.text for t in doc.modelspace().query("TEXT"))

    page.get_by_text("Nominal", exact=True).click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Everything, one ZIP").click()
    archive = zipfile.ZipFile(io.BytesIO(download.value.path().read_bytes()))
    names = archive.namelist()
    assert sum(n.startswith("sheets-dxf/") for n in names) >= 2 and all("nominal" in n for n in names if n.endswith(".dxf"))


def test_undo_redo_and_history(brood):
    page = brood
    station(page, "Sizes")
    page.get_by_label("width", exact=True).fill("430")
    page.get_by_label("width", exact=True).press("Enter")
    expect(size(page, "front")).to_have_text("430 × 240 mm")
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(size(page, "front")).to_have_text("420 × 240 mm")
    page.get_by_role("button", name="Redo", exact=True).click()
    expect(size(page, "front")).to_have_text("430 × 240 mm")
    page.reload()
    expect(size(page, "front")).to_have_text("430 × 240 mm")
    page.keyboard.press("t")
    expect(page.get_by_role("dialog")).to_contain_text("Undo width: 430")


def test_a_broken_entry_says_why_and_the_last_good_shape_stands(brood):
    page = brood
    station(page, "Sizes")
    hold = page.get_by_label("hold", exact=True)
    hold.fill("width/3 - 2*gpa")
    expect(page.get_by_role("alert")).to_have_text("width/3 - 2*gpa: no size is called gpa")
    hold.press("Enter")
    expect(page.get_by_role("alert")).to_have_text("width/3 - 2*gpa: no size is called gpa")
    expect(hold).to_have_value("width/3 - 2*gpa")
    expect(size(page, "front")).to_have_text("420 × 240 mm")
    hold.press("Escape")
    expect(hold).to_have_value("width / 4")
    expect(page.get_by_text("saved, revision 1")).to_be_visible()
    # a refusal that comes after the entry was taken back changes nothing
    held, tried = [], []
    page.route("**/edits", lambda route: held.append(route))  # noqa: PLW0108 - playwright takes functions only
    page.on("request", lambda request: tried.append(request) if request.url.endswith("/preview") else None)
    hold.fill("width/3 - 2*gpa")
    with page.expect_request("**/edits"):
        hold.press("Enter")
    hold.press("Escape")
    with page.expect_response("**/edits"):
        held[0].continue_()
    page.evaluate("fetch('/api/designs').then(answer => answer.text())")
    assert len(tried) == 1
    expect(page.get_by_text("saved, revision 1")).to_be_visible()
    expect(hold).to_have_value("width / 4")
    expect(page.get_by_role("alert")).to_have_count(0)


def test_names_are_suggested_and_a_value_can_be_pulled(brood):
    page = brood
    station(page, "Sizes")
    rest = page.get_by_label("rest", exact=True)
    rest.fill("3 * bee")
    page.get_by_role("option", name="bee_gap 8 mm").click()
    expect(rest).to_have_value("3 * bee_gap")
    rest.press("Enter")
    expect(size(page, "rest_front")).to_have_text("420 × 24 mm")
    label = page.locator("label", has_text="depth").bounding_box()
    page.mouse.move(label["x"] + 5, label["y"] + 5)
    page.mouse.down()
    page.mouse.move(label["x"] + 35, label["y"] + 5, steps=6)
    expect(size(page, "left")).to_have_text("510 × 240 mm")
    expect(page.get_by_text("trying a value")).to_be_visible()
    page.mouse.up()
    expect(page.get_by_text("saved, revision 3")).to_be_visible()
    expect(page.get_by_label("depth", exact=True)).to_have_value("510 mm")


def test_inches_change_the_figures_and_no_value(brood):
    page = brood
    page.get_by_text("1/8 in", exact=True).click()
    expect(size(page, "front")).to_have_text("≈16-17/32 × ≈9-29/64 in")
    station(page, "Sizes")
    expect(page.get_by_label("width", exact=True)).to_have_value("420 mm")
    page.get_by_label("width", exact=True).fill("1'4-1/2\"")
    page.get_by_label("width", exact=True).press("Enter")
    expect(size(page, "front")).to_have_text("16-1/2 × ≈9-29/64 in")


def test_a_design_from_a_starter_gets_a_board_a_joint_a_hole_and_a_bore(designs):
    page = designs
    page.get_by_role("button", name="New design").click()
    page.get_by_label("Name").fill("Seed box")
    page.get_by_role("button", name="Open box").click()
    page.get_by_role("button", name="Begin").click()
    expect(page.locator(".partrow")).to_have_count(3)  # front and back are equal, and so are left and right
    expect(live(page, "build")).to_have_text("5 parts")
    page.keyboard.press("b")
    page.get_by_role("button", name="Type it instead").click()
    page.get_by_label("Name").fill("divider")
    expect(page.locator(".partrow")).to_have_count(4)
    page.get_by_role("button", name="Add board").click()
    expect(page.get_by_role("heading", name="divider")).to_be_visible()

    page.keyboard.press("z")
    page.locator(".partrow", has_text="left").click()
    page.get_by_text("Why not the others").click()
    expect(page.get_by_text("Not here: a finger joint needs a corner")).to_be_visible()
    page.get_by_role("button", name="Tabs on divider through left", exact=True).click()
    page.get_by_role("button", name="Join them").click()
    expect(page.get_by_role("heading", name="Tab and slot")).to_be_visible()
    page.get_by_label("Tabs", exact=True).fill("3")
    page.get_by_label("Tabs", exact=True).press("Enter")
    expect(page.get_by_test_id("joint-figure")).to_contain_text("3 tabs")

    page.keyboard.press("Escape")
    page.locator(".partrow", has_text="front").first.click()
    page.keyboard.press("c")
    page.get_by_label("Diameter").fill("width / 10")
    expect(page.get_by_text("= 30 mm")).to_be_visible()
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("heading", name="Hole", exact=True)).to_be_visible()

    page.keyboard.press("r")
    expect(page.get_by_text("left", exact=True).last).to_be_visible()
    page.get_by_label("bottom–top at").fill("120 mm")
    page.get_by_label("Fit to shaft").first.fill("slip")
    page.get_by_role("button", name="Add bore").click()
    expect(page.get_by_text("Hole 8.25 mm, 0.25 mm over the shaft")).to_be_visible()

    page.keyboard.press("/")
    page.get_by_label("What do you want?").fill("height 160")
    page.keyboard.press("Enter")
    expect(page.locator(".partrow", has_text="front").locator(".size").first).to_have_text("300 × 160 mm")
    expect(live(page, "build")).to_have_text("6 parts")


def test_parts_are_picked_in_the_picture_also_those_behind(brood):
    page = brood
    scene = page.get_by_test_id("scene")
    expect(scene.locator("canvas")).to_be_visible()
    page.get_by_label("Look at the front").click()
    box = scene.bounding_box()
    at = (box["x"] + box["width"] * 0.4, box["y"] + box["height"] * 0.52)

    def press_until(condition):
        # the first frames are drawn while the page is already there
        expect(page.locator(".hint")).to_be_visible()
        for _ in range(200):
            page.mouse.move(at[0] + 1, at[1])
            page.mouse.move(*at)
            page.mouse.click(*at)
            if page.locator(".partrow[aria-pressed=true]").count() and condition():
                return
            page.wait_for_timeout(100)
        raise AssertionError("nothing was picked")

    press_until(lambda: page.locator(".partrow[data-part=front][aria-pressed=true]").count() == 1)
    expect(page.get_by_text("Picked: its front")).to_be_visible()
    page.mouse.click(*at)
    expect(page.locator(".partrow[data-part=front][aria-pressed=true]")).to_have_count(0)
    expect(page.get_by_role("listbox", name="Parts under the pointer")).to_be_visible()
    page.keyboard.press("h")
    page.keyboard.press("Shift+H")
    expect(page.locator(".partrow[data-hidden=true]")).to_have_count(0)


def test_a_problem_is_mended_or_knowingly_kept(brood):
    page = brood
    station(page, "Sizes")
    page.get_by_label("width", exact=True).fill("600 mm")
    page.get_by_label("width", exact=True).press("Enter")
    expect(live(page, "build")).to_have_text(re.compile("problem"))
    problem = page.get_by_role("group", name="width is 600 mm, over its greatest value of 560 mm").first
    problem.get_by_role("button", name="Keep it").click()
    page.get_by_label("Reason").fill("a double box for the show")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(problem).to_contain_text("Kept by thistledown: a double box for the show")
    page.get_by_label("width", exact=True).first.fill("610 mm")
    page.get_by_label("width", exact=True).first.press("Enter")
    again = page.get_by_role("group", name="width is 610 mm, over its greatest value of 560 mm").first
    expect(again).to_contain_text("its value or its rule has changed since")
    again.get_by_role("button", name="Set width to 560 mm").click()
    expect(size(page, "front")).to_have_text("560 × 240 mm")


def test_while_the_server_is_gone_edits_wait_and_are_sent_when_it_is_back(brood):
    page = brood
    settled(page)
    page.route("**/api/**", lambda route: route.abort())
    station(page, "Sizes")
    page.get_by_label("width", exact=True).fill("444 mm")
    page.get_by_label("width", exact=True).press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("1 edit waits here and will be sent")
    page.unroute("**/api/**")
    expect(size(page, "front")).to_have_text("444 × 240 mm")
    expect(page.get_by_text("saved, revision 2")).to_be_visible()


def test_edits_from_two_windows_are_merged_or_put_to_choice(brood):
    page = brood
    other = page.context.new_page()
    other.goto(page.url)
    expect(size(other, "front")).to_have_text("420 × 240 mm")
    for window in (page, other):
        station(window, "Sizes")
    other.get_by_label("depth", exact=True).fill("480 mm")
    other.get_by_label("depth", exact=True).press("Enter")
    expect(other.get_by_text("saved, revision 2")).to_be_visible()
    # another entry: replayed on the new head without a question
    page.get_by_label("width", exact=True).fill("430 mm")
    page.get_by_label("width", exact=True).press("Enter")
    expect(page.get_by_text("saved, revision 3")).to_be_visible()
    expect(size(page, "left")).to_have_text("480 × 240 mm")
    # the same entry: both are shown
    other.get_by_label("width", exact=True).fill("440 mm")
    other.get_by_label("width", exact=True).press("Enter")
    dialog = other.get_by_role("dialog")
    expect(dialog).to_contain_text("430 mm")
    expect(dialog).to_contain_text("440 mm")
    dialog.get_by_role("button", name="Take mine").click()
    expect(size(other, "front")).to_have_text("440 × 240 mm")


def test_shortcuts_can_be_changed_and_clashes_are_named(brood):
    page = brood
    page.keyboard.press("?")
    page.get_by_label("Key for: Add a board").click()
    page.keyboard.press("z")
    expect(page.get_by_role("alert")).to_contain_text("Z is already the key for “Join two parts”")
    page.get_by_label("Key for: Add a board").click()
    page.keyboard.press("k")
    expect(page.get_by_label("Key for: Add a board")).to_have_text("K")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("k")
    expect(page.get_by_role("heading", name="Place a board")).to_be_visible()


def test_the_demo_is_entered_and_a_design_opened_from_the_list(page):
    page.context.clear_cookies()
    page.goto("/")
    page.get_by_role("button", name="Open the demo workshop").click()
    expect(page.get_by_role("heading", name="Designs")).to_be_visible()
    page.get_by_role("link", name="Open Brood box", exact=True).click()
    expect(page.locator(".partrow[data-part=front]")).to_be_visible()


def test_designs_are_renamed_deleted_and_uploaded(designs, tmp_path):
    page = designs
    with page.expect_download() as download:
        page.get_by_label("More for Frame tray").click()
        page.get_by_role("menuitem", name="Download the design file").click()
    path = tmp_path / "tray.json"
    path.write_text(download.value.path().read_text().replace('"Frame tray"', '"Second tray"'))
    page.locator("input[type=file]").set_input_files(path)
    expect(page.get_by_role("article", name="Second tray")).to_be_visible()
    page.get_by_label("More for Second tray").click()
    page.get_by_role("menuitem", name="Rename").click()
    page.get_by_role("dialog").get_by_label("Name").fill("Cutlery tray")
    page.get_by_role("button", name="Rename").click()
    expect(page.get_by_role("article", name="Cutlery tray")).to_be_visible()
    page.get_by_label("More for Cutlery tray").click()
    page.get_by_role("menuitem", name="Delete").click()
    page.get_by_role("button", name="Delete", exact=True).click()
    expect(page.get_by_role("article", name="Cutlery tray")).to_have_count(0)
    path.write_text("{")
    page.locator("input[type=file]").set_input_files(path)
    expect(page.get_by_role("alert")).to_contain_text("is not a design file")
