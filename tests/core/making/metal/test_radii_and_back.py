"""Each leg of a profile with an inside radius of its own, and flanges whose bend lies farther in than they stand by: their flats by the handbook's sum,
where they come to stand, over every edge, direction and way of measuring."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.making.pipeline import build

EDGES = {"left": (0, -1), "right": (0, 1), "front": (1, -1), "back": (1, 1)}
SIZE = (240.0, 180.0)


def plate(**more):
    d = Draft("plate", "galv20")
    d.board("p", "galv20", "lying", 0, (0, SIZE[0]), (0, SIZE[1]), up="a")
    return d.fold("p", **more)


def faults(built):
    return [(p.fault.code, p.fault.message) for p in check(built) if p.fault.severity == "error"]


def extent(part):
    xs = [q for r in part.flat.pieces for q in r.outer.points]
    return [max(p[i] for p in xs) - min(p[i] for p in xs) for i in (0, 1)]


@pytest.mark.parametrize("toward", "ab")
@pytest.mark.parametrize("edge", EDGES)
@settings(max_examples=12)
@given(
    legs=st.lists(
        st.tuples(st.floats(20, 60), st.sampled_from([30, 60, 90, 120, -45, -90]), st.one_of(st.none(), st.floats(0.2, 6))),
        min_size=1,
        max_size=3,
    )
)
def test_a_profile_lies_flat_by_the_sum_of_its_lengths_and_allowances(edge, toward, legs):
    """Developed length: the straight lengths between the bends and of each bend the arc of its neutral line (handbooks: BA = angle (R + K T))."""
    d = plate(radius="1.3 mm")
    shown = [(f"{x:.3f}", f"{a} deg", *([f"{r:.3f}"] if r is not None else [])) for x, a, r in legs]
    d.profile("p", "f", edge, *shown, toward=toward, measured="tangent", where="edge")
    built = build(d.document())
    fold = built.flats["p"].fold
    inside = [1.3 if r is None else round(r, 3) for _, _, r in legs]
    assert [b.radius for b in fold.bends] == pytest.approx(inside)
    axis = EDGES[edge][0]
    flat = SIZE[axis] + sum(round(x, 3) for x, _, _ in legs)
    flat += sum(math.radians(abs(a)) * (r + b.k * b.thickness) for (_, a, _), r, b in zip(legs, inside, fold.bends, strict=True))
    assert extent(built.flats["p"])[axis] == pytest.approx(flat, abs=2e-3)


@pytest.mark.parametrize("measured", ["outer", "inner", "tangent", "face_a", "face_b"])
@pytest.mark.parametrize("toward", "ab")
def test_the_last_leg_stands_where_its_own_radius_puts_it(measured, toward):
    """A square step up and out again: with outer lengths the same height over all, whatever the radii."""
    reached = []
    for radii in (("1", "1"), ("3", "0.5"), ("0.4", "5")):
        d = plate()
        d.profile("p", "f", "right", ("30", "90 deg", radii[0]), ("25", "-90 deg", radii[1]), toward=toward, measured=measured)
        built = build(d.document())
        assert not built.faults
        part = built.made["p"]
        reached.append((part.reaches[0][2], part.reaches[1][2], part.reaches[1][0]))
    if measured != "tangent":  # sharps do not move with the radius
        assert [r[:2] for r in reached] == [pytest.approx(reached[0][:2], abs=1e-6)] * 3
        assert [r[2] for r in reached] == [pytest.approx(reached[0][2], abs=1e-6)] * 3
    else:
        assert len({round(r[1] - r[0], 3) for r in reached}) > 1


@pytest.mark.parametrize("radius, code", [("-1", "bad_value"), ("nothing", "broken_expression")])
def test_a_radius_that_cannot_be_names_its_own_entry(radius, code):
    d = plate()
    d.profile("p", "f", "left", ("30", "90 deg"), ("20", "45 deg", radius))
    (fault,) = [f for f in build(d.document()).faults if f.code == code]
    assert fault.entry == "/parts/p/folding/flanges/f/legs/1/radius"
    if code == "bad_value":
        assert "the inside radius of bend 2" in fault.message


@pytest.mark.parametrize("where", ["outside", "inside", "edge"])
@pytest.mark.parametrize("kind", ["flange", "profile"])
@pytest.mark.parametrize("toward", "ab")
@pytest.mark.parametrize("edge", EDGES)
def test_a_bend_pushed_back_stands_so_much_farther_in(edge, toward, kind, where):
    axis, side = EDGES[edge]

    def made(back):
        d = plate()
        more = {"toward": toward, "where": where, "extent": "centred", "first": "40", "relief": {"style": "tear"}}
        if back is not None:
            more["back"] = back
        if kind == "flange":
            d.flange("p", "f", edge, "30", **more)
        else:
            d.profile("p", "f", edge, ("30", "90 deg"), **more)
        return build(d.document())

    plain, pushed = made(None), made("12.5 mm")
    assert not faults(plain) and not faults(pushed)
    a, b = plain.flats["p"], pushed.flats["p"]
    # the bend line lies farther in on the flat, and the free edge of what is bent too
    line = [sum(q[axis] for q in p.fold.bends[0].middle) / 2 for p in (a, b)]
    assert line[0] - line[1] == pytest.approx(side * 12.5)
    assert (a.fold.bends[0].width, a.fold.bends[0].angle) == (b.fold.bends[0].width, b.fold.bends[0].angle)
    if where != "edge":
        assert extent(a)[axis] - SIZE[axis] == pytest.approx(extent(b)[axis] - SIZE[axis] + 12.5, abs=1e-6)
    # beside the tab the plate keeps its whole width
    assert extent(b)[axis] >= SIZE[axis] - 1e-6
    assert extent(b)[1 - axis] == pytest.approx(SIZE[1 - axis])
    # standing, it is as high as before
    assert [p.reaches[1][2] - p.reaches[0][2] for p in (a, b)] == [pytest.approx(30, abs=1e-6)] * 2


def test_a_bend_is_not_pushed_out_of_its_edge():
    d = plate()
    d.flange("p", "f", "left", "30", back="-2 mm")
    (fault,) = [f for f in build(d.document()).faults if f.code == "bad_value"]
    assert fault.entry.endswith("/flanges/f/back") and "at least 0" in fault.rule


def test_a_whole_edge_pushed_back_is_a_narrower_plate():
    d = plate()
    d.flange("p", "f", "right", "30", back="20 mm")
    built = build(d.document())
    assert not faults(built)
    assert built.made["p"].reaches[1][0] == pytest.approx(SIZE[0] - 20)
