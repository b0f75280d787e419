"""The files of a design: names that say nominal or compensated, contents by format, and one ZIP of everything."""

from __future__ import annotations

import io
import json
import re
import zipfile
from typing import Literal

from zygon.build.built import Built, BuiltPart
from zygon.check.problem import Problem
from zygon.cut.kerf import compensated, kerf_of
from zygon.cut.reckon import cutting_order
from zygon.errors import ZygonError
from zygon.exchange.cutlist import write_csv
from zygon.exchange.dxf import write_dxf
from zygon.exchange.svg import write_svg
from zygon.geometry.contour import Contour, rectangle
from zygon.nest.design import StockNest, lying, placed_contours
from zygon.stock.cutter import Layers

__all__ = ["KerfMode", "bundle", "part_file", "part_files", "problems_text", "sheet_files"]

KerfMode = Literal["nominal", "compensated"]
Drawing = Literal["dxf", "svg"]


class ExportError(ZygonError):
    """A part that cannot be written as asked."""

    code = "cannot_export"


def safe(name: str) -> str:
    """A name as a file's: letters, digits, - and _ only."""
    return re.sub(r"[^\w-]+", "-", name).strip("-").lower() or "design"


def _layers(built: Built) -> Layers:
    cutter = built.document.cutters.get(built.document.cutter)
    return cutter.layers if cutter else Layers()


def _kerf_words(kerf: float) -> tuple[str, str]:
    """How a file says what its contours are: in its name, and in its note."""
    if not kerf:
        return "nominal", "NOMINAL: no kerf allowance; the cutter still has to take half its kerf on each side"
    return f"compensated-{kerf:g}mm", f"COMPENSATED for a kerf of {kerf:g} mm: {kerf / 2:g} mm a side; do not compensate again"


def part_file(built: Built, part: BuiltPart, to: Drawing, mode: KerfMode) -> tuple[str, str]:
    """File name and contents of one part. Raises ExportError where there is nothing to cut or a place is under the kerf."""
    if part.flat is None or not part.flat.pieces:
        raise ExportError(f"{part.path} has nothing to cut", entry=part.path, rule="a part with a flat")
    flat = lying(part)
    kerf = kerf_of(built.document, part.record.stock) if mode == "compensated" else 0.0  # type: ignore[union-attr]
    contours = compensated(flat, kerf)
    if contours.narrow:
        at = contours.narrow[0].at
        raise ExportError(
            f"{part.path}: near {at[0]:.1f}, {at[1]:.1f} mm it is narrower than the kerf of {kerf:g} mm",
            entry=part.path,
            value=kerf,
            rule="wider than the kerf",
        )
    word, note = _kerf_words(kerf)
    document = built.document
    record = part.record
    stock = document.stocks[record.stock]  # type: ignore[union-attr]
    up = part.frame.face_a if record.up == "a" else part.frame.face_b  # type: ignore[union-attr]
    notes = [f"{document.name} / {part.path} x {record.quantity} / {stock.name}, {flat.thickness:g} mm / {up} up", note]
    x0, y0, _, _ = flat.bounds
    ordered = cutting_order([contours])
    text = write_dxf(ordered, _layers(built), notes, (x0, y0 - 8)) if to == "dxf" else write_svg(ordered, _layers(built), notes)
    return f"{safe(document.name)}_{safe(part.path)}_x{record.quantity}_{word}.{to}", text


def cuttable(built: Built) -> list[BuiltPart]:
    """The parts that are cut, in order."""
    return [p for p in built.parts.values() if p.flat and p.flat.pieces and p.record.made == "cut"]


def part_files(built: Built, to: Drawing, mode: KerfMode) -> dict[str, str]:
    """One file a cut part by its name."""
    return dict(part_file(built, p, to, mode) for p in cuttable(built))


def sheet_files(built: Built, found: StockNest, to: Drawing, mode: KerfMode) -> dict[str, str]:
    """One file a sheet, with the sheet's outline on the note layer."""
    document = built.document
    kerf = kerf_of(document, found.plan.stock) if mode == "compensated" else 0.0
    word, note = _kerf_words(kerf)
    files = {}
    for n, sheet in enumerate(found.layout.sheets, 1):
        ordered: list[tuple[str, Contour]] = cutting_order(placed_contours(document, found.plan, p, kerf) for p in sheet.placements)
        length = sheet.used_length if sheet.sheet.roll else sheet.sheet.length
        frame = ("frame", rectangle(0, 0, length, sheet.sheet.width))
        notes = [f"{document.name} / {document.stocks[found.plan.stock].name} / sheet {n} of {len(found.layout.sheets)}", note]
        contours = [frame, *ordered]
        text = write_dxf(contours, _layers(built), notes) if to == "dxf" else write_svg(contours, _layers(built), notes)
        files[f"{safe(document.name)}_{safe(found.plan.stock)}_sheet-{n}_{word}.{to}"] = text
    return files


def problems_text(problems: list[Problem]) -> str:
    """The problems as they go on paper, kept ones with who kept them and why."""
    lines = []
    for p in problems:
        lines.append(f"[{'kept' if p.kept else p.fault.severity}] {p.fault.message}. Rule: {p.fault.rule}.")
        if p.kept:
            lines.append(f"    kept by {p.kept.by}: {p.kept.reason}")
        elif p.reopened:
            lines.append("    was kept, and is open again since its value or its rule changed")
    return "\n".join(lines or ["No problems."]) + "\n"


def bundle(
    built: Built, problems: list[Problem], nests: list[StockNest], mode: KerfMode, drawings: tuple[Drawing, ...] = ("dxf", "svg")
) -> bytes:
    """One ZIP: parts and sheets as drawings, cut list, problems, and the design itself. The same input gives the same names."""
    files: dict[str, str] = {}
    for to in drawings:
        files |= {f"parts-{to}/{n}": t for n, t in part_files(built, to, mode).items()}
        for found in nests:
            files |= {f"sheets-{to}/{n}": t for n, t in sheet_files(built, found, to, mode).items()}
    name = safe(built.document.name)
    files[f"{name}_cut-list.csv"] = write_csv(built)
    files["problems.txt"] = problems_text(problems)
    files[f"{name}.json"] = json.dumps(built.document.dump(), indent=1, ensure_ascii=False)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, text in files.items():
            archive.writestr(path, text)
    return out.getvalue()
