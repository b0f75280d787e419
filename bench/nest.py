"""The nesting engine beside a published packing solver: instances that neither has seen, the same time, all cores each, one run. ``make bench-nest``."""

from __future__ import annotations

import argparse
import contextlib
import math
import multiprocessing
import os
import random
import resource
import statistics
import sys
import time
from dataclasses import dataclass, replace
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

import spyrrow

from bench.families import FAMILIES, Instance
from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, polygon, rectangle
from zygon.nest.bars import Bar, Cut, cut_bars
from zygon.nest.bottom_left import first_layout
from zygon.nest.engine import allowed_turns, nest
from zygon.nest.legal import layout_faults
from zygon.nest.task import Layout, NestSheet, Shape, Task
from zygon.tolerance import WITHIN

ROWS: list[list[str]] = [["instances", "ours, median", "solver", "ratio, median", "worst", "first layout", "bettered within"]]
#: Hopper and Turton, test set C1, problem 1 (from memory; the areas sum to 400).
C1 = "2x12 7x12 8x6 3x6 3x5 5x5 3x12 3x7 5x7 2x6 3x2 4x2 3x4 4x4 9x2 11x2"


#: The most that a worker had, in KiB.
PEAK = [0]


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


@dataclass(frozen=True)
class Compared:
    """One instance: our density and the solver's, after how many seconds the first layout was bettered (None where it never was)."""

    ours: float
    theirs: float
    begun: float
    bettered: float | None


def compare(instance: Instance, seconds: int) -> Compared:
    """Both on one instance, one after the other."""
    task = Task(instance.shapes, NestSheet(math.inf, instance.width), seconds=float(seconds), workers=os.cpu_count() or 1)
    lengths: list[tuple[float, float]] = []
    began = time.perf_counter()

    def told(_done: int, _of: int, best: Layout) -> bool:
        look()
        if best.sheets and (not lengths or best.sheets[0].used_length < lengths[-1][1] - WITHIN):
            lengths.append((time.perf_counter() - began, best.sheets[0].used_length))
        return True

    layout = nest(task, told)
    faults = layout_faults(task, layout)
    assert not faults and not layout.unplaced, faults
    ours, theirs = (instance.area / instance.width / x for x in (layout.sheets[0].used_length, solver_length(instance, seconds)))
    return Compared(ours, theirs, instance.area / instance.width / lengths[0][1], lengths[1][0] if len(lengths) > 1 else None)


def family(name: str, seed: int, instances: int, seconds: int) -> None:
    """So many instances of a family, each drawn from the seed, and their median and worst."""
    found: list[Compared] = []
    for n in range(instances):
        instance = FAMILIES[name](random.Random(f"{name} {seed} {n}"))
        one = compare(instance, seconds)
        found.append(one)
        after = f"bettered after {one.bettered:.1f} s" if one.bettered else "never bettered"
        print(
            f"  {name}, {n}: {instance.parts} parts, {one.ours:.2%} beside {one.theirs:.2%}, {one.ours / one.theirs:.3f}, {after}",
            flush=True,
        )
    ratios = sorted(c.ours / c.theirs for c in found)
    late = [c.bettered for c in found]
    ROWS.append(
        [
            name,
            f"{statistics.median(c.ours for c in found):.2%}",
            f"{statistics.median(c.theirs for c in found):.2%}",
            f"{statistics.median(ratios):.3f}",
            f"{ratios[0]:.3f}",
            f"{statistics.median(c.begun for c in found):.2%}",
            "never" if None in late else f"{max(x for x in late if x is not None):.1f} s",
        ]
    )


def look() -> bool:
    """Takes note of the most memory that a worker had; they are not this process's own children."""
    for worker in multiprocessing.active_children():
        with contextlib.suppress(OSError, StopIteration):
            status = Path(f"/proc/{worker.pid}/status").read_text(encoding="ascii").splitlines()
            PEAK[0] = max(PEAK[0], next(int(line.split()[1]) for line in status if line.startswith("VmHWM")))
    return True


def many(kinds: int, count: int, seconds: float) -> None:
    """So many parts of so many kinds on sheets of 1220 x 610: time to the first layout and sheets when time is out."""
    rng, shapes = random.Random(1), []
    for k in range(kinds):
        w, h = rng.uniform(30, 160), rng.uniform(20, 120)
        ell = [(0, 0), (w, 0), (w, h / 3), (w / 3, h / 3), (w / 3, h), (0, h)]
        region = (
            Region(rectangle(0, 0, w, h)),
            Region(circle(0, 0, h / 2)),
            Region(polygon(ell)),
            Region(polygon([(0, 0), (w, 0), (w * 0.6, h)])),
            Region(circle(0, 0, h / 2), (circle(0, 0, h / 3).wound(ccw=False),)),
        )[k % 5]
        shapes.append(Shape(f"k{k}", region, count // kinds, allowed_turns("90")))
    task = Task(tuple(shapes), NestSheet(1220, 610), 2, 5, seconds=seconds)
    began = time.perf_counter()
    first = first_layout(task)
    taken = time.perf_counter() - began
    layout = nest(replace(task, seconds=seconds, workers=2), lambda *_: look())
    total = time.perf_counter() - began - taken
    assert not layout_faults(task, layout)
    share = sum(s.region.area * s.quantity for s in shapes) / (1220 * 610)
    ROWS.append(
        [
            f"{count} parts of {kinds} kinds",
            f"{len(layout.sheets)} sheets, {share / len(layout.sheets):.0%}",
            "",
            "",
            "",
            f"{len(first.sheets)} sheets",
            f"{taken:.1f} s, {total:.0f} s in all",
        ]
    )
    print(ROWS[-1], flush=True)


def bars() -> None:
    """The cutting-stock problem's standard worked example (from memory; recomputed): 73 bars."""
    demand = "1380:22 1520:25 1560:12 1710:14 1820:18 1880:18 1930:20 2000:10 2050:12 2100:14 2140:16 2150:18 2200:20"
    cuts = [Cut(*map(int, d.split(":"))) for d in demand.split()]
    began = time.perf_counter()
    plan = cut_bars(cuts, [Bar(5600)])
    taken = time.perf_counter() - began
    proof = "proven" if plan.proven else f"bound {plan.bound:g}"
    ROWS.append(["bars of 5600, 219 cuts", f"{plan.bars} bars", proof, "", "", "", f"{taken:.2f} s"])


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seconds", type=int, default=20)
    parser.add_argument("--instances", type=int, default=10, help="of each family")
    parser.add_argument("--seed", type=int, default=0, help="what the instances are drawn from; drawn anew where it is not said")
    parser.add_argument("--short", action="store_true", help="a second each, one instance of the smallest family")
    parser.add_argument("--only", default="", help="families with this in their name, and nothing else")
    arguments = parser.parse_args()
    seconds, seed = (1 if arguments.short else arguments.seconds), arguments.seed or random.SystemRandom().randrange(1, 1_000_000)
    print(f"seed {seed}: make bench-nest SEED={seed} draws the same again", flush=True)
    for name in ("jigsaws of 16",) if arguments.short else FAMILIES:
        if arguments.only in name:
            family(name, seed, 1 if arguments.short else arguments.instances, seconds)
    if not arguments.only:
        one = compare(rectangles(), seconds)
        ROWS.append(
            ["16 rectangles of C1", f"{one.ours:.2%}", f"{one.theirs:.2%}", f"{one.ours / one.theirs:.3f}", "", f"{one.begun:.2%}", ""]
        )
        for kinds, count, time_ in ((5, 20, seconds),) if arguments.short else ((20, 200, seconds), (40, 1000, 3 * seconds)):
            many(kinds, count, time_)
        bars()
    widths = [max(len(r[k]) for r in ROWS) for k in range(len(ROWS[0]))]
    for row in ROWS:
        print("  ".join(cell.ljust(w) for cell, w in zip(row, widths, strict=True)))
    peak = max(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss, *PEAK)
    print(f"memory, greatest of one process: {peak / 1024:.0f} MiB")


if __name__ == "__main__":
    main()
