"""Bend tables: the steps on the brake with their bends, for the screen, as CSV, and as notes on a drawing."""

from __future__ import annotations

from collections import Counter

from zygon.brake.bend_plan import numbers_of, plan_of
from zygon.brake.order import Step
from zygon.design.document import Document
from zygon.exchange.figures import Figures, plain
from zygon.exchange.table import csv_text
from zygon.making.flats.distinct import distinct
from zygon.making.flats.flat import lying
from zygon.making.metal.bend_table import bend_rows
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.flat import Flat

__all__ = ["bend_notes", "usual_radius", "write_bends"]

#: Radii that differ by less (mm) are one.
SAME = 1e-4

HEAD = [
    "Part",
    "Pieces",
    "Step",
    "Way",
    "Angle of bend",
    "Radius mm",
    "Length mm",
    "Allowance mm",
    "Deduction mm",
    "Deduction to",
    "K",
    "Back-gauge mm",
    "Gauged from",
    "Tool",
    "Force kN",
    "Handling",
    "Runs into",
]


def tool_word(step: Step) -> str:
    """With what a step is bent; '' where nothing is known to do it."""
    return "Offset tool, both bends at once" if step.offset else step.tool.name if step.tool else ""


def handling(step: Step) -> str:
    """What is done with the sheet before a step."""
    return " and ".join(w for w, so in (("turn over", step.flipped), ("turn round", step.turned)) if so)


def write_bends(built: Built) -> str:
    """The bend table as CSV (RFC 4180), UTF-8, lengths in the design's unit, degrees and kN; '' where nothing is bent. Gauges run from the bend line."""
    figures = Figures(built.document)
    found: list[list[object]] = []
    for group in distinct(built):
        part = built.flats.get(group.keys[0])
        if part is None or part.flat.fold is None or not part.flat.pieces:
            continue
        flat = lying(part)
        steps = plan_of(built.document, part, flat)
        rows = bend_rows(flat.fold, numbers_of(flat, steps))  # type: ignore[arg-type]
        for r in sorted(rows, key=lambda r: r["number"]):
            lengths = [figures.length(x) for x in (r["radius"], r["length"], r["allowance"], r["deduction"])]
            found.append(
                [
                    part.path,
                    group.quantity,
                    r["number"],
                    r["direction"],
                    plain(r["angle"]),
                    *lengths,
                    r["refers_to"],
                    plain(r["k"]),
                    *_on_brake(steps, r["number"], figures),
                ]
            )
    return csv_text(figures.head(HEAD), found) if found else ""


def _on_brake(steps: list[Step], number: int, figures: Figures) -> list[str]:
    if not steps:
        return [""] * 6
    s = steps[number - 1]
    gauge = "" if s.gauge.distance is None else figures.length(s.gauge.distance)
    return [gauge, s.gauge.against, tool_word(s), plain(s.force), handling(s), "; ".join(s.collides)]


def bend_notes(document: Document, part: FlatPart, flat: Flat) -> list[str]:
    """A line a bend for the note layer of a drawing, by the step that makes it; ``flat`` as it is drawn. The radius is said where it is not the part's own."""
    if flat.fold is None:
        return []
    figures = Figures(document)
    rows = bend_rows(flat.fold, numbers_of(flat, plan_of(document, part, lying(part))))
    usual = usual_radius([r["radius"] for r in rows])
    notes = [f"BENDS: INSIDE RADIUS {figures.length(usual)} {figures.word}"] if rows else []
    for r in rows:
        own = "" if abs(r["radius"] - usual) < SAME else f", radius {figures.length(r['radius'])} {figures.word}"
        line = f"({r['number']}) folds {r['direction']} by {plain(r['angle'])} deg{own}"
        notes.append(
            f"{line}; allowance {figures.length(r['allowance'])} {figures.word}, line {figures.length(r['length'])} {figures.word} long"
        )
    return notes


def usual_radius(radii: list[float]) -> float:
    """The radius that most bends of a part have; of equally many the smaller. 0 where it has none."""
    counted = Counter(round(r, 6) for r in radii)
    return min(counted, key=lambda r: (-counted[r], r), default=0.0)
