"""The nesting engine beside a published packing solver: the same instances, the same time, two cores each, one run. ``make bench-nest``."""

from __future__ import annotations

import argparse
import math
import random
import resource
import time
from dataclasses import dataclass, replace

import shapely
import shapely.ops
import spyrrow
from shapely.geometry import box
from shapely.geometry.polygon import orient

from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, polygon, rectangle
from zygon.nest.bars import Bar, Cut, cut_bars
from zygon.nest.bottom_left import first_layout
from zygon.nest.engine import allowed_turns, nest
from zygon.nest.legal import layout_faults
from zygon.nest.task import NestSheet, Shape, Task

ROWS: list[list[str]] = [["instance", "parts", "ours", "solver", "ratio", "of the bound", "first layout", "told better"]]
#: Hopper and Turton, test set C1, problem 1 (from memory; the areas sum to 400).
C1 = "2x12 7x12 8x6 3x6 3x5 5x5 3x12 3x7 5x7 2x6 3x2 4x2 3x4 4x4 9x2 11x2"


@dataclass(frozen=True)
class Instance:
    name: str
    shapes: tuple[Shape, ...]
    width: float
    bound: float = 1.0


def jigsaw(n: int, width: float = 400, height: float = 300) -> Instance:
    """A rectangle cut by lines into n polygons, the largest first; they fill it whole."""
    rng, pieces = random.Random(n), [box(0, 0, width, height)]
    while len(pieces) < n:
        pieces.sort(key=lambda p: -p.area)
        largest = pieces.pop(0)
        (x, y), a = largest.centroid.coords[0], rng.uniform(0, math.pi)
        x, y = x + rng.uniform(-1, 1) * width / 50, y + rng.uniform(-1, 1) * width / 50
        d = (1e3 * math.cos(a), 1e3 * math.sin(a))
        pieces += shapely.get_parts(shapely.ops.split(largest, shapely.LineString([(x - d[0], y - d[1]), (x + d[0], y + d[1])]))).tolist()
    shapes = tuple(Shape(str(i), Region(polygon(list(orient(p).exterior.coords)[:-1]))) for i, p in enumerate(pieces))
    return Instance(f"jigsaw of {n}", shapes, height)


def arc(outer: float, inner: float, steps: int = 12) -> list[tuple[float, float]]:
    """Half a ring."""
    angles = [math.pi * k / steps for k in range(steps + 1)]
    return [(outer * math.cos(a), outer * math.sin(a)) for a in angles] + [
        (inner * math.cos(a), inner * math.sin(a)) for a in reversed(angles)
    ]


def mixed() -> Instance:
    """52 panels, rings, brackets and arcs."""
    tee = [(28, 45), (28, 0), (42, 0), (42, 45), (70, 45), (70, 60), (0, 60), (0, 45)]
    kinds = [
        ("panel", Region(rectangle(0, 0, 120, 80)), 6), ("strip", Region(rectangle(0, 0, 150, 22)), 8), ("tile", Region(rectangle(0, 0, 44, 44)), 8),
        ("ring", Region(circle(0, 0, 50), (circle(0, 0, 36).wound(ccw=False),)), 4), ("disc", Region(circle(0, 0, 17)), 6),
        ("bracket", Region(polygon([(0, 0), (90, 0), (90, 18), (18, 18), (18, 70), (0, 70)])), 8), ("tee", Region(polygon(tee)), 6),
        ("arc", Region(polygon(arc(45, 28))), 6),
    ]  # fmt: skip
    return Instance("mix of 52", tuple(Shape(n, r, q, allowed_turns("90")) for n, r, q in kinds), 300)


def holed() -> Instance:
    """Frames with large windows, and what fits into them."""
    kinds = [
        ("frame", Region(rectangle(0, 0, 140, 110), (rectangle(15, 15, 125, 95).wound(ccw=False),)), 6),
        ("inner", Region(rectangle(0, 0, 100, 72), (rectangle(12, 12, 88, 60).wound(ccw=False),)), 6),
        ("plate", Region(rectangle(0, 0, 70, 44)), 6), ("disc", Region(circle(0, 0, 24)), 8),
    ]  # fmt: skip
    return Instance("parts in parts", tuple(Shape(n, r, q, allowed_turns("90")) for n, r, q in kinds), 300)


def rectangles() -> Instance:
    sizes = [tuple(map(int, s.split("x"))) for s in C1.split()]
    return Instance(
        "16 rectangles of C1", tuple(Shape(f"{w}x{h}", Region(rectangle(0, 0, w, h)), 1, allowed_turns("90")) for w, h in sizes), 20
    )


def solver_length(instance: Instance, seconds: int) -> float:
    """The packing solver's strip; it knows no holes."""
    items = [
        spyrrow.Item(
            s.name,
            [tuple(p) for p in s.region.outer.flatten(0.05).tolist()],
            demand=s.quantity,
            allowed_orientations=[round(math.degrees(t), 6) for t in s.turns],
        )
        for s in instance.shapes
    ]
    config = spyrrow.StripPackingConfig(early_termination=False, total_computation_time=seconds, seed=1, num_workers=2)
    return spyrrow.StripPackingInstance("strip", strip_height=instance.width, items=items).solve(config).width


def compare(instance: Instance, seconds: int) -> None:
    task = Task(instance.shapes, NestSheet(math.inf, instance.width), seconds=float(seconds), workers=2)
    began = time.perf_counter()
    first_layout(task)
    first = time.perf_counter() - began
    told: list[float] = []
    layout = nest(task, lambda done, of, best: told.extend(s.used_length for s in best.sheets) or True)
    faults = layout_faults(task, layout)
    assert not faults and not layout.unplaced, faults
    area = sum(s.region.area * s.quantity for s in instance.shapes)
    ours, theirs = (area / instance.width / x for x in (layout.sheets[0].used_length, solver_length(instance, seconds)))
    better = sum(b < a - 1e-9 for a, b in zip(told, told[1:], strict=False))
    parts = sum(s.quantity for s in instance.shapes)
    ROWS.append([instance.name, str(parts), f"{ours:.2%}", f"{theirs:.2%}", f"{ours / theirs:.3f}", f"{ours / instance.bound:.2%}", f"{first:.2f} s", str(better)])  # fmt: skip
    print(ROWS[-1], flush=True)


def many(kinds: int, count: int, seconds: float) -> None:
    """So many parts of so many kinds on sheets of 1220 x 610: time to the first layout and sheets when time is out."""
    rng, shapes = random.Random(1), []
    for k in range(kinds):
        w, h = rng.uniform(30, 160), rng.uniform(20, 120)
        ell = [(0, 0), (w, 0), (w, h / 3), (w / 3, h / 3), (w / 3, h), (0, h)]
        region = (
            Region(rectangle(0, 0, w, h)), Region(circle(0, 0, h / 2)), Region(polygon(ell)), Region(polygon([(0, 0), (w, 0), (w * 0.6, h)])),
            Region(circle(0, 0, h / 2), (circle(0, 0, h / 3).wound(ccw=False),)),
        )[k % 5]  # fmt: skip
        shapes.append(Shape(f"k{k}", region, count // kinds, allowed_turns("90")))
    task = Task(tuple(shapes), NestSheet(1220, 610), 2, 5, seconds=seconds)
    began = time.perf_counter()
    first = first_layout(task)
    taken = time.perf_counter() - began
    layout = nest(replace(task, seconds=seconds, workers=2))
    total = time.perf_counter() - began - taken
    assert not layout_faults(task, layout)
    area = sum(s.region.area * s.quantity for s in shapes) / (1220 * 610)
    ROWS.append([f"{count} parts of {kinds} kinds", str(count), f"{len(layout.sheets)} sheets", f"{len(first.sheets)} at first", "",
                 f"{area / len(layout.sheets):.2%}", f"{taken:.2f} s", f"{total:.0f} s in all"])  # fmt: skip
    print(ROWS[-1], flush=True)


def bars() -> None:
    """The cutting-stock problem's standard worked example (from memory; recomputed): 73 bars."""
    demand = "1380:22 1520:25 1560:12 1710:14 1820:18 1880:18 1930:20 2000:10 2050:12 2100:14 2140:16 2150:18 2200:20"
    cuts = [Cut(*map(int, d.split(":"))) for d in demand.split()]
    began = time.perf_counter()
    plan = cut_bars(cuts, [Bar(5600)])
    taken = time.perf_counter() - began
    proof = "proven" if plan.proven else f"bound {plan.bound:g}"
    ROWS.append(["bars of 5600", str(sum(c.quantity for c in cuts)), f"{plan.bars} bars", "", "", proof, f"{taken:.2f} s", ""])


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seconds", type=int, default=20)
    parser.add_argument("--short", action="store_true", help="a second each, and the smallest of each kind")
    parser.add_argument("--only", default="", help="instances with this in their name")
    arguments = parser.parse_args()
    seconds, only = (1 if arguments.short else arguments.seconds), arguments.only
    for instance in (rectangles(),) if arguments.short else (jigsaw(16), jigsaw(30), jigsaw(60), mixed(), holed(), rectangles()):
        if only in instance.name:
            compare(instance, seconds)
    if not only:
        for kinds, count, time_ in ((5, 20, seconds),) if arguments.short else ((20, 200, seconds), (40, 1000, 2 * seconds)):
            many(kinds, count, time_)
        bars()
    widths = [max(len(r[k]) for r in ROWS) for k in range(len(ROWS[0]))]
    for row in ROWS:
        print("  ".join(cell.ljust(w) for cell, w in zip(row, widths, strict=True)))
    peak = max(resource.getrusage(who).ru_maxrss for who in (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN))
    print(f"memory, greatest of one process: {peak / 1024:.0f} MiB")


if __name__ == "__main__":
    main()
