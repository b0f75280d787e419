"""Joints in the real interface: every kind made, changed to another, seen on both flats and in the exported files; and what follows from them."""

import json
import re

import ezdxf
import pytest
from playwright.sync_api import expect

from tests.browser.conftest import proof
from tests.core.making.joints.pairs import pair

pytestmark = pytest.mark.browser

# kind, the offer to press, another kind for the same boards, whether the first board's own flat changes
WHOLE = [
    ("finger", "Finger joint a–b", "Dovetails, tails on a", True),
    ("butt", "Butt joint, the edge of a glued to b", "Groove in b for a", False),
]
# each of another look of its card; that all that is offered joins, and how, is told by the core's tests
PLAIN = [
    ("dovetail_lap", "Dovetailed half-lap, a into b"),
    ("screws", "Screws through b into a"),
    ("edge_key", "Keys of a in b"),
]


def bench(page, data):
    """Uploads a design and opens it on the bench."""
    file = {"name": "pair.json", "mimeType": "application/json", "buffer": json.dumps(data).encode()}
    made = page.request.post("/api/designs/upload", headers=proof(page.context), multipart={"file": file})
    assert made.ok, made.text()
    page.goto(f"/designs/{made.json()['id']}")
    expect(page.locator(".partrow").first).to_be_visible()
    return made.json()["id"]


def two_boards(kind):
    data = pair(kind, cutter="router").document().dump()
    return {**data, "name": f"Two boards, {kind}", "joints": {}}


def drawn(page, part):
    """What the flat of a part shows, as drawn; the bench stays in Flats."""
    page.keyboard.press("Escape")
    page.keyboard.press("3")
    pick(page, part)
    flat = page.get_by_test_id("flat")
    expect(flat).to_have_attribute("aria-label", f"Flat of {part}")
    return flat.inner_html()


def pick(page, part):
    """Presses a part in the cut list, where equal parts are one row."""
    chip = page.locator(".chip", has_text=re.compile(f"^{part}$"))
    if chip.count():  # told one by one, as while a joint is drafted
        chip.click()
        return
    row = page.locator(f".partrow[data-keys~={part}]")
    row.click()
    if row.get_attribute("data-part") != part:
        page.get_by_role("button", name=part, exact=True).click()


def saved(page, revision):
    expect(page.get_by_text(f"saved, revision {revision}")).to_be_visible()


def joined_by_hand(page, offer):
    """Joins a and b, the first edit of a design that is on the bench."""
    page.keyboard.press("z")
    pick(page, "a")
    pick(page, "b")
    page.get_by_role("button", name=offer, exact=True).click()
    expect(page.get_by_test_id("joint-figure").locator("svg.drawing").first).to_be_visible()
    page.get_by_role("button", name="Join them").click()
    saved(page, 2)
    expect(page.get_by_test_id("joint-figure").locator("svg.drawing g > path").first).to_be_visible()
    expect(page.get_by_role("combobox", name="Kind of joint")).to_have_value(offer)


@pytest.mark.parametrize(("kind", "offer"), PLAIN, ids=[k for k, _ in PLAIN])
def test_a_kind_is_made_from_nothing(page, kind, offer):
    design = bench(page, two_boards(kind))
    plain = {p["path"]: p for p in page.request.get(f"/api/designs/{design}").json()["built"]["parts"]}
    joined_by_hand(page, offer)
    built = page.request.get(f"/api/designs/{design}").json()["built"]
    assert built["joints"][0]["refused"] == ""
    assert all(part["flat"] != plain[part["path"]]["flat"] for part in built["parts"])


@pytest.mark.parametrize(("kind", "offer", "other", "changes"), WHOLE, ids=[k[0] for k in WHOLE])
def test_a_joint_is_made_changed_and_exported(page, tmp_path, kind, offer, other, changes):
    bench(page, two_boards(kind))
    plain = {part: drawn(page, part) for part in "ab"}

    page.keyboard.press("Escape")
    page.keyboard.press("2")
    joined_by_hand(page, offer)
    joined = {part: drawn(page, part) for part in "ab"}
    if changes:
        assert joined["a"] != plain["a"] and joined["b"] != plain["b"]
    else:
        assert joined == plain

    page.keyboard.press("Escape")
    page.get_by_role("button", name=re.compile("^a–b")).click()
    page.get_by_role("combobox", name="Kind of joint").click()
    page.get_by_role("option", name=re.compile("^" + re.escape(other))).click()
    saved(page, 3)
    after = {part: drawn(page, part) for part in "ab"}
    assert after["a"] != joined["a"] and after["b"] != joined["b"]

    page.keyboard.press("Escape")
    page.keyboard.press("5")
    page.get_by_text("Nominal", exact=True).click()
    for part in "ab":
        with page.expect_download() as download:
            page.get_by_label(f"{part} as DXF", exact=True).click()
        download.value.save_as(tmp_path / f"{part}.dxf")
        doc = ezdxf.readfile(tmp_path / f"{part}.dxf")
        assert not doc.audit().errors and doc.modelspace().query("*[layer=='CUT_OUTSIDE']")


def test_what_cannot_be_there_says_why_and_an_entry_that_cannot_be_offers_what_would_do(page):
    bench(page, two_boards("groove"))
    page.keyboard.press("z")
    pick(page, "a")
    pick(page, "b")
    page.get_by_text("Why not the others").click()
    expect(page.get_by_text("a finger joint needs a corner, and these boards meet in a tee")).to_be_visible()
    expect(page.get_by_text("a rebate runs along a board's end, and here the board runs on: take a groove")).to_be_visible()
    page.get_by_role("button", name="Groove in b for a", exact=True).click()
    page.get_by_role("button", name="Join them").click()
    depth = page.get_by_label("Depth", exact=True)
    expect(depth).to_have_attribute("placeholder", "5 mm")
    depth.fill("16 mm")
    depth.press("Enter")
    problem = page.get_by_role("group", name=re.compile("a groove 16 mm deep comes out on the other side of b")).first
    problem.get_by_role("button", name="Set depth to 10 mm").click()
    expect(depth).to_have_value("10 mm")
    expect(page.get_by_text("10 mm deep")).to_be_visible()


def open_design(page, name):
    page.goto(f"/designs/{next(d['id'] for d in page.request.get('/api/designs').json() if d['name'] == name)}")
    expect(page.locator(".partrow").first).to_be_visible()


def test_the_assembly_is_shown_step_by_step(page):
    open_design(page, "Hive floor")
    page.get_by_role("button", name="Put together").click()
    panel = page.get_by_test_id("assembly")
    step = page.get_by_test_id("assembly-step")
    expect(step).to_contain_text("Step 0 of 5. Begin with left.")
    for _ in range(5):
        panel.get_by_role("button", name="Step on").click()
    expect(step).to_contain_text("Step 5 of 5. Slide slide to the back.")
    slider = page.get_by_role("slider", name="Step of the assembly")
    slider.press("ArrowLeft")
    expect(slider).to_have_attribute("aria-valuenow", "4.98")
    panel.get_by_text("parts of the dry assembly can still slide out").click()
    expect(panel.get_by_role("button", name=re.compile("slide"))).to_contain_text("to the front")
    panel.get_by_label("Leave the assembly").click()
    expect(panel).to_have_count(0)


def test_a_part_with_work_on_both_faces_is_turned_over_and_has_a_second_file(page, tmp_path):
    open_design(page, "Screen board")
    page.keyboard.press("3")
    page.locator(".partrow[data-part=left]").click()
    expect(page.get_by_text("both faces are worked: turn over")).to_be_visible()
    first = page.get_by_test_id("flat").inner_html()
    page.get_by_text("Turned over", exact=True).click()
    expect(page.get_by_text("left, bottom up")).to_be_visible()
    assert page.get_by_test_id("flat").inner_html() != first
    page.keyboard.press("5")
    with page.expect_download() as download:
        page.get_by_label("left, second side, as DXF").click()
    assert "second-side" in download.value.suggested_filename
    download.value.save_as(tmp_path / "second.dxf")
    layers = {e.dxf.layer for e in ezdxf.readfile(tmp_path / "second.dxf").modelspace()}
    assert any(name.startswith("DEPTH_B_") for name in layers) and "CUT_OUTSIDE" not in layers


def test_the_design_is_looked_at_with_another_cutter_and_goes_back(page):
    open_design(page, "Inner cover")
    expect(page.locator("[data-station=build]")).to_have_text("5 parts")
    page.keyboard.press("3")
    page.get_by_role("combobox", name="Cut on").click()
    page.get_by_role("option", name="Bench laser 130 W").click()
    expect(page.locator("[data-station=build]")).to_have_text("5 parts, 2 problems")
    page.get_by_role("button", name="Back to Bench router, 6 mm bit").click()
    expect(page.locator("[data-station=build]")).to_have_text("5 parts")
    expect(page.get_by_text("saved, revision 1")).to_be_visible()


def test_kerf_first_then_fit_from_test_pieces(page):
    bench(page, {**pair("tab_slot").document().dump(), "name": "Try outs"})
    page.keyboard.press("1")
    page.get_by_role("tab", name="Cutter and fits").click()
    row = page.get_by_role("table", name="Fits").get_by_role("row", name=re.compile("^sa "))
    expect(row).to_contain_text("not yet")
    row.get_by_role("button", name="Give fits of its own").click()
    saved(page, 2)
    page.get_by_role("button", name="Test pieces for sa").click()
    page.get_by_role("menuitem", name="Make a kerf test").click()
    kerf = page.get_by_label("Kerf test")
    expect(kerf).to_contain_text("1 mm of it is drawn")
    # nine cuts, each 0.02 mm wider than was taken
    kerf.get_by_label("Gap measured").fill("1,18")
    kerf.get_by_role("button", name="Set the kerf").click()
    saved(page, 4)
    kerf.get_by_role("button", name="Remove").click()
    saved(page, 5)
    page.get_by_role("button", name="Test pieces for sa").click()
    page.get_by_role("menuitem", name="Make a test comb").click()
    comb = page.get_by_label("Test comb")
    expect(page.locator(".partrow[data-part=comb_sa]")).to_be_visible()
    comb.get_by_label("Slot -0.10").get_by_text("press").click()
    comb.get_by_label("Slot 0.00").get_by_text("snug").click()
    comb.get_by_label("Slot 0.20").get_by_text("slip").click()
    comb.get_by_role("button", name="Set the fits").click()
    saved(page, 7)
    expect(row).to_contain_text("on a comb")
    expect(page.get_by_label("slip in sa")).to_have_value("0.2 mm")
    expect(page.get_by_label("Kerf", exact=True)).to_have_value("0.2 mm")
    page.get_by_label("Kerf", exact=True).fill("0.3 mm")
    page.get_by_label("Kerf", exact=True).press("Enter")
    expect(row).to_contain_text("not since the kerf changed from 0.2 mm")


def test_marks_that_help_are_engraved_and_the_drilling_list_is_there(page):
    open_design(page, "Stand")
    page.keyboard.press("5")
    table = page.get_by_role("table", name="Drilling list")
    expect(table.get_by_role("row", name=re.compile("left top edge 8"))).to_have_count(4)
    with page.expect_download() as download:
        page.get_by_role("link", name="Drilling list, CSV").click()
    assert download.value.path().read_text().startswith("Part,Surface,Diameter mm")
    page.keyboard.press("2")
    page.get_by_label("Mating marks, A1 to A1").click()
    saved(page, 2)
    page.get_by_role("button", name="Undo", exact=True).click()
    saved(page, 3)
    expect(page.get_by_label("Mating marks, A1 to A1")).to_be_checked()
