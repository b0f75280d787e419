"""The cut list: one row a part, as it hangs in the shop; and as CSV."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.design.document import Document
from zygon.design.parts.kinds import is_hardware, is_placed, is_plate, is_turned
from zygon.design.pointer import pointer
from zygon.exchange.edge_words import edges_in_words
from zygon.exchange.figures import Figures, plain
from zygon.exchange.table import csv_text
from zygon.exchange.turned import turned_words
from zygon.making.flats.alike import rows_of
from zygon.making.hardware.body import HardwareBody
from zygon.making.kinds.base import Sizes
from zygon.making.kinds.registry import density_of, sizes_of, volume_of_part
from zygon.making.result.built import Built, BuiltPart, FlatPart
from zygon.making.result.value import Value

__all__ = ["CutRow", "cut_list", "write_csv"]


@dataclass(frozen=True)
class CutRow:
    """Finished sizes in mm, area in mm² and mass in g of one copy; None where it is not known.

    ``keys`` are the instances that the row stands for, ``key`` the first of them; ``handed_of`` is the number of the row whose mirror
    image it is, 0 for none; ``note`` is what the part asks of the shop, ``said`` the maker's own notes; ``code`` the part number by the maker's scheme.
    """

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
    said: str = ""
    keys: tuple[str, ...] = ()
    code: str = ""
    handed_of: int = 0
    group: str = ""


def cut_list(built: Built) -> list[CutRow]:
    """The rows of a design in its parts' order; equal parts are one row."""
    rows = []
    document = built.document
    codes = _Codes(document)
    for row in rows_of(document, built.parts):
        parts = [built.parts[k] for k in row.keys]
        part, n, quantity = parts[0], row.number, sum(p.record.quantity for p in parts)
        record, name = part.record, ", ".join(_names(parts))
        group = (document.within(record.group) or [""])[-1]
        code = codes.next(group, n)
        said = "; ".join(dict.fromkeys(p.record.note for p in parts if p.record.note)) if is_placed(record) else ""
        if not is_placed(record):
            rows.append(
                CutRow(
                    n,
                    part.key,
                    name,
                    quantity,
                    "bought",
                    "",
                    None,
                    None,
                    None,
                    None,
                    None,
                    None,
                    "",
                    record.price,
                    record.note,
                    keys=row.keys,
                    code=code,
                    handed_of=row.handed_of,
                    group=group,
                )
            )
            continue
        stock = document.stock_of(record)
        nominal: float | None = built.values.get(pointer("stocks", record.stock, "nominal"), Value(0.0, "length")).value
        measured = built.values.get(pointer("stocks", record.stock, "measured"))
        made = built.made.get(part.key)
        sizes = sizes_of(made) if made else Sizes()
        nominal = nominal if record.stock else sizes.thickness  # what is of no stock is as thick as itself
        alone = is_turned(record) or is_hardware(record)  # what is of no stock is of a material of its own
        mass = record.mass
        if mass is None and made is not None and isinstance(made.body, HardwareBody):
            mass = made.body.mass
        elif mass is None and made is not None and (record.stock or not alone):
            mass = volume_of_part(made) * density_of(made, stock) / 1000
        grain = {"free": "", "u": "along length", "v": "along width"}[record.grain] if is_plate(record) and stock.grain != "none" else ""
        note = _worked(document, built.flats[part.key]) if part.key in built.flats else turned_words(document, made.body) if made else ""
        if row.handed_of:
            note = f"mirror image of {row.handed_of}" + (f", {note}" if note else "")
        rows.append(
            CutRow(
                n,
                part.key,
                name,
                quantity,
                record.made,
                stock.name if record.stock or not alone else "",
                nominal,
                measured.value if measured else None,
                sizes.length,
                sizes.width,
                sizes.area,
                mass,
                grain,
                0.0 if record.cut_here else record.price,
                note,
                said,
                row.keys,
                code,
                row.handed_of,
                group,
            )
        )
    return rows


class _Codes:
    """Part numbers by the maker's scheme: counts rows on the whole list and within each group."""

    def __init__(self, document: Document) -> None:
        self.scheme = document.numbering
        tops = sorted((k for k, g in document.groups.items() if not g.parent), key=lambda k: (document.groups[k].order, k))
        self.groups = {"": 0, **{k: i for i, k in enumerate(tops, 1)}}
        self.counts: dict[str, int] = {}

    def next(self, group: str, number: int) -> str:
        """The number of the next row of a group."""
        self.counts[group] = self.counts.get(group, 0) + 1
        padded = "{group}" in self.scheme or "{part}" in self.scheme
        shown = self.scheme.replace("{number}", f"{number:02}" if padded else str(number))
        return shown.replace("{group}", f"{self.groups[group]:02}").replace("{part}", f"{self.counts[group]:02}")


def _names(parts: list[BuiltPart]) -> list[str]:
    """The names that a row's parts go by: originals and handed copies by their own, repeats under their original's."""
    return list(dict.fromkeys(p.path.partition(".")[0] for p in parts))


def _worked(document: Document, part: FlatPart) -> str:
    """What the shop has to know of a part beside its outline."""
    flat, found = part.flat, []
    if flat.worked("b" if part.record.up == "a" else "a"):
        found.append("turn over")
    if flat.bores:
        found.append("bore edges")
    if flat.skew_bores:
        found.append("drill at an angle" if any(not d.along for d in flat.skew_bores) else "drill through edges")
    if any(b.edge for b in flat.bevels):
        found.append("bevel edges")
    if any(not b.edge for b in flat.bevels):
        found.append("sloping flanks by hand")
    found += edges_in_words(document, part)
    return ", ".join(found)


def write_csv(built: Built) -> str:
    """The cut list as CSV (RFC 4180), UTF-8, lengths and areas in the design's unit, grams."""
    shown = Figures(built.document)
    head = [
        "No.",
        "Number",
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
    rows: list[list[object]] = []
    for r in cut_list(built):
        figures = [*(shown.length(x) for x in (r.nominal, r.measured, r.length, r.width)), shown.area(r.area), _f(r.mass, 1)]
        note = "; ".join(t for t in (r.said, r.note) if t)
        rows.append([r.number, r.code, r.part, r.quantity, r.made, r.stock, *figures, r.grain, _f(r.price or None), note])
    return csv_text(shown.head(head), rows)


def _f(value: float | None, places: int = 3) -> str:
    return "" if value is None else plain(value, places)
