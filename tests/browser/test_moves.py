"""What moves, in the real browser: a lid stopped by what stands behind it until its hinges move, a crank pulled round, end play asked and mended."""

import re

from playwright.sync_api import expect

from tests.browser.by_hand import document_of
from tests.browser.conftest import on_the_bench
from tests.browser.test_hardware import station
from tests.browser.test_joints import bench
from zygon.design.draft import Draft


def moving(page):
    page.get_by_role("button", name="Move", exact=True).click()
    expect(page.get_by_test_id("moves")).to_be_visible()
    expect(page.get_by_role("slider", name=re.compile("How far"))).to_be_enabled(timeout=60_000)


def far(page) -> float:
    """How far what is chosen is moved, as it is shown."""
    return float(re.sub(r"[^0-9.\-]", "", page.get_by_test_id("moved").inner_text()))


def to_the_end(page):
    page.get_by_role("slider", name=re.compile("How far")).press("End")


def typed(page, label, text):
    entry = page.get_by_role("textbox", name=label, exact=True)
    entry.fill(text)
    entry.press("Enter")


def chest_before_a_wall():
    d = Draft("Chest before a wall", "ply18", cutter="router")
    d.size("room", "30 mm", note="from the chest to the wall")
    d.board("back", "ply18", "facing_front", "300 mm", ("0", "420 mm"), ("0", "220 mm"), face="back")
    d.board("front", "ply18", "facing_front", "0", ("0", "420 mm"), ("0", "220 mm"))
    d.board("floor", "ply18", "lying", "0", ("0", "420 mm"), ("front.back", "back.front"))
    for end in ("front", "back"):
        d.joint("dowels", "floor", end)
    d.board("wall", "ply18", "facing_front", "300 mm + room", ("0", "420 mm"), ("0", "700 mm"))
    d.data["ties"]["wall"] = {"a": "wall", "b": "back", "how": "held"}
    d.board("lid", "ply18", "lying", "back.top", ("0", "420 mm"), ("0", "300 mm"))
    d.put(
        "hinge",
        "butt hinge - 50",
        {"x": "210 mm", "y": "back.back", "z": "mid(back.top, lid.bottom)"},
        by={"y": "lies_a"},
        looks="+y",
        along="-x",
        moved="180 deg",
        on={"a": "back", "b": "lid"},
    )
    return d.document().dump()


def test_a_lid_strikes_the_wall_and_no_longer_does_once_there_is_room(page):
    bench(page, chest_before_a_wall())
    moving(page)
    lid = page.locator(".moveoption").filter(has_text="turns: lid")
    expect(lid).to_contain_text("lid strikes wall")
    lid.click()
    to_the_end(page)
    expect(page.get_by_test_id("reached")).to_have_text(re.compile(r"°: lid strikes wall$"))
    expect(page.locator(".struck")).to_have_text("lid strikes wall")
    short = far(page)
    assert 80 < short < 120
    # asked for more than it can, it is a problem, which goes with room enough
    page.get_by_role("button", name="Name it, limit it, ask for play or room").click()
    typed(page, "Not over", "110 deg")
    expect(page.get_by_text(re.compile("lid strikes wall at .*, and it is to go to 110°"))).to_be_visible(timeout=30_000)
    station(page, "sizes")
    typed(page, "room", "180 mm")
    station(page, "build")
    moving(page)
    expect(page.locator(".moveoption").filter(has_text="turns: lid")).to_contain_text("110°: its limit", timeout=30_000)
    expect(page.get_by_text("lid strikes wall")).to_have_count(0)


def test_a_crank_is_pulled_round_played_and_set_back(page):
    on_the_bench(page, "Hand crank", "crank")
    moving(page)
    expect(page.locator(".moveoption").filter(has_text="turns: shaft, crank, handle")).to_contain_text(
        "turns all round; 2.4 mm of end play"
    )
    area = page.get_by_test_id("scene").bounding_box()
    # the handle sticks out to the right of the middle, over it
    handle = page.evaluate(HANDLE)
    assert handle, "the handle is in sight"
    page.mouse.move(*handle)
    page.mouse.down()
    page.mouse.move(handle[0], handle[1] + area["height"] * 0.12, steps=6)
    page.mouse.move(handle[0] - area["width"] * 0.05, handle[1] + area["height"] * 0.3, steps=10)
    page.mouse.up()
    assert abs(far(page)) > 20
    page.get_by_role("button", name="As drawn").click()
    assert far(page) == 0
    page.get_by_role("button", name="Play crank_turns").first.click()
    expect(page.get_by_role("button", name="Stop", exact=True)).to_be_visible()
    expect(page.get_by_role("button", name="Stop", exact=True)).to_have_count(0, timeout=20_000)
    assert far(page) == 0
    page.keyboard.press("m")
    expect(page.get_by_test_id("moves")).to_have_count(0)


#: A place of the picture where the handle is under the pointer.
HANDLE = """() => {
    const canvas = document.querySelector('[data-testid=scene] canvas');
    const box = canvas.getBoundingClientRect();
    return [box.left + box.width * 0.72, box.top + box.height * 0.36];
}"""


def test_end_play_is_asked_and_mended_by_a_ring(page):
    on_the_bench(page, "Hand crank", "crank")
    moving(page)
    typed(page, "End play at most", "2 mm")
    problem = page.get_by_text(re.compile("2.4 mm of end play, between shaft and bearing.right"))
    expect(problem.first).to_be_visible(timeout=30_000)
    page.get_by_role("button", name=re.compile("Move the ring at end . of shaft")).first.click()
    expect(problem).to_have_count(0, timeout=30_000)
    expect(page.locator(".moveoption").filter(has_text="turns: shaft")).to_contain_text("1.5 mm of end play", timeout=30_000)
    rings = [e["ring"]["text"] for e in document_of(page)["parts"]["shaft"]["worked"].values()]
    assert rings != ["4 mm", "crank.right - right.right - 2 mm"]


def test_positions_are_kept_and_gone_to_with_the_keyboard(page):
    on_the_bench(page, "Tool chest with a drawer", "lid")
    page.keyboard.press("m")
    expect(page.get_by_role("slider", name=re.compile("How far"))).to_be_enabled(timeout=60_000)
    drawer = page.locator(".moveoption").filter(has_text="slides: drawer left")
    drawer.focus()
    page.keyboard.press("Enter")
    to_the_end(page)
    assert far(page) == 350
    page.get_by_role("textbox", name="Name of this position").fill("out")
    page.get_by_role("button", name="Keep as it is now").click()
    expect(page.get_by_role("button", name="out", exact=True)).to_be_visible()
    page.get_by_role("button", name="closed", exact=True).click()
    assert far(page) == 0
    page.get_by_role("button", name="out", exact=True).click()
    assert far(page) == 350
    position = next(p for p in document_of(page)["positions"].values() if p["name"] == "out")
    assert position["at"]["drawer"]["text"].startswith("350")


def test_what_hangs_together_goes_together(page):
    on_the_bench(page, "Fold-down leg", "leg")
    moving(page)
    expect(page.locator(".moveoption").filter(has_text="turns: leg")).to_contain_text("90°: its limit", timeout=60_000)
    page.get_by_role("button", name="folded", exact=True).click()
    assert far(page) == 90
    page.locator(".moveoption").filter(has_text="turns: stay").click()
    assert 90 < far(page) < 110
