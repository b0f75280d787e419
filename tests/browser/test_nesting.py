"""Nesting in the real interface: a run watched and stopped, pieces dragged and locked, layouts compared, offcuts kept and used."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import proof
from tests.browser.test_main_job import settled, station

pytestmark = pytest.mark.browser


def state(page):
    """The layouts as the server has them."""
    design = page.url.rstrip("/").split("/")[-1]
    return page.request.get(f"/api/designs/{design}/nest").json()


def pieces(page, stock="ply12"):
    layout = next(s for s in state(page)["stocks"] if s["stock"] == stock)["layout"]
    return {(p["part"], p["number"]): (n, p["x"], p["y"], p["locked"]) for n, s in enumerate(layout["sheets"]) for p in s["parts"]}


def section(page, name="Birch plywood 12 mm"):
    return page.get_by_role("region", name=name, exact=True)


#: A point of the screen where a piece is on top.
GRIP = """piece => {
  const b = piece.getBoundingClientRect();
  for (let i = 1; i < 20; i++)
    for (let j = 1; j < 20; j++) {
      const at = [b.left + (b.width * i) / 20, b.top + (b.height * j) / 20];
      if (document.elementFromPoint(...at)?.closest("[data-laid]") === piece) return at;
    }
}"""


def drag(page, piece, dx, dy):
    """Drags a laid piece by so many pixels, and waits until the hand carries it."""
    piece.scroll_into_view_if_needed()
    x, y = piece.evaluate(GRIP)
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + dx / 2, y + dy / 2, steps=3)
    expect(page.locator(".carried")).to_be_visible()
    page.mouse.move(x + dx, y + dy, steps=4)
    page.mouse.up()
    expect(page.locator(".carried")).to_have_count(0)


def test_a_run_is_watched_and_stopped_and_its_best_is_kept(brood):
    page = brood
    settled(page)
    station(page, "Nest")
    page.get_by_label("Search", exact=True).fill("60")
    page.get_by_label("Search", exact=True).press("Enter")
    settled(page)
    page.get_by_role("button", name="Search for better").click()
    expect(page.get_by_role("img", name=re.compile("Yield over time: Birch"))).to_be_visible()
    expect(page.get_by_text(re.compile(r"best so far \d+ sheets?, \d+ %"))).to_be_visible()
    page.get_by_role("button", name="Stop, keep the best").click()
    expect(page.get_by_role("button", name="Search for better")).to_be_visible()
    found = state(page)
    assert found["run"]["status"] == "cancelled" and found["run"]["trace"]
    assert all(s["current"] and not s["layout"]["unplaced"] for s in found["stocks"][:1])
    settled(page)


def test_a_piece_is_dragged_turned_locked_and_the_rest_nested_round_it(brood):
    page = brood
    settled(page)
    station(page, "Nest")
    own = section(page)
    expect(own.get_by_text("Drag a piece to lay it by hand.")).to_be_visible()
    before = pieces(page)
    # the piece that reaches farthest to the right has the offcut beside it
    laid = own.locator("[data-laid]").all()
    last = max(laid, key=lambda p: p.evaluate("e => e.getBoundingClientRect().right"))
    part = last.get_attribute("data-laid")
    drag(page, last, 60, 12)
    expect(own.get_by_text("laid by hand")).to_be_visible()
    settled(page)
    now = pieces(page)
    (moved,) = [k for k in now if now[k] != before[k]]  # it alone has moved
    assert moved[0] == part and now[moved][1] > before[moved][1] + 20

    bar = page.get_by_role("toolbar", name="The picked piece")
    expect(bar).to_contain_text(moved[0].replace("_", " "))
    bar.get_by_role("button", name="Lock here").click()
    expect(bar.get_by_role("button", name="Unlock")).to_be_visible()
    bar.get_by_role("button", name="Let go of the piece").click()  # it lies over what is below it
    expect(bar).to_have_count(0)
    drag(page, own.locator("[data-laid=rest_front]").first, 240, 60)
    settled(page)
    now = pieces(page)
    own.get_by_role("button", name="Nest the rest round 1 locked piece").click()
    own.get_by_role("button", name="Compare the two").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_role("region", name="Found by the search")).to_contain_text("Cost of the sheets")
    dialog.get_by_role("region", name="Found by the search").get_by_role("button", name="Keep this one").click()
    expect(dialog).to_have_count(0)
    settled(page)
    after = pieces(page)
    assert after[moved][:3] == pytest.approx(now[moved][:3]) and after[moved][3]
    assert any(after[k][:3] != now[k][:3] for k in after if k != moved)

    # undo as anywhere: the search's, a drag, the lock, a drag
    saved = page.get_by_text(re.compile(r"saved, revision \d+"))
    revision = int(re.search(r"\d+", saved.inner_text())[0])
    for more in range(1, 5):
        page.keyboard.press("Control+z")
        expect(saved).to_have_text(f"saved, revision {revision + more}")
    settled(page)
    expect(own.get_by_text("Drag a piece to lay it by hand.")).to_be_visible()
    assert pieces(page) == before


def test_a_cut_sheet_s_rest_goes_on_the_shelf_and_into_the_next_run(brood):
    page = brood
    settled(page)
    station(page, "Nest")
    own = section(page)
    own.get_by_role("button", name="It is cut: keep the rest").first.click()
    expect(own.get_by_role("status")).to_contain_text(re.compile(r"write R\d+ \("))
    label = re.search(r"R\d+", own.get_by_role("status").inner_text())[0]
    expect(own.get_by_text("· cut")).to_be_visible()
    # one more of a part: the sheet that is cut stays as it is, and the rest takes what it can
    own.get_by_role("button", name=re.compile("offcuts? of this stock on the shelf")).click()
    own.locator(f"[data-offcut={label}]").get_by_role("button", name="Use it here").click()
    expect(own.get_by_text("used here before new sheets")).to_contain_text(label)
    page.locator(".partrow[data-part=front]").click()
    saved = page.get_by_text(re.compile(r"saved, revision \d+"))
    revision = int(re.search(r"\d+", saved.inner_text())[0])
    page.get_by_label("Pieces", exact=True).fill("2")
    page.get_by_label("Pieces", exact=True).press("Enter")
    expect(saved).to_have_text(f"saved, revision {revision + 1}")
    settled(page)
    layout = next(s for s in state(page)["stocks"] if s["stock"] == "ply12")["layout"]
    assert layout["sheets"][0]["cut"] and [s["size"] for s in layout["sheets"]][1:] and layout["sheets"][1]["parts"]
    page.goto("/shelf")
    card = page.locator(f"[data-offcut={label}]")
    expect(card).to_contain_text("reserved for")
    card.get_by_role("button", name=f"More for {label}").click()
    page.get_by_role("menuitem", name="Throw away").click()
    expect(card).to_have_count(0)


def test_several_designs_are_cut_together(page):
    page.goto("/")
    page.get_by_role("link", name="Cut together").click()
    page.get_by_role("button", name="New batch").first.click()
    for name in ("Frame tray", "Honey shelf"):
        page.get_by_role("button", name="Add a design").click()
        page.get_by_role("menuitem", name=name, exact=True).click()
        expect(page.get_by_role("button", name=f"Take out {name}")).to_be_visible()
        expect(page.get_by_role("menu")).to_have_count(0)  # while it still closes, another click would not open it
    often = page.get_by_label("How often Frame tray is made")
    # the sheets of one of each stand until those of three are laid, and their files go with them
    expect(page.get_by_role("region", name="Sheets of the batch").get_by_role("link", name="DXF").first).to_be_visible()
    before = page.get_by_role("region", name="Sheets of the batch").get_by_role("link", name="DXF").first.get_attribute("href")
    often.fill("3")
    often.blur()
    sheets = page.get_by_role("region", name="Sheets of the batch")
    expect(sheets.get_by_role("heading", name=re.compile("Birch plywood 12 mm"))).to_be_visible()
    expect(sheets.get_by_role("link", name="DXF").first).not_to_have_attribute("href", before)
    expect(page.locator(".estimate")).to_have_count(0)
    expect(sheets.get_by_role("button", name=re.compile("Search for better"))).to_be_visible()
    with page.expect_download() as download:
        sheets.get_by_role("link", name="DXF").first.click()
    assert download.value.suggested_filename.endswith(".dxf")
    # a sheet goes to the machine, and its pieces are not laid out here any more until it is taken out of the queue
    sheets.get_by_role("button", name="Send").first.click()
    page.get_by_role("menuitem", name="This sheet to Laser").click()
    expect(page.get_by_role("status").filter(has_text=re.compile(r"\d+ pieces wait"))).to_be_visible(timeout=60_000)
    page.get_by_role("link", name="at the machine").click()
    expect(page.get_by_text(re.compile(r"Batch \d")).first).to_be_visible()
    for machine in page.request.get("/api/machines").json():
        for job in machine["queue"]:
            assert page.request.delete(f"/api/jobs/{job['id']}", headers=proof(page.context)).ok


def test_bars_are_cut_and_what_is_proven_is_said(page):
    page.goto("/")
    page.get_by_role("link", name="Cut bars").click()
    for n, (length, quantity) in enumerate((("1380", "22"), ("1520", "25")), 1):
        if n > 1:
            page.get_by_role("button", name="Another piece").click()
        page.get_by_label(f"Length of piece {n}").fill(length)
        page.get_by_label(f"How many of piece {n}").fill(quantity)
    page.get_by_label("Length of bar 1").fill("5600")
    page.get_by_role("button", name="Work it out").click()
    expect(page.get_by_role("status")).to_contain_text(re.compile(r"\d+ bars, cost \d+.00: proven"))
    expect(page.get_by_role("img", name="Pattern 1")).to_be_visible()
    page.get_by_label("Length of piece 1").fill("much")
    page.get_by_role("button", name="Work it out").click()
    expect(page.get_by_role("alert")).to_contain_text("Piece 1")
    page.reload()  # what was written is still there
    expect(page.get_by_label("Length of piece 2")).to_have_value("1520")
