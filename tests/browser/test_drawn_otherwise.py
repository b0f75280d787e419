"""The one editor for what is no outline, in the real browser: a folded bracket's profile against a tube, a knob's half-profile, a bar's section, a bent rod's path."""

import re

from playwright.sync_api import expect

from tests.browser.by_hand import document_of
from tests.browser.test_joints import bench
from tests.browser.test_layout import entry as figure
from tests.browser.test_layout import row
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
