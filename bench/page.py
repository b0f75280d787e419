"""How quickly the page follows the hand, in headless Chromium with the picture drawn in software: run by ``make bench``; never part of the tests.

The reference is a move that turns the same picture, until the frame after it is drawn: the drawing alone.
"""

from __future__ import annotations

import json
import shutil
import statistics
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from playwright.sync_api import Page, expect, sync_playwright

from bench.run import SHORT, row, sixty_parts
from scripts.harden.application import Maker, running
from zygon.design.document import Document

CHROMIUM = shutil.which("chromium-headless-shell") or "/usr/bin/chromium"
ARGUMENTS = ["--no-sandbox", "--disable-quic", "--no-first-run", "--disable-gpu", "--enable-unsafe-swiftshader"]
#: Moves, and changed values, of which the median counts.
MOVES, VALUES = (4, 2) if SHORT else (30, 8)
#: A moment of rest (ms) between what is measured.
PAUSE = 600
#: The same after a changed value, until the quick nest that follows it has ended: while a value is dragged none runs either.
REST = 600 if SHORT else 3000
#: Boxes of six parts in each design.
DESIGNS = {"60 parts": 2 if SHORT else 10, "200 parts": 3 if SHORT else 33}
TARGETS = {"60 parts": "< 150 ms", "200 parts": "< 300 ms"}

#: From the pointer's move to the second frame after it: by then what the move changed has been drawn.
MOVED = """() => {
  window.taken = [];
  addEventListener("pointermove", (e) => {
    const began = e.timeStamp;
    requestAnimationFrame(() => requestAnimationFrame(() => window.taken.push(performance.now() - began)));
  }, { capture: true });
}"""
#: From what is typed to the first change of the cut list, drawn.
TYPED = """() => {
  window.taken = [];
  let began = 0;
  addEventListener("input", () => { began = performance.now(); }, { capture: true });
  new MutationObserver(() => {
    if (!began) return;
    const from = began;
    began = 0;
    requestAnimationFrame(() => window.taken.push(performance.now() - from));
  }).observe(document.querySelector(".list"), { subtree: true, characterData: true, childList: true });
}"""


def upload(maker: Maker, document: Document) -> str:
    """The design's key in the running application."""
    files = {"file": ("design.json", json.dumps(document.dump()), "application/json")}
    answer = maker.client.post("/api/designs/upload", files=files, headers=maker.proof())
    answer.raise_for_status()
    return str(answer.json()["id"])


def opened(page: Page, base: str, design: str) -> None:
    """The design's picture, whole."""
    page.goto(f"{base}/designs/{design}")
    expect(page.locator("canvas[data-framed]")).to_be_visible(timeout=120_000)
    page.wait_for_timeout(PAUSE)


def over_a_face(page: Page) -> tuple[float, float]:
    """Where in the picture a board in hand hangs before a face, and before the same one a little farther on."""
    area, ghost = page.get_by_test_id("scene").bounding_box(), page.get_by_test_id("ghost")
    assert area
    said = """(e) => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(
        () => setTimeout(() => r(e.dataset.over ? e.dataset.before : "")))))"""
    for i in range(400):
        x, y = (area["x"] + area["width"] * (0.15 + 0.7 * (i * 0.618 % 1)), area["y"] + area["height"] * (0.2 + 0.6 * (i * 0.755 % 1)))
        named = []
        for dx, dy in ((0, 0), (12, 8)):
            page.mouse.move(x + dx, y + dy)
            named.append(ghost.evaluate(said))
        if named[0] and named[0] == named[1] and "No " not in ghost.inner_text():
            page.wait_for_timeout(PAUSE)
            if " mm" in ghost.inner_text():
                return x, y
    raise SystemExit("A board in hand hangs nowhere.")


def moves(page: Page, x: float, y: float) -> float:
    """Median milliseconds of moves over the picture."""
    page.mouse.move(x, y)
    page.wait_for_timeout(PAUSE)
    page.wait_for_timeout(300)
    page.evaluate("() => { window.taken.length = 0; }")
    for i in range(MOVES):
        page.mouse.move(x + 2 + i % 9, y + i % 7)
        page.wait_for_function("n => window.taken.length >= n", arg=i + 1)
    return statistics.median(page.evaluate("() => window.taken"))


def values(page: Page, name: str, begin: int) -> float:
    """Median milliseconds from typing a size until the list says what follows."""
    field = page.get_by_role("list", name="Sizes").get_by_label(name, exact=True)
    expect(field).to_be_visible()
    field.focus()
    page.wait_for_timeout(PAUSE)
    page.evaluate("() => { window.taken.length = 0; }")
    for i in range(VALUES):
        field.fill(f"{begin + i} mm")
        page.wait_for_function("n => window.taken.length >= n", arg=i + 1)
        page.wait_for_timeout(REST)
    found = statistics.median(page.evaluate("() => window.taken"))
    field.press("Escape")
    page.wait_for_timeout(PAUSE)
    return found


def main() -> None:
    """Prints the table, line by line."""
    with running(ZYGON_QUICK_SECONDS="0.2") as application, sync_playwright() as playwright:
        maker = Maker(application.base)
        page = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS).new_page(viewport={"width": 1280, "height": 800})
        page.goto(application.base)
        page.get_by_role("button", name="Open the demo workshop").click()
        expect(page.get_by_role("heading", name="Designs")).to_be_visible()
        for what, boxes in DESIGNS.items():
            opened(page, application.base, upload(maker, sixty_parts(boxes)))
            page.evaluate(MOVED)
            page.keyboard.press("b")
            expect(page.get_by_role("heading", name="Place a board")).to_be_visible()
            place = over_a_face(page)
            calls: list[str] = []
            page.on("request", lambda r, calls=calls: calls.append(r.url))
            hanging = moves(page, *place)
            asked = len([c for c in calls if "/api/" in c])
            page.keyboard.press("Escape")
            area = page.get_by_test_id("scene").bounding_box()
            assert area
            page.mouse.move(area["x"] + 60, area["y"] + area["height"] - 90)
            page.mouse.down()
            plain = moves(page, area["x"] + 80, area["y"] + area["height"] - 90)
            page.mouse.up()
            row(f"{what}: the picture is turned", plain, "ms", "", "reference")
            row(f"{what}: a board in hand follows the pointer", hanging, "ms", "< 50 ms", f"{hanging / plain:.1f} x a turn; {asked} calls")
            page.keyboard.press("1")
            page.evaluate(TYPED)
            for name, begin, words, target in (("shelf", 151, "a sixth of the parts", TARGETS[what]), ("width", 261, "all the others", "")):
                typed = values(page, name, begin)
                row(
                    f"{what}: a typed size that {words} read, until they say it",
                    typed,
                    "ms",
                    target,
                    f"{typed / plain:.1f} x a turn",
                )


if __name__ == "__main__":
    main()
