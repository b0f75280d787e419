"""Takes the pictures of docs/screenshots from a running demo: ``python scripts/pictures.py http://127.0.0.1:8460/``."""

from __future__ import annotations

import re
import shutil
import sys
from pathlib import Path

from playwright.sync_api import Locator, Page, expect, sync_playwright

OUT = Path(__file__).resolve().parents[1] / "docs" / "screenshots"
ARGUMENTS = [
    "--no-sandbox",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
]


def take(page: Page, name: str) -> None:
    """Waits until nothing is on its way, and takes one picture."""
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(700)
    page.screenshot(path=OUT / f"{name}.png")


def main(address: str) -> None:
    """All pictures."""
    expect.set_options(timeout=60_000)
    OUT.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium-headless-shell") or "/usr/bin/chromium", args=ARGUMENTS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(address)
        page.get_by_role("button", name="Open the demo workshop").click()
        expect(page.get_by_role("heading", name="Designs")).to_be_visible()
        page.locator(".design img").first.wait_for()
        page.wait_for_function("() => [...document.images].every((i) => i.complete && i.naturalWidth)", timeout=60_000)
        take(page, "designs")
        page.get_by_role("link", name="Open Brood box", exact=True).click()
        expect(page.locator(".partrow[data-part=front]")).to_be_visible()
        expect(page.locator(".strip .estimate")).to_have_count(0)
        page.get_by_test_id("scene").locator("canvas").wait_for()
        page.locator(".partrow[data-part=cover]").click()
        page.keyboard.press("g")
        page.keyboard.press("Escape")
        page.locator(".linkrow", has_text="front–left").first.click()
        take(page, "build")
        page.keyboard.press("Escape")
        page.keyboard.press("1")
        take(page, "sizes")
        page.keyboard.press("3")
        page.locator(".partrow[data-part=left]").click()
        take(page, "flats")
        page.keyboard.press("Escape")
        page.keyboard.press("4")
        by_hand(page)
        page.keyboard.press("5")
        take(page, "shop")
        papers(page)
        page.goto(f"{address.rstrip('/')}/")
        hive_floor(page)
        page.goto(f"{address.rstrip('/')}/")
        outline(page)
        page.goto(f"{address.rstrip('/')}/")
        together(page)
        page.goto(f"{address.rstrip('/')}/")
        roof(page)
        page.goto(address)
        electronics_box(page)
        page.goto(address)
        drying_rack(page)
        page.goto(address)
        what_moves(page)
        at_the_machine(page, address)
        browser.close()


def what_moves(page: Page) -> None:
    """A lid opened as far as it goes, and a drawer drawn out."""
    page.get_by_role("link", name="Open Tool chest with a drawer", exact=True).click()
    page.get_by_test_id("scene").locator("canvas").wait_for()
    page.keyboard.press("m")
    page.locator(".moveoption").filter(has_text="turns: lid").click()
    expect(page.get_by_role("slider", name=re.compile("How far"))).to_be_enabled()
    page.get_by_role("button", name="open", exact=True).click()
    page.get_by_test_id("scene").hover()
    for _ in range(4):  # so that the lid is in sight
        page.mouse.wheel(0, 120)
    # what is drawn is read back once, or the picture is taken with a part of it not there yet
    page.evaluate("() => document.querySelector('[data-testid=scene] canvas').toDataURL().length")
    take(page, "moves")


def outline(page: Page) -> None:
    """A drawing on its face, a slot of it loose."""
    page.get_by_role("link", name="Open Clamp plate", exact=True).click()
    page.get_by_test_id("scene").locator("canvas").wait_for()
    expect(page.locator(".strip .estimate")).to_have_count(0)
    page.locator(".partrow[data-part=plate]").click()
    page.get_by_role("button", name="Draw on its face…").click()
    expect(page.get_by_test_id("freedoms")).to_have_text("Nothing is loose: every point is settled.")
    page.get_by_role("button", name=re.compile("^Leave out: distance across between")).click()
    expect(page.get_by_test_id("freedoms")).to_have_text("1 freedom left.")
    page.get_by_test_id("curve bore").hover(force=True)
    take(page, "outline")
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_test_id("freedoms")).to_have_text("Nothing is loose: every point is settled.")


def pull(page: Page, piece: Locator, dx: float, dy: float) -> None:
    """Drags a laid piece by so many pixels."""
    page.wait_for_timeout(900)
    piece.scroll_into_view_if_needed()
    box = piece.bounding_box()
    assert box
    x, y = box["x"] + box["width"] * 0.4, box["y"] + box["height"] * 0.3
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + dx / 2, y + dy / 2, steps=4)
    page.locator(".carried").wait_for()
    page.mouse.move(x + dx, y + dy, steps=4)
    page.mouse.up()
    expect(page.locator(".carried")).to_have_count(0)


def at_the_machine(page: Page, address: str) -> None:
    """What the power left half done."""
    page.goto(f"{address.rstrip('/')}/machines?machine=laser")
    page.get_by_test_id("bed").wait_for()
    take(page, "machine")


def by_hand(page: Page) -> None:
    """A piece laid by hand and locked, what the search found round it, and an offcut taken from the shelf."""
    own = page.get_by_role("region", name="Birch plywood 12 mm", exact=True)
    pull(page, own.locator("[data-laid=rest_front]").first, 300, 90)
    expect(page.locator(".strip .estimate")).to_have_count(0)
    laid = own.locator("[data-laid]").all()
    last = max(laid, key=lambda p: p.evaluate("e => e.getBoundingClientRect().right"))
    pull(page, last, 85, 8)
    page.get_by_role("button", name="Lock here").click()
    page.get_by_role("button", name="Unlock", exact=True).wait_for()
    own.get_by_role("button", name=re.compile("Nest the rest")).click()
    own.get_by_role("button", name="Compare the two").wait_for()
    own.evaluate("e => e.scrollIntoView()")
    take(page, "nest")
    for _ in range(3):  # the demo stays as it was
        page.keyboard.press("Control+z")
        page.wait_for_timeout(900)


def together(page: Page) -> None:
    """Several designs on common sheets, and the offcut shelf."""
    page.get_by_role("link", name="Cut together").click()
    page.get_by_role("button", name="New batch").last.click()
    for name in ("Brood box", "Frame tray", "Honey shelf"):
        page.get_by_role("button", name="Add a design").click()
        page.get_by_role("menuitem", name=name, exact=True).click()
        page.get_by_role("button", name=f"Take out {name}").wait_for()
    page.get_by_label("How often Brood box is made").fill("3")
    page.get_by_label("How often Brood box is made").blur()
    page.get_by_role("button", name=re.compile("Search for better")).wait_for()
    expect(page.locator(".estimate")).to_have_count(0)
    take(page, "together")
    page.get_by_role("link", name="Designs").click()
    page.get_by_role("link", name="Shelf", exact=True).click()
    page.locator(".offcut").first.wait_for()
    take(page, "shelf")


def roof(page: Page) -> None:
    """A flat pattern with one bend lit from its row."""
    page.get_by_role("link", name="Open Roof", exact=True).click()
    page.get_by_test_id("scene").locator("canvas").wait_for()
    page.keyboard.press("3")
    page.locator(".partrow[data-part=roof]").click()
    page.get_by_test_id("bend-table").locator("tbody tr").nth(2).click()
    take(page, "folded")


def electronics_box(page: Page) -> None:
    """The screws that hold a fan, the press brake."""
    page.get_by_role("link", name="Open Scale electronics", exact=True).click()
    page.get_by_test_id("scene").locator("canvas").wait_for()
    page.locator(".linkrow", has_text="fan screw").click()
    page.locator("aside.card").evaluate("(e) => e.scrollTo(0, 330)")
    take(page, "hardware")
    page.keyboard.press("Escape")
    page.keyboard.press("1")
    page.get_by_role("tab", name="Press brake").click()
    page.get_by_role("heading", name="Dies").scroll_into_view_if_needed()
    take(page, "brake")


def drying_rack(page: Page) -> None:
    """A tee of the drying rack with its sockets, and the points of its frame."""
    page.get_by_role("link", name="Open Drying rack", exact=True).click()
    page.get_by_test_id("scene").locator("canvas").wait_for()
    page.locator(".partrow[data-keys~=tee_front_left_1]").click()
    page.get_by_role("button", name="tee front left 2", exact=True).click()
    take(page, "frame")


def papers(page: Page) -> None:
    """The front's sheet, with the hand hold's size chosen, a picture for a customer, and a dry run."""
    page.get_by_role("radiogroup", name="What Shop shows").get_by_text("Papers").click()
    page.get_by_role("combobox", name="Sheet", exact=True).click()
    page.get_by_role("option").nth(1).click()
    page.locator("svg.papersheet[data-subject='part:front']").wait_for()
    page.locator(".paperheld[data-name='front/shape/feature:front:hold/1'] text").click()
    take(page, "papers")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Picture", exact=True).click()
    page.locator(".pictureroom canvas[data-taken]").wait_for(timeout=120_000)
    take(page, "picture")
    page.keyboard.press("Escape")
    page.get_by_role("radiogroup", name="What Shop shows").get_by_text("To the cutter").click()
    page.get_by_test_id("dry run").wait_for()
    time = page.get_by_role("slider", name="Time")
    time.press("Home")
    for _ in range(44):
        page.get_by_role("button", name="The next cut").click()
    take(page, "cutter")


def hive_floor(page: Page) -> None:
    """Put together step by step, and test pieces."""
    page.get_by_role("link", name="Open Hive floor", exact=True).click()
    page.get_by_test_id("scene").locator("canvas").wait_for()
    page.get_by_role("button", name="Put together").click()
    for _ in range(4):
        page.get_by_role("button", name="Step on").click()
    for _ in range(30):
        page.get_by_role("slider", name="Step of the assembly").press("ArrowLeft")
    take(page, "assembly")
    page.get_by_label("Leave the assembly").click()


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8460/")
