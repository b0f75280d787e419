"""Outlines from a file with layers: what was mended is listed, layers are chosen, all outlines become parts."""

import ezdxf
from playwright.sync_api import expect

from tests.browser.by_hand import document_of
from tests.browser.test_joints import bench
from tests.browser.test_outline import plain, soon


def sheet(path):
    doc = ezdxf.new()
    doc.header["$INSUNITS"] = 4
    space = doc.modelspace()
    space.add_lwpolyline([(0, 0), (300, 0), (300, 200), (0, 200)], close=True, dxfattribs={"layer": "SHEET"})
    for x in (10, 150):
        space.add_lwpolyline([(x, 10), (x + 90, 10), (x + 90, 70), (x, 70)], close=True, dxfattribs={"layer": "PARTS"})
    space.add_line((10, 10), (100, 10), dxfattribs={"layer": "PARTS"})
    doc.saveas(path)


def test_layers_are_chosen_and_all_outlines_become_parts(page, tmp_path):
    sheet(tmp_path / "sheet.dxf")
    bench(page, plain())
    page.locator(".partrow[data-part=plate]").click()
    page.get_by_role("combobox", name="Shape", exact=True).click()
    page.get_by_role("option", name="from a drawing (DXF, SVG)").click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Choose a drawing…").click()
    chooser.value.set_files(tmp_path / "sheet.dxf")
    found = page.get_by_role("region", name="Outlines of sheet.dxf")
    expect(found).to_contain_text("Doubled lines left out: 1")
    expect(found.get_by_role("button", name="Take it, 300 mm × 200 mm, 2 holes")).to_be_visible()
    found.get_by_role("checkbox", name="SHEET · 1 curve", exact=True).click()
    found.get_by_role("button", name="Take all 2 as parts").click()
    soon(page, lambda: len(document_of(page)["parts"]) == 3)
    lows = [p["spans"]["x"]["low"]["text"] for p in document_of(page)["parts"].values() if p["name"].startswith("plate")]
    assert lows == ["0", "(0) + 140 mm"]
