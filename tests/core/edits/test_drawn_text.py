"""Text in drawings: engraved, sunk with what stands in its letters, cut out, changed; it goes with its point."""

import math

import pytest
import shapely

from tests.core.edits.test_drawings import act, drawn, plate
from zygon.design.patch import patched
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.screen.drawing import drawing_data, led_drawing

PLANES = ("lying", "facing_front", "facing_side")


def shape(does, plane="lying"):
    document = plate(plane)
    value = {"f": {"kind": "shape", "does": does, **({"depth": {"text": "3 mm"}} if does == "pocket" else {}), "drawing": {}}}
    return patched(document.dump(), [{"op": "add", "path": "/parts/plate/features", "value": value}])


def lettered(document, text="ROB", height="30 mm", at=(10, 20)):
    return act(
        document, "draw", feature="f", tool="text", text=text, figures={"height": {"text": height}}, presses=[{"x": at[0], "y": at[1]}]
    )


@pytest.mark.parametrize("plane", PLANES)
def test_a_text_is_engraved_sunk_with_its_islands_or_refused_where_it_would_fall_apart(plane):
    built = build(lettered(shape("mark", plane)))
    assert not built.faults and len(built.flats["plate"].flat.engraved) == 3 + 4
    sunk = build(lettered(shape("pocket", plane)))
    assert not sunk.faults
    pockets = sunk.flats["plate"].flat.pockets
    assert len(pockets) == 3 and sorted(len(p.islands) for p in pockets) == [1, 1, 2]
    whole = sum(abs(c.area) for c in drawn(lettered(shape("pocket", plane)), "f").loops.closed)
    assert sum(p.region.area for p in pockets) < whole
    [fault, *_] = build(lettered(shape("cut", plane))).faults
    assert "would fall out" in fault.message
    plain = build(lettered(shape("cut", plane), "LITHE", "15 mm"))
    assert not plain.faults and len(plain.flats["plate"].flat.inside) == 5


def bounds(document):
    return shapely.MultiPoint([p for m in build(document).flats["plate"].flat.engraved for p in m.contour.flatten(0.1).tolist()]).bounds


def test_it_is_said_otherwise_and_goes_with_its_point():
    document = lettered(shape("mark"))
    document = act(document, "letter_drawn", feature="f", curve="text1", text="Hive 7", turned={"text": "90 deg"}, font="mono")
    record = document.parts["plate"].features["f"].drawing.curves["text1"]
    assert (record.text, record.height, record.turned, record.font) == ("Hive 7", 30.0, 90.0, "mono")
    x0, y0, x1, y1 = bounds(document)
    assert y1 - y0 > x1 - x0 and x1 == pytest.approx(10, abs=0.5)
    led = act(document, "drag_drawn", feature="f", to={"p1": (40, 25)})
    moved = bounds(led)
    assert moved == pytest.approx([x0 + 30, y0 + 5, x1 + 30, y1 + 5], abs=1e-6)
    lower = act(document, "letter_drawn", feature="f", curve="text1", height={"text": "wide / 3"})
    assert lower.parts["plate"].features["f"].drawing.curves["text1"].height == pytest.approx(10)


def test_it_is_told_with_the_pen_lifted_between_its_runs():
    told = drawing_data(build(lettered(shape("mark"))), "plate", "f")
    [curve] = told["curves"]
    assert curve["kind"] == "text" and curve["text"] == {"text": "ROB", "height": "30 mm", "turned": "0°", "font": "sans"}
    assert curve["path"].count([]) == 6 and "text 'ROB'" in curve["words"]
    led = led_drawing(told["solving"], {"p1": (15, 22)}, {}, {})
    assert led["paths"]["text1"].count([]) == 6
    assert led["paths"]["text1"][0] == pytest.approx([curve["path"][0][0] + 5, curve["path"][0][1] + 2], abs=0.05)


@pytest.mark.parametrize(
    ("more", "entry"),
    [
        ({"text": " "}, "text"),
        ({"text": "日"}, "text"),
        ({"height": {"text": "0"}}, "height"),
        ({"height": {"text": "3 m"}}, "height"),
        ({"curve": "line1"}, "curve"),
    ],
)
def test_what_cannot_be_is_refused_by_name(more, entry):
    with pytest.raises(DocumentError) as refused:
        act(lettered(shape("mark")), "letter_drawn", **{"feature": "f", "curve": "text1", **more})
    assert refused.value.entry == entry


def test_copies_in_a_row_say_the_same():
    document = act(lettered(shape("mark"), "N", "10 mm"), "row_drawn", feature="f", curves=["text1"], number=3, across={"text": "25 mm"})
    curves = document.parts["plate"].features["f"].drawing.curves
    assert [c.text for c in curves.values()] == ["N"] * 3 and len(build(document).flats["plate"].flat.engraved) == 3


@pytest.mark.parametrize(
    ("operation", "more", "entry"),
    [
        ("beside_drawn", {"curves": ["text1"], "by": {"text": "2 mm"}, "side": "left"}, "curves"),
        ("mirror_drawn", {"curves": ["text1"], "about": "circle1"}, "about"),
        ("mirror_drawn", {"curves": ["text1"], "about": "text1"}, "about"),
        ("mirror_drawn", {"curves": ["text1"], "about": "p1"}, "about"),
        ("trim_drawn", {"curve": "text1", "at": (10, 10)}, "curve"),
        ("ease_corner", {"points": ["p1"], "how": "round", "size": {"text": "2 mm"}}, "points"),
    ],
)
def test_what_is_no_act_for_a_text_is_refused(operation, more, entry):
    document = act(lettered(shape("mark")), "draw", feature="f", tool="circle", presses=[{"x": 60, "y": 60}, {"x": 66, "y": 60}])
    with pytest.raises(DocumentError) as refused:
        act(document, operation, feature="f", **more)
    assert refused.value.entry == entry and refused.value.rule


def test_what_runs_over_an_island_sinks_it_there():
    """Two rings drawn as a pocket leave a round island; a trench of the same depth goes through it."""
    document = shape("pocket")
    for radius in (20, 12):
        document = act(document, "draw", feature="f", tool="circle", presses=[{"x": 60, "y": 40}, {"x": 60 + radius, "y": 40}])
    ring = sum(p.region.area for p in build(document).flats["plate"].flat.pockets)
    assert ring == pytest.approx(math.pi * (400 - 144), rel=1e-6)
    trench = {"kind": "pocket", "width": {"text": "60 mm"}, "height": {"text": "6 mm"}, "depth": {"text": "3 mm"}, "order": 1,
              "u": {"origin": "left", "offset": {"text": "60 mm"}}, "v": {"origin": "front", "offset": {"text": "40 mm"}}}  # fmt: skip
    after = patched(document.dump(), [{"op": "add", "path": "/parts/plate/features/t", "value": trench}])
    pockets = build(after).flats["plate"].flat.pockets
    island = shapely.Point(60, 40).buffer(12, quad_segs=256)
    wanted = shapely.Point(60, 40).buffer(20, quad_segs=256).difference(island).union(shapely.box(30, 37, 90, 43)).area
    assert sum(p.region.area for p in pockets) == pytest.approx(wanted, rel=1e-4)
