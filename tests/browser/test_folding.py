"""Folded parts in the real browser: a plate becomes a tray, a radius becomes a problem and is mended, a row lights its bend, the DXF is read."""

import ezdxf
import pytest
from playwright.sync_api import expect

from tests.browser.test_joints import bench, saved
from tests.browser.test_layout import built_part, design, entry, row
from tests.browser.test_main_job import station
from zygon.design.draft import Draft

pytestmark = pytest.mark.browser


def plate() -> dict:
    d = Draft("Box base", "galv20")
    d.size("width", "160 mm")
    d.board("base", "galv20", "lying", "0", ("0", "width"), ("0", "100 mm"))
    return d.document().dump()


def flange(page, edge):
    """Adds a flange on an edge from the plate's card and leaves the flange's own card open."""
    row(page, "base").click()
    page.get_by_role("button", name="Add a flange").click()
    page.get_by_role("combobox", name="On").click()
    page.get_by_role("option", name=f"{edge} edge of the plate").click()
    page.get_by_role("button", name="Bend it up").click()
    expect(page.get_by_role("heading", name=f"{edge} flange")).to_be_visible()


def test_a_plate_becomes_a_tray_and_its_flat_is_cut(page, tmp_path):
    bench(page, plate())
    for n, edge in enumerate(("left", "right", "front", "back"), 2):
        flange(page, edge)
        saved(page, n)
    entry(page, "Length", "40 mm")
    saved(page, 6)
    base = built_part(page, "base")
    assert [round(h - low, 3) for low, h in zip(base["low"], base["high"], strict=True)] == [160, 100, 40]

    # a hole in the flange
    page.get_by_role("button", name="Hole", exact=True).click()
    saved(page, 7)

    # too tight a radius is said with its mend
    row(page, "base").click()
    entry(page, "Inside radius", "0.4 mm")
    saved(page, 8)
    expect(page.get_by_text("a bend of 0.4 mm inside radius").first).to_be_visible()
    page.get_by_role("button", name="Bend it to a radius").first.click()
    saved(page, 9)
    expect(page.get_by_text("a bend of 0.4 mm inside radius")).to_have_count(0)
    entry(page, "Inside radius", "2 mm")
    saved(page, 10)

    # what cannot be is said, and the part stands
    page.locator(".linkrow", has_text="back flange").click()
    entry(page, "Bent by", "200 deg")
    expect(page.get_by_text("under 180°").first).to_be_visible()
    page.get_by_label("Bent by", exact=True).fill("90 deg")
    page.get_by_label("Bent by", exact=True).press("Enter")

    station(page, "Flats")
    row(page, "base").click()
    table = page.get_by_test_id("bend-table")
    expect(table.locator("tbody tr")).to_have_count(4)
    table.locator("tbody tr").nth(3).click()
    expect(table.locator("tr.lit")).to_have_count(1)
    expect(page.get_by_role("heading", name="back flange")).to_be_visible()
    expect(table).to_contain_text("▲ up")
    page.get_by_text("Turned over", exact=True).click()
    expect(table).to_contain_text("▼ down")

    station(page, "Shop")
    with page.expect_download() as download:
        page.get_by_label("base as DXF", exact=True).click()
    download.value.save_as(tmp_path / "base.dxf")
    doc = ezdxf.readfile(tmp_path / "base.dxf")
    assert not doc.audit().has_issues
    lines = list(doc.modelspace().query("LINE[layer=='BEND_UP']"))
    assert len(lines) == 4 and not doc.modelspace().query("LINE[layer=='BEND_DOWN']")
    (outline,) = doc.modelspace().query("LWPOLYLINE[layer=='CUT_OUTSIDE']")
    xs = [x for x, _, _ in outline.get_points("xyb")]
    (flat,) = [r for k, r in design(page)["resources"].items() if k == built_part(page, "base")["flat"]]
    assert max(xs) - min(xs) == pytest.approx(flat["bounds"][2] - flat["bounds"][0] + flat["kerf"], abs=1e-3)
    assert len(doc.modelspace().query("CIRCLE[layer=='CUT_INSIDE']")) == 1
