"""Views put on sheets by hand, sheets put into the set, steps of the assembly: what they show is what is asked for, and what has lost its place waits."""

from __future__ import annotations

import itertools
from typing import get_args

import numpy as np
import pytest

from tests.core.paper.sheets import built_example, pages, seen
from tests.core.paper.test_sheets import over_the_frame, overlapping
from tests.core.shared import edited
from zygon.design.papers import SeenFrom, ViewSaid
from zygon.edits import papers as say
from zygon.errors import DocumentError
from zygon.making.assembly.plan import assembly
from zygon.paper.compose import asked_for
from zygon.paper.ink import Line, Words, box_of
from zygon.paper.looks import LOOKS, is_corner, place_about
from zygon.paper.subjects import subjects
from zygon.paper.things import SPREAD, arriving, middle_of, pulled_apart


def asked(built, subject):
    return asked_for(built, next(s for s in subjects(built) if s.id == subject))


def with_sheet(name, *views, papers=None):
    built = built_example(name)
    made = edited(built, say.add_sheet(built.document, "Views", [ViewSaid(**v) for v in views]))
    return edited(made, ("papers", papers)) if papers else made


@pytest.mark.parametrize("look", get_args(SeenFrom))
def test_a_view_is_as_large_as_its_part_seen_from_there(look):
    """Against the mesh of the part, projected by numpy; any corner too."""
    built = with_sheet("hand-crank", {"look": look, "of": "part:crank"}, {"look": look})
    first, second = pages(built, "own:sheet")[0].anchors, asked(built, "own:sheet")
    assert set(second) == {"view/view1", "view/view2"} == {*first}
    to = np.array([LOOKS[look].right, LOOKS[look].up])
    whole = seen(second["view/view2"]).bounds
    corners = [to @ np.array(c) for p in built.made.values() if not p.body.empty for c in itertools.product(*zip(*p.reaches, strict=True))]
    box = (*np.min(corners, axis=0), *np.max(corners, axis=0))
    inside = 0.0 if not is_corner(look) else 30.0  # a box round a round part is larger than it, seen askew
    assert all(abs(a - b) <= inside + 0.01 for a, b in zip(whole, box, strict=True)), (whole, box)
    assert whole[0] >= box[0] - 0.01 and whole[3] <= box[3] + 0.01


def test_a_group_shows_what_lies_in_it_and_nothing_else():
    built = built_example("hive")
    group = next(iter(built.document.groups))
    inside = {p.key for p in built.made.values() if group in built.document.within(built.document.parts[p.of].group)}
    made = with_sheet("hive", {"of": f"group:{group}"})
    things = asked(made, "own:sheet")["view/view1"].things
    assert {t.key for t in things if t.kind != "set"} == inside
    for t in things:
        if t.kind == "set":  # hardware only of what lies in it
            bore = next(s for k, s in made.sets.items() if t.key.endswith(k))
            assert any(set(place.parts) <= inside for place in bore.places)


@pytest.mark.parametrize("share", [0.1, 0.5, 1.0])
def test_pulled_apart_each_part_goes_straight_from_the_middle(share):
    built = built_example("brood-box")
    shifts = pulled_apart(built, None, share)
    corners = np.array([c for p in built.made.values() if not p.body.empty for c in p.reaches])
    centre = (corners.min(axis=0) + corners.max(axis=0)) / 2
    for key, shift in shifts.items():
        assert np.array(shift) == pytest.approx((np.array(middle_of(built.made[key])) - centre) * share * SPREAD)
    made = with_sheet("brood-box", {"apart": share}, {"apart": 0.0})
    found = asked(made, "own:sheet")
    apart, together = (seen(found[f"view/view{n}"]).bounds for n in (1, 2))
    assert apart[2] - apart[0] > together[2] - together[0]
    for t in found["view/view1"].things:
        if t.kind == "set":
            continue
        home = np.array([row[3] for row in built.made[t.key].matrix[:3]])
        assert np.array([row[3] for row in t.rows]) - home == pytest.approx(np.array(shifts[t.key]), abs=1e-9)


def test_at_a_step_what_came_before_lies_home_and_what_comes_lies_off_on_its_way():
    built = built_example("brood-box")
    plan = assembly(built)
    there = set(plan.first)
    assert arriving(plan, 1) == (there, {})
    for n, step in enumerate(plan.steps, 2):
        now, coming = arriving(plan, n)
        assert set(coming) == set(step.parts) and now == there | set(step.parts)
        for off in coming.values():
            axis = "xyz".index(step.way[0])
            assert off[axis] == -step.way[1] * step.distance and all(x == 0 for i, x in enumerate(off) if i != axis)
        there = now
    assert there == {p.key for p in built.made.values() if not p.body.empty and p.key in there} and len(there) == 1 + len(plan.steps)


@pytest.mark.parametrize("size", ["A4", "A3"])
def test_sheets_of_steps_show_every_step_once_with_the_numbers_of_what_comes(size):
    built = built_example("brood-box")
    made = edited(
        built, ("steps", [{"op": "add", "path": "/papers/steps", "value": True}, {"op": "add", "path": "/papers/size", "value": size}])
    )
    plan, own = assembly(made), [s for s in subjects(made) if s.kind == "steps"]
    steps = [n for s in own for n in range(s.steps[0], s.steps[1] + 1)]
    assert steps == list(range(1, len(plan.steps) + 2))
    numbers = {k: r.row.number for r in subjects(made) if r.row for k in r.row.keys}
    for s in own:
        (page,) = pages(made, s.id)
        assert not page.faults and overlapping(page) == [] and over_the_frame(page) == []
        assert set(page.views) == {f"step/{n}" for n in range(s.steps[0], s.steps[1] + 1)}
        for n in range(s.steps[0], s.steps[1] + 1):
            coming = plan.steps[n - 2].parts if n > 1 else plan.first
            told = {
                w.text for name, own_ink in page.movable.items() if name.startswith(f"step/{n}/") for w in own_ink if isinstance(w, Words)
            }
            assert told == {str(numbers[k]) for k in coming if k in numbers}
            ways = [i for i in page.views[f"step/{n}"] if isinstance(i, Line) and i.pen == "phantom"]
            assert len(ways) == (len(coming) if n > 1 else 0)


@pytest.mark.parametrize("angle", ["first", "third"])
@pytest.mark.parametrize("look", ["right", "back", "bottom"])
def test_sides_put_on_a_sheet_stand_where_projection_has_them(look, angle):
    """ISO 5456-2: in first angle what is seen from the right stands to the left of the front view, in third to its right."""
    built = built_example("brood-box")
    made = edited(built, ("angle", [{"op": "add", "path": "/papers/angle", "value": angle}]))
    made = edited(made, say.add_view(made.document, "whole", ViewSaid(look=look)))
    (page,) = [p for p in pages(made, "whole") if p.views]
    boxes = {name: box_of(i for i in own if isinstance(i, Line) and i.pen == "visible") for name, own in page.views.items()}
    where = {name: np.array([(b[0] + b[2]) / 2, (b[1] + b[3]) / 2]) for name, b in boxes.items()}
    column, row = place_about(look, angle)
    off = where["view/view"] - where["front"]
    assert np.sign(round(off[0])) == np.sign(column) and np.sign(round(off[1])) == np.sign(row)
    # in line with the front view
    assert min(abs(off)) < 3.0 or look == "back"
    assert overlapping(page) == [] and over_the_frame(page) == []


@pytest.mark.parametrize("name", ["front", "left", "top", "corner"])
def test_a_view_of_its_own_is_left_out_and_comes_back(name):
    built = built_example("brood-box")
    gone = edited(built, say.show_view(built.document, "whole", name, shown=False))
    assert {n for p in pages(gone, "whole") for n in p.views} == {"front", "left", "top", "corner"} - {name}
    back = edited(gone, say.show_view(gone.document, "whole", name, shown=True))
    assert {n for p in pages(back, "whole") for n in p.views} == {"front", "left", "top", "corner"}


def test_a_view_of_its_own_scale_says_so_and_a_scale_that_is_none_is_said():
    built = with_sheet(
        "brood-box", {"look": "front", "of": "part:front", "scale": "1 : 4"}, {"look": "front", "of": "part:front", "scale": "big"}
    )
    (page,) = pages(built, "own:sheet")
    dims = {d.view: d for d in page.dimensions if d.name.endswith("size/across")}
    assert dims["view/view1"].scale == pytest.approx(0.25) and dims["view/view1"].value == pytest.approx(420)
    long = abs(dims["view/view1"].q[0] - dims["view/view1"].p[0])
    assert long == pytest.approx(105)
    assert any("(1 : 4)" in w.text for w in page.drawn if isinstance(w, Words))
    assert any("big" in f for f in page.faults)


def test_a_view_of_what_is_gone_waits_and_says_so_and_an_empty_sheet_says_so():
    built = with_sheet("brood-box", {"of": "part:front"}, {"of": "part:no_such"})
    (page,) = pages(built, "own:sheet")
    assert set(page.views) == {"view/view1"} and page.faults == ("View 2 waits: what it shows is not there any more",)
    (bare,) = pages(with_sheet("brood-box"), "own:sheet") or (None,)
    assert bare is not None and "Nothing stands on this sheet yet" in bare.faults[0]


@pytest.mark.parametrize("name", ["brood-box", "electronics-box", "hand-crank", "tube-stand", "smoker-hook", "tool-chest"])
def test_no_text_lies_on_another_on_sheets_of_views(name):
    views = [
        {"look": "corner back left", "balloons": True},
        {"apart": 0.6, "balloons": True},
        {"look": "under front left"},
        {"look": "front"},
    ]
    built = with_sheet(name, *views)
    for page in pages(built, "own:sheet"):
        assert overlapping(page) == [] and over_the_frame(page) == [] and not page.faults


@pytest.mark.parametrize(("acts", "entry"), [
    (lambda d: say.add_view(d, "whole", ViewSaid(of="group:none")), "of"),
    (lambda d: say.add_view(d, "whole", ViewSaid(of="joint:x")), "of"),
    (lambda d: say.add_sheet(d, "  ", []), "called"),
    (lambda d: say.remove_sheet(d, "none"), "key"),
    (lambda d: say.remove_from_paper(d, "whole", "view/none"), "name"),
    (lambda d: say.remove_from_paper(d, "whole", "detail/none"), "name"),
])  # fmt: skip
def test_what_cannot_be_put_on_is_refused_with_its_entry(acts, entry):
    with pytest.raises(DocumentError) as error:
        acts(built_example("brood-box").document)
    assert error.value.entry == entry and error.value.rule


def test_a_sheet_has_no_more_views_than_it_may():
    built = built_example("brood-box")
    for _ in range(12):
        built = edited(built, say.add_view(built.document, "whole", ViewSaid()))
    with pytest.raises(DocumentError) as error:
        say.add_view(built.document, "whole", ViewSaid())
    assert error.value.entry == "views" and "12" in error.value.rule


def test_what_is_taken_away_leaves_nothing_of_it():
    built = built_example("brood-box")
    built = edited(built, say.add_sheet(built.document, "More", [ViewSaid()]))
    built = edited(built, say.move_on_paper(built.document, "own:sheet", "view/view/view1", 5, 7))
    built = edited(built, say.remove_from_paper(built.document, "own:sheet", "view/view1"))
    said = built.document.papers.sheets["own:sheet"]
    assert not said.views and not said.moved
    built = edited(built, say.remove_sheet(built.document, "sheet"))
    assert not built.document.papers.own and "own:sheet" not in built.document.papers.sheets


def test_a_view_is_moved_with_all_that_stands_at_it():
    built = built_example("brood-box")
    made = edited(built, say.move_on_paper(built.document, "whole", "view/front", 11, -8))
    (old,), (new,) = ([p for p in pages(b, "whole") if p.views] for b in (built, made))
    for name, ink in old.views.items():
        shift = (11, -8) if name == "front" else (0, 0)
        for i, j in zip(ink, new.views[name], strict=True):
            if isinstance(i, Line):
                assert (j.p[0] - i.p[0], j.p[1] - i.p[1]) == pytest.approx(shift)
    for a, b in zip(old.dimensions, new.dimensions, strict=True):
        assert (b.p[0] - a.p[0], b.p[1] - a.p[1]) == pytest.approx((11, -8) if a.view == "front" else (0, 0))
        assert (a.name, a.text) == (b.name, b.text)
