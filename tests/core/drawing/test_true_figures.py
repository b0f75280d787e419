"""Drawings made from true figures: what is taken off them, started from disturbed places, brings them back. The referee is numpy on differences."""

from __future__ import annotations

import math
import random
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.drawing.figures import drawing, figures_of, solved
from zygon.drawing.equations import Equations
from zygon.drawing.freedoms import freedoms_of
from zygon.drawing.measured import measures
from zygon.drawing.solver import driving, solve_drawing
from zygon.drawing.unknowns import Unknowns
from zygon.drawn.drawing import DIMENSIONS, TAKES, Drawing


def by_differences(made: Drawing, figures: dict[str, float]) -> np.ndarray:
    """The Jacobian of what a drawing asks where it is kept, by central differences."""
    u = Unknowns(made)
    equations = Equations(u, driving(made), figures)
    found = np.zeros((len(equations.rows), u.free))
    for i in range(u.free):
        step = np.zeros(len(u.now))
        step[i] = 1e-5
        found[:, i] = (equations.values(u.now + step) - equations.values(u.now - step)) / 2e-5
    return found


#: Every kind, on everything that it ties, in a drawing where nothing holds by chance.
PLACES = {
    "a": (3.0, 1.0),
    "b": (41.0, 7.0),
    "c": (12.0, 33.0),
    "d": (55.0, 48.0),
    "e": (-20.0, 18.0),
    "o": (30.0, 70.0),
    "q": (80.0, 20.0),
    "g": (5.0, -20.0),
    "h": (60.0, -31.0),
}
CURVES: dict[str, Any] = {
    "l": "a b", "m": "c d", "n": "b e", "f": "g h",
    "u": {"kind": "circle", "centre": "o", "radius": 9.0}, "v": {"kind": "circle", "centre": "q", "radius": 14.0}, "w": "c a q",
}  # fmt: skip
THINGS = {"p": ["e", "d", "b"], "l": ["l", "m", "n"], "c": ["u", "v", "w"]}


def _every() -> list[tuple[str, str]]:
    found = []
    for kind, ways in TAKES.items():
        for way in ways:
            if "s" in way:  # nothing moves for what a smooth curve is tangent to
                continue
            left = {k: list(v) for k, v in THINGS.items()}
            if "p" in way and "l" in way:
                left["l"] = ["f"]
            of = [left[t].pop(0) for t in way.rstrip("*")]
            found.append((kind, " ".join(of)))
            if way.endswith("*"):
                found.append((kind, " ".join([*of, left[way[-2]].pop(0)])))
    return found


@pytest.mark.parametrize(("kind", "of"), _every())
def test_slopes_of_every_kind_are_those_of_differences(kind: str, of: str) -> None:
    value = (25.0,) if kind in DIMENSIONS else ()
    made = drawing(PLACES, CURVES, [(kind, of, *value)])
    equations = Equations(Unknowns(made), driving(made), figures_of(made))
    u = equations.u
    assert equations.slopes(u.now).toarray() == pytest.approx(by_differences(made, figures_of(made)), abs=2e-6)


@pytest.mark.parametrize(("kind", "of"), _every())
@pytest.mark.parametrize("mirrored", [False, True])
def test_what_is_asked_holds_and_only_what_is_asked(kind: str, of: str, mirrored: bool) -> None:
    """Every kind by itself comes to hold, told by its own measure, and costs as many freedoms as it has rows; so does its mirror image."""
    hand = -1 if mirrored else 1
    value = (25.0,) if kind in DIMENSIONS else ()
    curves = {**CURVES, "w": "a c q"} if mirrored else CURVES
    loose = drawing({k: (hand * x, y) for k, (x, y) in PLACES.items()}, curves)
    made = drawing({k: (hand * x, y) for k, (x, y) in PLACES.items()}, curves, [(kind, of, *value)])
    found = solved(made)
    assert found.holds
    rows = np.linalg.matrix_rank(by_differences(made, figures_of(made)), tol=1e-6)
    arcs = np.linalg.matrix_rank(by_differences(loose, {}), tol=1e-6)
    # an arc's second equation is that its ends are as far from its centre; it is not met where it is drawn here, and is once it is solved
    assert freedoms_of(found).count == freedoms_of(solved(loose)).count - (rows - arcs)
    if kind in DIMENSIONS:
        again = Unknowns(_at(made, found))
        wanted = math.radians(25) if kind == "angle" else 25.0
        assert measures(again, kind, of.split()) == pytest.approx(wanted, abs=1e-6)


def _at(made: Drawing, found: Any) -> Drawing:
    """The drawing as it came out."""
    places = {k: {"x": found.point(k)[0], "y": found.point(k)[1]} for k in made.points}
    data = made.model_dump(mode="json", exclude_none=True)
    data["points"] = places
    for k in data["curves"]:
        if data["curves"][k]["kind"] == "circle":
            data["curves"][k]["radius"] = found.radius(k)
    return Drawing.model_validate(data)


def true_figure(seed: int) -> Drawing:
    """A closed outline of lines and arcs with a circle in it, some of its lines level or upright, and as many relations taken off it as hold one another."""
    r = random.Random(seed)
    n = r.randint(3, 7)
    places: dict[str, tuple[float, float]] = {}
    for i in range(n):
        t = 2 * math.pi * (i + r.uniform(-0.3, 0.3)) / n
        far = r.uniform(40, 100)
        places[f"p{i}"] = (far * math.cos(t), far * math.sin(t))
        if i and r.random() < 0.3:
            places[f"p{i}"] = (
                (places[f"p{i - 1}"][0], places[f"p{i}"][1]) if r.random() < 0.5 else (places[f"p{i}"][0], places[f"p{i - 1}"][1])
            )
    places["o"] = (r.uniform(-10, 10), r.uniform(-10, 10))
    curves: dict[str, Any] = {"hole": {"kind": "circle", "centre": "o", "radius": r.uniform(3, 9)}}
    for i in range(n):
        a, b = f"p{i}", f"p{(i + 1) % n}"
        if math.dist(places[a], places[b]) < 5:
            places[b] = (places[b][0] + 11, places[b][1] + 7) if b != "p0" else places[b]
        if r.random() < 0.3:
            (ax, ay), (bx, by) = places[a], places[b]
            s = r.uniform(0.3, 1.5) * r.choice((1, -1))
            places[f"m{i}"] = ((ax + bx) / 2 - s * (by - ay), (ay + by) / 2 + s * (bx - ax))
            curves[f"c{i}"] = f"{a} {b} m{i}"
        else:
            curves[f"c{i}"] = f"{a} {b}"
    return taken_off(r, places, curves)


def taken_off(r: random.Random, places: dict[str, tuple[float, float]], curves: dict[str, Any]) -> Drawing:
    """A drawing with relations that its places have, none of which nearly follows from the others."""
    made = drawing(places, curves)
    u = Unknowns(made)
    asked: list[tuple[Any, ...]] = [("held", "p0")]
    lines = [k for k, c in made.curves.items() if c.kind == "line"]
    rounds = [k for k, c in made.curves.items() if c.kind != "line"]
    offered: list[tuple[str, str]] = [("radius", k) for k in rounds]
    offered += [("distance", k) for k in lines]
    points = list(places)
    for _ in range(60):
        a, b = r.sample(points, 2)
        offered.append((r.choice(("distance", "across", "up")), f"{a} {b}"))
    for _ in range(6):
        if len(lines) > 1:
            offered.append(("angle", " ".join(r.sample(lines, 2))))
            offered.append(("distance", f"{r.choice(points)} {r.choice(lines)}"))
    for k in lines:
        (ax, ay), (bx, by) = (places[p] for p in made.curves[k].points())
        offered += [("upright", k)] if ax == bx else [("level", k)] if ay == by else []
    r.shuffle(offered)
    offered.sort(key=lambda o: o[0] not in ("level", "upright"))
    for kind, of in offered:
        value: tuple[float, ...] = ()
        if kind in DIMENSIONS:
            v = measures(u, kind, of.split())
            if v < (0.3 if kind == "angle" else 6.0) or (kind == "angle" and v > 2.8):
                continue
            value = (math.degrees(v) if kind == "angle" else v,)
        tried = [*asked, (kind, of, *value)]
        now = drawing(places, curves, tried)
        slopes = by_differences(now, figures_of(now))
        if np.linalg.svd(slopes, compute_uv=False)[-1] > 0.02:  # well said: nothing of it nearly follows from the rest
            asked = tried
        if slopes.shape[0] == slopes.shape[1] and len(asked) == len(tried):
            break
    return drawing(places, curves, asked)


@given(st.integers(0, 10**6), st.integers(0, 10**6))
@settings(max_examples=40, deadline=None)
def test_a_true_figure_comes_back_from_disturbed_places(seed: int, disturbed: int) -> None:
    made = true_figure(seed)
    slopes = by_differences(made, figures_of(made))
    rank = int(np.linalg.matrix_rank(slopes, tol=1e-5))
    free = freedoms_of(solved(made))
    assert free.count == slopes.shape[1] - rank
    assert free.twice == ()
    r = random.Random(disturbed)
    data = made.model_dump(mode="json", exclude_none=True)
    for key, p in data["points"].items():
        if key != "p0":
            data["points"][key] = {"x": p["x"] + r.uniform(-0.8, 0.8), "y": p["y"] + r.uniform(-0.8, 0.8)}
    found = solved(Drawing.model_validate(data))
    assert found.holds
    for key, relation in made.relations.items():
        if relation.entry is not None:
            wanted = figures_of(made)[key]
            assert measures(Unknowns(_at(made, found)), relation.kind, relation.of) == pytest.approx(wanted, abs=1e-5)
    if rank == slopes.shape[1]:
        for key in made.points:
            assert found.point(key) == pytest.approx((made.points[key].x, made.points[key].y), abs=1e-4)


@given(st.integers(0, 10**6), st.integers(0, 10**6))
@settings(max_examples=30, deadline=None)
def test_a_relation_taken_away_frees_and_one_said_twice_is_named(seed: int, which: int) -> None:
    made = true_figure(seed)
    count = freedoms_of(solved(made)).count
    said = [k for k in made.relations if k != "r0"]
    if not said:
        return
    key = said[which % len(said)]
    fewer = made.model_copy(update={"relations": {k: r for k, r in made.relations.items() if k != key}})
    assert freedoms_of(solved(fewer)).count == count + 1
    again = made.relations[key].model_copy(update={"order": 1000})
    doubled = made.model_copy(update={"relations": {**made.relations, "again": again}})
    found = solve_drawing(doubled, {**figures_of(made), **({"again": figures_of(made)[key]} if again.entry else {})})
    assert found.holds
    free = freedoms_of(found)
    assert free.count == count
    assert [(f.relation, f.by) for f in free.twice] == [("again", (key,))]


@given(st.integers(0, 10**6), st.integers(0, 10**6))
@settings(max_examples=20, deadline=None)
def test_one_figure_changed_of_many_said_once_contradicts_nothing_and_one_said_twice_does(seed: int, which: int) -> None:
    made = true_figure(seed)
    dims = list(figures_of(made))
    if not dims:
        return
    key = dims[which % len(dims)]
    again = made.relations[key].model_copy(update={"order": 1000})
    doubled = made.model_copy(update={"relations": {**made.relations, "again": again}})
    value = figures_of(made)[key]
    found = solve_drawing(doubled, {**figures_of(made), "again": value * 1.05})
    assert [(c.relations, c.left_out) for c in found.clashes] == [((key, "again"), "again")]


@pytest.mark.parametrize("turned", [0.0, 90.0, 180.0, 33.0])
@pytest.mark.parametrize("hand", [1, -1])
def test_the_way_it_lies_changes_nothing(turned: float, hand: int) -> None:
    """A drawing without anything level comes out the same, turned and mirrored, wherever it lies and however it is turned."""
    t = math.radians(turned)

    def at(p: tuple[float, float]) -> tuple[float, float]:
        x, y = hand * p[0], p[1]
        return 300 + x * math.cos(t) - y * math.sin(t), -70 + x * math.sin(t) + y * math.cos(t)

    places = {"a": (0.0, 0.0), "b": (60.0, 3.0), "c": (55.0, 40.0), "d": (-4.0, 37.0), "o": (30.0, 20.0)}
    asked = [
        ("held", "a"), ("parallel", "l n"), ("equal", "m k"), ("square", "l m"), ("distance", "l", 70.0), ("distance", "b d", 90.0),
        ("diameter", "u", 12.0), ("middle", "o a c"), ("angle", "k l", 90.0),
    ]  # fmt: skip
    curves: dict[str, Any] = {"l": "a b", "m": "b c", "n": "c d", "k": "d a", "u": {"kind": "circle", "centre": "o", "radius": 4}}
    plain = solved(drawing(places, curves, asked))
    other = solved(drawing({k: at(p) for k, p in places.items()}, curves, asked))
    assert plain.clashes == other.clashes
    assert freedoms_of(plain).count == freedoms_of(other).count
    for key in places:
        assert other.point(key) == pytest.approx(at(plain.point(key)), abs=1e-3)
