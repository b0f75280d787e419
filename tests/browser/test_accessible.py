"""Every view by keyboard and screen reader: axe-core's rules of WCAG 2.1 A and AA, contrast among them, in both papers; nothing serious is found."""

import json
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import on_the_bench

AXE = (Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()
RUN = """async () => {
  const { violations } = await axe.run(document, { runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa"] });
  return violations.filter((v) => v.impact === "serious" || v.impact === "critical")
    .map((v) => ({ rule: v.id, where: v.nodes.slice(0, 4).map((n) => n.target.join(" ") + " | " + n.html.slice(0, 120) + " | " + (n.any[0] ? n.any[0].message : "")) }));
}"""


def serious(page, name):
    page.evaluate(AXE)
    found = page.evaluate(RUN)
    return [f"{name}: {f['rule']}\n  " + "\n  ".join(f["where"]) for f in found]


def station(page, name):
    page.get_by_role("navigation", name="Job line").get_by_role("button", name=name).click()


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_nothing_serious_is_found_on_any_view(brood, scheme):
    page = brood
    page.evaluate("(s) => localStorage.setItem('mantine-color-scheme-value', s)", scheme)
    page.reload()
    found = []
    expect(page.locator(f"html[data-mantine-color-scheme={scheme}]")).to_have_count(1)
    expect(page.locator("canvas[data-framed]")).to_be_visible()
    found += serious(page, "build")
    page.locator(".partrow[data-part=front]").click()
    expect(page.get_by_role("heading", name="front", exact=True)).to_be_visible()
    found += serious(page, "a part's card")
    page.keyboard.press("Escape")
    page.locator(".linkrow", has_text="front–left").first.click()
    expect(page.get_by_role("heading", name="Finger joint")).to_be_visible()
    found += serious(page, "a joint's card")
    page.keyboard.press("Escape")
    page.keyboard.press("b")
    expect(page.get_by_role("heading", name="Place a board")).to_be_visible()
    found += serious(page, "a board in hand")
    page.keyboard.press("Escape")
    page.keyboard.press("/")
    expect(page.get_by_label("What do you want?")).to_be_focused()
    found += serious(page, "the quick bar")
    page.keyboard.press("Escape")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_be_visible()
    found += serious(page, "the shortcuts")
    page.keyboard.press("Escape")
    for name in ("Sizes", "Flats", "Nest", "Shop"):
        station(page, name)
        expect(page.locator(".strip .estimate")).to_have_count(0)
        found += serious(page, name)
    for what, there in (("Papers", ".papersheet"), ("To the cutter", "[data-testid='dry run']")):
        page.get_by_role("radiogroup", name="What Shop shows").get_by_text(what).click()
        expect(page.locator(there)).to_be_visible(timeout=60_000)
        found += serious(page, what)
    page.goto(page.url.split("/designs/")[0] + "/")
    expect(page.get_by_role("heading", name="Designs")).to_be_visible()
    found += serious(page, "home")
    page.get_by_role("button", name="New design").click()
    expect(page.get_by_role("button", name="Begin")).to_be_visible()
    found += serious(page, "a new design")
    page.keyboard.press("Escape")
    for path, heading in (("together", "Cut together"), ("bars", "Cut bars"), ("shelf", "Shelf"), ("machines", "At the machine")):
        page.goto(page.url.rstrip("/").rsplit("/", 1)[0] + f"/{path}" if page.url.rstrip("/").count("/") > 2 else page.url + path)
        expect(page.get_by_role("heading", name=heading).first).to_be_visible()
        found += serious(page, path)
    assert not found, "\n".join(found)


def test_the_check_sees_what_is_wrong(page):
    page.set_content('<html lang="en"><title>x</title><main><h1>x</h1><img src="x"><p style="color:#aaa;background:#fff">pale</p></main>')
    said = json.dumps(serious(page, "made wrong"))
    assert "image-alt" in said and "color-contrast" in said


@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_nothing_serious_is_found_where_things_are_moved(page, scheme):
    on_the_bench(page, "Tool chest with a drawer", "lid")
    page.evaluate("(s) => localStorage.setItem('mantine-color-scheme-value', s)", scheme)
    page.reload()
    expect(page.locator(f"html[data-mantine-color-scheme={scheme}]")).to_have_count(1)
    expect(page.locator(".partrow[data-part=lid]")).to_be_visible()
    page.keyboard.press("m")
    expect(page.locator(".moveoption").filter(has_text="turns: lid")).to_contain_text("105°", timeout=60_000)
    page.locator(".moveoption").filter(has_text="turns: lid").click()
    page.get_by_role("button", name="closed", exact=True).click()
    expect(page.locator(".struck")).to_be_visible()
    assert serious(page, "what moves") == []
