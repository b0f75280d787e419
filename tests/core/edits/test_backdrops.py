"""The picture behind a drawing: scaled, straightened, moved and cropped by places that are pressed on it."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.edits.test_drawings import act as worked
from zygon.design.examples import EXAMPLES
from zygon.design.patch import patched
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.screen.drawing import drawing_data

DIGEST = "0123456789abcdef" * 4
ON = {"part": "plate", "feature": ""}


def laid(wide=800, high=500, scale=None):
    more = {"scale": scale} if scale else {}
    return worked(EXAMPLES["clamp-plate"](), "lay_backdrop", **ON, picture=DIGEST, name="sketch.png", wide=wide, high=high, **more)


def at(document, i, j):
    """Where a pixel (from the upper left corner) is seen in the plane, in mm."""
    b = drawing_data(build(document), "plate")["backdrop"]
    return tuple(b["at"][k] + i * b["across"][k] + j * b["down"][k] for k in (0, 1))


def placed(document, how, a, b, **more):
    return worked(document, "place_backdrop", **ON, how=how, a=a, b=b, **more)


def test_it_is_laid_in_the_middle_as_large_as_its_part():
    document = laid()
    assert at(document, 400, 250) == pytest.approx((60, 35))
    (x0, y1), (x1, y0) = at(document, 0, 0), at(document, 800, 500)
    assert (x1 - x0) / (y1 - y0) == pytest.approx(800 / 500) and x1 - x0 >= 120 - 1e-6 and y1 - y0 >= 70 - 1e-6
    assert x1 - x0 == pytest.approx(120) or y1 - y0 == pytest.approx(70)


def test_it_is_as_large_as_its_file_says():
    assert math.dist(at(laid(scale=0.25), 0, 0), at(laid(scale=0.25), 800, 0)) == pytest.approx(200)


@settings(max_examples=25, deadline=None)
@given(
    st.tuples(st.integers(0, 800), st.integers(0, 500)),
    st.tuples(st.integers(0, 800), st.integers(0, 500)),
    st.floats(5, 900),
    st.sampled_from(["level", "upright"]),
)
def test_two_places_are_as_far_apart_and_as_level_as_is_said(p, q, far, how):
    """And all else of the picture follows: another pair of marks is to scale, the first place stays where it was."""
    if math.dist(p, q) < 20:
        return
    document = laid()
    first = at(document, *p)
    document = placed(document, how, first, at(document, *q))
    document = placed(document, "scale", at(document, *p), at(document, *q), length={"text": f"{far} mm"})
    a, b = at(document, *p), at(document, *q)
    assert a == pytest.approx(first, abs=1e-5)
    assert math.dist(a, b) == pytest.approx(far, abs=1e-4)
    assert (b[1] - a[1] if how == "level" else b[0] - a[0]) == pytest.approx(0, abs=1e-4)
    by = far / math.dist(p, q)
    assert math.dist(at(document, 100, 100), at(document, 700, 400)) == pytest.approx(by * math.hypot(600, 300), rel=1e-6)


def test_a_sheet_that_is_nearly_level_is_not_laid_on_its_head():
    document = laid()
    for p, q in (((100, 100), (700, 130)), ((700, 130), (100, 100))):
        after = placed(document, "level", at(document, *p), at(document, *q))
        assert at(after, 800, 250)[0] > at(after, 0, 250)[0]


def test_it_is_moved_and_cropped():
    document = laid()
    before = at(document, 120, 80)
    document = placed(document, "move", before, (7, 9))
    assert at(document, 120, 80) == pytest.approx((7, 9), abs=1e-5)
    document = placed(document, "level", at(document, 100, 100), at(document, 500, 200))
    document = placed(document, "crop", at(document, 300, 260), at(document, 520, 400))
    # its corners, in pixels to the right and down: one way goes along (4, 1), the other across it
    along = (220 * 4 + 140 * 1) / 17
    corners = [(300, 260), (520, 400), (300 + 4 * along, 260 + along), (520 - 4 * along, 400 - along)]
    (x0, x1), (y0, y1) = ((min(c[k] for c in corners), max(c[k] for c in corners)) for k in (0, 1))
    assert drawing_data(build(document), "plate")["backdrop"]["crop"] == pytest.approx([x0, 500 - y1, 800 - x1, y0], abs=0.01)
    whole = placed(document, "whole", (0, 0), (0, 0))
    assert drawing_data(build(whole), "plate")["backdrop"]["crop"] == [0, 0, 0, 0]


def test_a_crop_along_its_edges_is_to_the_pixel():
    document = laid()
    document = placed(document, "crop", at(document, 200, 400), at(document, 650, 120))
    assert drawing_data(build(document), "plate")["backdrop"]["crop"] == pytest.approx([200, 100, 150, 120], abs=0.01)


@pytest.mark.parametrize(
    "how, more, entry",
    [
        ("scale", {"a": (0, 0), "b": (10, 0)}, "length"),
        ("scale", {"a": (0, 0), "b": (0, 0), "length": {"text": "5 mm"}}, "b"),
        ("scale", {"a": (0, 0), "b": (10, 0), "length": {"text": "-5 mm"}}, "length"),
        ("level", {"a": (3, 3), "b": (3, 3)}, "b"),
        ("move", {"a": (3, 3), "b": (3, 3)}, "b"),
        ("move", {"a": (-100, 0), "b": (1e6, 0)}, "at"),
        ("crop", {"a": (-900, -900), "b": (-800, -850)}, "b"),
    ],
)
def test_what_cannot_be_is_refused_by_name(how, more, entry):
    with pytest.raises(DocumentError) as refused:
        worked(laid(), "place_backdrop", **ON, how=how, **more)
    assert refused.value.entry == entry and refused.value.rule


def test_a_locked_one_stays_and_is_cropped_all_the_same():
    path = "/parts/plate/outline/drawing/backdrop/locked"
    document = patched(laid().dump(), [{"op": "add", "path": path, "value": True}])
    for how in ("scale", "level", "upright", "move"):
        with pytest.raises(DocumentError) as refused:
            placed(document, how, (0, 0), (10, 0), length={"text": "5 mm"})
        assert "locked" in refused.value.message
    assert placed(document, "crop", at(document, 0, 0), at(document, 300, 300))


def test_there_must_be_one():
    with pytest.raises(DocumentError) as refused:
        worked(EXAMPLES["clamp-plate"](), "place_backdrop", **ON, how="whole")
    assert refused.value.entry == "backdrop"


def test_drawing_on_leaves_it_where_it_lies():
    document = laid()
    kept = document.parts["plate"].outline.drawing.backdrop
    for operation, more in (
        ("draw", {"tool": "point", "presses": [{"x": 10, "y": 10}]}),
        ("draw", {"tool": "line", "presses": [{"x": 10, "y": 10}, {"x": 40, "y": 15}], "helping": True}),
        ("drag_drawn", {"to": {"p1": (0, 0)}}),
    ):
        assert worked(document, operation, **ON, **more).parts["plate"].outline.drawing.backdrop == kept


def test_nothing_that_is_made_changes_by_it():
    before, after = build(EXAMPLES["clamp-plate"]()), build(laid())
    assert before.flats["plate"].flat == after.flats["plate"].flat
    assert [f.message for f in before.faults] == [f.message for f in after.faults]


def test_a_mirror_image_has_none():
    assert laid().parts["plate"].outline.drawing.mirrored("x", 120).backdrop is None
