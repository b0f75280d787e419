"""A leg traced over a scanned sketch: the picture is laid, scaled, levelled, led by hand and locked, then drawn over."""

import math

from playwright.sync_api import expect

from tests.browser.by_hand import document_of
from tests.browser.sketches import CROSSES, EDGE, Sketch
from tests.browser.test_joints import bench
from tests.browser.test_outline import Sheet, soon
from zygon.design.draft import Draft

SEEN = Sketch()


def leg():
    d = Draft("Leg", "ply12", cutter="router")
    d.board("leg", "ply12", "facing_front", "0", ("0", "260 mm"), ("0", "120 mm"))
    return d.document().dump()


def backdrop_of(page):
    return document_of(page)["parts"]["leg"]["outline"]["drawing"]["backdrop"]


def on_screen(page, place):
    """Where a place on the paper is seen in the window, by the matrix that the page lays the picture with."""
    return page.evaluate(
        """([i, j]) => {
            const img = document.querySelector("[data-testid=backdrop]");
            const box = img.parentElement.getBoundingClientRect();
            const p = new DOMMatrix(getComputedStyle(img).transform).transformPoint({ x: i, y: j });
            return [box.x + p.x / p.w, box.y + p.y / p.w];
        }""",
        list(SEEN.pixel(*place)),
    )


def in_plane(b, place):
    """Where a place on the paper lies in the drawing's plane, by the record (mm)."""
    i, j = SEEN.pixel(*place)
    t = math.radians(b.get("turned", 0))
    x, y = i * b["scale"], (b["high"] - j) * b["scale"]
    return b["at"][0] + x * math.cos(t) - y * math.sin(t), b["at"][1] + x * math.sin(t) + y * math.cos(t)


def press(page, place):
    page.mouse.move(*on_screen(page, place), steps=2)
    page.mouse.click(*on_screen(page, place))


def lay(page, name, **more):
    before = backdrop_of(page)
    page.get_by_role("region", name="Picture behind it").get_by_role("button", name=name, exact=True).click()
    for cross in CROSSES:
        press(page, cross)
    for label, text in more.items():
        page.get_by_label(label.replace("_", " ")).fill(text)
        page.get_by_label(label.replace("_", " ")).press("Enter")
    soon(page, lambda: backdrop_of(page) != before)


def test_a_leg_is_drawn_over_a_scanned_sketch(page):
    bench(page, leg())
    page.locator(".partrow[data-part=leg]").click()
    page.get_by_role("combobox", name="Shape", exact=True).click()
    page.get_by_role("option", name="drawn freely").click()
    sheet = Sheet(page, other=("p3", 260, 120))
    with page.expect_file_chooser() as chosen:
        page.get_by_role("button", name="Lay a picture behind it…").click()
    chosen.value.set_files({"name": "leg sketch.png", "mimeType": "image/png", "buffer": SEEN.png()})
    expect(page.get_by_test_id("backdrop")).to_be_visible()
    expect(page.get_by_role("region", name="Picture behind it")).to_contain_text("leg sketch.png")

    lay(page, "Scale", How_far_apart="200 mm")
    b = backdrop_of(page)
    assert abs(math.dist(in_plane(b, CROSSES[0]), in_plane(b, CROSSES[1])) - 200.0) < 0.1
    lay(page, "Level")
    (ax, ay), (bx, by) = (in_plane(backdrop_of(page), c) for c in CROSSES)
    assert abs(by - ay) < 0.1 and abs(bx - ax - 200.0) < 0.1

    # led by hand where nothing else lies, until the leg is on the board; what is seen is where the record says it lies
    spot = (150, 60)
    x, y = on_screen(page, spot)
    u, v = in_plane(backdrop_of(page), spot)
    page.mouse.move(x, y)
    page.mouse.down()
    for n in range(1, 6):
        page.mouse.move(*sheet.at(u - 6 * n, v - 2 * n))
    page.mouse.up()
    soon(page, lambda: abs(in_plane(backdrop_of(page), spot)[0] - (u - 30)) < 0.2)
    soon(page, lambda: math.dist(on_screen(page, spot), sheet.at(u - 30, v - 10)) < 0.7)
    page.get_by_role("switch", name="Locked").click(force=True)
    expect(page.get_by_role("region", name="Picture behind it").get_by_role("button", name="Move")).to_be_disabled()
    locked = backdrop_of(page)

    sheet.tool("Curve")
    page.keyboard.down("Alt")
    for place in EDGE:
        press(page, place)
    page.keyboard.up("Alt")
    page.keyboard.press("Enter")
    sheet.drawn("spline", 1)
    drawing = document_of(page)["parts"]["leg"]["outline"]["drawing"]
    [curve] = [c for c in drawing["curves"].values() if c["kind"] == "spline"]
    for key, place in zip(curve["through"], EDGE, strict=True):
        assert math.dist((drawing["points"][key]["x"], drawing["points"][key]["y"]), in_plane(locked, place)) < 0.35
    assert backdrop_of(page) == locked

    page.get_by_role("button", name="Take it away").click()
    expect(page.get_by_test_id("backdrop")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_test_id("backdrop")).to_be_visible()


def test_what_is_no_picture_is_said_and_nothing_changes(page):
    bench(page, leg())
    page.locator(".partrow[data-part=leg]").click()
    page.get_by_role("combobox", name="Shape", exact=True).click()
    page.get_by_role("option", name="drawn freely").click()
    expect(page.get_by_test_id("sheet")).to_be_visible()
    with page.expect_file_chooser() as chosen:
        page.get_by_role("button", name="Lay a picture behind it…").click()
    chosen.value.set_files({"name": "notes.png", "mimeType": "image/png", "buffer": b"only words"})
    section = page.get_by_role("region", name="Picture behind it")
    expect(section.get_by_role("alert")).to_contain_text("notes.png is no picture that can be read")
    expect(page.get_by_test_id("backdrop")).to_have_count(0)
