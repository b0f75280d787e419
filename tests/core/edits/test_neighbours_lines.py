"""A drawing against a neighbour's outline: its lines and arcs are followed, whichever way the boards lie, and what goes round in a circle is told."""

import math

import pytest

from tests.core.edits.test_drawings import act, drawn
from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.drawn.drawing import Reference
from zygon.edits.operations import OPERATIONS
from zygon.making.asked.drawings.of import place_of
from zygon.making.pipeline import build
from zygon.owner import part_id

PLANES = ("lying", "facing_front", "facing_side")


def pair(plane="lying", turned="0 deg", of=2):
    """Plates that lie on one another, both drawn; the first with a sloping side and a round bore."""
    d = Draft("d", "ply12").size("slope", "20 mm")
    for n in range(of):
        d.board("abc"[n], "ply12", plane, f"{40 * n} mm", (f"{5 * n} mm", f"{5 * n + 100} mm"), ("0", "60 mm"))
    document = d.document()
    data = document.dump()
    if turned != "0 deg":
        axis = {"lying": "z", "facing_front": "y", "facing_side": "x"}[plane]
        at = {x: {"text": "0"} for x in "xyz" if x != axis}
        data["parts"]["b"]["turns"] = {"t": {"axis": axis, "angle": {"text": turned}, "at": at}}
    document = Document.model_validate(data)
    for n in range(of):
        document = op(document, "begin_outline", part="abc"[n])
    for key, curve, a, b in (("a", "line5", (30, 0), (70, 60)),):
        document = act(document, "draw", part=key, tool="line", helping=True, presses=[{"x": a[0], "y": a[1]}, {"x": b[0], "y": b[1]}])
        assert curve in document.parts[key].outline.drawing.curves
    return act(document, "draw", part="a", tool="circle", presses=[{"x": 50, "y": 30}, {"x": 58, "y": 30}])


def op(document, operation, **fields):
    _, patch = OPERATIONS[operation].model_validate({"operation": operation, **fields}).work(build(document))
    return patched(document.dump(), patch)


def offered(document, part):
    place, _ = place_of(build(document), part)
    return {c.id: c for c in place.candidates()}


@pytest.mark.parametrize("plane", PLANES)
def test_lines_and_circles_of_a_parallel_outline_are_offered_where_they_lie(plane):
    document = pair(plane)
    found = offered(document, "b")
    # the second board begins 5 mm further
    assert found["line:a/line5"].reference.seen == pytest.approx([25, 0, 65, 60]) and found["line:a/line5"].words == "a's line 5"
    assert found["line:a/circle1"].reference.seen == pytest.approx([45, 30, 8])
    assert not any(k.startswith("line:b/") for k in found)
    assert not any(k.startswith("line:") for k in offered(document, "a") if "b/" not in k)


@pytest.mark.parametrize("plane", PLANES)
def test_what_is_drawn_to_them_follows(plane):
    document = pair(plane)
    document = act(
        document, "draw", part="b", tool="circle", presses=[{"x": 45, "y": 30, "on": "line:a/circle1.centre"}, {"x": 60, "y": 30}]
    )
    document = act(document, "relate_drawn", part="b", kind="equal", of=["circle1", "line:a/circle1"])
    document = act(document, "draw", part="b", tool="point", presses=[{"x": 25.5, "y": 1, "on": "line:a/line5"}])
    solved = drawn(document, part="b").solved
    assert solved.point("p5") == pytest.approx((45, 30)) and solved.radius("circle1") == pytest.approx(8)
    # the neighbour's bore moves and grows, its line is drawn elsewhere
    moved = act(document, "drag_drawn", part="a", to={"p7": (60, 20)}, radii={"circle1": 11.0})
    after = drawn(moved, part="b").solved
    where = drawn(moved, part="a").solved.point("p7")
    assert after.point("p5") == pytest.approx((where[0] - 5, where[1]), abs=1e-4)
    assert after.radius("circle1") == pytest.approx(drawn(moved, part="a").solved.radius("circle1"), abs=1e-4)
    assert not [f for f in build(moved).faults if f.code == "lost_reference"]
    gone = act(moved, "erase_drawn", part="a", keys=["circle1"])
    faults = [f for f in build(gone).faults if f.code == "lost_reference"]
    assert faults and faults[0].part == "b" and faults[0].entry.endswith("/line")
    # it stays where it lay when b was drawn, and can be told to
    assert drawn(gone, part="b").solved.point("p5") == pytest.approx((45, 30), abs=1e-4)
    mended = patched(gone.dump(), faults[0].mends[0].patch)
    assert not [f for f in build(mended).faults if f.code == "lost_reference"]


@pytest.mark.parametrize("turned", ["90 deg", "180 deg", "30 deg"])
def test_boards_turned_against_one_another_see_it_turned(turned):
    document = pair(turned=turned)
    found = offered(document, "b")["line:a/circle1"].reference.seen
    t = -math.radians(float(turned.split()[0]))
    x, y = 50 * math.cos(t) - 30 * math.sin(t), 50 * math.sin(t) + 30 * math.cos(t)
    assert found == pytest.approx([x - 5, y, 8], abs=1e-5)


def test_a_chain_is_followed_whatever_the_order():
    """What b draws by a, and c by b, is what it would be if all were drawn by a."""
    document = pair(of=3)
    document = act(
        document, "draw", part="b", tool="circle", presses=[{"x": 45, "y": 30, "on": "line:a/circle1.centre"}, {"x": 60, "y": 30}]
    )
    document = act(document, "relate_drawn", part="b", kind="equal", of=["circle1", "line:a/circle1"])
    document = act(
        document, "draw", part="c", tool="circle", presses=[{"x": 40, "y": 30, "on": "line:b/circle1.centre"}, {"x": 60, "y": 30}]
    )
    document = act(document, "relate_drawn", part="c", kind="equal", of=["circle1", "line:b/circle1"])
    path = "/parts/a/outline/drawing/curves/circle1/radius"
    later = patched(document.dump(), [{"op": "replace", "path": path, "value": 13.5}])
    for part in "bc":
        assert drawn(later, part=part).solved.radius("circle1") == pytest.approx(13.5, abs=1e-6)
    built = build(later)
    assert not [f for f in built.faults if f.code == "lost_reference"]
    areas = [sum(r.area for r in built.flats[k].flat.pieces) for k in "abc"]
    assert areas == pytest.approx([6000 - math.pi * 13.5**2] * 3)


def test_two_that_are_drawn_by_one_another_are_told():
    document = pair()
    document = act(
        document, "draw", part="b", tool="circle", presses=[{"x": 45, "y": 30, "on": "line:a/circle1.centre"}, {"x": 60, "y": 30}]
    )
    data = document.dump()
    drawing = data["parts"]["a"]["outline"]["drawing"]
    drawing["references"]["back"] = {"kind": "circle", "line": "b/circle1", "seen": [50, 30, 15], "order": 9}
    drawing["relations"]["back"] = {"kind": "same_centre", "of": ["circle1", "back"], "order": 99}
    faults = [f for f in build(Document.model_validate(data)).faults if f.code == "lost_reference"]
    assert {f.part for f in faults} == {"a", "b"} and "not drawn by this one" in faults[0].rule


@pytest.mark.parametrize("kind", ["disc", "ring"])
def test_a_parallel_disc_is_a_round_part_and_an_upright_one_is_none(kind: str) -> None:
    d = Draft("t", "ply12")
    d.board("plate", "ply12", "lying", "0", ("0", "200 mm"), ("0", "100 mm"))
    d.board("disc", "ply12", "lying", "30 mm", ("40 mm", "100 mm"), ("20 mm", "80 mm"))
    d.board("upright", "ply12", "facing_front", "30 mm", ("40 mm", "100 mm"), ("40 mm", "100 mm"))
    outline = {"kind": kind, **({"inner": {"text": "20 mm", "unit": "mm"}} if kind == "ring" else {})}
    for name in ("disc", "upright"):
        d.data["parts"][name]["outline"] = outline
    document = act(d.document(), "begin_outline", part="plate")
    found = {c.id: c.reference for c in place_of(build(document), "plate")[0].candidates() if c.reference.body}
    assert found == {part_id("disc"): Reference(kind="circle", body="disc", seen=[70, 50, 30])}
