"""Bend tables: the steps on the brake with their bends, for the screen, as CSV, and as notes on a drawing."""

from __future__ import annotations

from zygon.brake.bend_plan import numbers_of, plan_of
from zygon.brake.order import Step
from zygon.design.document import Document
from zygon.exchange.table import csv_text
from zygon.making.flats.distinct import distinct
from zygon.making.flats.flat import lying
from zygon.making.metal.bend_table import bend_rows
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.flat import Flat

__all__ = ["bend_notes", "write_bends"]

HEAD = ["Part", "Pieces", "Step", "Way", "Angle of bend", "Radius mm", "Length mm", "Allowance mm", "Deduction mm", "Deduction to", "K",
        "Back-gauge mm", "Gauged from", "Tool", "Force kN", "Handling", "Runs into"]  # fmt: skip


def tool_word(step: Step) -> str:
    """With what a step is bent; '' where nothing is known to do it."""
    return "Offset tool, both bends at once" if step.offset else step.tool.name if step.tool else ""


def handling(step: Step) -> str:
    """What is done with the sheet before a step."""
    return " and ".join(w for w, so in (("turn over", step.flipped), ("turn round", step.turned)) if so)


def write_bends(built: Built) -> str:
    """The bend table as CSV (RFC 4180), UTF-8, figures in mm, degrees and kN; '' where nothing is bent. Gauges run from the bend line."""
    found: list[list[object]] = []
    for group in distinct(built):
        part = built.flats.get(group.keys[0])
        if part is None or part.flat.fold is None or not part.flat.pieces:
            continue
        flat = lying(part)
        steps = plan_of(built.document, part, flat)
        rows = bend_rows(flat.fold, numbers_of(flat, steps))  # type: ignore[arg-type]
        for r in sorted(rows, key=lambda r: r["number"]):
            figures = [_f(x) for x in (r["angle"], r["radius"], r["length"], r["allowance"], r["deduction"])]
            found.append(
                [
                    part.path,
                    group.quantity,
                    r["number"],
                    r["direction"],
                    *figures,
                    r["refers_to"],
                    _f(r["k"]),
                    *_on_brake(flat, steps, r["number"]),
                ]
            )
    return csv_text(HEAD, found) if found else ""


def _on_brake(flat: Flat, steps: list[Step], number: int) -> list[str]:
    if not steps:
        return [""] * 6
    s = steps[number - 1]
    gauge = "" if s.gauge.distance is None else _f(s.gauge.distance)
    return [gauge, s.gauge.against, tool_word(s), _f(s.force), handling(s), "; ".join(s.collides)]


def bend_notes(document: Document, part: FlatPart, flat: Flat) -> list[str]:
    """A line a bend for the note layer of a drawing, by the step that makes it; ``flat`` as it is drawn."""
    if flat.fold is None:
        return []
    return [
        f"BEND {r['number']}: {r['direction']} {_f(r['angle'])} deg, inside radius {_f(r['radius'])} mm, allowance {_f(r['allowance'])} mm, {_f(r['length'])} mm long"
        for r in bend_rows(flat.fold, numbers_of(flat, plan_of(document, part, lying(part))))
    ]


def _f(value: float) -> str:
    return f"{value:.3f}".rstrip("0").rstrip(".")
