"""The one editor for what is no outline, in the real browser: a folded bracket's profile against a tube, a knob's half-profile, a bar's section, a bent rod's path."""

import math
import re

from playwright.sync_api import expect

from tests.browser.by_hand import document_of
from tests.browser.test_joints import bench
from tests.browser.test_layout import entry as figure
from tests.browser.test_layout import row
from tests.browser.test_main_job import station
from tests.browser.test_outline import Sheet, soon
from zygon.check.run import check
from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.making.flats.flat import mesh_of
from zygon.making.pipeline import build


class Plane(Sheet):
    """A sheet whose scale is the same both ways, known by two points of the drawing."""

    def __init__(self, page, one, other):
        super().__init__(page, one, other)
        (ax, ay, u, v), (bx, by, s, t) = self.known
        self.scale = max(abs(bx - ax), abs(by - ay)) / max(abs(s - u), abs(t - v))

    def at(self, x, y):
        ax, ay, u, v = self.known[0]
        return ax + (x - u) * self.scale, ay - (y - v) * self.scale


def built_now(page):
    built = build(Document.model_validate(document_of(page)))
    assert not built.faults, [f.message for f in built.faults]
    return built


def profile(page):
    return document_of(page)["parts"]["base"]["folding"]["flanges"]["right"]["drawing"]


def bracket():
    """A plate of sheet, and a tube that runs beside its right edge, 28 mm above it."""
    d = Draft("Bracket", "galv20", "tube33")
    d.board("base", "galv20", "lying", "0", ("0", "120 mm"), ("0", "80 mm"))
    d.rod("tube", "tube33", "y", ("-60 mm", "140 mm"), x="base.right + 24 mm", z="base.top + 30 mm")
    return d.document().dump()


def test_a_folded_brackets_profile_is_drawn_round_a_tube_with_a_gap(page):
    bench(page, bracket())
    row(page, "base").click()
    page.get_by_role("button", name="Add a flange").click()
    page.get_by_role("combobox", name="What").click()
    page.get_by_role("option", name=re.compile("drawn profile")).click()
    page.get_by_role("combobox", name="On", exact=True).click()
    page.get_by_role("option", name="right edge of the plate").click()
    page.get_by_role("button", name="Draw it", exact=True).click()
    sheet = Plane(page, ("p1", 0, 0), ("p2", 0, 25))
    expect(page.get_by_role("heading", name="base: the profile on its edge")).to_be_visible()
    # its thickness lies away from the tube
    page.get_by_role("combobox", name="The line is").click()
    page.get_by_role("option", name=re.compile("^face B")).click()
    expect(page.get_by_role("combobox", name="The line is")).to_have_value(re.compile("^face B"))
    # on from its end: over the tube, and down behind it
    sheet.tool("Line")
    for p in ((0, 25), (0, 60), (50, 60), (50, 40)):
        sheet.press(*p)
    sheet.drawn("line", 4)
    sheet.tool("Choose")
    # the upper length and the one behind each keep 2 mm off the tube
    for n, line in ((2, (12, 60)), (3, (50, 44))):
        sheet.choose(line, (35.9, 41.9))
        sheet.act("Distance")
        figures = page.locator(".relationrow input")
        expect(figures).to_have_count(n)
        figures.last.fill("2 mm")
        figures.last.press("Enter")
        soon(page, lambda n=n: [r["entry"]["text"] for r in profile(page)["relations"].values() if "entry" in r].count("2 mm") == n - 1)
    page.get_by_role("button", name="Done", exact=True).click()
    page.wait_for_timeout(800)
    page.screenshot(path="/tmp/s4.png")
    bent(page, 30)
    # the tube moves, and the bracket with it
    row(page, "tube").click()
    figure(page, "from bottom", "base.top + 36 mm")
    soon(page, lambda: document_of(page)["parts"]["tube"]["at"]["z"]["text"] == "base.top + 36 mm")
    bent(page, 36)


def bent(page, up):
    """The bracket goes up, over the tube, whose middle lies so far up, and down behind it: its inner face is 2 mm off it above and behind."""
    built = built_now(page)
    fold = built.parts["base"].flat.fold
    assert [round(b.angle, 4) for b in fold.bends] == [1.5708, -1.5708, -1.5708]
    mesh = mesh_of(built.parts["base"].flat)[0].positions
    t = built.parts["base"].flat.thickness
    assert abs(mesh[:, 2].max() - (t + up + 33.7 / 2 + 2 + t)) < 1e-3
    assert abs(mesh[:, 0].max() - (120 + 24 + 33.7 / 2 + 2 + t)) < 1e-3
    assert not {p.fault.code for p in check(built)} & {"overlap", "clash"}


def knob():
    d = Draft("Knob", "tube33", "steel8")
    d.turned("knob", "z", ("0", "30 mm"), "40 mm", {"across": "30 mm", "length": "12 mm"}, {"across": "16 mm"}, at={"x": "0", "y": "0"})
    return d.document().dump()


def test_a_knobs_half_profile_is_drawn_on_and_rounded(page):
    bench(page, knob())
    row(page, "knob").click()
    page.get_by_role("button", name="Draw its half-profile freely…").click()
    sheet = Plane(page, ("p2", 15, 0), ("p3", 15, 12))
    sheet.freedoms("Nothing is loose: every point is settled.")
    # the foremost edge of its head, and the edge of its foot, are rounded
    sheet.choose((15, 12), (8, 30))
    sheet.act("Round")
    page.get_by_role("textbox", name="Radius").fill("3 mm")
    page.get_by_role("textbox", name="Radius").press("Enter")
    sheet.drawn("arc", 2)
    page.get_by_role("button", name="Done", exact=True).click()
    body = built_now(page).parts["knob"].body
    # by Pappus: the corners that went, each a square of 3 less a quarter round, about their own middles
    gone, off = 9 * (1 - math.pi / 4), 3 * (10 - 3 * math.pi) / (12 - 3 * math.pi)
    wanted = math.pi * (15**2 * 12 + 8**2 * 18) - sum(2 * math.pi * gone * (r - off) for r in (15, 8))
    assert abs(body.volume - wanted) < 0.5
    expect(row(page, "knob")).to_contain_text("half-profile as drawn")
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name="Draw its half-profile freely…")).to_be_visible()


def test_a_bars_section_is_drawn_and_every_piece_of_it_follows(page):
    d = Draft("Rail", "square40")
    d.rod("rail", "square40", "x", ("0", "500 mm"), y="0", z="0")
    bench(page, d.document().dump())
    before = built_now(page).parts["rail"].body.section.area
    station(page, "Sizes")
    page.get_by_role("tab", name="Stock").click()
    page.get_by_role("row", name=re.compile("Square tube")).get_by_role("button", name="Change").click()
    page.get_by_role("button", name="Draw its section freely…").click()
    expect(page.get_by_role("heading", name="Square tube 40 × 3: its section")).to_be_visible()
    sheet = Plane(page, ("p1", -14, -20), ("p3", 20, -14))
    # a groove for a panel in its upper side
    sheet.tool("Circle")
    sheet.press(0, 0)
    sheet.to(8, 0)
    page.get_by_role("textbox", name="diameter").fill("12 mm")
    page.get_by_role("textbox", name="diameter").press("Enter")
    sheet.drawn("circle", 1)
    # a loop in the hollow is no section, which is said; helping lines are none
    expect(page.get_by_text(re.compile("a loop lies in a hollow"))).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text(re.compile("a loop lies in a hollow"))).to_have_count(0)
    page.get_by_role("button", name="Done", exact=True).click()
    assert abs(built_now(page).parts["rail"].body.section.area - before) < 1e-3


def test_a_bent_rods_path_is_drawn_on_and_its_bender_s_table_follows(page):
    d = Draft("Hook", "steel8")
    d.frame("path", {"a": ("0", "0", "200"), "b": ("0", "0", "0"), "c": ("80", "0", "0")}, {"l": ("a", "b"), "m": ("b", "c")})
    d.member("hook", "steel8", "path", "l", "m", against="y", radius="20 mm")
    bench(page, d.document().dump())
    row(page, "hook").click()
    page.get_by_role("button", name="Draw its path freely…").click()
    sheet = Plane(page, ("a", 0, 200), ("c", 80, 0))
    sheet.tool("Line")
    sheet.press(80, 0)
    sheet.press(80, 60)
    expect(page.locator("[data-testid^='curve ']")).to_have_count(3)
    page.get_by_role("button", name="Done", exact=True).click()
    row(page, "hook").click()
    table = page.get_by_role("table", name="Bender's table")
    expect(table.get_by_role("row")).to_have_count(3)
    soon(page, lambda: abs(built_now(page).made["hook"].body.length - (340 - 4 * 20 + 2 * math.pi / 2 * 20)) < 1e-3)
