"""Where a board catches, with the entry that puts it there: each is tried by building the board, and lies where it says."""

import pytest

from tests.core.making.rooms.test_free import T, bodies, box_of, cabinet, met
from zygon.design.patch import patched
from zygon.edits.operations import OPERATIONS
from zygon.geometry.frame import AXES, FACES, frame_of
from zygon.making.pipeline import build
from zygon.making.rooms.catches import catches, evenly, from_low
from zygon.making.rooms.free import Bound, free_rooms


def placed(built, room, plane, catch, **more):
    """The design with a board at a catch, by the operation."""
    frame = frame_of(plane)
    spans = {a: tuple(b.entry for b in room.bounds[a]) for a in (frame.u, frame.v)}
    made = OPERATIONS["place_board"](
        operation="place_board",
        stock="ply12",
        plane=plane,
        spans=spans,
        face=catch.face if catch else "centre",
        at=catch.entry if catch else "0",
        **more,
    )
    label, patch = made.work(built)
    assert label
    return build(patched(built.document.dump(), patch)), patch


def shelves():
    d = cabinet().size("gap", "25 mm")
    d.board("lower", "ply12", "lying", "120 mm", ("left.right", "right.left"), ("0", "depth"))
    d.board("upper", "ply12", "lying", "210 mm", ("left.right", "right.left"), ("0", "depth"))
    return d


@pytest.mark.parametrize(
    ("part", "face", "plane"),
    [
        ("left", "right", "lying"),
        ("right", "left", "lying"),
        ("left", "right", "facing_front"),
        ("floor", "top", "facing_side"),
        ("top", "bottom", "facing_side"),
        ("floor", "top", "lying"),
        ("left", "right", "facing_side"),
        ("left", "left", "facing_side"),
        ("left", "left", "lying"),
        ("top", "top", "facing_front"),
    ],
)
def test_a_board_lies_where_its_catch_says_and_within_the_room(part, face, plane):
    built = build(shelves().document())
    axis, there = frame_of(plane).normal, bodies(built)
    tried = 0
    for room in free_rooms(built, part, face, plane, T).rooms:
        assert met(there, box_of(room)) < 1e-3
        for catch in catches(built, room, plane, T):
            found, patch = placed(built, room, plane, catch)
            assert not found.faults, [f.message for f in found.faults]
            board = found.parts[patch[0]["path"].split("/")[2]]
            assert board.span_box.span(axis)[0] == pytest.approx(catch.low, abs=1e-6), catch
            for a in AXES:
                low, high = board.span_box.span(a)
                assert room.span(a)[0] - 1e-6 <= low and high <= room.span(a)[1] + 1e-6
                if a != axis:
                    assert (low, high) == pytest.approx(room.span(a))
            tried += 1
    assert tried > 2


def written(built, part, face, plane, which):
    room = free_rooms(built, part, face, plane, T).rooms[which]
    return {c.words: (c.face, c.entry) for c in catches(built, room, plane, T)}


def test_catches_are_written_as_a_maker_would_write_them():
    built = build(shelves().document())
    found = written(built, "left", "right", "lying", 0)  # the largest: over the upper shelf
    assert found["at upper.top"] == ("bottom", "upper.top") and found["at top.bottom"] == ("top", "top.bottom")
    assert found["in the middle"] == ("centre", "mid(upper.top, top.bottom)")
    assert found["a third"] == ("centre", "upper.top + (top.bottom - upper.top) / 3")
    assert found["as far on as lower and upper"] == ("bottom", "upper.bottom + (upper.bottom - lower.bottom)")
    assert found["gap from upper.top"] == ("bottom", "upper.top + gap") and found["gap from top.bottom"] == ("top", "top.bottom - gap")
    assert "depth from upper.top" not in found  # it does not fit


def test_beside_a_nought_a_catch_is_short():
    d = cabinet()
    d.data["parts"]["left"]["spans"]["y"]["low"] = d.data["parts"]["right"]["spans"]["y"]["low"] = d.entry("0")
    built = build(d.document())
    room = free_rooms(built, "left", "right", "facing_front", T).rooms[0]
    low, high = room.bounds["y"]
    assert (low.entry, high.entry) == ("left.front", "left.back")
    found = written(built, "left", "right", "facing_front", 0)
    assert found["in the middle"] == ("centre", "mid(left.front, left.back)")


@pytest.mark.parametrize("number", [2, 3, 5])
@pytest.mark.parametrize(
    ("part", "face", "plane"), [("left", "right", "lying"), ("floor", "top", "facing_side"), ("left", "right", "facing_front")]
)
def test_several_stand_evenly_and_follow(part, face, plane, number):
    built = build(cabinet().document())
    axis = frame_of(plane).normal
    room = free_rooms(built, part, face, plane, T).rooms[0]
    between = tuple(b.entry for b in room.bounds[axis])
    found, patch = placed(built, room, plane, None, number=number, between=between)
    assert not found.faults, [f.message for f in found.faults]
    for width in ("400 mm", "533.3 mm"):
        data = found.document.dump()
        for size in ("width", "depth", "height"):
            data["sizes"][size]["entry"]["text"] = width
        again = build(patched(data, []))
        key = patch[0]["path"].split("/")[2]
        boards = sorted(p.reaches[0][AXES.index(axis)] for k, p in again.made.items() if k.partition("@")[0] == key)
        low, high = (again.values[f"/parts/{key}/position/at"].value, None)
        assert len(boards) == number and boards[0] == pytest.approx(low)
        gaps = [b - a - T for a, b in zip(boards, boards[1:], strict=False)]
        ends = {"z": (51.8, float(width.split()[0]) - T), "x": (T, float(width.split()[0]) - T), "y": (0.0, float(width.split()[0]))}[axis]
        assert high is None and gaps == pytest.approx([(ends[1] - ends[0] - number * T) / (number + 1)] * (number - 1))
        assert boards[0] - ends[0] == pytest.approx(gaps[0]) and ends[1] - boards[-1] - T == pytest.approx(gaps[0])


@pytest.mark.parametrize("plane", ["lying", "facing_front", "facing_side"])
def test_what_is_placed_is_called_by_how_it_stands_and_never_twice(plane):
    built = build(cabinet().document())
    name = {"lying": "shelf", "facing_side": "divider", "facing_front": "panel"}[plane]
    for wanted in (name, f"{name}_2", f"{name}_3"):
        part, face = ("floor", "top") if plane == "facing_side" else ("left", "right")
        room = free_rooms(built, part, face, plane, T).rooms[0]
        catch = next(c for c in catches(built, room, plane, T) if c.words == "in the middle")
        built, patch = placed(built, room, plane, catch)
        assert patch[0]["path"] == f"/parts/{wanted}" and patch[0]["value"]["name"] == wanted
        assert FACES[frame_of(plane).normal]


@pytest.mark.parametrize(
    ("low", "high", "first", "on"),
    [
        ("0 mm", "width", "(width - 3 * s.thickness) / 4", "(width - 3 * s.thickness) / 4 + s.thickness"),
        ("0 in", "width", "(width - 3 * s.thickness) / 4", "(width - 3 * s.thickness) / 4 + s.thickness"),
        ("0", "width", "(width - 3 * s.thickness) / 4", "(width - 3 * s.thickness) / 4 + s.thickness"),
        ("a.top", "b.bottom", "a.top + (b.bottom - a.top - 3 * s.thickness) / 4", "(b.bottom - a.top - 3 * s.thickness) / 4 + s.thickness"),
        ("12 mm", "90 mm", "12 mm + (90 mm - 12 mm - 3 * s.thickness) / 4", "(90 mm - 12 mm - 3 * s.thickness) / 4 + s.thickness"),
        ("-12 mm", "90 mm", "-12 mm + (90 mm - (-12 mm) - 3 * s.thickness) / 4", "(90 mm - (-12 mm) - 3 * s.thickness) / 4 + s.thickness"),
        (
            "a.top + 3 mm",
            "b.bottom",
            "a.top + 3 mm + (b.bottom - (a.top + 3 mm) - 3 * s.thickness) / 4",
            "(b.bottom - (a.top + 3 mm) - 3 * s.thickness) / 4 + s.thickness",
        ),
    ],
)
def test_equal_gaps_are_written_so_that_they_follow(low, high, first, on):
    assert evenly(Bound(0.0, low), Bound(0.0, high), 3, "s") == (first, on)


def test_a_place_behind_nought_is_just_the_distance():
    assert [from_low(Bound(0.0, e), "5 mm") for e in ("0 mm", "0 in", "0", "10 mm", "a.top")] == [
        "5 mm",
        "5 mm",
        "5 mm",
        "10 mm + 5 mm",
        "a.top + 5 mm",
    ]


def test_beside_what_has_no_name_shares_are_figures():
    """A room that ends at a slope: a place and a length cannot be added up, so where a board catches in it is a figure."""
    d = cabinet()
    d.board("ramp", "ply12", "lying", "300 mm", ("60 mm", "340 mm"), ("0", "depth"))
    d.turn("ramp", "y", "12 deg", x="200 mm", z="300 mm")
    built = build(d.document())
    room = next(r for r in free_rooms(built, "left", "right", "lying", T).rooms if any(b.slopes for b in r.bounds["z"]))
    low, high = (b.value for b in room.bounds["z"])
    found = {c.words: c for c in catches(built, room, "lying", T)}
    for words, share in (
        ("in the middle", 1 / 2),
        ("a third", 1 / 3),
        ("two thirds", 2 / 3),
        ("a quarter", 1 / 4),
        ("three quarters", 3 / 4),
    ):
        catch = found[words]
        assert catch.face == "centre" and catch.low + T / 2 == pytest.approx(low + (high - low) * share)
        assert float(catch.entry.removesuffix(" mm")) == pytest.approx(low + (high - low) * share, abs=1e-3)
