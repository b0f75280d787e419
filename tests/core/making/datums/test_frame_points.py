"""Points of frames as datums: what they follow, chains of them, circles, and what is named of members."""

import time

import pytest

from tests.core.making.tube.frames import mm, stocked
from zygon.check.run import check
from zygon.design.patch import patched
from zygon.errors import DocumentError
from zygon.making.datums.members import point_of
from zygon.making.datums.solving import solve
from zygon.making.pipeline import build


def posts():
    d = stocked("square tube")
    d.size("wide", "500 mm").size("high", "300 mm")
    d.frame(
        "f",
        {"a": ("0", "0", "0"), "b": ("0", "0", "high"), "c": ("wide", "0", "0"), "e": ("wide", "0", "high")},
        {"left": ("a", "b"), "right": ("c", "e")},
    )
    d.member("left", "square_tube", "f", "left", against="y").member("right", "square_tube", "f", "right", against="y")
    return d


def test_a_board_between_tubes_names_their_sides_and_follows():
    d = posts()
    d.board("shelf", "ply18", "lying", "left.top - 100 mm", ("left.right", "right.left"), ("left.front", "left.back"))
    for wide, high in ((500, 300), (620, 410)):
        d.data["sizes"]["wide"]["entry"]["text"], d.data["sizes"]["high"]["entry"]["text"] = f"{wide} mm", f"{high} mm"
        built = build(d.document())
        assert not built.faults
        assert built.made["shelf"].span_box.low == pytest.approx((20, -20, high - 100)) and built.made["shelf"].span_box.high[
            0
        ] == pytest.approx(wide - 20)


def test_a_member_that_slopes_has_a_centre_and_no_sides():
    d = posts()
    d.frame("g", {"a": ("0", "0", "0"), "b": ("200 mm", "0", "150 mm")}, {"l": ("a", "b")}).member(
        "brace", "square_tube", "g", "l", against="y"
    )
    d.size("middle", "0")
    d.board("plate", "ply18", "lying", "0", ("brace.centre", "900 mm"), ("0", "50 mm"))
    assert build(d.document()).made["plate"].span_box.low[0] == pytest.approx(100)
    d.data["parts"]["plate"]["spans"]["x"]["low"]["text"] = "brace.right"
    (fault,) = build(d.document()).faults
    assert "brace runs along no axis, so its right has no one place" in fault.message


def test_a_long_chain_of_points_on_lines_is_worked_out_at_once():
    """Each point half way along the line to the one before it: the last is a third along; no call is deep, and none is made twice."""
    d = stocked("round tube")
    many = 150
    d.frame("f", {"p0": mm((0, 0, 0)), "p1": mm((2**20, 0, 0))}, {"l0": ("p0", "p1")})
    for n in range(2, many):
        d.on_line("f", f"p{n}", f"l{n - 2}", f"{2 ** (20 - n + 1):.12f}" if n < 20 else "0")
        d.data["frames"]["f"]["lines"][f"l{n - 1}"] = {"a": f"p{n - 1}", "b": f"p{n}"}
    d.data["frames"]["f"]["points"]["p1"]["at"]["x"]["text"] = "100 m"
    start = time.perf_counter()
    values = solve(d.document())
    assert time.perf_counter() - start < 20  # it would take years
    assert f"point:f:p{many - 1}:off" in values.solved


@pytest.mark.parametrize(
    ("points", "where"),
    [
        ({"b": {"on": "left", "off": {"text": "5 mm"}}}, "b"),
        ({"a": {"on": "right", "off": {"text": "5 mm"}}, "c": {"on": "left", "off": {"text": "5 mm"}}}, "a"),
    ],
)
def test_a_point_on_a_line_that_hangs_on_it_is_refused(points, where):
    data = posts().document().dump()
    for key, point in points.items():
        data["frames"]["f"]["points"][key] = {"order": 0, **point}
    with pytest.raises(DocumentError, match="whose own ends hang on it") as refused:
        patched(data, [])
    assert refused.value.entry == f"/frames/f/points/{where}/on"


def test_a_circle_through_a_member_s_side_is_told_and_the_last_good_place_stands():
    d = posts()
    good = build(d.document()).good
    d.data["frames"]["f"]["points"]["b"]["at"]["x"]["text"] = "left.right"
    built = build(d.document(), good)
    assert [f.code for f in built.faults] == ["cycle"]
    assert built.made["left"].reaches[1][2] == pytest.approx(300)
    assert {p.fault.code for p in check(built)} == {"cycle"}


@pytest.mark.parametrize(
    ("change", "rule"),
    [
        ({"points": {"a": {"at": {"x": {"text": "0"}}}}}, "a place along x, y and z"),
        ({"points": {"a": {"on": "left"}}}, "how far from its end"),
        ({"points": {"a": {"on": "nowhere", "off": {"text": "1 mm"}}}}, "no line with the key 'nowhere'"),
        ({"lines": {"left": {"a": "a", "b": "nowhere"}}}, "no point with the key 'nowhere'"),
        ({"lines": {"left": {"a": "a", "b": "a"}}}, "from one point to another"),
    ],
)
def test_a_frame_that_cannot_be_read_names_its_entry(change, rule):
    data = posts().document().dump()
    for field, records in change.items():
        data["frames"]["f"][field] |= records
    with pytest.raises(DocumentError, match=rule) as refused:
        patched(data, [])
    assert refused.value.entry.startswith("/frames/f/")


def test_points_follow_broken_entries_as_all_else_does():
    """What cannot be read stands on its last good value; without one, what hangs on it has no place, and the rest does."""
    d = posts()
    good = build(d.document()).good
    d.data["frames"]["f"]["points"]["e"]["at"]["z"]["text"] = "hihg"
    built = build(d.document(), good)
    assert [f.code for f in built.faults] == ["broken_expression"] and set(built.made) == {"left", "right"}
    assert set(build(d.document()).made) == {"left"}
    assert point_of(solve(d.document(), good), "f", "e").tolist() == [500, 0, 300]
