"""Outlines drawn freely, in the real browser: a clamp plate from a plain board, dragged, contradicted and mended; a shape against a neighbour; keys alone."""

import math
import re

from playwright.sync_api import expect

from tests.browser.by_hand import document_of
from tests.browser.test_joints import bench
from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.making.pipeline import build


def plain():
    d = Draft("Clamp", "ply12", cutter="router")
    d.size("tube", "32 mm")
    d.board("plate", "ply12", "lying", "0", ("0", "120 mm"), ("0", "80 mm"))
    d.board("wall", "ply12", "facing_side", "100 mm", ("10 mm", "70 mm"), ("plate.top", "60 mm"))
    return d.document().dump()


class Sheet:
    """The sheet over a face: places on it in mm, found by two points of the drawing whose places are known."""

    def __init__(self, page, one=("p1", 0, 0), other=("p3", 120, 80)):
        self.page = page
        expect(page.get_by_test_id("sheet")).to_be_visible()
        self.known = []
        for key, x, y in (one, other):
            circle = page.get_by_test_id(f"point {key}").locator("circle")
            expect(circle).to_be_visible()
            box = circle.bounding_box()
            self.known.append((box["x"] + box["width"] / 2, box["y"] + box["height"] / 2, x, y))

    def at(self, x, y):
        (ax, ay, u, v), (bx, by, s, t) = self.known
        return ax + (bx - ax) * (x - u) / (s - u), ay + (by - ay) * (y - v) / (t - v)

    def to(self, x, y):
        self.page.mouse.move(*self.at(x, y), steps=4)

    def press(self, x, y):
        self.to(x, y)
        self.page.mouse.click(*self.at(x, y))

    def tool(self, name):
        self.page.get_by_test_id("drawbar").get_by_role("button", name=name, exact=True).click()

    def choose(self, *places):
        """Presses places, all but the first with Shift."""
        self.press(*places[0])
        self.page.keyboard.down("Shift")
        for p in places[1:]:
            self.press(*p)
        self.page.keyboard.up("Shift")

    def act(self, name):
        self.page.get_by_test_id("drawbar").get_by_role("button", name=name, exact=True).click()

    def drawn(self, kind, many):
        """Waits until so many curves of a kind are there."""
        expect(self.page.locator(f"[data-testid^='curve {kind}']")).to_have_count(many)

    def freedoms(self, said):
        expect(self.page.get_by_test_id("freedoms")).to_have_text(said)


def opened(page, document, part="plate"):
    bench(page, document)
    page.get_by_role("button", name=re.compile(f"^{part}")).first.click()
    page.get_by_role("combobox", name="Shape", exact=True).click()
    page.get_by_role("option", name="drawn freely").click()
    return Sheet(page)


def area(page):
    built = build(Document.model_validate(document_of(page)))
    assert not built.faults, built.faults
    return sum(r.area for r in built.flats["plate"].flat.pieces)


def test_a_clamp_plate_is_drawn_dragged_contradicted_and_mended(page):
    sheet = opened(page, plain())
    sheet.freedoms("Nothing is loose: every point is settled.")
    sheet.tool("Slot")
    for p in ((20, 25), (20, 55), (26, 40)):
        sheet.press(*p)
    sheet.freedoms("4 freedoms left.")
    # the axis, from middle to middle, and the slot on its other side
    page.get_by_label("Helping").click()
    sheet.tool("Line")
    sheet.press(60, 0)
    sheet.press(60, 80)
    sheet.drawn("line", 7)
    page.get_by_label("Helping").click()
    sheet.tool("Choose")
    sheet.choose((14, 40), (26, 40), (20, 61), (20, 19), (60, 30))
    sheet.act("Again")
    page.get_by_role("menuitem", name="Mirrored about the last line chosen").click()
    sheet.drawn("arc", 4)
    sheet.freedoms("4 freedoms left.")
    sheet.tool("Circle")
    sheet.press(60, 40)
    sheet.to(70, 44)
    page.get_by_role("textbox", name="diameter").fill("tube + 0.5 mm")
    page.get_by_role("textbox", name="diameter").press("Enter")
    sheet.drawn("circle", 1)
    sheet.tool("Choose")
    dragged(page, sheet)
    contradicted(page, sheet)
    # rounded corners, by the points and a figure
    sheet.choose((0, 0), (120, 0), (120, 80), (0, 80))
    sheet.act("Round")
    page.get_by_role("textbox", name="Radius").fill("8 mm")
    page.get_by_role("textbox", name="Radius").press("Enter")
    sheet.drawn("arc", 8)
    wanted = 9600 - (4 - math.pi) * 64 - math.pi * 16.25**2 - 2 * (41 * 12 + math.pi * 36)
    soon(page, lambda: abs(area(page) - wanted) < 0.05)
    page.get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_test_id("sheet")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    soon(page, lambda: area(page) > wanted + 1)


def dragged(page, sheet):
    # dragged: the slot takes its image along
    page.mouse.move(*sheet.at(20, 25))
    page.mouse.down()
    for n in range(1, 9):
        page.mouse.move(*sheet.at(20 + n, 25 + n / 2))
    page.mouse.up()
    soon(page, lambda: abs(drawing_of(page)["points"]["p5"]["x"] - 28) < 1.1)
    places = drawing_of(page)["points"]
    images = [r["of"] for r in drawing_of(page)["relations"].values() if r["kind"] == "mirrored" and r["of"][0] == "p5"]
    assert abs(places[images[0][1]]["x"] + places["p5"]["x"] - 120) < 1e-3


def contradicted(page, sheet):
    """How long the slot is, said twice with two figures, and one of them only measured."""
    places = drawing_of(page)["points"]
    x, low, high = places["p5"]["x"], places["p5"]["y"], places["p6"]["y"]
    sheet.choose((x, low), (x, high))
    sheet.act("Distance")
    sheet.freedoms("3 freedoms left.")
    sheet.press(x - 6, (low + high) / 2)
    sheet.act("Distance")
    expect(page.locator(".relationrow[data-state=measured]")).to_have_count(1)
    page.get_by_role("button", name=re.compile("^Let it hold")).first.click()
    expect(page.locator(".relationrow[data-state=measured]")).to_have_count(0)
    entry = page.locator(".relationrow input").last
    entry.fill("41 mm")
    entry.press("Enter")
    clash = page.get_by_test_id("contradiction")
    expect(clash).to_contain_text("41 mm")
    expect(clash.get_by_role("button", name=re.compile("^Leave out"))).to_have_count(4)
    clash.get_by_role("button", name=re.compile("^Only measure: distance between")).click()
    expect(clash).to_have_count(0)


def drawing_of(page):
    return document_of(page)["parts"]["plate"]["outline"]["drawing"]


def test_what_is_drawn_to_a_neighbour_follows_it_and_a_line_goes_on(page):
    sheet = opened(page, plain())
    # a chain of lines closes on its first point, and begins on the wall's near side, which lies at 100 mm
    sheet.tool("Line")
    for p in ((100, 20), (80, 20), (80, 50), (100, 20)):
        sheet.press(*p)
    sheet.drawn("line", 7)
    kinds = [r["kind"] for r in drawing_of(page)["relations"].values()]
    assert kinds.count("on") == 4 + 1
    [wall] = [r for r in drawing_of(page)["references"].values() if r.get("x", {}).get("text") == "wall.left"]
    assert wall["seen"][0] == 100
    assert abs(area(page) - (9600 - 20 * 30 / 2)) < 0.5


def test_keys_alone_choose_relate_and_nudge(page):
    d = plain()
    sheet = opened(page, d)
    sheet.tool("Circle")
    sheet.press(60, 40)
    sheet.press(70, 40)
    sheet.drawn("circle", 1)
    page.keyboard.press("Escape")
    point = page.get_by_role("button", name="point 5, can move", exact=True)
    point.focus()
    before = drawing_of(page)["points"]["p5"]
    page.keyboard.press("ArrowRight")
    soon(page, lambda: abs(drawing_of(page)["points"]["p5"]["x"] - before["x"] - 1) < 1e-3)
    page.get_by_role("button", name="point 5, can move", exact=True).focus()
    page.keyboard.press(" ")
    sheet.act("Held where it is")
    expect(page.get_by_role("button", name="point 5, settled", exact=True)).to_be_visible()
    sheet.freedoms("1 freedom left.")
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("sheet")).to_have_count(0)


def soon(page, so):
    """Waits until something is so in what is kept."""
    for _ in range(400):
        if so():
            return
        page.wait_for_timeout(50)
    raise AssertionError(document_of(page)["parts"])
