"""Frames in the browser: drawn from nothing by presses and by keys, begun from a form, joined, bent, changed; and what goes out."""

import csv
import io
import re

import ezdxf
import pytest
from playwright.sync_api import expect

from tests.browser.by_hand import document_of
from tests.browser.conftest import on_the_bench
from tests.browser.test_bars import entry
from tests.browser.test_main_job import station


def row(page, part: str):
    return page.locator(f".partrow[data-keys~={part}]")


def typed(page, label: str, text: str) -> None:
    """Into a field of a form, which Enter would add as it stands."""
    page.get_by_label(label, exact=True).fill(text)
    page.get_by_label(label, exact=True).press("Tab")


def said(page):
    return page.get_by_test_id("line-said")


def middle(page, right: float = 0.5, down: float = 0.5) -> tuple[float, float]:
    box = page.get_by_test_id("scene").bounding_box()
    return box["x"] + box["width"] * right, box["y"] + box["height"] * down


def points_at(page, place, words):
    """The pointer comes to a place of the picture and lingers, as a hand does, until what is there is said."""
    for step in range(200):
        page.mouse.move(place[0] + (step + 1) % 2, place[1])
        page.mouse.move(*place)
        if words in said(page).inner_text():
            break
        page.wait_for_timeout(50)
    expect(said(page)).to_contain_text(words)


def run(page, axis: str, length: str, ends: str) -> None:
    """A tube by keys: the axis, the length, Enter; it ends at a point of the frame."""
    page.keyboard.press(axis)
    page.keyboard.type(length)
    page.keyboard.press("Enter")
    expect(said(page)).to_have_text(f"From frame, point {ends}.")
    page.keyboard.press(axis)  # and lets it go


def test_a_portal_is_drawn_from_nothing_and_joined(nothing):
    """One press on the ground, then by keys; the corners are mitred, a changed height follows, and undo takes back a line at a time."""
    page = nothing
    page.keyboard.press("d")
    place = middle(page, 0.35, 0.6)
    points_at(page, place, "on the ground")
    page.mouse.click(*place)
    expect(said(page)).to_contain_text("From on the ground")
    points_at(page, (place[0], place[1] - 150), "From on the ground to along z.")
    run(page, "z", "400", "2")
    run(page, "x", "600", "3")
    run(page, "z", "-400", "4")
    expect(row(page, "tube_2")).to_contain_text("600 mm long")
    expect(page.locator("header")).to_contain_text("problems")  # ends that meet and are not cut to each other
    page.get_by_role("button", name="Join what meets").click()
    expect(row(page, "tube_2")).to_contain_text("640 mm long")
    expect(row(page, "tube_3")).to_contain_text("420 mm long")
    page.get_by_role("button", name="Done").click()
    expect(page.get_by_text("None. Everything can be cut")).to_be_visible()
    # what is level stays level: the height of one point is that of the other
    page.get_by_role("button", name="frame 3 lines").click()
    points = page.get_by_label("up", exact=True)
    expect(points).to_have_count(4)
    for n in (1, 2):
        points.nth(n).fill("500 mm")
        points.nth(n).press("Enter")
    expect(row(page, "tube_3")).to_contain_text("520 mm long")
    expect(row(page, "tube")).to_contain_text("×2")
    page.keyboard.press("Escape")
    for before in ("≈648.83 mm long", "640 mm long", "600 mm long"):
        page.get_by_role("button", name="Undo").click()
        expect(row(page, "tube_2")).to_contain_text(before)


def test_what_the_pointer_rests_on_is_taken_without_moving_it(nothing):
    page = nothing
    page.keyboard.press("d")
    points_at(page, middle(page, 0.4, 0.7), "on the ground")
    page.keyboard.press("Escape")
    expect(said(page)).to_be_hidden()
    page.keyboard.press("d")
    expect(said(page)).to_have_text("on the ground")
    page.mouse.down()
    page.mouse.up()
    expect(said(page)).to_contain_text("From on the ground")


def test_a_tube_runs_where_it_is_pressed(nothing):
    """From the ground upward by two presses, then from that tube's middle along an axis; its end is cut to it."""
    page = nothing
    page.keyboard.press("d")
    points_at(page, middle(page, 0.5, 0.75), "on the ground")
    page.mouse.click(*middle(page, 0.5, 0.75))
    expect(said(page)).to_contain_text("From on the ground")
    up = middle(page, 0.5, 0.3)
    points_at(page, up, "to along z")
    page.mouse.click(*up)
    expect(said(page)).to_have_text("From frame, point 2.")
    page.get_by_role("button", name="Begin elsewhere").click()
    points_at(page, (up[0], up[1] + 88), "on tube")
    page.mouse.click(up[0], up[1] + 88)
    expect(said(page)).to_contain_text("From on tube")
    page.keyboard.press("x")
    page.keyboard.type("300")
    page.keyboard.press("Enter")
    expect(row(page, "tube_2")).to_contain_text("300 mm long")
    page.get_by_role("button", name="Join what meets").click()
    expect(row(page, "tube_2")).to_contain_text("280 mm long")  # a square tube of 40: to its side


def test_a_box_frame_is_begun_from_a_form_and_follows_a_size(nothing):
    page = nothing
    page.get_by_role("button", name="Part", exact=True).click()
    page.get_by_role("menuitem", name="Frame of tubes").click()
    page.get_by_role("combobox", name="Of", exact=True).click()
    page.get_by_role("option", name="Square tube 40 × 3").click()
    expect(page.get_by_text("Four posts, with rails")).to_be_visible()
    typed(page, "to right", "500 mm")
    page.get_by_role("button", name="Add frame").click()
    expect(page.get_by_role("heading", name="box", exact=True)).to_be_visible()
    expect(row(page, "post_front_left")).to_contain_text("700 mm long")
    expect(row(page, "rail_low_front")).to_contain_text("420 mm long")
    expect(row(page, "rail_low_front")).to_contain_text("×4")
    # another kind of frame, of so many
    page.get_by_role("button", name="Part", exact=True).click()
    page.get_by_role("menuitem", name="Frame of tubes").click()
    page.get_by_role("combobox", name="Frame", exact=True).click()
    page.get_by_role("option", name="Ladder").click()
    page.get_by_role("combobox", name="Rungs", exact=True).click()
    page.get_by_role("option", name="3", exact=True).click()
    typed(page, "front from", "900 mm")
    page.get_by_role("button", name="Add frame").click()
    expect(row(page, "rung_3")).to_contain_text("×3")


def test_ends_get_a_plate_and_are_pressed_flat_and_what_is_left_of_the_bar_goes_on_the_shelf(nothing):
    """A post of round tube from the ground: its foot a plate, its head flat with a hole; the saw's leavings wait on the shelf for the next design."""
    page = nothing
    page.keyboard.press("d")
    page.get_by_role("combobox", name="On it lies", exact=True).click()
    page.get_by_role("option", name="Round tube 33.7 × 2.6").click()
    place = middle(page, 0.4, 0.7)
    points_at(page, place, "on the ground")
    page.mouse.click(*place)
    points_at(page, (place[0], place[1] - 150), "to along z")
    run(page, "z", "400", "2")
    page.get_by_role("button", name="Done").click()
    row(page, "tube").click()
    page.get_by_role("button", name="Plate on end A").click()
    page.get_by_role("button", name="Put it on").click()
    expect(row(page, "tube_plate")).to_be_visible()
    plate = document_of(page)["parts"]["tube_plate"]
    assert plate["position"]["at"]["text"] == "tube.bottom" and plate["features"]["holes"]["rows"]["text"] == "2"
    long = row(page, "tube").inner_text()
    assert "400 mm long" not in long and "mm long" in long
    page.get_by_role("button", name="Work on end B").click()
    typed(page, "Pressed flat", "40 mm")
    expect(page.get_by_text("flat 40 long, 5.2 thick")).to_be_visible()
    typed(page, "Hole in it", "9 mm")
    expect(page.get_by_text("hole ⌀9 at 20")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("hole ⌀9 at 20")).to_be_hidden()
    page.get_by_text("Nest", exact=True).click()
    page.get_by_role("button", name="These bars are cut").click()
    expect(page.get_by_text("On the shelf: write R")).to_be_visible()
    expect(page.get_by_role("button", name="These bars are cut")).to_be_hidden()


def saw_list(page) -> list[dict[str, str]]:
    with page.expect_download() as got:
        page.get_by_role("link", name="Saw list, CSV").click()
    return list(csv.DictReader(io.StringIO(got.value.path().read_text())))


def on_leg(page, numbers: dict[str, int], y: str, share: float) -> tuple[float, float]:
    """Where in the picture a place of a box's left leg is, by the points at its ends."""
    middles = []
    for end in ("low", "high"):
        box = page.get_by_role("button", name=f"box, point {numbers[f'left_{y}_{end}']}", exact=True).bounding_box()
        middles.append((box["x"] + box["width"] / 2, box["y"] + box["height"] / 2))
    return tuple(a + (b - a) * share for a, b in zip(*middles, strict=True))


def test_a_drying_rack_is_built_from_nothing_and_follows_its_depth(nothing):
    """A box of tube in connectors; a side that slopes between two legs, pressed on them; swivels put where it meets them; then another depth."""
    page = nothing
    page.get_by_role("button", name="Part", exact=True).click()
    page.get_by_role("menuitem", name="Frame of tubes").click()
    page.get_by_role("combobox", name="Of", exact=True).click()
    page.get_by_role("option", name="Round tube 33.7 × 2.6").click()
    page.get_by_role("combobox", name="Where they meet", exact=True).click()
    page.get_by_role("option", name="in connectors").click()
    page.get_by_role("button", name="Add frame").click()
    expect(page.get_by_role("heading", name="box", exact=True)).to_be_visible()
    expect(row(page, "corner_of_three")).to_contain_text("×8")
    expect(row(page, "rail_low_left")).to_contain_text("361.86 mm long")
    bars = page.locator(".strip")
    expect(bars).to_contain_text("Round tube 33.7 × 2.6")
    # a side that slopes: pressed on the front leg and on the back one
    page.keyboard.press("d")
    points = document_of(page)["frames"]["box"]["points"]
    numbers = {k: n for n, k in enumerate(sorted(points, key=lambda k: points[k]["order"]), 1)}

    for y, share, then in (("front", 0.45, "From on post front left"), ("back", 0.55, "From box, point 10")):
        place = on_leg(page, numbers, y, share)
        points_at(page, place, f"on post {y} left")
        page.mouse.click(*place)
        expect(said(page)).to_contain_text(then)
    page.get_by_role("button", name="Done").click()
    page.keyboard.press("Escape")
    expect(page.locator("header")).to_contain_text("problems")
    page.get_by_role("button", name=re.compile("^box \\d+ lines")).click()
    page.get_by_role("button", name="Connectors…").click()
    expect(page.get_by_text("Put 2 connectors on box.")).to_be_visible()
    page.get_by_role("button", name="Add connectors").click()
    expect(row(page, "swivel_tee")).to_contain_text("×2")
    card = page.get_by_role("complementary", name="Job card")
    expect(page.locator("header")).not_to_contain_text("problem")
    short = row(page, "tube").inner_text()
    # deeper: the points at the back say so, and tubes, connectors and bars follow
    row(page, "swivel_tee").click()
    expect(card).to_contain_text("runs through")
    expect(card).to_contain_text("30 mm deep")
    page.get_by_role("button", name=re.compile("^box, point \\d+$")).last.click()
    for key, n in numbers.items():
        if "_back_" in key:
            field = card.get_by_label("back", exact=True).nth(n - 1)
            field.fill("520 mm")
            field.press("Enter")
    expect(row(page, "rail_low_left")).to_contain_text("481.86 mm long")
    assert row(page, "tube").inner_text() != short
    expect(page.locator("header")).not_to_contain_text("problem")
    station(page, "Shop")
    rows = saw_list(page)
    assert any("swivel_tee" in r["Connectors from end A mm"] for r in rows)
    assert any("30 mm deep in swivel_tee" in r["End A"] for r in rows)


@pytest.fixture
def stand(page):
    return on_the_bench(page, "Tube stand", "foot")


def test_a_rail_is_coped_another_way_and_its_template_goes_out(stand, tmp_path):
    """The template of its end as DXF, the saw list as CSV; a post's joint is changed by one choice."""
    page = stand
    row(page, "rail_low_front").click()
    card = page.get_by_role("complementary", name="Job card")
    expect(card).to_contain_text("coped onto post front")
    with page.expect_download() as got:
        card.get_by_role("link", name="Template of end A, DXF").click()
    got.value.save_as(tmp_path / "template.dxf")
    (outline,) = ezdxf.readfile(tmp_path / "template.dxf").modelspace().query("LWPOLYLINE")
    points = [(x, y) for x, y, *_ in outline.get_points()]
    # once round 33.7 mm, and 20 mm under the shortest place
    assert max(x for x, _ in points) == pytest.approx(33.7 * 3.14159265, abs=1e-3)
    assert max(y for _, y in points) == pytest.approx(28.335, abs=0.01)
    row(page, "foot").click()
    card.get_by_role("button", name=re.compile("foot–post back")).click()
    expect(card).to_contain_text("Between the axes 90°")
    card.get_by_role("combobox", name="Kind of joint").click()
    page.get_by_role("option", name="Cope foot onto post back").click()
    expect(page.get_by_role("heading", name="Cope")).to_be_visible()
    row(page, "foot").click()
    expect(card).to_contain_text("coped onto post back")
    station(page, "Shop")
    rows = saw_list(page)
    assert any("coped onto post back" in (r["End A"], r["End B"]) for r in rows)


def test_the_bail_goes_round_the_box_and_its_table_follows(page):
    page = on_the_bench(page, "Carrying bail", "bail")
    row(page, "bail").click()
    card = page.get_by_role("complementary", name="Job card")
    table = card.get_by_role("table", name="Bender's table")
    expect(table.get_by_role("row").nth(2)).to_contain_text("396")
    expect(table).to_contain_text("93.6°")  # bent over, as it springs back
    station(page, "Sizes")
    entry(page, "width", "500 mm")
    row(page, "bail").click()
    expect(table.get_by_role("row").nth(2)).to_contain_text("476")
    station(page, "Shop")
    expect(page.get_by_role("link", name="Bender’s table, CSV")).to_be_visible()


def test_a_rod_is_bent_by_a_table_and_another_keeps_clear_of_what_is_pressed(page):
    on_the_bench(page, "Carrying bail", "bail")
    page.get_by_role("button", name="Part", exact=True).click()
    page.get_by_role("menuitem", name="Rod or tube bent by a table").click()
    page.get_by_role("button", name="Another bend").click()
    page.get_by_role("combobox", name="It runs").click()
    page.get_by_role("option", name="up", exact=True).click()
    typed(page, "Begins at y", "-50 mm")
    typed(page, "Bend 2", "180")
    expect(page.get_by_role("alert")).to_contain_text("bend 2")
    expect(page.get_by_role("button", name="Add it")).to_be_disabled()
    typed(page, "Bend 2", "90")
    # 300 mm straight, and two quarter circles of 40 mm
    expect(row(page, "bent_bar")).to_contain_text("425.66 mm long")
    page.get_by_role("button", name="Add it").click()
    expect(page.get_by_role("heading", name="bent bar", exact=True)).to_be_visible()
    # a rod that begins on the box stands off it by what is said, and half of its own thickness
    page.keyboard.press("Escape")
    page.keyboard.press("d")
    typed(page, "Keeps clear by", "5 mm")
    points_at(page, middle(page), "box")
    page.mouse.click(*middle(page))
    expect(said(page)).to_contain_text(re.compile("^From .*box"))
    typed(page, "Length", "120 mm")
    page.get_by_role("button", name="Draw it").click()
    expect(page.get_by_role("button", name="Join what meets")).to_be_visible()
    texts = [e["text"] for f in document_of(page)["frames"].values() for p in f["points"].values() for e in p.get("at", {}).values()]
    assert any(re.fullmatch(r"box\.(top|front|right) [+-] \(5 mm \+ 4 mm\)", t) for t in texts), texts
