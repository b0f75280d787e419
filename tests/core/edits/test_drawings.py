"""Outlines and shapes drawn on parts: what is built, what every act does, what follows what, and what cannot be. Areas are reckoned by hand."""

from __future__ import annotations

import math
from typing import Any

import pytest

from zygon.check.run import check
from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.design.examples import example
from zygon.design.operations import rename
from zygon.design.patch import apply_patch, patched
from zygon.drawing.freedoms import freedoms_of
from zygon.drawing.words import relation_words, thing_words
from zygon.edits.operations import OPERATIONS
from zygon.errors import DocumentError
from zygon.geometry.frame import FACES, frame_of
from zygon.making.asked.drawings.of import place_of
from zygon.making.datums.drawings import Drawn
from zygon.making.pipeline import build
from zygon.making.rooms.pulls import pulls

PLANES = ("lying", "facing_front", "facing_side")


def plate(plane: str = "lying", **more: Any) -> Document:
    """A plate of 120 by 80 mm whose outline is drawn, as it begins; beside it a wall, and a size."""
    d = Draft("d", "ply12").size("wide", "30 mm")
    d.board("plate", "ply12", plane, 5, ("10 mm", "130 mm"), ("20 mm", "100 mm"), **more)
    return did(d.document(), "begin_outline", part="plate")[1]


def did(document: Document, operation: str, **fields: Any) -> tuple[str, Document]:
    """The label of an operation and the document after it; it is taken back to the letter."""
    label, patch = OPERATIONS[operation].model_validate({"operation": operation, **fields}).work(build(document))
    after = patched(document.dump(), patch)
    _, _, inverse = apply_patch(document.dump(), patch)
    assert patched(after.dump(), inverse).dump() == document.dump()
    return label, after


def act(document: Document, operation: str, **fields: Any) -> Document:
    return did(document, operation, **{"part": "plate", **fields})[1]


def press(x: float, y: float, on: str = "", *seen: str) -> dict[str, Any]:
    return {"x": x, "y": y, "on": on, "seen": list(seen)}


def entry(text: str) -> dict[str, str]:
    return {"text": text, "unit": "mm"}


def drawn(document: Document, feature: str = "", part: str = "plate") -> Drawn:
    place, drawing = place_of(build(document), part, feature)
    return place.drawn(drawing)


def count(document: Document, feature: str = "") -> int:
    return freedoms_of(drawn(document, feature).solved).count


def area(document: Document, part: str = "plate") -> float:
    built = build(document)
    assert [f.message for f in built.faults] == []
    return sum(r.area for r in built.flats[part].flat.pieces)


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("outline", [None, "disc", "ring", "link"])
def test_an_outline_made_a_drawing_is_the_same_part_and_follows_its_spans(plane: str, outline: str | None) -> None:
    d = Draft("d", "ply12")
    d.board("plate", "ply12", plane, 5, ("10 mm", "130 mm"), ("20 mm", "140 mm" if outline in ("disc", "ring") else "100 mm"))
    said: dict[str, Any] = {"ring": {"inner": entry("40 mm")}, "link": {"low": entry("40 mm"), "bore_low": entry("12 mm")}}.get(
        outline or "", {}
    )
    if outline:
        d.data["parts"]["plate"]["outline"] = {"kind": outline, **said}
    before = d.document()
    label, after = did(before, "begin_outline", part="plate")
    assert label == "Draw the outline of plate"
    assert area(after) == pytest.approx(area(before), rel=1e-7)
    if outline is None:
        assert count(after) == 0
        axis = {"lying": "x", "facing_front": "x", "facing_side": "y"}[plane]
        data = after.dump()
        data["parts"]["plate"]["spans"][axis]["high"] = entry("90 mm")
        assert area(Document.model_validate(data)) == pytest.approx(80 * 80)


@pytest.mark.parametrize("plane", PLANES)
def test_a_clamp_plate_from_nothing(plane: str) -> None:
    """Two slots mirrored, a bore between them, rounded corners: 120 x 80 less corners, bore and slots."""
    d = plate(plane)
    d = act(d, "draw", tool="slot", presses=[press(20, 25), press(20, 55, "", "upright"), press(26, 40)])
    assert count(d) == 4
    d = act(d, "draw", tool="line", presses=[press(60, 0, "line1.middle"), press(60, 80, "line3.middle")], helping=True)
    names = [k for k, c in drawn(d).drawing.curves.items() if not c.helping][4:]
    middle = next(k for k, c in drawn(d).drawing.curves.items() if c.helping)
    d = act(d, "mirror_drawn", curves=names, about=middle)
    assert count(d) == 4
    d = act(d, "draw", tool="circle", presses=[press(60, 40, f"{middle}.middle"), press(70, 40)], figures={"diameter": entry("wide + 2")})
    d = act(d, "ease_corner", points=["p1", "p2", "p3", "p4"], how="round", size=entry("8 mm"))
    wanted = 120 * 80 - (4 - math.pi) * 64 - math.pi * 16**2 - 2 * (30 * 12 + math.pi * 36)
    assert area(d) == pytest.approx(wanted, abs=1e-4)
    # the other slot goes along, the middle stays
    d = act(d, "relate_drawn", kind="radius", of=["arc1"])
    before = drawn(d).solved.point("p5")
    d = act(d, "drag_drawn", to={"p5": [before[0] + 6, before[1] + 3]})
    moved = drawn(d).solved
    assert moved.point("p5") == pytest.approx((before[0] + 6, before[1] + 3), abs=1e-3)
    image = next(r.of[1] for r in drawn(d).drawing.relations.values() if r.kind == "mirrored" and r.of[0] == "p5")
    assert moved.point(image) == pytest.approx((120 - before[0] - 6, before[1] + 3), abs=1e-3)
    # a size of the design goes through
    data = d.dump()
    data["sizes"]["wide"]["entry"] = entry("20 mm")
    assert area(Document.model_validate(data)) == pytest.approx(area(d) + math.pi * (16**2 - 11**2), abs=1e-4)


@pytest.mark.parametrize("tool, presses, figures, wanted, free", [
    ("circle", [(60, 40), (70, 40)], {"diameter": "24"}, math.pi * 144, 2),
    ("rectangle", [(30, 30), (60, 50)], {"width": "40", "height": "15"}, 600, 2),
    ("slot", [(30, 40), (70, 40), (30, 45)], {"length": "40", "width": "10"}, 400 + math.pi * 25, 3),
    ("polygon", [(60, 40), (80, 40)], {"diameter": "40"}, 6 * 20 * 20 * math.sin(math.pi / 3) / 2, 3),
    ("spline", [(40, 30), (80, 32), (70, 60), (40, 30)], {}, None, 6),
])  # fmt: skip
@pytest.mark.parametrize("does", ["cut", "pocket", "mark"])
def test_shapes_are_cut_sunk_and_engraved(
    tool: str, presses: list[tuple[float, float]], figures: dict[str, str], wanted: float | None, free: int, does: str
) -> None:
    data = plate().dump()
    empty = {"kind": "shape", "does": does, "depth": entry("4 mm"), "drawing": {"points": {}, "curves": {}}}
    data["parts"]["plate"]["features"] = {"s": empty}
    d = Document.model_validate(data)
    assert [f.message for f in build(d).faults] == ([] if does == "mark" else ["plate, shape: nothing is drawn"])
    said = [press(*p, "p1" if tool == "spline" and n == 3 else "") for n, p in enumerate(presses)]
    if tool == "spline":
        first = act(d, "draw", feature="s", tool="point", presses=[said[0]])
        said[0]["on"] = "p1"
        d = first
    d = act(d, "draw", feature="s", tool=tool, presses=said, figures={k: entry(f"{v} mm") for k, v in figures.items()})
    assert count(d, "s") == free
    built = build(d)
    assert not built.faults
    loops = drawn(d, "s").loops
    assert len(loops.closed) == 1
    if wanted is not None:
        assert loops.closed[0].area == pytest.approx(wanted, abs=1e-4)
    flat = built.flats["plate"].flat
    taken = loops.closed[0].area
    assert sum(r.area for r in flat.pieces) == pytest.approx(9600 - (taken if does == "cut" else 0), abs=1e-3)
    assert len(flat.pockets) == (does == "pocket")
    assert len(flat.marks) == (does == "mark")
    if does == "pocket":
        assert flat.pockets[0].depth == pytest.approx(4)


@pytest.mark.parametrize("low", ["0", "wall.right", "wall.right - 7 mm"])
def test_a_part_as_long_as_it_is_drawn(low: str) -> None:
    """``drawn`` is how far its drawing reaches, from where it begins; what reads its far side follows."""
    d = Draft("d", "ply12").size("wide", "30 mm")
    d.board("wall", "ply12", "facing_side", 0, (0, 100), (0, 100))
    d.board("arm", "ply12", "lying", 40, (low, "drawn" if low == "0" else f"{low} + drawn"), (0, 60))
    d.board("next", "ply12", "facing_side", "arm.right", (0, 100), (0, 100))
    points = {"a": {"x": 5, "y": 0}, "b": {"x": 95, "y": 0}, "c": {"x": 95, "y": 60}, "d": {"x": 5, "y": 60}, "m": {"x": 5, "y": 30}}
    curves = {"l": ("a", "b"), "m1": ("b", "c"), "n": ("c", "d")}
    data = d.data
    data["parts"]["arm"]["outline"] = {"kind": "free", "drawing": {
        "points": points,
        "curves": {**{k: {"kind": "line", "a": a, "b": b} for k, (a, b) in curves.items()}, "e": {"kind": "arc", "a": "d", "b": "a", "centre": "m"}},
        "references": {"front": {"kind": "line", "y": entry("arm.front"), "seen": [0, 0, 100, 0]}, "back": {"kind": "line", "y": entry("arm.back"), "seen": [0, 60, 100, 60]}},
        "relations": {
            "1": {"kind": "in_line", "of": ["front", "l"]}, "2": {"kind": "in_line", "of": ["back", "n"]}, "3": {"kind": "upright", "of": ["m1"]},
            "4": {"kind": "distance", "of": ["l"], "entry": entry("3*wide")}, "5": {"kind": "tangent", "of": ["l", "e"]}, "6": {"kind": "tangent", "of": ["n", "e"]},
        },
    }}  # fmt: skip
    document = d.document()
    thick = build(document).flats["wall"].flat.thickness
    for wide in (30, 40, 25, 30):
        now = document.dump()
        now["sizes"]["wide"]["entry"] = entry(f"{wide} mm")
        built = build(Document.model_validate(now))
        assert not built.faults
        start = {"0": 0.0, "wall.right": thick, "wall.right - 7 mm": thick - 7}[low]
        # a half round of 60 mm in front of three times the size
        assert built.values["/parts/arm/spans/x/high"].value == pytest.approx(start + 30 + 3 * wide)
        assert built.made["next"].box.low[0] == pytest.approx(start + 30 + 3 * wide)
        assert sum(r.area for r in built.flats["arm"].flat.pieces) == pytest.approx(60 * 3 * wide + math.pi * 450)


def test_what_is_drawn_against_itself_and_what_is_not_drawn_is_said() -> None:
    d = Draft("d", "ply12")
    d.board("plate", "ply12", "lying", 5, ("0", "drawn"), ("0", "60"))
    [fault] = [f for f in build(d.document()).faults if f.entry.endswith("/x/high")]
    assert "plate is not drawn freely" in fault.message
    after = plate().dump()
    after["parts"]["plate"]["spans"]["x"]["high"] = entry("10 mm + drawn")
    faults = build(Document.model_validate(after)).faults
    assert any(f.code == "cycle" and "plate.right" in f.message for f in faults)


def test_references_follow_and_names_go_along() -> None:
    """A line drawn to a neighbour's face follows it; renamed it follows still; lost it is said once, and stays where it was."""
    d = Draft("d", "ply12").size("at", "60 mm")
    d.board("plate", "ply12", "lying", 0, (0, 120), (0, 80))
    d.board("wall", "ply12", "facing_side", "at", (0, 80), ("plate.top", 60))
    document = act(d.document(), "begin_outline")
    place, _ = place_of(build(document), "plate")
    assert {c.id for c in place.candidates()} >= {"x:wall.left", "x:wall.right", "y:wall.front"}
    document = act(
        document, "draw", tool="circle", presses=[press(60, 40, "x:wall.left"), press(70, 40)], figures={"diameter": entry("10 mm")}
    )
    assert drawn(document).solved.point("p5")[0] == pytest.approx(60)
    data = document.dump()
    data["sizes"]["at"]["entry"] = entry("75 mm")
    assert drawn(Document.model_validate(data)).solved.point("p5")[0] == pytest.approx(75)
    renamed = patched(document.dump(), rename(document, "parts", "wall", "partition")[1])
    assert drawn(renamed).solved.point("p5")[0] == pytest.approx(60)
    assert renamed.parts["plate"].outline.drawing.references["f5"].x.text == "partition.left"
    gone = document.dump()
    del gone["parts"]["wall"]
    built = build(Document.model_validate(gone), build(document).good)
    lost = [f for f in built.faults if f.lost]
    assert [f.lost for f in lost] == ["wall"]
    assert sum(r.area for r in built.flats["plate"].flat.pieces) == pytest.approx(9600 - math.pi * 25)


@pytest.mark.parametrize("plane", PLANES)
def test_holes_of_neighbours_and_bores_are_referred_to(plane: str) -> None:
    axes = {"lying": "xyz", "facing_front": "xzy", "facing_side": "yzx"}[plane]
    d = Draft("d", "ply12")
    d.board("plate", "ply12", plane, 0, (0, 120), (0, 80)).board("lid", "ply12", plane, 50, (10, 110), (0, 80))
    faces = {"x": "left", "y": "front", "z": "bottom"}
    d.feature("lid", "h", "hole", (faces[axes[0]], "25 mm"), (faces[axes[1]], "30 mm"), diameter="16 mm")
    d.data["bores"]["b"] = {
        "name": "axle", "axis": axes[2], "at": {axes[0]: entry("80 mm"), axes[1]: entry("44 mm")}, "diameter": entry("9 mm"),
        "parts": {"lid": {"action": "cut"}},
    }  # fmt: skip
    document = act(d.document(), "begin_outline")
    place, _ = place_of(build(document), "plate")
    holes = {c.id: c.reference.seen for c in place.candidates() if c.id.startswith("hole:")}
    assert holes == {"hole:feature:lid:h/0": [35.0, 30.0, 8.0], "hole:bore:b/0": [80.0, 44.0, 4.5]}
    document = act(document, "draw", tool="circle", presses=[press(35, 30), press(45, 30)], figures={"diameter": entry("20 mm")})
    document = act(document, "relate_drawn", kind="same_centre", of=["circle1", "hole:feature:lid:h/0"])
    data = document.dump()
    data["parts"]["lid"]["features"]["h"]["u"]["offset"] = entry("41 mm")
    moved = Document.model_validate(data)
    assert drawn(moved).solved.point("p5") == pytest.approx((51, 30))
    del data["parts"]["lid"]["features"]["h"]
    [lost] = build(Document.model_validate(data)).faults
    assert lost.code == "lost_reference"
    mended = patched(data, lost.mends[0].patch)
    assert not build(mended).faults
    assert drawn(mended).solved.point("p5") == pytest.approx((35, 30))


def test_what_contradicts_is_a_problem_with_ways_out_that_work() -> None:
    d = act(plate(), "relate_drawn", kind="distance", of=["line1"], entry=entry("100 mm"))
    said = drawn(d).drawing.relations
    # its length follows from both sides: it is only measured, and reads 120
    measured = next(k for k, r in said.items() if r.kind == "distance")
    assert said[measured].measured
    built = build(d)
    assert built.values[f"/parts/plate/outline/drawing/relations/{measured}"].value == pytest.approx(120)
    d = act(d, "hold_drawn", key=measured, how="hold")
    assert [f.code for f in build(d).faults] == []
    data = d.dump()
    data["parts"]["plate"]["outline"]["drawing"]["relations"][measured]["entry"] = entry("100 mm")
    d = Document.model_validate(data)
    [fault] = build(d).faults
    assert fault.code == "contradicts"
    assert "length of line 1, 100 mm" in fault.message
    assert fault.part == "plate" and fault.entry.endswith(f"/relations/{measured}")
    for mend in fault.mends:
        mended = build(patched(d.dump(), mend.patch))
        assert [f for f in mended.faults if f.code == "contradicts"] == [], mend.label
    assert area(patched(d.dump(), fault.mends[0].patch)) == pytest.approx(9600)


def test_what_keeps_it_from_being_an_outline_is_said_with_its_place() -> None:
    d = plate()
    opened = act(d, "draw", tool="line", presses=[press(20, 20), press(50, 20)])
    [fault] = build(opened).faults
    assert (fault.code, fault.message, fault.at) == ("bad_outline", "plate: it is open, its ends are 30 mm apart", (20, 20))
    crossing = act(d, "draw", tool="circle", presses=[press(120, 40), press(130, 40)])
    faults = build(crossing).faults
    assert [f.message for f in faults] == ["plate: two outlines meet"]
    beside = act(d, "draw", tool="circle", presses=[press(180, 40), press(190, 40)])
    assert [f.message for f in build(beside).faults] == ["plate: a loop lies beside the outline"]
    inside = act(
        act(d, "draw", tool="circle", presses=[press(60, 40), press(80, 40)]), "draw", tool="circle", presses=[press(60, 40), press(65, 40)]
    )
    assert [f.message for f in build(inside).faults] == ["plate: a loop lies in an opening"]
    erased = act(d, "erase_drawn", keys=["line1"])
    assert "open" in build(erased).faults[0].message
    short = act(d, "erase_drawn", keys=[k for k, r in drawn(d).drawing.relations.items() if "right" in r.of])
    short = act(short, "relate_drawn", kind="distance", of=["line1"], entry=entry("110 mm"))
    [fault] = build(short).faults
    assert fault.message == "plate: its outline is 110 mm long along x, and its span 120 mm"
    for mend in fault.mends:
        mended = patched(short.dump(), mend.patch)
        assert area(mended) == pytest.approx(110 * 80), mend.label
    assert mended.parts["plate"].spans["x"].high.text == "(10 mm) + drawn"


def test_a_bad_figure_names_its_relation_and_the_last_good_one_stands() -> None:
    d = act(plate(), "draw", tool="circle", presses=[press(60, 40), press(70, 40)], figures={"diameter": entry("20 mm")})
    built = build(d)
    key = next(k for k, r in drawn(d).drawing.relations.items() if r.kind == "diameter")
    for text, said in (("0", "greater than 0"), ("-4 mm", "greater than 0"), ("nonsense", "no size is called nonsense"), ("20 mm +", "")):
        data = d.dump()
        data["parts"]["plate"]["outline"]["drawing"]["relations"][key]["entry"] = entry(text)
        again = build(Document.model_validate(data), built.good)
        [fault] = again.faults
        assert fault.entry.endswith(f"/relations/{key}/entry") and said in fault.message + fault.rule
        assert sum(r.area for r in again.flats["plate"].flat.pieces) == pytest.approx(9600 - math.pi * 100)


@pytest.mark.parametrize("fields, words", [
    ({"tool": "line", "presses": [press(5, 5), press(5, 5)]}, "The line has no length"),
    ({"tool": "line", "presses": [press(5, 5)]}, "drawn by 2 places"),
    ({"tool": "line", "presses": [press(5, 5), press(9, 9, "nothing")]}, "nothing called nothing"),
    ({"tool": "line", "presses": [press(5, 5), press(9, 9, "x:gone.left")]}, "nothing called x:gone.left"),
    ({"tool": "circle", "presses": [press(5, 5), press(9, 9)], "figures": {"width": entry("4")}}, "has no width"),
    ({"tool": "rectangle", "presses": [press(5, 5), press(50, 5)]}, "no width or no height"),
    ({"tool": "arc_through", "presses": [press(5, 5), press(50, 5), press(20, 5)]}, "lie in one line"),
    ({"tool": "arc_smooth", "presses": [press(5, 5), press(50, 5)]}, "goes on from the end"),
    ({"tool": "spline", "presses": [press(5, 5), press(50, 5, "p1"), press(5, 9, "p1")]}, "no place twice"),
])  # fmt: skip
def test_what_cannot_be_drawn_is_refused_by_name(fields: dict[str, Any], words: str) -> None:
    with pytest.raises(DocumentError) as error:
        act(plate(), "draw", **fields)
    assert words in error.value.message


@pytest.mark.parametrize("kind, of, words", [
    ("parallel", ["line1", "p3"], "parallel is of two or more lines"),
    ("tangent", ["line1", "line2"], "tangent is of two circles or arcs"),
    ("on", ["p1", "line1"], "a point that is no point of the line itself"),
    ("equal", ["line1", "line1"], "a relation is between different things"),
    ("radius", ["line1"], "radius is of a circle or an arc"),
])  # fmt: skip
def test_what_cannot_be_related_is_refused_by_its_rule(kind: str, of: list[str], words: str) -> None:
    with pytest.raises(DocumentError) as error:
        act(plate(), "relate_drawn", kind=kind, of=of)
    assert words in error.value.message.lower()


@pytest.mark.parametrize("operation, fields, words", [
    ("begin_outline", {}, "drawn freely already"),
    ("begin_outline", {"part": "gone"}, "gone is no board"),
    ("draw", {"part": "gone", "tool": "point", "presses": [press(1, 1)]}, "gone is no board"),
    ("draw", {"feature": "gone", "tool": "point", "presses": [press(1, 1)]}, "has no shape gone"),
    ("hold_drawn", {"key": "gone", "how": "hold"}, "no relation gone"),
    ("hold_drawn", {"key": "r1", "how": "measure"}, "nothing to measure"),
    ("erase_drawn", {"keys": ["gone"]}, "nothing called gone"),
    ("drag_drawn", {"to": {"gone": [1, 2]}}, "no point gone"),
    ("drag_drawn", {"to": {}, "radii": {"line1": 4}}, "no circle line1"),
    ("ease_corner", {"points": ["p1"], "how": "round", "size": entry("90 mm")}, "taken off a line"),
    ("ease_corner", {"points": ["p1"], "how": "cut", "size": entry("0")}, "more than 0"),
    ("mirror_drawn", {"curves": ["line1"], "about": "p1"}, "a straight line"),
    ("row_drawn", {"curves": ["line1"], "number": 3}, "goes somewhere"),
    ("beside_drawn", {"curves": ["line1"], "by": entry("-3 mm"), "side": "left"}, "Beside by -3 mm"),
    ("trim_drawn", {"curve": "gone", "at": [1, 2]}, "gone is no line"),
    ("trim_drawn", {"curve": "line1", "at": [0, 0], "split": True}, "split between its ends"),
    ("find_relations", {"within": 0.1}, "No more relations"),
])  # fmt: skip
def test_what_cannot_be_done_is_refused_by_name(operation: str, fields: dict[str, Any], words: str) -> None:
    with pytest.raises(DocumentError) as error:
        act(plate(), operation, **fields)
    assert words in error.value.message


@pytest.mark.parametrize("how, size, less", [("round", 10, (4 - math.pi) / 4 * 100), ("cut", 12, 72)])
@pytest.mark.parametrize("corner", ["p1", "p2", "p3", "p4"])
def test_each_corner_is_eased_alike(how: str, size: float, less: float, corner: str) -> None:
    d = act(plate(), "ease_corner", points=[corner], how=how, size=entry(f"{size} mm"))
    assert area(d) == pytest.approx(9600 - less, abs=1e-5)
    assert count(d) == 0
    data = d.dump()
    for r in data["parts"]["plate"]["outline"]["drawing"]["relations"].values():
        if r.get("entry", {}).get("text") == f"{size} mm":
            r["entry"]["text"] = f"{2 * size} mm"
    assert area(Document.model_validate(data)) == pytest.approx(9600 - 4 * less, abs=1e-5)


@pytest.mark.parametrize("at, left", [((-5, 40), 3), ((60, 40), 4), ((125, 40), 3)])
def test_a_line_is_trimmed_to_what_crosses_it(at: tuple[float, float], left: int) -> None:
    """A line across the plate, past both sides: an end goes to the side, the middle leaves two pieces in one line."""
    d = act(plate(), "draw", tool="line", presses=[press(-10, 40), press(130, 40)])
    key = list(drawn(d).drawing.curves)[-1]
    after = drawn(act(d, "trim_drawn", curve=key, at=at))
    lines = [k for k in after.drawing.curves if k not in ("line1", "line2", "line3", "line4")]
    ends = sorted(after.solved.point(p)[0] for k in lines for p in after.drawing.curves[k].points())
    assert ends == pytest.approx({(-5, 40): [0, 130], (60, 40): [-10, 0, 120, 130], (125, 40): [-10, 120]}[at], abs=1e-6)
    assert len(lines) == left - 2
    whole = drawn(act(act(plate(), "draw", tool="line", presses=[press(20, 40), press(50, 40)]), "trim_drawn", curve=key, at=(30, 40)))
    assert key not in whole.drawing.curves


def test_circles_and_arcs_are_trimmed_between_what_crosses_them() -> None:
    d = act(plate(), "draw", tool="circle", presses=[press(120, 40), press(140, 40)])
    d = act(d, "trim_drawn", curve="circle1", at=(140, 40))
    arc = drawn(d).drawing.curves["circle1"]
    assert arc.kind == "arc"
    found = drawn(d).solved
    assert sorted(found.point(p)[1] for p in (arc.a, arc.b)) == pytest.approx([20, 60], abs=1e-6)
    # counter-clockwise from the upper end to the lower, on the left
    assert found.point(arc.a)[1] > found.point(arc.b)[1]
    d = act(d, "trim_drawn", curve="line2", at=(120, 40))
    assert area(d) == pytest.approx(9600 - math.pi * 200, abs=1e-4)


def test_lines_beside_themselves_keep_their_distance_all_round() -> None:
    d = act(plate(), "beside_drawn", curves=["line1", "line2", "line3", "line4"], by=entry("wide / 5"), side="left")
    assert area(d) == pytest.approx(9600 - 108 * 68, abs=1e-4)
    assert count(d) == 0
    out = act(plate(), "beside_drawn", curves=["line1", "line2", "line3", "line4"], by=entry("6 mm"), side="right")
    assert drawn(out).loops.closed[0].area == pytest.approx(132 * 92, abs=1e-4)
    ring = act(plate(), "draw", tool="circle", presses=[press(60, 40), press(80, 40)], figures={"diameter": entry("40 mm")})
    for side, radius in (("left", 16), ("right", 24)):
        made = drawn(act(ring, "beside_drawn", curves=["circle1"], by=entry("4 mm"), side=side))
        assert made.solved.radius("circle2") == pytest.approx(radius)


def test_a_row_steps_by_its_entries() -> None:
    d = act(plate(), "draw", tool="circle", presses=[press(20, 20), press(24, 20)], figures={"diameter": entry("8 mm")})
    d = act(d, "row_drawn", curves=["circle1"], number=4, across=entry("wide - 10"), up=entry("-2 mm"))
    for wide, step in ((30, 20), (36, 26)):
        data = d.dump()
        data["sizes"]["wide"]["entry"] = entry(f"{wide} mm")
        now = drawn(Document.model_validate(data))
        x, y = now.solved.point("p5")
        centres = [now.solved.point(c.centre) for c in now.drawing.curves.values() if c.kind == "circle"]
        assert centres == [pytest.approx((x + step * n, y - 2 * n), abs=1e-6) for n in range(4)]


def test_a_split_line_keeps_its_first_key_and_both_stay_in_line() -> None:
    d = act(plate(), "trim_drawn", curve="line1", at=(50, 0), split=True)
    assert area(d) == pytest.approx(9600)
    assert count(d) == 1
    assert drawn(d).drawing.curves["line1"].a == "p1"


def test_relations_found_in_a_rough_drawing() -> None:
    data = plate().dump()
    points = {"a": (20, 20), "b": (60.2, 20.1), "c": (60.1, 49.8), "d": (19.8, 50.1)}
    curves = {"l": "ab", "m": "bc", "n": "cd", "o": "da"}
    data["parts"]["plate"]["features"] = {"s": {"kind": "shape", "drawing": {
        "points": {k: {"x": x, "y": y} for k, (x, y) in points.items()},
        "curves": {k: {"kind": "line", "a": e[0], "b": e[1]} for k, e in curves.items()},
    }}}  # fmt: skip
    d = act(Document.model_validate(data), "find_relations", feature="s", within=0.4)
    kinds = sorted(r.kind for r in drawn(d, "s").drawing.relations.values())
    assert kinds == ["level", "level", "upright", "upright"]
    assert count(d, "s") == 4


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("axis", ["x", "y", "z"])
def test_a_mirrored_copy_made_independent_is_the_same_solid(plane: str, axis: str) -> None:
    """An outline without symmetry, with a shape and sides that it lies on; its entries and arcs go over to the other hand."""
    d = plate(plane)
    d = act(d, "ease_corner", points=["p2"], how="round", size=entry("wide"))
    d = act(d, "ease_corner", points=["p3"], how="cut", size=entry("12 mm"))
    d = act(d, "draw", tool="arc_through", presses=[press(20, 30), press(50, 30), press(35, 45)])
    d = act(d, "draw", tool="line", presses=[press(50, 30, _end(d, 50, 30)), press(20, 30, _end(d, 20, 30))])
    data = d.dump()
    data["parts"]["plate"]["features"] = {"s": {"kind": "shape", "u": {}, "v": {}}}
    data["copies"] = {
        "m": {"kind": "mirror", "name": "m", "axis": axis, "at": entry("-40 mm"), "of": ["part:plate"], "names": {"plate": "other"}}
    }
    d = Document.model_validate(data)
    before = build(d)
    assert not [f for f in before.faults if f.code != "bad_outline"]
    _, after = did(d, "independent", key="m")
    now = build(after)
    [was] = [p for k, p in before.flats.items() if "@" in k]
    [is_] = [p for k, p in now.flats.items() if k != "plate"]
    assert sum(r.area for r in is_.flat.pieces) == pytest.approx(sum(r.area for r in was.flat.pieces), abs=1e-4)
    centre = [_centre(p) for p in (was, is_)]
    assert centre[0] == pytest.approx(centre[1], abs=1e-4)
    data = after.dump()
    data["sizes"]["wide"]["entry"] = entry("20 mm")
    assert not [f for f in build(Document.model_validate(data)).faults if f.code != "bad_outline"]


def _end(document: Document, x: float, y: float) -> str:
    """The point that lies at a place; '' where none does."""
    return next((k for k, p in drawn(document).drawing.points.items() if abs(p.x - x) + abs(p.y - y) < 1e-6), "")


def _centre(part: Any) -> tuple[float, ...]:
    """The middle of what a flat has of wood, in the room."""
    from zygon.geometry.boolean import region_polygon

    c = region_polygon(part.flat.pieces[0]).centroid
    m = part.matrix
    return tuple(m[i][0] * c.x + m[i][1] * c.y + m[i][2] * part.flat.thickness / 2 + m[i][3] for i in range(3))


def test_checks_know_a_drawn_outline_as_any_other() -> None:
    """A web thinner than the rule beside a drawn hole is found where it is."""
    d = act(plate(), "draw", tool="circle", presses=[press(60, 12), press(68, 12)], figures={"diameter": entry("16 mm")})
    found = [p.fault for p in check(build(d)) if p.fault.code == "near_edge"]
    assert len(found) == 1 and found[0].part == "plate"


def test_words_of_things_and_relations() -> None:
    d = plate()
    drawing = drawn(d).drawing
    assert thing_words(drawing, "line2") == "line 2"
    assert thing_words(drawing, "line2.a") == "the start of line 2"
    assert [relation_words(drawing, r) for r in list(drawing.relations.values())[:1]] == ["line 1 is level"]


@pytest.mark.parametrize("plane", PLANES)
def test_an_outline_read_from_a_file_is_tied_to_its_sides_by_its_lines(plane: str) -> None:
    """A plate with round corners, read with three places behind the point: its straight lines lie on the sides, its corners run into them, and it follows its spans."""
    r, k = 11.3, round(math.tan(math.pi / 8), 4)
    outer = [
        [r, 0, 0], [120.02 - r, 0, k], [120.02, r, 0], [120.02, 80.01 - r, k], [120.02 - r, 80.01, 0], [r, 80.01, k], [0, 80.01 - r, 0], [0, r, k],
    ]  # fmt: skip
    d = Draft("d", "ply12")
    d.board("plate", "ply12", plane, 5, ("10 mm", "130.02 mm"), ("20 mm", "100.01 mm"))
    d.data["parts"]["plate"]["outline"] = {"kind": "drawn", "source": "x.dxf", "outer": outer, "inner": [[[30, 40, 1], [50, 40, 1]]]}
    before = d.document()
    after = act(before, "begin_outline")
    assert area(after) == pytest.approx(area(before), abs=0.2)
    relations = [(x.kind, x.of[-1]) for x in drawn(after).drawing.relations.values()]
    sides = list(drawn(after).drawing.references)
    assert sum(kind == "on" and of in sides for kind, of in relations) == 4
    assert sum(kind == "tangent" for kind, _ in relations) == 8
    data = after.dump()
    axis = {"lying": "x", "facing_front": "x", "facing_side": "y"}[plane]
    data["parts"]["plate"]["spans"][axis]["high"] = entry("90 mm")
    built = build(Document.model_validate(data))
    assert not built.faults
    assert built.flats["plate"].flat.pieces[0].outer.bounds == pytest.approx((0, 0, 80, 80.01), abs=1e-6)


def test_a_side_as_far_as_it_is_drawn_is_not_pulled() -> None:
    """It is pulled in the drawing; every other end is."""
    built = build(example("clamp-plate"))
    assert {p.face for p in pulls(built, "plate")} == {"left", "front", "bottom"}
    assert {p.face for p in pulls(build(example("landing-board")), "landing")} >= {"left", "right", "front", "back"}


@pytest.mark.parametrize("plane", PLANES)
def test_a_part_that_is_as_long_as_is_drawn_keeps_its_place_while_its_drawing_contradicts(plane: str) -> None:
    """It can be opened, and is as large as what holds of it."""
    d = plate(plane)
    frame = frame_of(plane)
    # how long it is, its sides do not say
    d = act(d, "erase_drawn", keys=[k for k in drawn(d).drawing.references if k in (FACES[frame.u][1], FACES[frame.v][1])])
    data = d.dump()
    for axis in (frame.u, frame.v):
        data["parts"]["plate"]["spans"][axis] = {"low": entry("0"), "high": entry("drawn")}
    d = Document.model_validate(data)
    before = build(d)
    line = next(k for k, c in drawn(d).drawing.curves.items() if c.kind == "line")
    d = act(d, "relate_drawn", kind="distance", of=[line], entry=entry("70 mm"))
    data = d.dump()
    key = max(data["parts"]["plate"]["outline"]["drawing"]["relations"], key=lambda k: int(k[1:]))
    again = {"kind": "distance", "of": [line], "entry": entry("75 mm"), "order": 99}
    data["parts"]["plate"]["outline"]["drawing"]["relations"] |= {
        "again": again,
        key: {**data["parts"]["plate"]["outline"]["drawing"]["relations"][key], "measured": False, "entry": entry("70 mm")},
    }
    told = build(Document.model_validate(data))
    assert "contradicts" in {f.code for f in told.faults} and not {f.code for f in told.faults} & {"broken_expression", "no_place"}
    assert told.flats["plate"].flat.size[0] > 0 and before.flats["plate"].flat.size[0] > 0
    assert drawn(Document.model_validate(data)).solved.clashes
