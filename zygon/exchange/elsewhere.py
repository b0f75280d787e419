"""What goes to an outside cutter: each part's drawing as that cutter wants it, and a list of what is to be cut of what."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Collection
from dataclasses import dataclass
from typing import Literal

from typing_extensions import TypedDict

from zygon.cut.kerf import by_hand_of
from zygon.cut.reckon import reckon
from zygon.design.document import Document
from zygon.exchange.bundle import part_file
from zygon.exchange.cutlist import cut_list
from zygon.exchange.named import ExportError
from zygon.exchange.table import csv_text
from zygon.making.flats.distinct import distinct
from zygon.making.pipeline import build
from zygon.making.result.built import Built
from zygon.measure.entry import Entry
from zygon.stock.cutter import Cutter

__all__ = ["OutsideItem", "Wanted", "order_pack", "stated"]

#: The key that the outside cutter has while its drawings are made.
ELSEWHERE = "elsewhere"


@dataclass(frozen=True)
class Wanted:
    """What an outside cutter states: its lines as drawn or standing off by its kerf (mm), in which files, and what it is."""

    name: str
    kind: Literal["laser", "router"]
    lines: Literal["nominal", "compensated"]
    to: Literal["dxf", "svg"]
    kerf: float


class OutsideItem(TypedDict):
    """A part to be cut: its number, how many, of what (mm); ``cut`` and ``area`` of one in mm and mm². ``left`` says what of it stays for the hand."""

    key: str
    code: str
    part: str
    quantity: int
    stock: str
    material: str
    thickness: float
    length: float
    width: float
    cut: float
    area: float
    file: str
    left: str


def stated(document: Document, wants: Wanted) -> Built:
    """The design as that cutter would cut it: what the shop's own cutter would round or leave is not."""
    cutter = Cutter(
        name=wants.name,
        kind=wants.kind,
        kerf=Entry(text=f"{wants.kerf:g} mm"),
        bit=Entry(text=f"{wants.kerf:g} mm") if wants.kind == "router" else None,
        smallest=Entry(text=f"{max(wants.kerf, 0.01):g} mm"),
        bed_length=Entry(text="0 mm"),
        bed_width=Entry(text="0 mm"),
    )
    return build(document.model_copy(update={"cutters": {**document.cutters, ELSEWHERE: cutter}, "cutter": ELSEWHERE}))


def order_pack(document: Document, wants: Wanted, keys: Collection[str] = ()) -> tuple[list[OutsideItem], bytes]:
    """The parts with these keys (all that are cut from sheets where none is named), and a ZIP of their drawings and the list.

    Raises ExportError where there are none, or one cannot be cut so.
    """
    built = stated(document, wants)
    codes = {k: row.code for row in cut_list(built) for k in row.keys}
    cutter = built.document.cutters[ELSEWHERE]
    items: list[OutsideItem] = []
    files: dict[str, str] = {}
    for group in distinct(built):
        part = built.flats.get(group.part.key)
        chosen = not keys or set(group.keys) & set(keys)
        if part is None or not chosen or not part.record.cut_here or len(part.flat.pieces) != 1:
            continue
        name, text = part_file(built, part, wants.to, wants.lines, quantity=group.quantity)
        files[name] = text
        stock = built.document.stocks[part.record.stock]
        flat = part.flat
        hand = by_hand_of(cutter, part.record.stock)
        left = [
            w
            for w, so in (("grooves and pockets", flat.pockets and hand.pockets), ("countersinks", flat.sinks), ("bevels", flat.bevels))
            if so
        ]
        if flat.fold is not None:
            left.append("bends")
        region = flat.pieces[0]
        rings = [("outside", region.outer), *(("inside", c) for c in region.inner)]
        items.append(
            {
                "key": group.part.key,
                "code": codes.get(group.part.key, ""),
                "part": part.path.replace("_", " "),
                "quantity": group.quantity,
                "stock": stock.name,
                "material": stock.material,
                "thickness": flat.thickness,
                "length": flat.size[0],
                "width": flat.size[1],
                "cut": reckon(rings, None, part.record.stock).cut_length,
                "area": region.area,
                "file": name,
                "left": ", ".join(left),
            }
        )
    if not items:
        raise ExportError("Nothing of this is cut from sheets", entry="parts", value=list(keys)[:5], rule="parts that are cut from sheets")
    head = ["No.", "Part", "Quantity", "Stock", "Thickness mm", "Length mm", "Width mm", "File", "Left to us"]
    rows = [
        [
            i["code"],
            i["part"],
            i["quantity"],
            i["stock"],
            f"{i['thickness']:g}",
            f"{i['length']:.2f}",
            f"{i['width']:.2f}",
            i["file"],
            i["left"],
        ]
        for i in items
    ]
    files["ORDER.csv"] = csv_text(head, rows)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, text in files.items():
            archive.writestr(name, text)
    return items, out.getvalue()
