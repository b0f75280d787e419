"""Outlines of a file taken over: by a part alone, or by as many parts as there are, laid out as they lie in the file."""

import math

import ezdxf
import pytest

from zygon.design.draft import Draft
from zygon.design.patch import apply_patch, patched
from zygon.edits.operations import OPERATIONS
from zygon.errors import DocumentError
from zygon.exchange.outline_in import drawn_outline
from zygon.making.pipeline import build


def sheet(tmp_path):
    doc = ezdxf.new()
    doc.header["$INSUNITS"] = 4
    space = doc.modelspace()
    space.add_lwpolyline([(10, 20), (110, 20), (110, 80), (10, 80)], close=True)
    space.add_circle((60, 50), 10)
    space.add_circle((200, 50), 25)
    space.add_lwpolyline([(-40, 0), (-10, 0), (-10, 12.5), (-40, 12.5)], close=True)
    doc.saveas(tmp_path / "sheet.dxf")
    return drawn_outline(tmp_path / "sheet.dxf", "sheet.dxf")


def taken(document, part, shapes):
    body = {"operation": "take_outlines", "part": part, "shapes": shapes}
    label, patch = OPERATIONS["take_outlines"].model_validate(body).work(build(document))
    after = patched(document.dump(), patch)
    _, _, inverse = apply_patch(document.dump(), patch)
    assert patched(after.dump(), inverse).dump() == document.dump()
    return label, after


def board(plane, unit="mm", low="5 mm"):
    d = Draft("d", "ply12", unit=unit) if unit != "mm" else Draft("d", "ply12")
    d.size("start", low)
    d.board("tag", "ply12", plane, "0", ("start", "start + 40 mm"), ("0", "30 mm"))
    d.feature("tag", "h", "hole", ("centre", "0"), ("centre", "0"), diameter="4 mm")
    return d.document()


@pytest.mark.parametrize("plane", ["lying", "facing_front", "facing_side"])
def test_all_outlines_become_parts_as_they_lie(plane, tmp_path):
    found = sheet(tmp_path)
    label, after = taken(board(plane), "tag", found["shapes"])
    assert label == "3 outlines from sheet.dxf"
    built = build(after)
    assert not built.faults, [f.message for f in built.faults]
    names = [p.name for p in after.parts.values()]
    assert len(set(names)) == 3 and names[0] == "tag"
    areas = [sum(r.area for r in built.flats[k].flat.pieces) for k in after.parts]
    # the first keeps what was worked into it, a hole where its opening is already; the others begin bare
    assert areas == pytest.approx([6000 - math.pi * 100, math.pi * 625, 30 * 12.5])
    assert [bool(p.features) for p in after.parts.values()] == [True, False, False]
    # apart as they are in the file, along both ways of the plane
    frame = built.flats["tag"].frame
    lows = [[built.flats[k].span_box.span(a)[0] for a in (frame.u, frame.v)] for k in after.parts]
    for (u, v), shape in zip(lows, found["shapes"], strict=True):
        assert (u - lows[0][0], v - lows[0][1]) == pytest.approx((shape["at"][0] - 10, shape["at"][1] - 20))
    # they follow what the part was placed by
    moved = patched(after.dump(), [{"op": "replace", "path": "/sizes/start/entry/text", "value": "25 mm"}])
    later = build(moved)
    for k, (u, v) in zip(after.parts, lows, strict=True):
        assert [later.flats[k].span_box.span(a)[0] for a in (frame.u, frame.v)] == pytest.approx([u + 20, v])


def test_one_outline_is_the_part_s_own(tmp_path):
    found = sheet(tmp_path)
    label, after = taken(board("lying"), "tag", found["shapes"][:1])
    assert label == "tag: outline from sheet.dxf" and list(after.parts) == ["tag"]
    assert after.parts["tag"].spans["x"].low.text == "start"
    assert build(after).flats["tag"].flat.size == pytest.approx((100, 60))


def test_a_part_that_is_none_is_refused(tmp_path):
    with pytest.raises(DocumentError) as refused:
        taken(board("lying"), "nobody", sheet(tmp_path)["shapes"])
    assert refused.value.entry == "part"
