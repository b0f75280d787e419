"""Boards that are cut round members: where they pass, as wide as they are, square and at an angle, copies too."""

import itertools
import math

import numpy as np
import pytest
from shapely import Polygon, box

from tests.core.making.tube.frames import SECTIONS, key, mm, section_of, stocked
from zygon.check.run import check
from zygon.design.operations import remove_part
from zygon.design.patch import patched
from zygon.edits.let_through import let_through
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.making.solids.solids import gap_between, in_common

T = 17.7  # the measured thickness of the demo's board of 18
FITTED = 0.5


def shelf(section, lean=0.0, turn="0", side=300.0, **more):
    """A board across which a leg stands, leaning by so much, in the middle or off it."""
    d = stocked(section)
    a = math.radians(lean)
    way = (math.sin(a), 0.0, math.cos(a))
    d.board("shelf", "ply18", "lying", "0", (f"-{side} mm", f"{side} mm"), (f"-{side} mm", f"{side} mm"), **more)
    d.frame("f", {"a": mm([-300 * w for w in way]), "b": mm([400 * w for w in way])}, {"l": ("a", "b")})
    d.member("leg", key(section), "f", "l", against="y", turn=turn)
    return d


def let(d):
    document = d.document() if hasattr(d, "document") else d
    return patched(document.dump(), let_through(build(document), "leg")[1])


def area(built, part="shelf"):
    return sum(r.area for r in built.flats[part].flat.pieces)


@pytest.mark.parametrize("section", list(SECTIONS))
@pytest.mark.parametrize(("lean", "turn"), list(itertools.product([0.0, 20.0], ["0", "30 deg"])))
def test_a_board_lets_a_leg_through_and_no_more(section, lean, turn):
    d = shelf(section, lean, turn)
    before, built = build(d.document()), build(let(d))
    assert in_common(before.made["leg"], before.made["shelf"]) is not None
    assert not built.faults and in_common(built.made["leg"], built.made["shelf"]) is None
    assert "overlap" not in [p.fault.code for p in check(built)]
    gap = gap_between(built.made["leg"], built.made["shelf"], 5.0)
    # straight through a board that it leans to, a hole is wider than the leg, and touches it at its edges
    assert FITTED / 2 - 0.12 <= gap <= FITTED / 2 + 0.02
    taken = area(before) - area(built)
    own = section_of(section).outline(FITTED / 2)
    if lean == 0:
        assert taken == pytest.approx(own.area, rel=1e-6)
    else:
        around = section_of(section).grown(FITTED / 2).area
        assert own.area < taken < around * 1.8 / math.cos(math.radians(lean)) + T * 60


def test_at_an_edge_a_board_is_notched():
    d = shelf("square tube", side=300.0)
    d.data["parts"]["shelf"]["spans"]["x"]["low"]["text"] = "-5 mm"
    built = build(let(d))
    assert not built.faults and len(built.flats["shelf"].flat.pieces) == 1
    assert not built.flats["shelf"].flat.pieces[0].inner  # open at the edge
    assert in_common(built.made["leg"], built.made["shelf"]) is None


def test_the_copies_of_a_leg_are_let_through_too_and_follow():
    d = shelf("round tube")
    d.size("apart", "200 mm")
    d.mirror("other", "x", "apart", "part:leg", name="other")
    d.data["parts"]["shelf"]["spans"]["x"]["high"]["text"] = "700 mm"
    document = let(d)
    for apart in (200, 150):
        data = document.dump()
        data["sizes"]["apart"]["entry"]["text"] = f"{apart} mm"
        built = build(patched(data, []))
        circles = sorted(c.as_circle[0] for c in built.flats["shelf"].flat.pieces[0].inner)
        assert len(circles) == 2 and circles[1] - circles[0] == pytest.approx(2 * apart)
        assert all(in_common(p, built.made["shelf"]) is None for k, p in built.made.items() if k.startswith("leg"))


def test_it_goes_with_its_member_and_asks_for_no_more_than_there_is():
    document = let(shelf("round tube"))
    (bore,) = document.bores.values()
    assert bore.member == "leg" and list(bore.parts) == ["shelf"]
    with pytest.raises(DocumentError, match="does not let it through already"):
        let_through(build(document), "leg")
    assert not patched(document.dump(), remove_part(document, "leg")[1]).bores
    less = patched(document.dump(), remove_part(document, "shelf")[1])
    assert not build(less).faults
    with pytest.raises(DocumentError, match="passes through no board"):
        let_through(build(less), "leg")
    with pytest.raises(DocumentError, match="a rod, a turned part or a member of a frame"):
        let_through(build(document), "shelf")
    more = document.dump()
    more["bores"][next(iter(more["bores"]))]["member"] = "shelf"
    with pytest.raises(DocumentError, match="lets a rod, a turned part or a member of a frame through"):
        patched(more, [])


def test_a_leg_that_is_moved_off_its_board_is_said():
    document = let(shelf("round tube"))
    data = document.dump()
    for p in data["frames"]["f"]["points"].values():
        p["at"]["y"]["text"] = "900 mm"
    assert [f.code for f in build(patched(data, [])).faults] == ["bore_misses"]


def test_a_leg_that_is_bent_since_is_said():
    data = let(shelf("round tube")).dump()
    data["frames"]["f"]["points"]["c"] = {"order": 9, "at": {a: {"text": t} for a, t in (("x", "500 mm"), ("y", "0"), ("z", "400 mm"))}}
    data["frames"]["f"]["lines"]["m"] = {"a": "b", "b": "c", "order": 1}
    data["parts"]["leg"] |= {"lines": ["l", "m"], "radius": {"text": "120 mm"}}
    assert [f.entry for f in build(patched(data, [])).faults] == [f"/bores/{next(iter(data['bores']))}/member"]


#: Where a post's middle stands, from the board's middle toward an edge as a share of half its size; 1 is on the edge.
BESIDE = {"left": (-1, 0), "right": (1, 0), "front": (0, -1), "back": (0, 1), "corner": (1, -1)}


@pytest.mark.parametrize("off", [-25.0, -19.9, 0.0, 14.0, 19.9])
@pytest.mark.parametrize("side", BESIDE)
@pytest.mark.parametrize("section", ["square tube", "round bar", "angle"])
def test_what_only_grazes_an_edge_or_a_corner_notches_it(section, side, off):
    """The post's middle lies ``off`` mm outside of the edge, or of both edges of the corner: the board gives just the room that the post with its fit takes of it."""
    way = np.array(BESIDE[side], dtype=float)
    at = np.array((100.0, 150.0)) + way * (np.array((100.0, 150.0)) + off)
    d = stocked(section)
    d.board("shelf", "ply18", "lying", "100 mm", ("0", "200 mm"), ("0", "300 mm"))
    d.frame("f", {"p": mm((*at, -100)), "q": mm((*at, 400))}, {"l": ("p", "q")})
    d.member("post", key(section), "f", "l", against="y")
    document = d.document()
    post = build(document).made["post"]
    m = np.array(post.matrix)
    ring = post.body.section.outline(0.0).flatten(0.001)
    there = Polygon([(m[:3, :3] @ (x, y, 0.0) + m[:3, 3])[:2] for x, y in ring])
    taken = there.intersection(box(0, 0, 200, 300)).area
    if taken < 0.05:
        with pytest.raises(DocumentError, match="passes through no board"):
            let_through(build(document), "post")
        return
    built = build(patched(document.dump(), let_through(build(document), "post")[1]))
    assert not built.faults
    (piece,) = built.made["shelf"].body.pieces
    left = 200 * 300 - piece.area
    grown = there.buffer(0.25, join_style="mitre").intersection(box(0, 0, 200, 300)).area
    # in the corner the rounds of the hole would leave a piece by itself: it goes with them
    assert taken <= left <= grown + (40 if side == "corner" and off < 0 else 1.0)
    assert in_common(built.made["shelf"], built.made["post"]) is None
    assert not {"breaks_out", "off_part", "overlap"} & {p.fault.code for p in check(built)}


def test_a_post_that_stands_beside_a_board_is_let_alone_and_a_sloping_one_notches_where_it_passes():
    for slope, passes in ((0.0, False), (60.0, True)):
        d = stocked("square tube")
        d.board("shelf", "ply18", "lying", "100 mm", ("0", "200 mm"), ("0", "300 mm"))
        # at the board's height its middle is 22 mm outside, or by its slope 8
        d.frame("f", {"p": mm((222, 150, -100)), "q": mm((222 - slope, 150, 700))}, {"l": ("p", "q")})
        d.member("post", key("square tube"), "f", "l", against="y")
        built = build(d.document())
        if not passes:
            with pytest.raises(DocumentError):
                let_through(built, "post")
            continue
        after = build(patched(built.document.dump(), let_through(built, "post")[1]))
        assert not after.faults and in_common(after.made["shelf"], after.made["post"]) is None
        assert after.made["shelf"].body.pieces[0].area < 200 * 300 - 100
