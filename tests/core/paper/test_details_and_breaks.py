"""Details, breaks, stepped sections: lines stay where they are, figures stay those of the part, and what has lost its place waits."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.core.paper.sheets import NAMES, built_example, pages, seen
from tests.core.paper.test_sheets import over_the_frame, overlapping
from tests.core.shared import edited
from zygon.design.papers import AddedDimension, DetailSaid, SectionSaid, SectionTurn
from zygon.edits import papers as say
from zygon.paper.breaks import broken
from zygon.paper.clipped import within_circle
from zygon.paper.ink import Arc, Curve, Line, Words
from zygon.paper.looks import LOOKS
from zygon.paper.sections import section_asked
from zygon.paper.subjects import subjects
from zygon.paper.view import Spot, View, boxed

HOLD, ENTRANCE = "feature:front:hold/1/centre", "feature:front:entrance/1/low x"
near = st.floats(-30, 30)


def points_on(stroke, count=9):
    if isinstance(stroke, Line):
        return [
            (stroke.p[0] + (stroke.q[0] - stroke.p[0]) * t, stroke.p[1] + (stroke.q[1] - stroke.p[1]) * t) for t in np.linspace(0, 1, count)
        ]
    if isinstance(stroke, Arc):
        return [stroke.at(t) for t in np.linspace(0, 1, count)]
    return list(stroke.points)


def shape_of(stroke):
    return shapely.LineString(points_on(stroke, 1500 if isinstance(stroke, Arc) else 2))


@given(
    st.one_of(
        st.builds(lambda a, b, c, d: Line("visible", (a, b), (c, d)), near, near, near, near),
        st.builds(
            lambda a, b, r, s, w: Arc("visible", (a, b), r, s, w), near, near, st.floats(0.5, 25), st.floats(-7, 7), st.floats(-6.28, 6.28)
        ),
        st.builds(lambda *p: Curve("visible", tuple(p)), *(st.tuples(near, near) for _ in range(5))),
    ),
    near,
    near,
    st.floats(1, 20),
)
def test_what_is_cut_to_a_circle_is_what_lies_in_it(stroke, x, y, radius):
    """Against shapely: as long as what of the stroke lies in the disc, and no place of it without."""
    shape = shape_of(stroke)
    found = within_circle([stroke], (x, y), radius)
    disc = shapely.Point(x, y).buffer(radius, 720)
    truth = shapely.intersection(shape, disc).length
    assert sum(shape_of(s).length for s in found) == pytest.approx(truth, abs=0.02 + 1e-3 * shape.length)
    for s in found:
        assert type(s) is type(stroke) and s.pen == stroke.pen
        assert all(math.dist(p, (x, y)) <= radius + 1e-6 for p in points_on(s))


@pytest.mark.parametrize("place", [HOLD, ENTRANCE])
@pytest.mark.parametrize(("across", "scale", "wanted"), [(60.0, "", 1.0), (20.0, "", 2.0), (5.0, "", 10.0), (60.0, "5 : 1", 5.0)])
def test_a_detail_shows_what_lies_in_its_circle_at_its_scale(place, across, scale, wanted):
    built = built_example("brood-box")
    made = edited(built, say.add_detail(built.document, "part:front", DetailSaid(view="front", at=place, across=across, scale=scale)))
    (page,) = pages(made, "part:front")
    ring = next(i for i in page.views["detail/detail"] if isinstance(i, Arc) and i.full and i.pen == "thin")
    assert 2 * ring.radius == pytest.approx(across * wanted)
    loupe = next(i for i in page.views["front"] if isinstance(i, Arc) and i.full and i.pen == "thin" and not i.of)
    front = next(d for d in page.dimensions if d.name == "front/size/across")
    assert 2 * loupe.radius == pytest.approx(across * front.scale)
    letters = [i.text for own in page.views.values() for i in own if isinstance(i, Words)]
    assert "Z" in letters and any(t.startswith("Detail Z (") for t in letters)
    # a circle of 300 mm has no room on the sheet, and that is said
    assert overlapping(page) == [] if across * wanted < 200 else page.faults
    # each line of it lies in the ring, and in the parent at the same place
    for i in page.views["detail/detail"]:
        if isinstance(i, Line):
            assert math.dist(i.p, ring.centre) <= ring.radius + 1e-6 and math.dist(i.q, ring.centre) <= ring.radius + 1e-6


def test_in_a_detail_dimensions_say_what_the_part_measures():
    built = built_example("brood-box")
    one, other = "feature:front:entrance/1/low x", "feature:front:entrance/1/low y"
    built = edited(built, say.add_detail(built.document, "part:front", DetailSaid(view="front", at=one, across=40)))
    dimension = AddedDimension(view="detail/detail", a=one, b=other, way="straight", line=5)
    built = edited(built, say.add_dimension(built.document, "part:front", dimension))
    (page,) = pages(built, "part:front")
    assert not page.faults or all("waits" in f for f in page.faults)
    assert one in {a.name for a in page.anchors["detail/detail"]}


def test_a_detail_that_has_lost_its_place_waits():
    built = built_example("brood-box")
    made = edited(built, say.add_detail(built.document, "part:front", DetailSaid(view="front", at="feature:front:gone/1/centre")))
    (page,) = pages(made, "part:front")
    assert "detail/detail" not in page.views and page.faults == ("Detail Z waits: feature:front:gone/1/centre is not there any more",)


def bar(long: float, high: float, holes: list[float]) -> View:
    """A bar from the front with holes on its axis."""
    corners = [(0.0, 0.0), (long, 0.0), (long, high), (0.0, high)]
    strokes = [Line("visible", p, q) for p, q in zip(corners, [*corners[1:], corners[0]], strict=True)]
    strokes += [Arc("visible", (x, high / 2), 3.0, 0.0, 2 * math.pi) for x in holes]
    spots, overall = boxed("box", (0.0, 0.0, long, high), ("l", "r", "d", "u"))
    own = {f"hole {n}": Spot(f"hole {n}", (x, high / 2), "both", "a hole") for n, x in enumerate(holes)}
    names = tuple(spots)
    return View(
        "front",
        "",
        tuple(strokes),
        (0, 0, long, high),
        spots | own,
        (names[0], names[1], names[2], names[3]),
        tuple(own),
        (),
        overall,
        look=LOOKS["front"],
    )


@given(st.floats(300, 4000), st.floats(10, 40), st.lists(st.floats(0.02, 0.98), max_size=5))
def test_a_broken_view_leaves_out_only_where_nothing_is_and_measures_as_the_part(long, high, shares):
    holes = sorted({round(s * long, 3) for s in shares})
    view = bar(long, high, holes)
    (made,) = broken([view])
    left = made.bounds[2] - made.bounds[0]
    assert left <= long + 1e-9 and made.bounds[3] == high
    # every place says how far it lies on the part
    for name, spot in view.spots.items():
        now = made.spots[name]
        assert made.length("x", made.spots["box/low x"].at[0], now.at[0]) == pytest.approx(spot.at[0], abs=1e-6), name
        assert now.at[1] == spot.at[1]
    # holes are whole, in order, and each in its place
    arcs = [s for s in made.strokes if isinstance(s, Arc)]
    assert len(arcs) == len(holes) and [a.radius for a in arcs] == [3.0] * len(holes)
    assert [made.length("x", 0.0, a.centre[0]) for a in sorted(arcs, key=lambda a: a.centre[0])] == pytest.approx(holes, abs=1e-6)
    # no line runs through a gap
    for g in made.gaps:
        assert g.wide > 0 and g.taken > 0
        for s in made.strokes:
            if isinstance(s, Line) and abs(s.p[1] - s.q[1]) < 1e-9:
                a, b = sorted((s.p[0], s.q[0]))
                assert b <= g.at + 1e-6 or a >= g.at + g.wide - 1e-6
    assert sum(g.taken for g in made.gaps) == pytest.approx(long - left)
    clear = max(np.diff([0.0, *holes, long]))
    assert bool(made.gaps) or clear <= max(0.22 * long, 1.5 * high) + 6.01


@pytest.mark.parametrize("name", ["tube-stand", "smoker-hook", "hand-crank", "drying-rack", "brood-box", "electronics-box"])
def test_broken_sheets_have_the_same_figures_at_a_scale_no_smaller(name):
    built = built_example(name)
    made = edited(built, ("broken", [{"op": "add", "path": "/papers/broken", "value": True}]))
    shorter = 0
    for s in subjects(built):
        if s.kind != "part":
            continue
        for old, new in zip(pages(built, s.id), pages(made, s.id), strict=True):
            assert {d.name: d.text for d in old.dimensions} == {d.name: d.text for d in new.dimensions}
            assert [round(d.value, 6) for d in old.dimensions] == [round(d.value, 6) for d in new.dimensions]
            assert overlapping(new) == [] and over_the_frame(new) == [] and not new.faults
            zigzags = sum(1 for own in new.views.values() for i in own if isinstance(i, Line) and i.pen == "thin" and not i.of)
            shorter += zigzags > 0
    assert shorter or name in ("brood-box", "electronics-box")


STEPPED = SectionSaid(view="front", way="x", through=ENTRANCE, turns=[SectionTurn(after="feature:front:entrance/1/high y", through=HOLD)])


def subject_of(built, name):
    return next(s for s in subjects(built) if s.id == name)


@pytest.mark.parametrize("flipped", [False, True])
@pytest.mark.parametrize("way", ["x", "y"])
def test_a_stepped_section_cuts_each_plane_where_it_holds(way, flipped):
    """Against two straight ones: of each the share of its faces that lies on its side of the step."""
    built = built_example("brood-box")
    first, second = (ENTRANCE, HOLD) if way == "x" else ("feature:front:entrance/1/low y", HOLD)
    after = "feature:front:entrance/1/high y" if way == "x" else "feature:front:entrance/1/low x"
    stepped = SectionSaid(view="front", way=way, through=first, flipped=flipped, turns=[SectionTurn(after=after, through=second)])
    straight = [SectionSaid(view="front", way=way, through=n, flipped=flipped) for n in (first, second)]

    def cut(said):
        made = edited(built, say.add_section(built.document, "part:front", said))
        (asked,) = section_asked(made, subject_of(made, "part:front")).values()
        return asked, shapely.union_all([shapely.Polygon(rings[0], rings[1:]).buffer(0) for _, rings in seen(asked).faces])

    asked, found = cut(stepped)
    (_, low), (_, high) = (cut(s) for s in straight)
    at = asked.steps[0][0]
    box = shapely.box(-1e4, -1e4, 1e4, at) if asked.steps_along == "y" else shapely.box(-1e4, -1e4, at, 1e4)
    truth = shapely.union(shapely.intersection(low, box), shapely.difference(high, box))
    assert shapely.symmetric_difference(found, truth).area < 0.05
    # no line stands where it goes over
    k = "xy".index(asked.steps_along)
    for s in seen(asked).strokes:
        if isinstance(s, Line) and s.pen == "visible":
            assert not (abs(s.p[k] - at) < 1e-6 and abs(s.q[k] - at) < 1e-6)


def test_the_line_of_a_stepped_section_turns_where_it_goes_over():
    built = built_example("brood-box")
    made = edited(built, say.add_section(built.document, "part:front", STEPPED))
    (page,) = pages(made, "part:front")
    chain = [i for i in page.views["front"] if isinstance(i, Line) and i.pen == "centre" and not i.of]
    assert len(chain) == 3 and chain[0].q == chain[1].p and chain[1].q == chain[2].p
    # along, across, and along again
    assert [abs(c.p[0] - c.q[0]) < 1e-9 for c in chain] == [True, False, True]
    assert not page.faults


def test_a_stepped_section_runs_straight_where_a_step_has_lost_its_place():
    built = built_example("brood-box")
    said = STEPPED.model_copy(update={"turns": [SectionTurn(after="gone", through=HOLD)]})
    made = edited(built, say.add_section(built.document, "part:front", said))
    (page,) = pages(made, "part:front")
    assert page.faults == ("Section A runs straight: a place where it goes over is not there any more",)


@pytest.mark.parametrize("name", sorted(set(NAMES) & {"brood-box", "electronics-box", "tool-chest"}))
def test_an_angle_is_that_of_the_part_and_follows_it(name):
    """Put in between three named corners; against the arc tangent of their own places."""
    built = built_example(name)
    for s in subjects(built):
        if s.kind != "part":
            continue
        (page, *_) = pages(built, s.id)
        corners = [a for a in page.anchors.get("front", ()) if a.along == "both"][:3]
        if len(corners) < 3:
            continue
        a, b, c = corners
        dimension = AddedDimension(view="front", a=a.name, b=b.name, c=c.name, way="angle", line=12)
        made = edited(built, say.add_dimension(built.document, s.id, dimension))
        (new, *_) = pages(made, s.id)
        found = next((d for d in new.dimensions if d.name == "added/dimension"), None)
        if found is None:
            assert any("lie on one another" in f for f in new.faults)
            continue
        turns = [math.atan2(p.at[1] - a.at[1], p.at[0] - a.at[0]) for p in (b, c)]
        wanted = abs(math.remainder(turns[1] - turns[0], 2 * math.pi))
        assert found.value == pytest.approx(wanted, abs=1e-6) and found.text == f"{round(math.degrees(wanted), 2):g}°"
        arc = next(i for i in found.ink if isinstance(i, Arc))
        assert abs(arc.sweep) == pytest.approx(wanted, abs=1e-6)
