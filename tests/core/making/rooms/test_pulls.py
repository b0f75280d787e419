"""What can be pulled: each pull moves its face and nothing else of the part, what it catches on can be named without a circle."""

import pytest

from tests.core.making.rooms.test_free import cabinet
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES, example
from zygon.design.patch import patched
from zygon.errors import DocumentError
from zygon.geometry.motion import of_rows
from zygon.making.pipeline import build
from zygon.making.rooms.pulls import pulls


def pulled(built, pull, text):
    return build(patched(built.document.dump(), [{"op": "replace", "path": f"{pull.pointer}/text", "value": text}]))


def found(built, part):
    return {p.face: p for p in pulls(built, part)}


@pytest.mark.parametrize("name", sorted(EXAMPLES))
def test_a_pull_moves_its_face_by_just_that(name):
    built = build(example(name))
    tried = 0
    for key, part in built.made.items():
        if part.made_by:
            continue
        try:
            some = pulls(built, key)
        except DocumentError:
            continue
        for n, pull in enumerate(some[:3]):
            by = (3.0, -2.5)[(n + tried) % 2]
            after = pulled(built, pull, pull.text.with_constant(pull.text.constant + by))
            assert pull.value == pytest.approx(place(part, pull)), (key, pull)
            if pull.size:
                assert pull.follow > 0
                continue
            moved = after.made[key]
            assert place(moved, pull) - place(part, pull) == pytest.approx(by, abs=2e-3), (key, pull)
            tried += 1
    # members are where their frame's points are
    assert tried > 1 or len(built.made) < 3 or name in ("tube-stand", "drying-rack")


def place(part, pull):
    """Where a face lies along the pull's axis, in the room."""
    low, high = part.span_box.span(pull.axis)
    faces = {"left": low, "front": low, "bottom": low, "right": high, "back": high, "top": high}
    if part.record.kind == "hardware" and pull.face not in (*faces, "centre"):  # by its origin, or a leaf
        return of_rows(part.matrix[:3]).point(part.body.places[pull.face])["xyz".index(pull.axis)]
    return faces.get(pull.face, (low + high) / 2)


def shelf():
    d = cabinet().size("gap", "25 mm")
    d.board("shelf", "ply12", "lying", "120 mm", ("left.right", "right.left - 4 mm"), ("0", "depth - 2*gap"))
    d.board("rail", "ply12", "facing_front", "shelf.front", ("left.right", "shelf.right"), ("floor.top", "shelf.bottom"))
    return d


def test_what_a_pull_changes_and_how_it_is_written():
    some = found(build(shelf().document()), "shelf")
    assert (some["left"].text.base, some["left"].text.constant, some["left"].whole) == ("left.right", 0, True)
    assert (some["right"].text.base, some["right"].text.constant, some["right"].whole) == ("right.left", -4, True)
    assert (some["front"].text.base, some["front"].whole) == ("", True)
    assert (some["back"].text.base, some["back"].whole) == ("depth - 2*gap", False)
    assert (some["bottom"].pointer, some["bottom"].value) == ("/parts/shelf/position/at", 120)


def test_a_face_that_is_just_a_size_pulls_the_size():
    some = found(build(shelf().document()), "left")
    assert (some["back"].size, some["back"].pointer, some["back"].text.constant) == ("depth", "/sizes/depth/entry", 300)
    assert some["back"].catches == () and some["back"].follow == 5
    assert some["front"].size == "" and some["left"].size == ""


def test_it_catches_on_what_does_not_hang_on_it():
    built = build(shelf().document())
    some = found(built, "shelf")
    names = {c.entry for c in some["bottom"].catches}
    assert {"floor.top", "top.bottom", "left.bottom", "gap"} <= names
    assert "rail.top" not in names and "shelf.bottom" not in names  # they would follow themselves
    assert "rail.right" not in {c.entry for c in some["right"].catches} and "rail.left" in {c.entry for c in some["right"].catches}
    for pull in some.values():
        for catch in pull.catches:
            after = pulled(built, pull, catch.entry)
            assert not [f for f in after.faults if f.code in ("cycle", "broken_expression")], (pull.face, catch)
            if after.values[pull.pointer].stale:
                continue
            assert after.values[pull.pointer].value == pytest.approx(catch.value)


def test_what_would_follow_itself_says_through_what():
    d = shelf()
    d.board("lip", "ply12", "facing_front", "rail.front", ("left.right", "shelf.right"), ("rail.bottom", "rail.top"), face="back")
    built = build(d.document())
    some = found(built, "shelf")
    # the rail ends below the shelf, and the lip ends where the rail does
    assert {b.why for b in some["bottom"].barred} == {"shelf.bottom would follow itself through rail.top"}
    assert {b.why for b in some["right"].barred} == {f"shelf.right would follow itself through {x}.right" for x in ("rail", "lip")}
    assert "shelf.front would follow itself through rail.front" in {b.why for b in some["front"].barred}
    ends = {"x": ("left", "right"), "y": ("front", "back"), "z": ("bottom", "top")}
    for pull in some.values():  # and so they would, there and nowhere else
        if pull.size:
            continue
        for other, face in [(o, f) for o in ("rail", "lip") for f in ends[pull.axis]]:
            low, high = built.made[other].span_box.span(pull.axis)
            at = low if face == ends[pull.axis][0] else high
            circle = any(f.code == "cycle" for f in pulled(built, pull, f"{other}.{face}").faults)
            assert circle == any(abs(b.value - at) < 1e-6 for b in pull.barred), (pull.face, other, face)


def test_in_a_group_that_is_moved_places_are_those_of_the_room():
    d = Draft("d", "ply12")
    d.board("base", "ply12", "lying", "0", ("0", "300 mm"), ("0", "200 mm"))
    d.group("g", x="50 mm")
    d.board("post", "ply12", "facing_side", "20 mm", ("0", "100 mm"), ("base.top", "base.top + 80 mm"))
    some = found(build(d.document()), "post")
    assert some["left"].value == 70
    base = next(c for c in some["left"].catches if c.entry == "base.right")
    assert base.value == pytest.approx(300)


def test_what_is_turned_or_no_part_is_not_pulled():
    d = cabinet()
    d.turn("top", "y", "20 deg", x="0", z="500 mm")
    built = build(d.document())
    with pytest.raises(DocumentError, match="top is turned"):
        pulls(built, "top")
    with pytest.raises(DocumentError, match="nobody is not pulled"):
        pulls(built, "nobody")
