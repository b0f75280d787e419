"""Rules of sheets: a part fits on some sheet of its stock, and a sheet on the cutter's bed."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.design.margins import broken_margin, margins_of
from zygon.design.parts.kinds import is_plate
from zygon.design.pointer import pointer
from zygon.errors import ExpressionError
from zygon.making.flats.distinct import distinct
from zygon.making.result.built import Built
from zygon.making.result.fault import Fault, Mend
from zygon.measure.display import exact_length, format_length
from zygon.measure.evaluate import plain_length
from zygon.stock.cutter import Cutter, cut_width
from zygon.tolerance import WITHIN

__all__ = ["sheet_faults"]


def sheet_faults(built: Built) -> list[Fault]:
    """Parts larger than any sheet, and sheets larger than the bed."""
    document = built.document
    faults: list[Fault] = []
    used = {p.record.stock for p in built.parts.values() if is_plate(p.record) and p.record.cut_here}
    broken = broken_margin(document.nest)
    if broken:
        entry, error = broken
        return [Fault("broken_expression", error.message, error.reason, error.text, entry=entry)]
    low_x, low_y, high_x, high_y = margins_of(document.nest)
    margins = low_x + high_x, low_y + high_y
    cutter = document.cutters.get(document.cutter)
    faults += _gap_faults(document, cutter, used)
    for key in sorted(used):
        stock = document.sheets[key]
        sizes = []
        for name, sheet in stock.sheets.items():
            try:
                sizes.append((name, plain_length(sheet.length), plain_length(sheet.width), sheet.roll))
            except ExpressionError as error:
                faults.append(
                    Fault("broken_expression", error.message, error.reason, error.text, entry=pointer("stocks", key, "sheets", name))
                )
        if not sizes:
            faults.append(
                Fault(
                    "no_sheets",
                    f"{stock.name} has no sheet size: nothing can be nested",
                    "a stock has a sheet size",
                    severity="warning",
                    entry=pointer("stocks", key, "sheets"),
                )
            )
            continue
        faults += _parts_too_large(built, key, sizes, margins)
        if cutter:
            faults += _bed_faults(document, key, cutter, sizes)
    return faults


def _parts_too_large(built: Built, key: str, sizes: list[tuple[str, float, float, bool]], margins: tuple[float, float]) -> list[Fault]:
    faults = []
    rooms = [(w - margins[0], h - margins[1]) for _, w, h, _ in sizes]
    display = built.document.display
    for part in (built.flats[d.part.key] for d in distinct(built) if d.part.key in built.flats):
        if not part.flat.pieces or part.record.stock != key or not part.record.cut_here:
            continue
        size = sorted(part.flat.size, reverse=True)
        if not any(size[0] <= max(r) + WITHIN and size[1] <= min(r) + WITHIN for r in rooms):
            if max(min(r) for r in rooms) <= 0:
                said = f"The margins leave nothing of any sheet of {built.document.stocks[key].name}"
                return [
                    Fault(
                        "no_room",
                        said,
                        "margins smaller than the sheet",
                        format_length(max(margins), display),
                        "sheets and margins",
                        part=part.key,
                    )
                ]
            room = [format_length(x, display) for x in max(rooms, key=lambda r: r[0] * r[1])]
            shown = " × ".join(format_length(x, display) for x in size)
            faults.append(
                Fault(
                    "too_large",
                    f"{part.path} is {shown}, larger than any sheet of {built.document.stocks[key].name}",
                    f"at most {room[0]} × {room[1]}, the largest sheet less its margins",
                    shown,
                    "the stock's sheet sizes",
                    part=part.key,
                )
            )
    return faults


def _bed_faults(document, key: str, cutter, sizes: list[tuple[str, float, float, bool]]) -> list[Fault]:
    try:
        bed = sorted((plain_length(cutter.bed_length), plain_length(cutter.bed_width)), reverse=True)
    except ExpressionError:
        return []
    faults = []
    for name, length, width, roll in sizes:
        sheet = [width, 0.0] if roll else sorted((length, width), reverse=True)
        if sheet[0] > bed[0] + WITHIN or sheet[1] > bed[1] + WITHIN:
            shown, limit = (" × ".join(format_length(x, document.display) for x in s) for s in (sheet, bed))
            faults.append(
                Fault(
                    "over_bed",
                    f"A sheet of {document.stocks[key].name} ({shown}) is larger than the bed of {cutter.name}",
                    f"at most {limit}",
                    shown,
                    cutter.name,
                    severity="warning",
                    entry=pointer("stocks", key, "sheets", name),
                )
            )
    return faults


def _gap_faults(document: Document, cutter: Cutter | None, used: set[str]) -> list[Fault]:
    """Parts stand far enough apart on a sheet that the cut round one does not reach into the next."""
    if cutter is None or cutter.shares:
        return []
    try:
        gap, widest = plain_length(document.nest.gap), max((cut_width(cutter, key) for key in used), default=0.0)
    except ExpressionError:
        return []  # said where the entry is
    if gap >= widest - WITHIN:
        return []
    shown, limit = format_length(gap, document.display), format_length(widest, document.display)
    entry = {"text": exact_length(widest, document.unit).strip("()"), "unit": document.unit}
    mend = Mend(f"Set the gap to {limit}", [{"op": "replace", "path": "/nest/gap", "value": entry}])
    message = (
        f"Parts lie {shown} apart on the sheet, and the {cutter.can.tool} of {cutter.name} is {limit} wide: it would cut into the next part"
    )
    return [Fault("narrow_gap", message, f"at least {limit}", shown, cutter.name, entry="/nest/gap", mends=(mend,))]
