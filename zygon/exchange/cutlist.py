"""The cut list: one row a part, as it hangs in the shop; and as CSV."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass

from zygon.build.built import Built, BuiltPart, Value
from zygon.build.layers import volume_of
from zygon.design.document import Board
from zygon.design.patch import pointer

__all__ = ["CutRow", "cut_list", "write_csv"]


@dataclass(frozen=True)
class CutRow:
    """Finished sizes in mm, area in mm² and mass in g of one copy; None where it is not known."""

    number: int
    key: str
    part: str
    quantity: int
    made: str
    stock: str
    nominal: float | None
    measured: float | None
    length: float | None
    width: float | None
    area: float | None
    mass: float | None
    grain: str
    price: float
    note: str


def cut_list(built: Built) -> list[CutRow]:
    """The rows of a design in its parts' order."""
    rows = []
    document = built.document
    for n, part in enumerate(built.parts.values(), 1):
        record = part.record
        if not isinstance(record, Board):
            rows.append(
                CutRow(
                    n, part.key, part.path, record.quantity, "bought", "", None, None, None, None, None, None, "", record.price, record.note
                )
            )
            continue
        stock = document.stocks[record.stock]
        nominal = built.values.get(pointer("stocks", record.stock, "nominal"), Value(0.0, "length")).value
        measured = built.values.get(pointer("stocks", record.stock, "measured"))
        flat = part.flat
        length, width = flat.size if flat and flat.pieces else (None, None)
        area = flat.area if flat else None
        mass = volume_of(flat) * stock.density / 1000 if flat and area is not None else None
        grain = {"free": "", "u": "along length", "v": "along width"}[record.grain] if stock.grain != "none" else ""
        rows.append(CutRow(n, part.key, part.path, record.quantity, record.made, stock.name, nominal, measured.value if measured else None, length, width, area, mass,
                           grain, record.price if record.made == "bought" else 0.0, _worked(part)))  # fmt: skip
    return rows


def _worked(part: BuiltPart) -> str:
    """What the shop has to know of a part beside its outline."""
    flat, found = part.flat, []
    if flat is None or not isinstance(part.record, Board):
        return ""
    if flat.worked("b" if part.record.up == "a" else "a"):
        found.append("turn over")
    if flat.bores:
        found.append("bore edges")
    if flat.bevels:
        found.append("sloping flanks by hand")
    return ", ".join(found)


def write_csv(built: Built) -> str:
    """The cut list as CSV (RFC 4180), UTF-8, figures in mm, mm² as cm², grams."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(
        [
            "No.",
            "Part",
            "Quantity",
            "Made",
            "Stock",
            "Nominal thickness mm",
            "Measured thickness mm",
            "Length mm",
            "Width mm",
            "Area cm2",
            "Mass g",
            "Grain",
            "Price",
            "Note",
        ]
    )
    for r in cut_list(built):
        figures = [_f(r.nominal), _f(r.measured), _f(r.length), _f(r.width), _f(r.area and r.area / 100, 1), _f(r.mass, 1)]
        writer.writerow(
            [r.number, _text(r.part), r.quantity, r.made, _text(r.stock), *figures, r.grain, _f(r.price or None), _text(r.note)]
        )
    return out.getvalue()


def _f(value: float | None, places: int = 3) -> str:
    return "" if value is None else f"{value:.{places}f}".rstrip("0").rstrip(".")


def _text(value: str) -> str:
    """Text that a spreadsheet must not take for a formula."""
    return "'" + value if value[:1] in ("=", "+", "-", "@", "\t") else value
