"""Families of nesting instances, drawn anew from a seed: what the engine has never seen. Each has straight sides or true arcs, and at most some sixty parts."""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from dataclasses import dataclass

import shapely
import shapely.ops
from shapely.geometry import Polygon, box
from shapely.geometry.polygon import orient

from zygon.design.examples import EXAMPLES
from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, polygon, rectangle, rounded_rectangle
from zygon.making.pipeline import build
from zygon.nest.engine import allowed_turns
from zygon.nest.task import Shape

__all__ = ["FAMILIES", "Instance"]

Point = tuple[float, float]
QUARTERS, HALVES = allowed_turns("90"), allowed_turns("180")


@dataclass(frozen=True)
class Instance:
    """Shapes on a strip ``width`` mm wide; ``bound`` is the density that is known to be possible, where it is known."""

    name: str
    shapes: tuple[Shape, ...]
    width: float
    bound: float = 0.0

    @property
    def parts(self) -> int:
        """How many there are in all."""
        return sum(s.quantity for s in self.shapes)

    @property
    def area(self) -> float:
        """Of all parts, in mm²."""
        return sum(s.region.area * s.quantity for s in self.shapes)


def _region(shape: Polygon) -> Region:
    return Region(polygon(list(orient(shape).exterior.coords)[:-1]))


def _shape(name: str, points: list[Point], quantity: int, turns: tuple[float, ...] = QUARTERS) -> Shape:
    return Shape(name, _region(Polygon(points)), quantity, turns)


def _jigsaw(rng: random.Random, n: int, *, bent: bool) -> Instance:
    """A rectangle cut into n pieces, the largest first, by straight lines or by bent ones."""
    width, height = rng.uniform(300, 500), rng.uniform(240, 340)
    pieces = [box(0, 0, width, height)]
    while len(pieces) < n:
        pieces.sort(key=lambda p: -p.area)
        largest = pieces.pop(0)
        (x, y), a = largest.centroid.coords[0], rng.uniform(0, math.pi)
        x, y = x + rng.uniform(-1, 1) * width / 50, y + rng.uniform(-1, 1) * width / 50
        d = (math.cos(a), math.sin(a))
        line = [(x - 1e3 * d[0], y - 1e3 * d[1]), (x + 1e3 * d[0], y + 1e3 * d[1])]
        if bent:  # a step to the side in the middle
            size, step = math.sqrt(largest.area), rng.uniform(0.1, 0.25)
            across = (-d[1] * size * step, d[0] * size * step)
            knee = [
                (x + s * 0.12 * size * d[0] + w * across[0], y + s * 0.12 * size * d[1] + w * across[1])
                for s, w in ((-1, 0), (-1, 1), (1, 1), (1, 0))
            ]
            line = [line[0], *knee, line[1]]
        cut = [p for p in shapely.get_parts(shapely.ops.split(largest, shapely.LineString(line))).tolist() if p.area > 1e-6]
        if len(cut) != 2:
            pieces.append(largest)
            continue
        pieces += cut
    if any(p.bounds[3] - p.bounds[1] > 0.97 * height for p in pieces):
        return _jigsaw(rng, n, bent=bent)  # the solver finds no place for what is as high as the strip
    shapes = tuple(Shape(str(i), _region(p)) for i, p in enumerate(pieces))
    return Instance(f"{n} pieces", shapes, height, 1.0)


def _teeth(length: float, deep: float, n: int, *, first: bool) -> list[Point]:
    """The edge from (0, 0) to (length, 0) in n fingers and gaps by turns, ``deep`` outward (to -y)."""
    pitch, points = length / n, []
    for k in range(n):
        y = -deep if (k % 2 == 0) == first else 0.0
        points += [(k * pitch, y), ((k + 1) * pitch, y)]
    return points


def comb_panel(length: float, width: float, deep: float, n: int, m: int) -> list[Point]:
    """A panel with finger joints on its four edges: n along its length, m along its width, the corners its own at two edges."""
    sides = (
        _teeth(length, deep, n, first=True),
        _teeth(width, deep, m, first=False),
        _teeth(length, deep, n, first=True),
        _teeth(width, deep, m, first=False),
    )
    points: list[Point] = []
    x, y, a = 0.0, 0.0, 0.0
    for side, run in zip(sides, (length, width, length, width), strict=True):
        c, s = math.cos(a), math.sin(a)
        points += [(x + c * u - s * v, y + s * u + c * v) for u, v in side]
        x, y, a = x + c * run, y + s * run, a + math.pi / 2
    clean = Polygon(points).buffer(0)
    return list(clean.exterior.coords)[:-1]


def _combs(rng: random.Random) -> Instance:
    """Sides, ends, floors and dividers of boxes with fingers."""
    deep, shapes = rng.choice([6.0, 9.0, 12.0]), []
    for k in range(rng.randint(5, 8)):
        length, width = rng.uniform(70, 190), rng.uniform(45, 110)
        n, m = (2 * rng.randint(2, 9) + 1 for _ in range(2))
        shapes.append(_shape(f"panel {k}", comb_panel(length, width, deep, n, m), rng.choice([2, 4, 4, 6]), QUARTERS))
    return Instance("combs", tuple(shapes), rng.uniform(300, 420))


def _arc(outer: float, inner: float, sweep: float = math.pi, steps: int = 14) -> list[Point]:
    angles = [sweep * k / steps for k in range(steps + 1)]
    return [(outer * math.cos(a), outer * math.sin(a)) for a in angles] + [
        (inner * math.cos(a), inner * math.sin(a)) for a in reversed(angles)
    ]


def _furniture(rng: random.Random) -> Instance:
    """Sides with a notch, shelves, legs that taper, rails with a curve, aprons."""
    s = rng.uniform(0.8, 1.2)
    high, deep, wide = rng.uniform(180, 280) * s, rng.uniform(90, 140) * s, rng.uniform(160, 240) * s
    toe = rng.uniform(20, 35)
    leg = rng.uniform(28, 45)
    rise = rng.uniform(12, 26)
    apron = [
        (0, 0),
        *((wide * t, rise * math.sin(math.pi * t)) for t in (0.15, 0.3, 0.5, 0.7, 0.85)),
        (wide, 0),
        (wide, rise + 24),
        (0, rise + 24),
    ]
    shapes = (
        _shape("side", [(toe, 0), (deep, 0), (deep, high), (0, high), (0, toe), (toe, toe)], 2, HALVES),
        Shape("shelf", Region(rectangle(0, 0, wide, deep - 6)), rng.randint(3, 5), QUARTERS),
        _shape("leg", [(0, 0), (leg * 0.55, 0), (leg, high * 0.9), (0, high * 0.9)], rng.choice([4, 8]), QUARTERS),
        _shape("apron", apron, 4, QUARTERS),
        Shape("handle", Region(rounded_rectangle(0, 0, 84, 24, 12)), rng.randint(4, 8), QUARTERS),
        _shape("bracket", [(0, 0), (62, 0), (62, 12), (12, 62), (0, 62)], rng.randint(6, 10), QUARTERS),
        Shape("seat", Region(circle(0, 0, deep / 2)), 2, (0.0,)),
    )
    return Instance("furniture", shapes, rng.uniform(360, 480))


def _brackets(rng: random.Random) -> Instance:
    """Elbows, tees, U pieces, arcs and rings in turns of 90 degrees."""
    t = rng.uniform(12, 22)

    def r(a: float, b: float) -> float:
        return rng.uniform(a, b)

    a, b, c, d, e, f = r(60, 110), r(50, 90), r(60, 100), r(40, 80), r(60, 110), r(50, 80)
    ring = r(34, 52)
    shapes = (
        _shape("elbow", [(0, 0), (a, 0), (a, t), (t, t), (t, b), (0, b)], rng.randint(6, 10)),
        _shape(
            "tee",
            [(c / 2 - t / 2, 0), (c / 2 + t / 2, 0), (c / 2 + t / 2, d), (c, d), (c, d + t), (0, d + t), (0, d), (c / 2 - t / 2, d)],
            rng.randint(4, 8),
        ),
        _shape("u", [(0, 0), (e, 0), (e, f), (e - t, f), (e - t, t), (t, t), (t, f), (0, f)], rng.randint(4, 8)),
        _shape("arc", _arc(r(40, 60), r(20, 34)), rng.randint(4, 8)),
        _shape("quarter", _arc(r(60, 80), r(40, 52), math.pi / 2, 8), rng.randint(4, 6)),
        Shape("ring", Region(circle(0, 0, ring), (circle(0, 0, ring * r(0.55, 0.75)).wound(ccw=False),)), rng.randint(2, 4), (0.0,)),
        Shape("disc", Region(circle(0, 0, r(9, 18))), rng.randint(4, 8), (0.0,)),
    )
    return Instance("brackets", shapes, rng.uniform(280, 360))


#: Block letters on a grid of 5 by 7, as their outlines.
LETTERS: dict[str, list[Point]] = {
    "E": [(0, 0), (5, 0), (5, 1.4), (1.5, 1.4), (1.5, 2.8), (4.2, 2.8), (4.2, 4.2), (1.5, 4.2), (1.5, 5.6), (5, 5.6), (5, 7), (0, 7)],
    "F": [(0, 0), (1.5, 0), (1.5, 2.8), (4.2, 2.8), (4.2, 4.2), (1.5, 4.2), (1.5, 5.6), (5, 5.6), (5, 7), (0, 7)],
    "H": [(0, 0), (1.5, 0), (1.5, 2.8), (3.5, 2.8), (3.5, 0), (5, 0), (5, 7), (3.5, 7), (3.5, 4.2), (1.5, 4.2), (1.5, 7), (0, 7)],
    "I": [(0, 0), (1.6, 0), (1.6, 7), (0, 7)],
    "K": [(0, 0), (1.5, 0), (1.5, 2.3), (3.3, 0), (5.2, 0), (2.6, 3.5), (5.2, 7), (3.3, 7), (1.5, 4.7), (1.5, 7), (0, 7)],
    "L": [(0, 0), (5, 0), (5, 1.5), (1.5, 1.5), (1.5, 7), (0, 7)],
    "N": [(0, 0), (1.4, 0), (1.4, 4.6), (3.6, 0), (5, 0), (5, 7), (3.6, 7), (3.6, 2.4), (1.4, 7), (0, 7)],
    "T": [(1.8, 0), (3.2, 0), (3.2, 5.6), (5, 5.6), (5, 7), (0, 7), (0, 5.6), (1.8, 5.6)],
    "V": [(2, 0), (3, 0), (5, 7), (3.5, 7), (2.5, 2.4), (1.5, 7), (0, 7)],
    "X": [(0, 0), (1.7, 0), (2.5, 2.2), (3.3, 0), (5, 0), (3.4, 3.5), (5, 7), (3.3, 7), (2.5, 4.8), (1.7, 7), (0, 7), (1.6, 3.5)],
    "Z": [(0, 0), (5, 0), (5, 1.4), (2, 1.4), (5, 5.6), (5, 7), (0, 7), (0, 5.6), (3, 5.6), (0, 1.4)],
}


def _letters(rng: random.Random) -> Instance:
    """A sign's letters, in any quarter turn."""
    size, shapes = rng.uniform(8, 12), []
    for name in rng.sample(sorted(LETTERS), rng.randint(6, 9)):
        k = size * rng.choice([1.0, 1.0, 0.7])
        shapes.append(_shape(name, [(x * k, y * k) for x, y in LETTERS[name]], rng.randint(3, 6)))
    return Instance("letters", tuple(shapes), rng.uniform(260, 360))


def _small_and_large(rng: random.Random) -> Instance:
    """A few large parts with waste about them, and many small ones to fill it."""
    shapes = [
        _shape("gable", [(0, 0), (rng.uniform(180, 230), 0), (rng.uniform(150, 180), 90), (100, 150), (30, 90)], rng.randint(2, 3)),
        Shape("disc", Region(circle(0, 0, rng.uniform(60, 85))), 2, (0.0,)),
        _shape("wing", _arc(rng.uniform(110, 130), rng.uniform(60, 80), 1.9, 12), 2),
    ]
    for k in range(rng.randint(4, 6)):
        w, h = rng.uniform(16, 46), rng.uniform(14, 38)
        kind = rng.randrange(3)
        points = (
            [(0, 0), (w, 0), (w, h), (0, h)],
            [(0, 0), (w, 0), (w * 0.6, h)],
            [(0, 0), (w, 0), (w, h / 2.5), (w / 2.5, h / 2.5), (w / 2.5, h), (0, h)],
        )[kind]
        shapes.append(_shape(f"small {k}", points, rng.randint(6, 9)))
    return Instance("small and large", tuple(shapes), rng.uniform(300, 380))


def _parts_in_parts(rng: random.Random) -> Instance:
    """Frames with windows, and what fits into them."""
    w, h, t = rng.uniform(120, 170), rng.uniform(90, 130), rng.uniform(12, 18)

    def frame(name: str, w: float, h: float, n: int) -> Shape:
        return Shape(name, Region(rectangle(0, 0, w, h), (rectangle(t, t, w - t, h - t).wound(ccw=False),)), n, QUARTERS)

    shapes = (
        frame("frame", w, h, rng.randint(4, 7)),
        frame("inner", w - 2 * t - rng.uniform(4, 14), h - 2 * t - rng.uniform(3, 10), rng.randint(4, 7)),
        Shape("plate", Region(rectangle(0, 0, rng.uniform(50, 76), rng.uniform(32, 48))), rng.randint(5, 8), QUARTERS),
        Shape("disc", Region(circle(0, 0, rng.uniform(16, 26))), rng.randint(5, 9), (0.0,)),
    )
    return Instance("parts in parts", shapes, rng.uniform(280, 360))


def _flats(rng: random.Random) -> Instance:
    """True flats of demo designs, of one stock and more, in halves of their size where they are large."""
    found: list[Region] = []
    names = sorted(EXAMPLES)
    rng.shuffle(names)
    for name in names:
        found += [
            p.flat.pieces[0]
            for p in build(EXAMPLES[name]()).flats.values()
            if p.flat.pieces and not p.made_by and p.flat.size[0] * p.flat.size[1] > 900
        ]
        if len(found) >= 12:
            break
    shapes = tuple(Shape(f"flat {k}", r, rng.choice([1, 2, 2, 3]), QUARTERS) for k, r in enumerate(found[:14]))
    widest = max(min(b[2] - b[0], b[3] - b[1]) for b in (s.region.outer.bounds for s in shapes))
    return Instance("flats", shapes, max(widest * 1.05, rng.uniform(560, 640)))


def mix(rng: random.Random) -> Instance:
    """Panels with 18 teeth a side, rings, legs, arcs and U pieces: 52 in all."""
    t = rng.uniform(12, 18)
    shapes = (
        _shape("comb", comb_panel(rng.uniform(110, 150), rng.uniform(70, 95), 6.0, 37, 37), 6),
        Shape("ring", Region(circle(0, 0, 46), (circle(0, 0, 32).wound(ccw=False),)), 6, (0.0,)),
        _shape("leg", [(0, 0), (18, 0), (30, 150), (0, 150)], 10),
        _shape("arc", _arc(rng.uniform(42, 52), rng.uniform(26, 32)), 12),
        _shape("u", [(0, 0), (84, 0), (84, 60), (84 - t, 60), (84 - t, t), (t, t), (t, 60), (0, 60)], 8),
        Shape("tile", Region(rectangle(0, 0, rng.uniform(36, 48), rng.uniform(36, 48))), 10, QUARTERS),
    )
    return Instance("mix of 52", shapes, 300)


#: Each family draws an instance from a generator of random numbers.
FAMILIES: dict[str, Callable[[random.Random], Instance]] = {
    "jigsaws of 16": lambda rng: _jigsaw(rng, 16, bent=False),
    "jigsaws of 30": lambda rng: _jigsaw(rng, 30, bent=False),
    "jigsaws of 60": lambda rng: _jigsaw(rng, 60, bent=False),
    "jigsaws with steps": lambda rng: _jigsaw(rng, rng.randint(16, 32), bent=True),
    "combs": _combs,
    "mix with combs": mix,
    "furniture": _furniture,
    "brackets and arcs": _brackets,
    "letters": _letters,
    "many small, few large": _small_and_large,
    "parts in parts": _parts_in_parts,
    "flats of the demo": _flats,
}
