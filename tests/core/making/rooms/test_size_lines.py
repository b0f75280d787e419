"""Lines of sizes: each is as long as its size says, lies where something is measured, and grows by what the size grows by, at its end alone."""

import math

import numpy as np
import pytest

from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES, example
from zygon.design.patch import patched
from zygon.errors import ZygonError
from zygon.geometry.frame import FACES, frame_of
from zygon.making.pipeline import build
from zygon.making.rooms.size_lines import size_lines


def along(line):
    return math.dist(line.start, line.end)


def grown(built, key, by):
    size = built.document.sizes[key]
    now = built.values[f"/sizes/{key}/entry"].value
    return build(
        patched(
            built.document.dump(),
            [{"op": "replace", "path": f"/sizes/{key}/entry", "value": {"text": f"{now + by} mm", "unit": size.entry.unit}}],
        )
    )


@pytest.mark.parametrize("by", [2.0, -1.5])
@pytest.mark.parametrize("name", sorted(EXAMPLES))
def test_a_line_is_its_size_and_grows_with_it(name, by):
    built = build(example(name))
    tried = 0
    for key, found in size_lines(built).items():
        size = built.document.sizes[key]
        for line in found.lines:
            assert along(line) == pytest.approx(abs(built.values[f"/sizes/{key}/entry"].value), abs=1e-3), (key, line)
            assert line.parts
        assert (found.pull is None) == (size.kind != "length" or size.measured is not None)
        if not found.lines or tried == 4:
            continue
        tried += 1
        after = size_lines(grown(built, key, by))[key].lines
        assert [round(along(x), 3) for x in after[:1]] == [round(along(found.lines[0]) + by, 3)], key
    # the sizes of a frame's points, and those in a drawing, govern no face
    assert tried or name in ("clamp-plate", "smoker-hook", "entrance-guard", "tube-stand", "drying-rack")


def sized(plane, side):
    """A board of which each end, its place, a hole's offset from each edge, and a row's spacing are a size; the others are figures."""
    d = Draft("sized", "ply12")
    for n in ("place", "low", "high", "inset", "pitch"):
        d.size(n, {"place": "31 mm", "low": "17 mm", "high": "317 mm", "inset": "23 mm", "pitch": "411 mm"}[n])
    frame = frame_of(plane)
    d.board("p", "ply12", plane, "place", ("low", "high"), ("5 mm", "205 mm"))
    u, v = FACES[frame.u][side], FACES[frame.v][side]
    d.feature("p", "hole", "hole", (u, "inset"), (v, "45 mm"), diameter="6")
    d.repeat("row", "row", "part:p", axis=frame.u, number="2", spacing="pitch")
    return d, frame


@pytest.mark.parametrize("side", [0, 1])
@pytest.mark.parametrize("plane", ["lying", "facing_front", "facing_side"])
def test_every_place_that_is_a_size_has_its_line(plane, side):
    d, frame = sized(plane, side)
    lines = {k: v.lines for k, v in size_lines(build(d.document())).items()}
    i = "xyz".index

    def only(key):
        (line,) = lines[key]
        moved = [k for k in range(3) if abs(line.start[k] - line.end[k]) > 1e-6]
        return moved, [line.start[moved[0]], line.end[moved[0]]]

    assert only("place") == ([i(frame.normal)], [0, pytest.approx(31)])
    assert only("low") == ([i(frame.u)], [0, pytest.approx(17)])
    assert only("high") == ([i(frame.u)], [0, pytest.approx(317)])
    edge = (17, 317)[side]
    assert only("inset") == ([i(frame.u)], [pytest.approx(edge), pytest.approx(edge + (23, -23)[side])])
    assert only("pitch") == ([i(frame.u)], [pytest.approx(17), pytest.approx(17 + 411)])


@pytest.mark.parametrize(
    "text, sign",
    [
        ("width", 1),
        ("b.left + width", 1),
        ("b.right - width", -1),
        ("2 * width - width", 1),
        ("width / 2", 0),
        ("width + width", 0),
        ("max(width, 5 mm)", 1),
    ],
)
def test_only_what_is_just_the_size_has_a_line(text, sign):
    d = Draft("one", "ply12").size("width", "100 mm")
    d.board("b", "ply12", "lying", 200, (0, 300), (0, 50))
    d.board("p", "ply12", "facing_side", text, (0, 50), (0, 50))
    lines = size_lines(build(d.document()))["width"].lines
    assert len(lines) == abs(sign)
    for line in lines:
        assert math.copysign(1, line.end[0] - line.start[0]) == sign


def test_a_line_begins_where_something_lies():
    d = Draft("off", "ply12").size("width", "100 mm")
    d.board("p", "ply12", "lying", 0, (0, "width - 30 mm"), (0, 50))  # from -30 to 70: nothing is there
    assert size_lines(build(d.document()))["width"].lines == []


@pytest.mark.parametrize("axis", "xyz")
def test_a_mirror_at_half_of_a_size_is_that_size_over_all(axis):
    plane = {"x": "facing_side", "y": "facing_front", "z": "lying"}[axis]
    d = Draft("pair", "ply12").size("over", "260 mm")
    d.board("p", "ply12", plane, 0, (10, 110), (20, 120))
    d.mirror("other", axis, "over / 2", "part:p")
    (line,) = size_lines(build(d.document()))["over"].lines
    i = "xyz".index(axis)
    assert (line.start[i], line.end[i]) == pytest.approx((0, 260))
    built = grown(build(d.document()), "over", 10)
    assert max(p.reaches[1][i] for p in built.made.values()) == pytest.approx(270)


def test_a_line_turns_with_its_part():
    d = Draft("turned", "ply12").size("long", "200 mm")
    d.board("p", "ply12", "lying", 0, (0, "long"), (0, 80))
    d.turn("p", "z", "30 deg", x="0", y="0")
    (line,) = size_lines(build(d.document()))["long"].lines
    way = [(b - a) / 200 for a, b in zip(line.start, line.end, strict=True)]
    assert way == pytest.approx([math.cos(math.radians(30)), 0.5, 0], abs=1e-4)


@pytest.mark.parametrize("toward", "ab")
@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
def test_a_flange_s_length_runs_from_the_sharp_corner_to_its_free_edge(edge, toward):
    d = Draft("bent", "galv20").size("wall", "40 mm")
    d.board("p", "galv20", "lying", 0, (0, 200), (0, 150), up="a")
    d.fold("p")
    d.flange("p", "f", edge, "wall", toward=toward)
    (line,) = size_lines(build(d.document()))["wall"].lines
    assert along(line) == pytest.approx(40, abs=1e-3)
    reach = build(d.document()).made["p"].reaches
    # as measured outside: the whole height over the plate's outer face
    assert abs(line.end[2]) == pytest.approx(reach[1][2] if toward == "a" else -reach[0][2], abs=1e-3)
    assert reach[1][2] - reach[0][2] == pytest.approx(40, abs=1e-3)


def test_what_cannot_be_read_has_no_line_and_breaks_nothing():
    d = Draft("odd", "ply12").size("width", "100 mm").size("turn", "30 deg", kind="angle").size("lost", "nothing + 3 mm")
    d.board("p", "ply12", "lying", 0, ("lost", "width + gone.left"), (0, "width"))
    try:
        built = build(d.document())
    except ZygonError:
        pytest.fail("a broken entry does not stop the build")
    found = size_lines(built)
    assert found["turn"].pull is None and found["turn"].lines == []
    assert all(along(x) == pytest.approx(100) for x in found["width"].lines)


@pytest.mark.parametrize("plane", ["lying", "facing_front", "facing_side"])
@pytest.mark.parametrize(
    ("kind", "measures"),
    [
        ("hole", ("diameter",)),
        ("slot", ("length", "width")),
        ("rectangle", ("width", "height")),
        ("hand_hold", ("length", "width")),
        ("pocket", ("width", "height")),
    ],
)
@pytest.mark.parametrize("angle", ["0", "30 deg"])
def test_what_is_as_wide_as_a_size_has_its_line_across_its_middle(kind, measures, angle, plane):
    d = Draft("d", "ply12", cutter="router")
    d.board("p", "ply12", plane, "5 mm", ("10 mm", "310 mm"), ("20 mm", "220 mm"))
    fields = {m: f"across_{m}" for m in measures} | ({"depth": "3 mm"} if kind == "pocket" else {})
    for n, m in enumerate(measures):
        d.size(f"across_{m}", f"{40 - 11 * n} mm")
    if kind in ("slot", "rectangle", "pocket"):
        fields["angle"] = angle
    d.feature(
        "p",
        "f",
        kind,
        ("left" if plane != "facing_side" else "front", "120 mm"),
        ("front" if plane == "lying" else "bottom", "90 mm"),
        **fields,
    )
    built = build(d.document())
    assert not built.faults
    part = built.flats["p"]
    found = size_lines(built)
    turned = math.radians(30) if "angle" in fields and angle != "0" else 0.0
    for n, m in enumerate(measures):
        (line,) = found[f"across_{m}"].lines
        m4 = np.array(part.matrix)
        start, end = (np.linalg.solve(m4[:3, :3], np.array(p) - m4[:3, 3]) for p in (line.start, line.end))
        assert (start + end)[:2] / 2 == pytest.approx((120, 90), abs=1e-3)
        way = (math.cos(turned + n * math.pi / 2), math.sin(turned + n * math.pi / 2))
        assert (end - start)[:2] == pytest.approx(((40 - 11 * n) * way[0], (40 - 11 * n) * way[1]), abs=1e-3)


def test_a_bore_as_wide_as_a_size_has_its_line_and_one_that_only_reads_it_has_none():
    for text, lines in (("pin", 1), ("pin + 1 mm", 0), ("2*pin", 0)):
        d = Draft("d", "ply12").size("pin", "9 mm")
        d.board("p", "ply12", "lying", "5 mm", ("10 mm", "310 mm"), ("20 mm", "220 mm"))
        d.bore("b", "z", {"x": "100 mm", "y": "70 mm"}, text, p=("cut", "0"))
        found = size_lines(build(d.document()))["pin"].lines
        assert [(line.start[:2], line.end[:2]) for line in found] == [((95.5, 70.0), (104.5, 70.0))] * lines
