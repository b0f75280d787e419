"""A test piece for speed and power: squares in a grid, each row with a power of its own, each column with a speed, and what they are marked beside them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from zygon.design.document import Document
from zygon.errors import NestError
from zygon.geometry.contour import rectangle
from zygon.geometry.stroke_font import strokes
from zygon.toolpath.chosen import chosen_for
from zygon.toolpath.cuts import Cut, SheetPaths
from zygon.toolpath.pieces import once_round

__all__ = ["MOST_STEPS", "PowerTest", "grid", "power_test_paths"]

#: A square, how far one is from the next, room for the figures, and how high those are (mm).
SIDE, PITCH, ROOM, LETTER = 10.0, 15.0, 18.0, 3.5
MOST_STEPS = 8


@dataclass(frozen=True)
class PowerTest:
    """What is tried: cutting or marking, speeds from ``slow`` to ``fast`` (mm/s), powers from ``weak`` to ``strong`` (%), so many ``steps`` of each."""

    what: Literal["cut", "mark"]
    slow: float
    fast: float
    weak: float
    strong: float
    steps: int = 5


def grid(test: PowerTest) -> tuple[list[float], list[float]]:
    """Its speeds and powers, evenly, both to a tenth. Raises NestError with the rule."""
    rules = (
        ("steps", test.steps, 2 <= test.steps <= MOST_STEPS, f"2 to {MOST_STEPS}"),
        ("slow", test.slow, 0 < test.slow < test.fast <= 10_000, "over 0 and under the fastest, at most 10000 mm/s"),
        ("weak", test.weak, 0 < test.weak < test.strong <= 100, "over 0 and under the strongest, at most 100 %"),
    )
    for entry, value, so, rule in rules:
        if not so:
            raise NestError(f"{entry} {str(value)[:20]}: {rule}", entry=entry, value=value, rule=rule, code="bad_test")
    shares = [k / (test.steps - 1) for k in range(test.steps)]
    speeds = [round(test.slow + (test.fast - test.slow) * s, 1) for s in shares]
    return speeds, [round(test.weak + (test.strong - test.weak) * s, 1) for s in shares]


def power_test_paths(document: Document, stock: str, test: PowerTest) -> SheetPaths:
    """The paths of the test on the chosen laser: the fastest and weakest squares first. Raises NestError as ``grid`` and ``chosen_for``, and where the cutter has no beam."""
    cutter, work = chosen_for(document, stock)
    if not cutter.can.beam:
        said = f"{cutter.name} has no beam: power is tried on a laser"
        raise NestError(said, entry="cutter", value=cutter.name, rule="a laser", code="no_machine")
    speeds, powers = grid(test)
    cuts: list[Cut] = []

    def label(text: str, x: float, y: float) -> None:
        cuts.extend(Cut("mark", "label", len(cuts), "label", (once_round(c),)) for c in strokes(text, x, y, LETTER))

    for k, speed in enumerate(speeds):
        label(f"{speed:g}", ROOM + k * PITCH + SIDE / 2, ROOM / 2)
    for k, power in enumerate(powers):
        label(f"{power:g}%", ROOM / 2, ROOM + k * PITCH + SIDE / 2)
    number = 0
    for row, power in enumerate(powers):
        for column, speed in reversed(list(enumerate(speeds))):
            x, y = ROOM + column * PITCH, ROOM + row * PITCH
            square = once_round(rectangle(x, y, x + SIDE, y + SIDE).wound(ccw=False))
            cuts.append(
                Cut("inside" if test.what == "cut" else "mark", "square", number, "square", (square,), speed=speed, power=power / 100)
            )
            number += 1
    size = ROOM + test.steps * PITCH
    return SheetPaths(
        tuple(cuts),
        (size, size),
        0.0,
        0.0,
        work.cut_speed,
        work.mark_speed,
        work.pierce,
        work.power / 100,
        work.mark_power / 100,
    )
