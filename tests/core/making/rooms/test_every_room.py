"""The rooms before every face of every part of the examples and of some odd designs, for boards that stand in all three ways, with all catches and pulls.

First what must not change: moved, or mirrored with all its parts, a design has the same rooms, moved or mirrored with it. Then the figures are kept.
"""

import itertools

import pytest

from tests.core.figures import compared, condensed
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES, example
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, FACES, frame_of
from zygon.making.pipeline import build
from zygon.making.rooms.catches import catches
from zygon.making.rooms.free import free_rooms
from zygon.making.rooms.pulls import pulls
from zygon.making.rooms.taken import taken

PLANES = ("lying", "facing_front", "facing_side")
WORDS = [f for pair in FACES.values() for f in pair]


def rooms_of(built, key, face, plane, thickness=7.3):
    try:
        found = free_rooms(built, key, face, plane, thickness)
    except DocumentError as error:
        return error.message
    rows = []
    for room in found.rooms:
        ends = [[round(b.value, 3), b.entry, b.part, b.slopes] for a in AXES for b in room.bounds[a]]
        caught = [[round(c.low, 3), c.face, c.entry, c.words] for c in catches(built, room, plane, thickness)]
        rows.append([ends, list(room.open), caught])
    return [found.axis, round(found.at, 3), found.outward, found.why, rows]


def pulls_of(built, key):
    try:
        found = pulls(built, key)
    except DocumentError as error:
        return error.message
    return [
        [
            p.face,
            p.axis,
            round(p.value, 3),
            p.pointer,
            p.text.base,
            round(p.text.constant, 3),
            p.text.word,
            p.whole,
            p.size,
            p.follow,
            [[round(c.value, 3), c.entry] for c in p.catches],
        ]
        for p in found
    ]


def turned():
    """A splayed leg beside a shelf, a disc, a rod, a frame with a window, a folded tray, a group that is moved, copies, a mirror image, what lies aside."""
    d = Draft("odd", "ply12")
    d.size("width", "430 mm").size("gap", "31 mm").size("nothing", "0 mm")
    d.board("floor", "ply12", "lying", "0", ("0", "width"), ("0", "310 mm"))
    d.board("leg", "ply12", "facing_side", "90 mm", ("30 mm", "170 mm"), ("floor.top", "floor.top + 260 mm"))
    d.turn("leg", "y", "17 deg", x="90 mm", z="12 mm")
    d.board("disc", "ply12", "facing_front", "210 mm", ("200 mm", "320 mm"), ("floor.top", "floor.top + 120 mm"), outline={"kind": "disc"})
    window = {
        "kind": "drawn",
        "outer": [[0, 0, 0], [140, 0, 0], [140, 110, 0], [0, 110, 0]],
        "inner": [[[30, 30, 0], [30, 80, 0], [110, 80, 0], [110, 30, 0]]],
    }
    d.board("window", "ply12", "facing_side", "370 mm", ("100 mm", "240 mm"), ("140 mm", "250 mm"), outline=window)
    d.block("motor", ("250 mm", "310 mm"), ("40 mm", "99 mm"), ("floor.top", "floor.top + 44 mm"))
    d.board("shelf", "ply12", "lying", "170 mm", ("0", "width - gap"), ("0", "120 mm"))
    d.board("upper", "ply12", "lying", "230 mm", ("0", "width - gap"), ("0", "120 mm - 2*gap"))
    d.group("lifted", z="300 mm", x="12 mm")
    d.board("cap", "ply12", "lying", "0", ("0", "width / 2"), ("0", "140 mm"))
    d.board("stud", "ply12", "facing_side", "cap.left + 20 mm", ("cap.front", "cap.back"), ("cap.top", "cap.top + 60 mm"))
    d.mirror("m", "x", "cap.centre", "part:stud")
    d.repeat("r", "row", "part:cap", axis="z", number="3", spacing="75 mm")
    return d.document()


def tray():
    d = Draft("tray", "galv20")
    d.board("tray", "galv20", "lying", "0", ("0", "300 mm"), ("0", "120 mm"), up="a")
    d.fold("tray", gap="0.3 mm")
    d.flange("tray", "left", "left", "40 mm").flange("tray", "right", "right", "55 mm", angle="60 deg").flange(
        "tray", "lip", "end", "22 mm", on="left"
    )
    d.flange("tray", "back", "back", "31 mm", toward="b")
    return d.document()


DESIGNS = {**{n: (lambda n=n: example(n)) for n in sorted(EXAMPLES)}, "odd": turned, "tray": tray}


@pytest.mark.parametrize("name", sorted(DESIGNS))
def test_rooms_catches_and_pulls_are_as_they_were(name):
    built = build(DESIGNS[name]())
    own = sorted(k for k, p in built.made.items() if not p.made_by)
    copies = sorted(k for k, p in built.made.items() if p.made_by)
    legs = [f"{leg}.{side}" for leg in ("left", "right", "lip", "back") for side in ("inner", "outer")] if name == "tray" else []
    found = {}
    for n, (key, face) in enumerate(itertools.product([*own[:10], *copies[:3]], [*WORDS, *legs])):
        plane = PLANES[n % 3] if name in EXAMPLES else None
        for each in (plane,) if plane else PLANES:
            found[f"{key} {face} {each}"] = rooms_of(built, key, face, each)
    for key in own[:10]:
        found[f"pulls {key}"] = pulls_of(built, key)
    there = taken(built)
    found["taken"] = [
        [p, [round(x, 3) for x in (*low, *high)], bool(e)]
        for low, high, p, e in zip(there.low, there.high, there.parts, there.exact, strict=True)
    ]
    compared(f"rooms-{name}", {k: condensed(v) for k, v in found.items()})


def boxes(by=(0, 0, 0), flipped=""):
    """Some boards along the axes, moved, or mirrored across the middle of 400 mm along an axis."""
    d = Draft("d", "ply12")
    some = [
        ("lying", 0, (0, 400), (0, 300)),
        ("facing_side", 40, (20, 280), (12, 200)),
        ("facing_side", 330, (0, 150), (12, 120)),
        ("lying", 150, (60, 300), (50, 250)),
        ("facing_front", 240, (0, 400), (12, 90)),
    ]
    for n, (plane, at, u, v) in enumerate(some):
        f = frame_of(plane)
        ends = {f.u: list(u), f.v: list(v)}
        place = {f.normal: at}
        for a, shift in zip(AXES, by, strict=True):
            if a in ends:
                ends[a] = sorted((400 - x if a == flipped else x) + shift for x in ends[a])
            else:
                place[a] = (400 - at - T if a == flipped else at) + shift
        d.board(f"b{n}", "ply12", plane, f"{place[f.normal]} mm", *(tuple(f"{x} mm" for x in ends[a]) for a in (f.u, f.v)))
    return build(d.document())


T = 11.8


def spans(built, key, face, plane):
    try:
        found = free_rooms(built, key, face, plane, 9.0)
    except DocumentError:
        return []
    return sorted(tuple(round(x, 3) + 0.0 for a in AXES for x in r.span(a)) for r in found.rooms)


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("face", WORDS)
def test_a_design_that_is_moved_or_mirrored_has_the_same_rooms(face, plane):
    plain = boxes()
    moved = boxes((37, -55, -91))  # not up: the ground would end rooms there
    for key in plain.made:
        there = spans(plain, key, face, plane)
        by = (37, 37, -55, -55, -91, -91)
        assert spans(moved, key, face, plane) == sorted(tuple(round(x + s, 3) for x, s in zip(r, by, strict=True)) for r in there)
        for i, axis in enumerate(AXES):
            other = face if face not in FACES[axis] else FACES[axis][1 - FACES[axis].index(face)]
            seen = []
            for r in there:
                r = list(r)
                r[2 * i], r[2 * i + 1] = 400 - r[2 * i + 1], 400 - r[2 * i]
                seen.append(tuple(round(x, 3) + 0.0 for x in r))
            assert spans(boxes(flipped=axis), key, other, plane) == sorted(seen), (key, axis)
