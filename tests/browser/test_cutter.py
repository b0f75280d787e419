"""From the nested brood box to its program: played, wound, stepped; micro-joints and a bed that is too small; a file that does what was played."""

from __future__ import annotations

import json
import re

import ezdxf
import pytest
from playwright.sync_api import expect

from tests.browser.conftest import proof
from tests.browser.test_main_job import station
from zygon.design.examples import example
from zygon.program.read import read_program

pytestmark = pytest.mark.browser


def begun(page, kept: str, name: str) -> None:
    """An example, anew, at the cutter."""
    file = {"name": "a.json", "mimeType": "application/json", "buffer": json.dumps({**example(kept).dump(), "name": name}).encode()}
    made = page.request.post("/api/designs/upload", headers=proof(page.context), multipart={"file": file})
    assert made.ok, made.text()
    page.goto(f"/designs/{made.json()['id']}")
    expect(page.locator(".partrow").first).to_be_visible()
    to_the_cutter(page)


@pytest.fixture
def box(page):
    """The brood box, on the laser."""
    begun(page, "brood-box", "Box to cut")


def to_the_cutter(page):
    station(page, "Shop")
    page.get_by_role("radiogroup", name="What Shop shows").get_by_text("To the cutter").click()


def run(page):
    return page.get_by_test_id("dry run")


def takes(page, what: str) -> str:
    return page.get_by_role("complementary", name="What it takes").locator(f"dt:text-is('{what}') + dd").inner_text()


def seconds(page) -> float:
    return float(run(page).get_attribute("data-time"))


def test_a_sheet_is_played_wound_stepped_and_leaves_as_a_program(page, box, tmp_path):
    expect(run(page)).to_have_attribute("data-time", "0.00", timeout=60_000)
    page.get_by_text("60×", exact=True).click()
    page.get_by_role("button", name="Play").click()
    page.wait_for_function("() => Number(document.querySelector('[data-testid=\"dry run\"]').dataset.time) > 20")
    page.get_by_role("button", name="Pause").click()
    stood = seconds(page)
    page.get_by_role("button", name="To the beginning").click()
    expect(run(page)).to_have_attribute("data-time", "0.00")
    assert stood > 20
    page.get_by_role("button", name="The next cut").click()
    one = seconds(page)
    page.get_by_role("button", name="The next cut").click()
    two = seconds(page)
    assert 0 < one < two
    page.get_by_role("button", name="The cut before").click()
    expect(run(page)).to_have_attribute("data-time", f"{one:.2f}")
    page.get_by_role("slider", name="Time").press("End")
    expect(page.get_by_text("On the way home")).to_be_visible()
    pieces = page.get_by_role("complementary", name="What it takes").get_by_role("listitem")
    expect(pieces).to_have_count(6)
    first = re.sub(r"^\d+\s+", "", pieces.nth(0).inner_text()).split(",")[0]
    pieces.nth(0).get_by_role("button").click()
    expect(page.get_by_role("complementary", name="Job card").get_by_role("heading", name=first, exact=True)).to_be_visible()
    with page.expect_download() as got:
        page.get_by_role("link", name="Program").click()
    got.value.save_as(tmp_path / "a.nc")
    program = read_program((tmp_path / "a.nc").read_text())
    cut = sum(m.length for m in program.moves if m.on and m.kind in ("line", "arc"))
    assert takes(page, "Cut") == f"{cut / 1000:.1f} m"
    assert got.value.suggested_filename.endswith(".nc") and not program.faults and program.ended


def test_micro_joints_are_asked_for_and_a_bed_that_is_too_small_keeps_the_program_here(page, box):
    expect(run(page)).to_be_visible(timeout=60_000)
    before = int(takes(page, "Pierced").rstrip("×"))
    station(page, "Sizes")
    page.get_by_role("tab", name="Cutter").click()
    joints = page.get_by_label("Micro-joints a part")
    joints.fill("2")
    joints.press("Enter")
    expect(page.get_by_text(re.compile("saved, revision 2"))).to_be_visible()
    to_the_cutter(page)
    # six parts lie on the sheet: two pierces more each
    expect(page.get_by_role("complementary", name="What it takes")).to_contain_text(f"{before + 12}×", timeout=60_000)
    station(page, "Sizes")
    bed = page.get_by_label("Bed length")
    bed.fill("400 mm")
    bed.press("Enter")
    expect(page.get_by_text(re.compile("saved, revision 3"))).to_be_visible()
    to_the_cutter(page)
    expect(page.get_by_role("alert").filter(has_text="leaves the bed of 400 ×")).to_be_visible(timeout=60_000)
    expect(page.get_by_role("link", name="Program")).to_have_count(0)


def test_a_cut_begins_where_it_is_pressed_on_and_undone_it_begins_where_it_began(page, box):
    expect(run(page)).to_have_attribute("data-time", "0.00", timeout=60_000)
    at = f"/api/designs/{page.url.rsplit('/', 1)[1].partition('?')[0]}/programs/ply12/1"
    program = page.request.get(at).json()
    # a hand hole: no other cut is near it, and its sides are long

    def hole(told):
        return max((c for c in told["cuts"] if c["operation"] == "inside" and c["part"] == "back"), key=lambda c: around(told, c))

    def around(told, c):
        return sum(way(told, k) for k in range(c["first"] + 1, c["last"]) if told["kind"][k] == 1)

    def way(told, k):
        return abs(told["x"][k] - told["x"][k - 1]) + abs(told["y"][k] - told["y"][k - 1])

    cut = hole(program)
    moves = [k for k in range(cut["first"] + 1, cut["last"]) if program["kind"][k] == 1 and not program["bulge"][k]]
    k = max(moves, key=lambda k: way(program, k))
    x, y = ((program[c][k] + program[c][k - 1]) / 2 for c in "xy")

    def starts():
        now = page.request.get(at).json()
        own = hole(now)
        first = next(k for k in range(own["first"], own["last"]) if now["kind"][k])
        return now["x"][first - 1], now["y"][first - 1]

    began = starts()
    button = page.get_by_role("button", name="Begin a cut elsewhere")
    button.click()
    expect(button).to_have_attribute("aria-pressed", "true")
    box_ = run(page).bounding_box()
    wide, high = box_["width"], box_["height"]
    scale = min((wide - 56) / program["length"], (high - 56) / program["width"])
    left, low = (wide - program["length"] * scale) / 2, (high + program["width"] * scale) / 2
    run(page).click(position={"x": 4, "y": 4})
    expect(page.get_by_role("alert").filter(has_text="No cut is nearer than 12 mm")).to_be_visible()
    run(page).click(position={"x": left + x * scale, "y": low - y * scale})
    expect(page.get_by_text(re.compile("saved, revision 2"))).to_be_visible()

    there = starts()
    assert there != began
    # a lead is three millimetres long, and a millimetre may be some of a screen's points
    assert abs(there[0] - x) + abs(there[1] - y) < 14
    button.click()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text(re.compile("saved, revision 3"))).to_be_visible()
    assert starts() == pytest.approx(began)


def test_the_sheets_below_take_as_long_as_their_programs(page, box):
    expect(run(page)).to_have_attribute("data-time", "0.00", timeout=60_000)
    minutes, seconds_ = (int(n) for n in takes(page, "Time").split(":"))
    sheet_ = page.locator(".sheetmini").first
    expect(sheet_).to_contain_text(f"{round((60 * minutes + seconds_) / 60)} min, {takes(page, 'Costs')}")


def test_lines_of_the_controller_stand_in_the_program_and_can_be_taken_away_again(page, box, tmp_path):
    expect(run(page)).to_be_visible(timeout=60_000)

    def told(name: str) -> list[str]:
        to_the_cutter(page)
        with page.expect_download() as got:
            page.get_by_role("link", name="Program").click()
        got.value.save_as(tmp_path / name)
        station(page, "Sizes")
        return (tmp_path / name).read_text().splitlines()

    station(page, "Sizes")
    page.get_by_role("tab", name="Cutter").click()
    before = page.get_by_label("Lines before")
    before.fill("(ours)\nM8")
    before.blur()
    expect(page.get_by_text(re.compile("saved, revision 2"))).to_be_visible()
    lines = told("a.nc")
    assert lines[lines.index("(ours)") + 1] == "M8"
    before.fill("")
    before.blur()
    expect(page.get_by_text(re.compile("saved, revision 3"))).to_be_visible()
    assert "M8" not in told("b.nc")


def test_a_saw_says_that_it_runs_no_programs(page, box):
    expect(run(page)).to_be_visible(timeout=60_000)
    station(page, "Sizes")
    page.get_by_role("tab", name="Cutter").click()
    page.get_by_role("combobox", name="Cut with").click()
    page.get_by_role("option", name=re.compile("saw")).first.click()
    expect(page.get_by_text(re.compile("saved, revision 2"))).to_be_visible()
    to_the_cutter(page)
    expect(page.get_by_role("alert").filter(has_text="runs no programs")).to_be_visible(timeout=60_000)


@pytest.fixture
def floor(page):
    """The hive's floor, on the router."""
    begun(page, "hive-floor", "Floor to mill")


def sheet(page, name: re.Pattern) -> None:
    page.get_by_role("combobox", name="Sheet").click()
    page.get_by_role("option", name=name).click()


def test_a_router_s_sheet_is_played_with_its_bits_and_leaves_from_both_sides(page, floor, tmp_path):
    expect(run(page)).to_have_attribute("data-time", "0.00", timeout=60_000)
    sheet(page, re.compile("18 mm, sheet 1 of 1, under side"))
    expect(page.get_by_text("as it lies turned over")).to_be_visible(timeout=60_000)
    with page.expect_download() as got:
        page.get_by_role("link", name="Program").click()
    assert got.value.suggested_filename.endswith("_under.nc")
    sheet(page, re.compile("18 mm, sheet 1 of 1$"))
    bits = page.locator(".bits li")
    expect(bits).to_have_count(2, timeout=60_000)
    expect(bits.nth(0)).to_contain_text("T3")
    expect(bits.nth(1)).to_contain_text("T1 6 mm end mill")
    expect(page.get_by_text(re.compile("The under side is cut first"))).to_be_visible()
    page.get_by_text("60×", exact=True).click()
    page.get_by_role("button", name="Play").click()
    expect(page.get_by_text(re.compile("^Clearing a pocket: .*, T1$"))).to_be_visible(timeout=60_000)
    page.get_by_role("button", name="Pause").click()
    depth = page.locator(".dryrun .mono").filter(has_text=" Z ")
    expect(depth).to_have_text(re.compile(r"Z -?\d"))
    with page.expect_download() as got:
        page.get_by_role("link", name="Program").click()
    got.value.save_as(tmp_path / "floor.nc")
    program = read_program((tmp_path / "floor.nc").read_text())
    assert program.ended and program.faults == () and {m.tool for m in program.moves if m.on} == {1, 3}
    assert min(m.q[2] for m in program.moves) < -17.9
    page.get_by_role("button", name="Paths").click()
    with page.expect_download() as got:
        page.get_by_role("menuitem", name="Paths as DXF").click()
    got.value.save_as(tmp_path / "floor.dxf")
    layers = {e.dxf.layer for e in ezdxf.readfile(tmp_path / "floor.dxf").modelspace()}
    assert {"CUT_OUTSIDE", "DEPTH_A_6MM", "MARK"} <= layers


def test_a_clamp_in_the_way_keeps_the_program_here(page, floor):
    expect(run(page)).to_be_visible(timeout=60_000)
    station(page, "Sizes")
    page.get_by_role("tab", name="Cutter").click()
    page.get_by_role("button", name="Another clamp").click()
    expect(page.get_by_text(re.compile("saved, revision 2"))).to_be_visible()
    to_the_cutter(page)
    alert = page.get_by_role("alert").filter(has_text="the clamp New clamp")
    expect(alert.first).to_be_visible(timeout=60_000)
    expect(page.get_by_role("link", name="Program")).to_have_count(0)
    station(page, "Sizes")
    page.get_by_role("tab", name="Cutter").click()
    page.get_by_role("button", name="Remove New clamp").click()
    to_the_cutter(page)
    expect(page.get_by_role("link", name="Program")).to_have_count(1, timeout=60_000)


def test_what_a_router_leaves_is_seen_in_the_room_and_told_place_by_place(page):
    begun(page, "rebated-box", "Box on the router")
    expect(run(page)).to_be_visible(timeout=60_000)
    # the face that lies down comes first; the rebates are in the other
    sheet(page, re.compile("18 mm, sheet 1 of 1$"))
    expect(page.get_by_role("combobox", name="Sheet")).to_have_value(re.compile("sheet 1 of 1$"))
    page.get_by_role("radiogroup", name="What is shown of it").get_by_text("What is left").click()
    expect(page.get_by_test_id("left over").locator("canvas")).to_be_visible(timeout=60_000)
    assert int(page.get_by_test_id("left over").get_attribute("data-slabs")) > 1
    places = page.get_by_role("complementary", name="Where it is not the part").get_by_role("button")
    expect(places.first).to_contain_text("in a pocket of")
    places.first.click()
    expect(places.first).to_have_attribute("aria-pressed", "true")
    page.get_by_role("radiogroup", name="What is shown of it").get_by_text("Dry run").click()
    expect(run(page)).to_be_visible()
