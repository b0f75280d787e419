"""Folded parts in the real browser: a plate becomes a tray, a radius becomes a problem and is mended, a row lights its bend, the DXF is read."""

import re

import ezdxf
import pytest
from playwright.sync_api import expect

from tests.browser.test_joints import bench, saved
from tests.browser.test_layout import built_part, design, entry, row
from tests.browser.test_main_job import station
from zygon.design.draft import Draft

pytestmark = pytest.mark.browser

#: The picture as it is drawn.
DRAWN = "() => document.querySelector('[data-testid=scene] canvas').toDataURL()"


def plate(*bent: str) -> dict:
    """A plate with flanges on the edges that are named."""
    d = Draft("Box base", "galv20")
    d.size("width", "160 mm")
    d.board("base", "galv20", "lying", "0", ("0", "width"), ("0", "100 mm"))
    if bent:
        d.fold("base")
    for edge in bent:
        d.flange("base", edge, edge, "30 mm")
    return d.document().dump()


def flange(page, edge):
    """Adds a flange on an edge from the plate's card and leaves the flange's own card open."""
    row(page, "base").click()
    page.get_by_role("button", name="Add a flange").click()
    page.get_by_role("combobox", name="On").click()
    page.get_by_role("option", name=f"{edge} edge of the plate").click()
    page.get_by_role("button", name="Bend it up").click()
    expect(page.get_by_role("heading", name=f"{edge} flange")).to_be_visible()


def choose(page, label, option):
    page.get_by_role("combobox", name=label).click()
    page.get_by_role("option", name=option, exact=True).click()


def area(page) -> float:
    return next(p["area"] for p in design(page)["built"]["parts"] if p["key"] == "base")


def pull(page, name, dx, dy):
    """Pulls a grip by so many pixels."""
    box = page.get_by_role("slider", name=name).bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    for i in range(1, 6):
        page.mouse.move(x + dx * i / 5, y + dy * i / 5)


def test_a_flange_grows_by_hand_and_what_cannot_be_is_a_ghost(page):
    bench(page, plate())
    row(page, "base").click()
    pull(page, "Pull a flange from the right edge", 0, -60)
    expect(page.get_by_test_id("pull")).to_contain_text("flat")
    says = page.get_by_test_id("pull").locator("b").inner_text()
    page.mouse.up()
    saved(page, 2)
    expect(page.get_by_label("Length", exact=True)).to_have_value(says)
    card = page.get_by_role("complementary", name="Job card")
    assert card.evaluate("e => e.scrollTop") == 0  # another card is read from its top
    flange = design(page)["document"]["parts"]["base"]["folding"]["flanges"]["right"]
    assert (flange["length"]["text"], flange["toward"]) == (says, "a")

    # by its far edge it gets longer, by its face the plate under it grows; keys pull as the hand does
    longer = page.get_by_role("slider", name="Pull right flange longer")
    longer.press("ArrowUp")
    longer.press("ArrowUp")
    longer.press("Enter")
    saved(page, 3)
    assert design(page)["built"]["values"]["/parts/base/folding/flanges/right/length"]["value"] == float(says.split()[0]) + 2
    move = page.get_by_role("slider", name="Move right flange by its face")
    move.press("ArrowUp")
    move.press("Enter")
    saved(page, 4)
    assert built_part(page, "base")["high"][0] == pytest.approx(161)

    # a flange that would run into the plate is a ghost, and letting go leaves all as it was
    page.get_by_role("button", name="base", exact=False).first.click()
    page.get_by_role("button", name="Add a flange").click()
    choose(page, "On", "far edge of right flange")
    page.get_by_role("button", name="Bend it up").click()
    saved(page, 5)
    choose(page, "Towards", "the plate's top")
    entry(page, "Bent by", "150 deg")
    saved(page, 6)
    entry(page, "Length", "98 mm")
    saved(page, 7)
    longer = page.get_by_role("slider", name="Pull end flange of right flange longer")
    for _ in range(10):
        longer.press("ArrowUp")
    expect(page.get_by_test_id("pull").get_by_role("alert")).to_contain_text(re.compile("runs into the plate: .*make it at most"))
    longer.press("Enter")
    expect(page.get_by_test_id("pull").get_by_role("alert")).to_be_visible()
    assert design(page)["revision"] == 7


def test_a_flange_grows_from_each_edge_of_a_flange(page):
    bench(page, plate())
    row(page, "base").click()
    pull(page, "Pull a flange from the right edge", 0, -60)
    expect(page.get_by_test_id("pull")).to_contain_text("flat")
    page.mouse.up()
    saved(page, 2)
    # to the side that it is pulled to, and it is what is in hand then
    for way, toward in (("ArrowUp", "a"), ("ArrowDown", "b")):
        grown = page.get_by_role("slider", name="Pull a flange from the far edge of right flange")
        for _ in range(9):
            grown.press(way)
        grown.press("Enter")
        expect(page.get_by_label("Length", exact=True)).to_have_value("9 mm")
        flanges = design(page)["document"]["parts"]["base"]["folding"]["flanges"]
        lip = next(f for f in flanges.values() if f["on"] == "right")
        assert (lip["edge"], lip["toward"], lip["length"]["text"]) == ("end", toward, "9 mm")
        page.keyboard.press("Control+z")
        expect(page.get_by_text("It is gone.")).to_be_visible()
        page.locator(".partrow").first.click()
        page.get_by_role("button", name="right flange").first.click()
    expect(page.get_by_role("slider", name="Pull a flange from the low side of right flange")).to_be_visible()
    expect(page.get_by_role("slider", name="Pull a flange from the high side of right flange")).to_be_visible()


def test_a_folded_part_is_begun_as_a_shape_and_bored_through_its_flanges(page):
    bench(page, plate())
    page.get_by_role("button", name="Part", exact=True).click()
    page.get_by_role("menuitem", name="Folded part").click()
    choose(page, "Bent as", "hat: a channel with brims")
    choose(page, "Bends run", "front to back")
    page.get_by_label("Flange length", exact=True).fill("40 mm")
    page.get_by_label("Brim length", exact=True).fill("18 mm")
    page.get_by_role("button", name="Add folded part").click()
    saved(page, 2)
    part = next(p for p in design(page)["built"]["parts"] if p["key"] != "base")
    # brims point outward: the whole is wider than its plate by both, less the walls that they stand on
    t = part["thickness"]
    assert part["high"][0] - part["low"][0] == pytest.approx(160 + 2 * (18 - t), abs=0.01)
    assert part["high"][2] - part["low"][2] == pytest.approx(40, abs=0.01)
    expect(page.get_by_text("4 exposed corners are sharp.")).to_be_visible()
    entry(page, "Sharp corners by", "3 mm")
    expect(page.get_by_text("No exposed corner is sharp.")).to_be_visible()
    saved(page, 3)

    page.keyboard.press("Escape")
    page.keyboard.press("r")
    choose(page, "Runs", "left to right")
    page.get_by_label("bottom–top at").fill("20 mm")
    expect(page.get_by_label("Fit to shaft")).to_be_visible()
    page.get_by_role("button", name="Add bore").click()
    saved(page, 4)
    assert built_part(page, part["key"])["has"][0] == ["hole", 8]
    entry(page, "Ends at", "80 mm")
    saved(page, 5)
    (flat,) = [r for k, r in design(page)["resources"].items() if k == built_part(page, part["key"])["flat"]]
    assert len([c for c in flat["contours"] if c["circle"]]) == 1


def test_tools_order_and_bend_data_of_the_shop(page, tmp_path):
    d = Draft("Tray", "galv20")
    d.board("base", "galv20", "lying", "0", ("0", "160 mm"), ("0", "100 mm"))
    d.fold("base").flange("base", "left", "left", "30 mm").flange("base", "lip", "end", "12 mm", on="left")
    bench(page, d.document().dump())
    station(page, "Flats")
    row(page, "base").click()
    table = page.get_by_test_id("bend-table")
    expect(page.get_by_test_id("bend-order")).to_contain_text("Order found by trying")
    expect(table.locator("tbody tr").first).to_contain_text("Straight 88°")
    first = table.locator("tbody tr").first.inner_text()
    page.get_by_label("Step 1 later").click()
    saved(page, 2)
    expect(page.get_by_test_id("bend-order")).to_contain_text("Order by hand")
    assert table.locator("tbody tr").first.inner_text() != first
    page.get_by_role("button", name="Find the order by trying").first.click()
    saved(page, 3)

    # a shop's own bend table
    station(page, "Sizes")
    page.get_by_role("tab", name="Stock", exact=True).click()
    page.get_by_role("button", name="Change").first.click()
    path = tmp_path / "bends.csv"
    path.write_text("thickness,radius,angle,k\n1,1.5,90,0.33\n1,1.5,45,0.35\n")
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Read a bend table, CSV").click()
    chooser.value.set_files(path)
    saved(page, 4)
    expect(page.get_by_label("Bend table of the shop").locator("tbody tr")).to_have_count(2)
    path.write_text("thickness,radius\n1,2\n")
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Read a bend table, CSV").click()
    chooser.value.set_files(path)
    expect(page.get_by_role("alert").filter(has_text="a bend table has columns")).to_be_visible()

    # and a strip that is cut, bent and measured
    page.get_by_role("button", name="Cut a bend test strip").click()
    saved(page, 5)
    page.get_by_label("First leg").fill("51")
    page.get_by_label("Second leg").fill("51")
    page.get_by_role("button", name="Set K").click()
    saved(page, 6)
    expect(page.get_by_label("Bend table of the shop").locator("tbody tr")).to_have_count(3)

    # without the tools it is said what is missing
    page.get_by_role("tab", name="Press brake").click()
    choose(page, "Bend on", "no press brake")
    saved(page, 7)
    station(page, "Flats")
    expect(page.get_by_test_id("bend-order")).to_contain_text("No press brake is chosen")


def test_a_solid_goes_out_as_step_and_comes_in_as_a_bought_part(page, tmp_path):
    d = Draft("Tray", "galv20")
    d.board("base", "galv20", "lying", "0", ("0", "60 mm"), ("0", "40 mm"))
    d.fold("base").flange("base", "left", "left", "20 mm")
    bench(page, d.document().dump())
    station(page, "Shop")
    with page.expect_download() as download:
        page.get_by_label("base as STEP", exact=True).click()
    path = tmp_path / "base.step"
    download.value.save_as(path)
    assert path.read_text().startswith("ISO-10303-21;")
    station(page, "Build")
    page.get_by_label("File of a bought body").set_input_files(path)
    saved(page, 2)
    expect(page.get_by_role("heading", name="base 2")).to_be_visible()
    own, body = built_part(page, "base"), built_part(page, "base_2")
    assert body["high"][2] - body["low"][2] == pytest.approx(20, abs=1e-3)
    assert body["low"][0] > own["high"][0]  # beside what stands there


def test_a_plate_becomes_a_box_and_its_flat_is_cut(page, tmp_path):  # noqa: PLR0915
    bench(page, plate("left", "right", "front"))
    flange(page, "back")
    saved(page, 2)
    entry(page, "Length", "40 mm")
    saved(page, 3)
    base = built_part(page, "base")
    assert [round(h - low, 3) for low, h in zip(base["low"], base["high"], strict=True)] == [160, 100, 40]

    # the fan's opening with its screw holes, in the wall that the card is of
    page.get_by_role("button", name="Fan opening", exact=True).click()
    saved(page, 4)
    for label, value in (("Opening", "30 mm"), ("Between screws", "26 mm"), ("Screw hole", "3.2 mm")):
        entry(page, label, value)
    saved(page, 7)

    # its corners are closed
    row(page, "base").click()
    open_area = area(page)
    choose(page, "Corners", "open")
    saved(page, 8)
    assert area(page) < open_area
    choose(page, "Corners", "closed, with a gap")
    saved(page, 9)
    entry(page, "Gap in corners", "0.3 mm")
    saved(page, 10)
    # one of them on its own: the front wall reaches over the end of the left one
    closed = area(page)
    page.locator(".linkrow", has_text="front flange").click()
    choose(page, "With left flange", "front flange covers it")
    saved(page, 11)
    assert area(page) > closed
    choose(page, "With left flange", "as the part has it")
    saved(page, 12)
    assert area(page) == pytest.approx(closed)
    row(page, "base").click()

    # too tight a radius is said with its mend
    entry(page, "Inside radius", "0.4 mm")
    saved(page, 13)
    expect(page.get_by_text("no tool of the shop bends an inside radius of 0.4 mm").first).to_be_visible()
    expect(page.get_by_text("a bend of 0.4 mm inside radius")).to_have_count(0)  # one cause is one problem
    page.get_by_role("button", name="Bend it to a radius").first.click()
    saved(page, 14)
    expect(page.get_by_text("no tool of the shop bends")).to_have_count(0)
    entry(page, "Inside radius", "1.5 mm")
    saved(page, 15)
    expect(page.get_by_text("no tool of the shop bends")).to_have_count(0)

    # folded and unfolded on the slider, all together and bend by bend
    bent = page.evaluate(DRAWN)
    page.get_by_role("button", name="Look", exact=True).click()
    page.get_by_role("menuitem", name="Fold and unfold").click()
    slider = page.get_by_role("slider", name="How far it is folded")
    slider.press("Home")
    expect(page.get_by_test_id("unfold")).to_contain_text("flat")
    page.get_by_text("bend by bend", exact=True).click()
    for _ in range(3):
        slider.press("PageUp")
    slider.press("End")
    expect(page.get_by_test_id("unfold").locator(".figure")).to_have_text("bent")
    page.get_by_label("Leave it bent").click()
    page.wait_for_function("() => !document.querySelector('[data-testid=unfold]')")
    page.wait_for_function(f"before => ({DRAWN})() === before", arg=bent)

    # what cannot be is said, and the part stands
    page.locator(".linkrow", has_text="back flange").click()
    entry(page, "Bent by", "200 deg")
    expect(page.get_by_text("under 180°").first).to_be_visible()
    page.get_by_label("Bent by", exact=True).fill("90 deg")
    page.get_by_label("Bent by", exact=True).press("Enter")

    station(page, "Flats")
    row(page, "base").click()
    table = page.get_by_test_id("bend-table")
    expect(table.locator("tbody tr")).to_have_count(4)
    table.locator("tbody tr").nth(3).click()
    expect(table.locator("tr.lit")).to_have_count(1)
    expect(page.get_by_role("heading", name="back flange")).to_be_visible()
    expect(table).to_contain_text("▲ 90°")
    page.get_by_text("Turned over", exact=True).click()
    expect(table).to_contain_text("▼ 90°")

    station(page, "Shop")
    with page.expect_download() as download:
        page.get_by_label("base as DXF", exact=True).click()
    download.value.save_as(tmp_path / "base.dxf")
    doc = ezdxf.readfile(tmp_path / "base.dxf")
    assert not doc.audit().has_issues
    lines = list(doc.modelspace().query("LINE[layer=='BEND_UP']"))
    assert len(lines) == 4 and not doc.modelspace().query("LINE[layer=='BEND_DOWN']")
    (outline,) = doc.modelspace().query("LWPOLYLINE[layer=='CUT_OUTSIDE']")
    xs = [x for x, _, _ in outline.get_points("xyb")]
    (flat,) = [r for k, r in design(page)["resources"].items() if k == built_part(page, "base")["flat"]]
    assert max(xs) - min(xs) == pytest.approx(flat["bounds"][2] - flat["bounds"][0] + flat["kerf"], abs=1e-3)
    holes = sorted(round(2 * c.dxf.radius, 2) for c in doc.modelspace().query("CIRCLE[layer=='CUT_INSIDE']"))
    kerf = flat["kerf"]
    assert holes == [pytest.approx(x - kerf, abs=0.011) for x in (3.2, 3.2, 3.2, 3.2, 30)]


def test_a_flange_s_card_asks_what_it_needs_and_no_more(page):
    """Fields come and go with what others say, each choice is one edit, and what need not be said can be taken back."""
    bench(page, plate())
    flange(page, "left")
    saved(page, 2)

    def now():
        return design(page)["document"]["parts"]["base"]["folding"]["flanges"]["left"]

    expect(page.get_by_label("From the back end")).to_have_count(0)
    choose(page, "Takes", "centred, of a width")
    saved(page, 3)
    assert (now()["extent"], now()["first"]["text"]) == ("centred", "30 mm")
    expect(page.get_by_label("Width", exact=True)).to_have_value("30 mm")
    expect(page.get_by_label("Off the middle, to the front")).to_have_value("0")
    choose(page, "Takes", "inset from both ends")
    saved(page, 4)
    entry(page, "From the front end", "12 mm")
    saved(page, 5)
    assert now()["second"]["text"] == "12 mm"
    expect(page.get_by_label("Relief width")).to_be_visible()
    choose(page, "Reliefs", "slit")
    saved(page, 6)
    assert now()["relief"]["style"] == "tear"
    expect(page.get_by_label("Relief width")).to_have_count(0)

    choose(page, "Taken off", "chamfer")
    saved(page, 7)
    assert now()["corner_shape"] == "chamfer"
    choose(page, "Taken off", "as the part has it")
    saved(page, 8)
    assert not now().get("corner_shape")

    page.get_by_role("button", name="Press gussets").click()
    saved(page, 9)
    assert (now()["gussets"]["number"], now()["gussets"]["width"]["text"], now()["gussets"]["depth"]["text"]) == (2, "8 mm", "10 mm")
    entry(page, "Number", "3")
    saved(page, 10)
    assert now()["gussets"]["number"] == 3

    page.get_by_role("button", name="Engraved text", exact=True).click()
    saved(page, 11)
    expect(page.get_by_label("Text", exact=True)).to_have_value("MADE HERE")
    page.get_by_role("button", name="Remove flange").click()
    saved(page, 12)
    assert design(page)["document"]["parts"]["base"]["kind"] == "board"
