"""The bend table as a file: a row a bend of every folded part, as its flat lies."""

from __future__ import annotations

import csv
import io

from zygon.build.built import Built, Flat
from zygon.build.distinct import distinct
from zygon.build.metal.bend_table import bend_rows
from zygon.nest.design import lying

__all__ = ["bend_notes", "write_bends"]


def write_bends(built: Built) -> str:
    """The bend table as CSV (RFC 4180), UTF-8, figures in mm and degrees; '' where nothing is bent."""
    out = io.StringIO()
    writer = csv.writer(out)
    head = ["Part", "Pieces", "Bend", "Way", "Angle of bend", "Radius mm", "Length mm", "Allowance mm", "Deduction mm", "Deduction to", "K"]
    writer.writerow(head)
    found = False
    for group in distinct(built):
        part = built.parts[group.keys[0]]
        if part.flat is None or part.flat.fold is None or not part.flat.pieces:
            continue
        for r in bend_rows(lying(part).fold):  # type: ignore[arg-type]
            found = True
            figures = [_f(x) for x in (r.angle, r.radius, r.length, r.allowance, r.deduction)]
            writer.writerow([part.path, group.quantity, r.number, r.direction, *figures, r.refers_to, _f(r.k)])
    return out.getvalue() if found else ""


def bend_notes(flat: Flat) -> list[str]:
    """A line a bend for the note layer of a drawing."""
    if flat.fold is None:
        return []
    return [
        f"BEND {r.number}: {r.direction} {_f(r.angle)} deg, inside radius {_f(r.radius)} mm, allowance {_f(r.allowance)} mm, {_f(r.length)} mm long"
        for r in bend_rows(flat.fold)
    ]


def _f(value: float) -> str:
    return f"{value:.3f}".rstrip("0").rstrip(".")
