"""Three boards that cross on one line: pair by pair the middle one is cut in two; in thirds each is one piece, none bites another, and they go together."""

import itertools

import pytest

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.placing import join_all
from zygon.making.asked.thirds import crossing_triples, thirds
from zygon.making.pipeline import build

PLANES = {"facing_front": ("z", "-5.9 mm"), "lying": ("x", "-5.9 mm")}


def star(angles=(0, 60, 120), plane="facing_front", spans=None, joints=None):
    """Three boards turned about one line."""
    axis, at = PLANES[plane]
    others = [x for x in "xyz" if x != axis]
    d = Draft("star", "ply12", cutter="router")
    for name, angle, high in zip("abc", angles, spans or ("300 mm",) * 3, strict=True):
        along, across = ("-150 mm", "150 mm"), ("0", high)
        d.board(name, "ply12", plane, at, *((along, across) if plane == "facing_front" else (across, along)))
        if angle:
            d.turn(name, axis, f"{angle} deg", **dict.fromkeys(others, "0"))
    for (a, b), side in (joints or dict.fromkeys(itertools.combinations("abc", 2), "high")).items():
        d.joint("cross_lap", a, b, side=side)
    return d


def errors(built):
    return [p.fault.code for p in check(built) if p.fault.severity == "error"]


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("sides", list(itertools.product(("high", "low"), repeat=3)))
@pytest.mark.parametrize("turned", [(0, 1, 2), (1, 0, 2), (2, 1, 0)])
def test_whatever_the_sides_and_ways_round_thirds_leave_each_board_whole(plane, sides, turned):
    pairs = [((0, 1), (0, 2), (1, 2))[i] for i in (0, 1, 2)]
    joints = {}
    for (i, j), side in zip(pairs, sides, strict=True):
        a, b = ("abc"[turned[i]], "abc"[turned[j]])
        joints[a, b] = side
    built = build(star(plane=plane, joints=joints).document())
    (keys,) = crossing_triples(built.document)
    patch = thirds(built.document, keys)
    assert {op["value"]["text"] for op in patch if op["path"].endswith("/share")} <= {"1/3", "1/2", "2/3"}
    after = build(patched(built.document.dump(), patch))
    assert not errors(after) and not after.faults, (sides, turned)
    assert [len(p.flat.pieces) for p in after.flats.values()] == [1, 1, 1]
    # again it says the same
    assert thirds(after.document, keys) == patch


def test_the_problem_offers_it_and_it_mends():
    built = build(star().document())
    assert errors(built) == ["pieces"]
    (problem,) = [p for p in check(built) if p.fault.code == "pieces"]
    (mend,) = problem.fault.mends
    assert mend.label == "Share the crossing of a, b and c in thirds"
    assert errors(build(patched(built.document.dump(), mend.patch))) == []
    assert not [m for p in check(built, assembled=False) for m in p.fault.mends]  # while a value is dragged it is not worked out


def test_the_third_joint_shares_at_once():
    d = star(joints={("a", "b"): "high", ("a", "c"): "high"})
    built = build(d.document())
    _, patch = join_all(built, [("b", "c", "cross_lap")])
    after = build(patched(built.document.dump(), patch))
    assert errors(after) == []
    assert sorted(j.share.text for j in after.document.joints.values()) == ["1/2", "1/3", "2/3"]


@pytest.mark.parametrize("spans", [("300 mm", "240 mm", "300 mm"), ("210 mm", "300 mm", "255 mm")])
def test_of_boards_of_unlike_height_what_they_have_in_common_is_shared(spans):
    built = build(star(spans=spans).document())
    (keys,) = crossing_triples(built.document)
    after = build(patched(built.document.dump(), thirds(built.document, keys)))
    assert errors(after) == []
    common = min(float(s.split()[0]) for s in spans)
    # the lowest keeps a third of what is common: its notch's floor lies there
    floors = sorted(
        {round(v, 1) for p in after.flats.values() for u, v in p.flat.pieces[0].outer.points if 130 < u < 170 and 1 < v < common - 1}
    )
    assert any(abs(f - common / 3) < 0.1 for f in floors) and any(abs(f - 2 * common / 3) < 0.1 for f in floors)


def test_a_square_crossing_with_a_slanting_third_is_shared_too():
    d = Draft("mixed", "ply12", cutter="router")
    d.board("a", "ply12", "facing_front", "-5.9 mm", ("-150 mm", "150 mm"), (0, "300 mm"))
    d.board("b", "ply12", "facing_side", "-5.9 mm", ("-150 mm", "150 mm"), (0, "300 mm"))
    d.board("c", "ply12", "facing_front", "-5.9 mm", ("-150 mm", "150 mm"), (0, "300 mm"))
    d.turn("c", "z", "45 deg", x="0", y="0")
    for pair in ("ab", "ac", "bc"):
        d.joint("cross_lap", *pair)
    built = build(d.document())
    assert "pieces" in errors(built)
    (keys,) = crossing_triples(built.document)
    assert errors(build(patched(built.document.dump(), thirds(built.document, keys)))) == []


def test_boards_that_cross_elsewhere_share_nothing():
    d = star()
    d.data["parts"]["c"]["position"]["at"]["text"] = "40 mm"
    built = build(d.document())
    for keys in crossing_triples(built.document):
        assert thirds(built.document, keys) == []
