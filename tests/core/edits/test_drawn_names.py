"""Lines of a drawing by name: entries read them as they read sides, follow when they are called otherwise, and edges stay through a split."""

import json
import math

import pytest

from tests.core.edits.test_drawings import act, did, plate
from zygon.design.document import Document
from zygon.design.patch import patched
from zygon.errors import DocumentError
from zygon.making.pipeline import build

PLANES = ("lying", "facing_front", "facing_side")
FACES = {"lying": ("x", "y"), "facing_front": ("x", "z"), "facing_side": ("y", "z")}


def named(plane="lying"):
    """A plate with an inner line, level, at a size above its low side, and a named upright one; and its bore."""
    document = plate(plane)
    document = act(document, "draw", tool="line", presses=[{"x": 30, "y": 25}, {"x": 90, "y": 25}], helping=True)
    document = act(document, "draw", tool="line", presses=[{"x": 30, "y": 40}, {"x": 30, "y": 70}], helping=True)
    document = act(document, "draw", tool="circle", presses=[{"x": 60, "y": 50}, {"x": 66, "y": 50}])
    for curve, name in (("line5", "shelf"), ("line6", "post"), ("circle1", "bore")):
        document = act(document, "name_drawn", curve=curve, name=name)
    return document


def size(document, text, at=None):
    """What an entry reads, as a board's place would: the value of a wall that is set there."""
    data = document.dump()
    axis, plane = at or ("x", "facing_side")
    wall = {
        "kind": "board",
        "name": "probe", "stock": "ply12", "plane": plane, "order": 9,
        "spans": {a: {"low": {"text": "0"}, "high": {"text": "10 mm"}} for a in "xyz" if a != axis}, "position": {"face": {"x": "left", "y": "front", "z": "bottom"}[axis], "at": {"text": text}},
    }  # fmt: skip
    data["parts"]["probe"] = wall
    built = build(Document.model_validate(data))
    faults = [f for f in built.faults if f.part == "probe"]
    return built.values["/parts/probe/position/at"].value if not faults else faults[0].message


ACROSS = {"x": "facing_side", "y": "facing_front", "z": "lying"}


@pytest.mark.parametrize("plane", PLANES)
def test_a_named_line_is_read_along_the_axis_that_it_is_square_to(plane):
    document = named(plane)
    u, v = FACES[plane]
    # the plate begins at 10 and 20 mm
    assert size(document, "plate.shelf", (v, ACROSS[v])) == pytest.approx(45)
    assert size(document, "plate.post", (u, ACROSS[u])) == pytest.approx(40)
    assert size(document, "plate.bore", (u, ACROSS[u])) == pytest.approx(70)
    assert size(document, "plate.bore + 5 mm", (v, ACROSS[v])) == pytest.approx(75)
    assert f"plate.shelf lies along {v}" in size(document, "plate.shelf", (u, ACROSS[u]))


def test_it_follows_what_it_is_drawn_by():
    document = named()
    document = act(document, "relate_drawn", kind="distance", of=["line5", "line1"], entry={"text": "wide"})
    assert size(document, "plate.shelf", ("y", "facing_front")) == pytest.approx(50)
    later = patched(document.dump(), [{"op": "replace", "path": "/sizes/wide/entry/text", "value": "41 mm"}])
    assert size(later, "plate.shelf", ("y", "facing_front")) == pytest.approx(61)
    # and what the plate itself is placed by
    moved = patched(document.dump(), [{"op": "replace", "path": "/parts/plate/spans/y/low/text", "value": "0"}])
    assert size(moved, "plate.shelf", ("y", "facing_front")) == pytest.approx(30)


def test_another_name_is_followed_by_all_entries():
    document = named()
    data = document.dump()
    data["sizes"]["reach"] = {"name": "reach", "kind": "length", "entry": {"text": "plate.post - plate.left"}, "order": 5}
    document = Document.model_validate(data)
    assert build(document).values["/sizes/reach/entry"].value == pytest.approx(30)
    label, after = did(document, "name_drawn", part="plate", curve="line6", name="stile")
    assert label == "Call line stile" and after.sizes["reach"].entry.text == "plate.stile - plate.left"
    assert build(after).values["/sizes/reach/entry"].value == pytest.approx(30)
    gone = act(document, "name_drawn", curve="line6", name="")
    [fault] = [f for f in build(gone).faults if "post" in f.message]
    assert fault.entry == "/sizes/reach/entry"


def test_a_line_that_slopes_has_no_one_place():
    document = act(plate(), "draw", tool="line", presses=[{"x": 30, "y": 25}, {"x": 90, "y": 45}], helping=True)
    document = act(document, "name_drawn", curve="line5", name="ramp")
    assert "plate.ramp slopes here" in size(document, "plate.ramp")


def test_a_drawing_against_what_stands_on_its_own_line_is_a_circle():
    document = named()
    data = document.dump()
    data["sizes"]["loop"] = {"name": "loop", "kind": "length", "entry": {"text": "plate.shelf - plate.front"}, "order": 5}
    document = act(Document.model_validate(data), "relate_drawn", kind="distance", of=["line5", "line1"], entry={"text": "loop"})
    told = [(f.code, f.entry) for f in build(document).faults]
    assert ("cycle", "/sizes/loop/entry") in told


@pytest.mark.parametrize(
    "curve, name, entry",
    [("line5", "left", "name"), ("line5", "post", "name"), ("line5", "Shelf!", "name"), ("line5", "9a", "name"), ("line77", "x", "curve")],
)
def test_names_that_cannot_be_are_refused(curve, name, entry):
    with pytest.raises(DocumentError) as refused:
        act(named(), "name_drawn", curve=curve, name=name)
    assert refused.value.entry == entry


def test_its_own_name_again_is_no_fault():
    assert act(named(), "name_drawn", curve="line5", name="shelf").dump() == named().dump()


@pytest.mark.parametrize("split", [True, False])
def test_a_line_s_pieces_are_one_edge(split):
    """What runs along an edge runs along all its pieces, whichever of them is left."""
    document = plate()
    document = patched(
        document.dump(),
        [
            {
                "op": "add",
                "path": "/parts/plate/features",
                "value": {"e": {"kind": "edge_profile", "edge": "line1", "size": {"text": "3 mm"}, "profile": "chamfer"}},
            }
        ],
    )
    before = build(document).flats["plate"].flat.edges[0].runs
    if split:
        document = act(document, "trim_drawn", curve="line1", at=(50, 0), split=True)
        document = act(document, "trim_drawn", curve="line1", at=(20, 0), split=True)
    else:  # a notch drawn into it, and the line between its legs trimmed away
        for a, b in (((40, 0), (40, 15)), ((40, 15), (70, 15)), ((70, 15), (70, 0))):
            document = act(document, "draw", tool="line", presses=[{"x": a[0], "y": a[1]}, {"x": b[0], "y": b[1]}])
        document = act(document, "trim_drawn", curve="line1", at=(55, 0))
    built = build(document)
    assert not [f for f in built.faults if f.owner.startswith("feature:")], built.faults
    drawing = document.parts["plate"].outline.drawing
    pieces = [k for k in drawing.curves if drawing.edge_of(k) == "line1"]
    assert len(pieces) == (3 if split else 2)
    runs = built.flats["plate"].flat.edges[0].runs if built.flats["plate"].flat.edges else ()
    if split:
        assert sum(r.length for r in runs) == pytest.approx(sum(r.length for r in before))
        # the piece that has the key goes, and its edge is still called by it
        gone = act(document, "erase_drawn", keys=["line1"])
        left = gone.parts["plate"].outline.drawing
        assert [k for k in left.curves if left.edge_of(k) == "line1"] == pieces[1:]
        again = act(gone, "draw", tool="line", presses=[{"x": 5, "y": 40}, {"x": 50, "y": 40}], helping=True)
        assert "line1" not in again.parts["plate"].outline.drawing.curves
    else:
        assert sum(r.length for r in runs) == pytest.approx(90)


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize(
    ("kind", "of", "value"),
    [("distance", ["p5", "p1"], math.hypot(30, 25)), ("angle", ["line5", "line4"], math.pi / 2), ("radius", ["circle1"], 6)],
)
def test_a_measured_dimension_becomes_a_size_that_follows(plane, kind, of, value):
    document = named(plane)
    document = act(document, "relate_drawn", kind=kind, of=of)
    relations = document.parts["plate"].outline.drawing.relations
    key = list(relations)[-1]
    if not relations[key].measured:
        document = act(document, "hold_drawn", key=key, how="measure")
    label, after = did(document, "size_of_drawn", part="plate", key=key)
    assert label == "Measure measured"
    [size] = [k for k, s in after.sizes.items() if s.measured]
    built = build(after)
    assert not built.faults and built.values[f"/sizes/{size}/entry"].value == pytest.approx(value, abs=1e-3)
    if kind == "radius":
        grown = patched(after.dump(), [{"op": "replace", "path": "/parts/plate/outline/drawing/curves/circle1/radius", "value": 9.5}])
        assert build(grown).values[f"/sizes/{size}/entry"].value == pytest.approx(9.5)
    gone = act(after, "erase_drawn", keys=[key])
    [fault] = [f for f in build(gone).faults if f.code == "lost_measure"]
    assert "the dimension that it follows is gone" in fault.message and fault.entry == f"/sizes/{size}/entry"


def test_only_what_is_measured_becomes_a_size():
    document = act(named(), "relate_drawn", kind="radius", of=["circle1"], entry={"text": "7 mm"})
    key = list(document.parts["plate"].outline.drawing.relations)[-1]
    for wrong in (key, "nothing"):
        with pytest.raises(DocumentError) as refused:
            act(document, "size_of_drawn", key=wrong)
        assert refused.value.entry == "key"


def test_a_size_measured_on_a_drawing_that_reads_it_is_a_circle():
    document = act(named(), "relate_drawn", kind="radius", of=["circle1"])
    key = list(document.parts["plate"].outline.drawing.relations)[-1]
    document = act(document, "hold_drawn", key=key, how="measure")
    document = act(document, "size_of_drawn", key=key)
    [size] = [k for k, s in document.sizes.items() if s.measured]
    document = act(document, "relate_drawn", kind="distance", of=["line5", "line1"], entry={"text": document.sizes[size].name})
    assert "cycle" in {f.code for f in build(document).faults}


def test_a_drawing_by_another_s_named_line_follows_what_that_is_drawn_by():
    """A size moves a's line; b is drawn by that line, and a wall stands on b's own."""
    document = act(named(), "relate_drawn", kind="distance", of=["line5", "line1"], entry={"text": "wide"})
    data = document.dump()
    other = {**data["parts"]["plate"], "name": "other", "order": 7}
    other["outline"] = json.loads(json.dumps(other["outline"]).replace("plate.", "other."))
    drawing = other["outline"]["drawing"]
    dimension = next(r for r in drawing["relations"].values() if r.get("entry", {}).get("text") == "wide")
    dimension["entry"]["text"] = "(plate.shelf - plate.front) / 2"
    data["parts"]["other"] = other
    for wide, at in (("30 mm", 35), ("50 mm", 45)):
        data["sizes"]["wide"]["entry"]["text"] = wide
        # whatever comes first among the keys
        for parts in (data["parts"], dict(reversed(data["parts"].items()))):
            later = Document.model_validate({**data, "parts": parts})
            assert size(later, "other.shelf", ("y", "facing_front")) == pytest.approx(at)
