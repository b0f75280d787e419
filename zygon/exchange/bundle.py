"""The files of a design: names that say nominal or compensated, contents by format, and one ZIP of everything."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Mapping
from dataclasses import replace
from typing import Literal

from zygon.check.called import called
from zygon.check.problem import Problem
from zygon.cut.kerf import CutContours, by_hand_of, compensated, kerf_of
from zygon.cut.reckon import by_hand, cutting_order
from zygon.exchange.bends import bend_notes
from zygon.exchange.dxf import write_dxf
from zygon.exchange.edge_words import edges_in_words
from zygon.exchange.formats import lists_of
from zygon.exchange.named import ExportError, safe
from zygon.exchange.svg import write_svg
from zygon.exchange.tubes import template_files
from zygon.geometry.contour import Contour, polyline, rectangle
from zygon.making.flats.distinct import distinct
from zygon.making.flats.face_words import face_word
from zygon.making.flats.flat import lying, turned_over
from zygon.making.result.built import Built, FlatPart
from zygon.nest.design import StockNest, placed_contours
from zygon.stock.cutter import Layers

__all__ = ["COMPENSATED", "KerfMode", "bundle", "cut_part", "needs_turning", "part_file", "part_files", "problems_text", "sheet_files"]

KerfMode = Literal["nominal", "compensated"]
Drawing = Literal["dxf", "svg"]
#: What a file says whose lines stand off by the kerf already.
COMPENSATED = "COMPENSATED for a kerf"


def _layers(built: Built) -> Layers:
    cutter = built.document.cutters.get(built.document.cutter)
    return cutter.layers if cutter else Layers()


def _kerf_words(kerf: float) -> tuple[str, str]:
    """How a file says what its contours are: in its name, and in its note."""
    if not kerf:
        return "nominal", "NOMINAL: no kerf allowance; the cutter still has to take half its kerf on each side"
    return f"compensated-{kerf:g}mm", f"{COMPENSATED} of {kerf:g} mm: {kerf / 2:g} mm a side; do not compensate again"


def cut_part(built: Built, key: str) -> FlatPart:
    """A part that can be written by its key. Raises ExportError where it is not made of anything that is cut, KeyError where it is not there."""
    part = built.parts[key]
    if key not in built.flats:
        raise ExportError(f"{part.path} has nothing to cut", entry=part.path, rule="a part with a flat")
    return built.flats[key]


def part_file(built: Built, part: FlatPart, to: Drawing, mode: KerfMode, *, turned: bool = False, quantity: int = 0) -> tuple[str, str]:
    """File name and contents of one part as it lies, or ``turned`` over for the work on its other face.

    Raises ExportError where there is nothing to cut or a place is under the kerf.
    """
    if not part.flat.pieces:
        raise ExportError(f"{part.path} has nothing to cut", entry=part.path, rule="a part with a flat")
    flat = turned_over(lying(part)) if turned else lying(part)
    document, record = built.document, part.record
    quantity = quantity or next(d.quantity for d in distinct(built) if part.key in d.keys)
    stock_key = record.stock
    kerf = kerf_of(document, stock_key) if mode == "compensated" else 0.0
    contours = compensated(flat, kerf, by_hand_of(document.cutters.get(document.cutter), stock_key))
    if contours.narrow:
        place = contours.narrow[0]
        raise ExportError(
            f"{part.path}: {called(document, place.owner)} near {place.at[0]:.1f}, {place.at[1]:.1f} mm is narrower than the cut, {kerf:g} mm",
            entry=part.path,
            value=kerf,
            rule="as wide as the cut, or wider",
        )
    word, note = _kerf_words(kerf)
    faces = {"a": face_word(part, "a"), "b": face_word(part, "b")}
    title = f"{document.name} / {part.path} x {quantity} / {document.stocks[stock_key].name}, {flat.thickness:g} mm"
    notes = [f"{title} / {faces[flat.seen]} up (face {flat.seen.upper()})", note, *bend_notes(document, part, flat)]
    edges = edges_in_words(document, part)
    notes += [f"EDGES: {', '.join(edges)}"] if edges else []
    x0, y0, x1, y1 = flat.bounds
    drawn: list[tuple[str, Contour]] = [*by_hand([contours])]
    if turned:
        middle = (x0 + x1) / 2
        axis = polyline([(middle, y0 - 6), (middle, y1 + 6)], "turn")
        drawn += [("frame", axis), *(("frame", p.outer) for p in flat.pieces), *(("frame", c) for c in flat.inside)]
        drawn += cutting_order([replace(contours, inside=(), outside=())])
        notes.append(
            f"SECOND SIDE: turned over left to right about the line at x = {middle:g} mm; the outline is for reference and is not cut again"
        )
    else:
        drawn += cutting_order([contours])
        if needs_turning(part):
            notes.append(f"TURN OVER: the {faces['b' if flat.seen == 'a' else 'a']} is worked too, from the file of the second side")
    text = write_dxf(drawn, _layers(built), notes, (x0, y0 - 8)) if to == "dxf" else write_svg(drawn, _layers(built), notes)
    side = "_second-side" if turned else ""
    return f"{safe(document.name)}_{safe(part.path)}_x{quantity}{side}_{word}.{to}", text


def needs_turning(part: FlatPart) -> bool:
    """Whether a part is worked on the face that lies down, too."""
    return part.record.cut_here and part.flat.worked("b" if part.record.up == "a" else "a")


def _cuttable(built: Built) -> list[tuple[FlatPart, int]]:
    """The different parts that are cut, in order, and how many of each there are."""
    found = [(built.flats[d.part.key], d.quantity) for d in distinct(built) if d.part.key in built.flats]
    return [(part, n) for part, n in found if part.flat.pieces and part.record.cut_here]


def part_files(built: Built, to: Drawing, mode: KerfMode) -> dict[str, str]:
    """One file a cut part by its name, and a second one for each that has to be turned over.

    A part that cannot be written does not keep the others back: what is wrong with it stands in a file of its own.
    """
    files: dict[str, str] = {}
    left: list[str] = []
    for part, quantity in _cuttable(built):
        for turned in (False, True) if needs_turning(part) else (False,):
            try:
                name, text = part_file(built, part, to, mode, turned=turned, quantity=quantity)
                files[name] = text
            except ExportError as error:
                left.append(f"{error.message}. Rule: {error.rule}.")
    if left:
        files["NOT-WRITTEN.txt"] = "\n".join(dict.fromkeys(left)) + "\n"
    return files


def sheet_files(built: Built, found: StockNest, to: Drawing, mode: KerfMode, title: str = "") -> dict[str, str]:
    """One file a sheet, with the sheet's outline on the note layer; ``title`` in place of the design's name."""
    document = built.document
    title = title or document.name
    kerf = kerf_of(document, found.plan.stock) if mode == "compensated" else 0.0
    word, note = _kerf_words(kerf)
    files = {}
    for n, sheet in enumerate(found.layout.sheets, 1):
        whole = [placed_contours(document, found.plan, p, kerf) for p in sheet.placements]
        placed = [_without_narrow(c) for c in whole]
        left_out = sorted({called(document, n.owner) for c in whole for n in c.narrow})
        ordered: list[tuple[str, Contour]] = by_hand(placed) + cutting_order(placed)
        length = sheet.used_length if sheet.sheet.roll else sheet.sheet.length
        own = sheet.sheet.outline
        frame = [("frame", c) for c in ((own.outer, *own.inner) if own else (rectangle(0, 0, length, sheet.sheet.width),))]
        notes = [f"{title} / {document.stocks[found.plan.stock].name} / sheet {n} of {len(found.layout.sheets)}", note]
        notes += [f"LEFT OUT, narrower than the cut of {kerf:g} mm: {', '.join(left_out)}"] if left_out else []
        contours = [*frame, *ordered]
        text = write_dxf(contours, _layers(built), notes) if to == "dxf" else write_svg(contours, _layers(built), notes)
        files[f"{safe(title)}_{safe(found.plan.stock)}_sheet-{n}_{word}.{to}"] = text
    return files


def _without_narrow(contours: CutContours) -> CutContours:
    """What can be cut: places narrower than the tool are given nominal, and a tool that followed them would cut into the part."""
    gone = {n.owner for n in contours.narrow}
    if not gone:
        return contours
    inside = tuple(c for c in contours.inside if c.owners[0] not in gone)
    depths = tuple((name, c) for name, c in contours.depths if c.owners[0] not in gone)
    outside = tuple(c for c in contours.outside if c.owners[0] not in gone)
    return replace(contours, inside=inside, depths=depths, outside=outside)


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
    built: Built,
    problems: list[Problem],
    nests: list[StockNest],
    mode: KerfMode,
    drawings: tuple[Drawing, ...] = ("dxf", "svg"),
    more: Mapping[str, bytes] | None = None,
) -> bytes:
    """One ZIP: parts and sheets as drawings, cut list, problems, the design itself, and what ``more`` there is by name. The same input gives the same names."""
    files: dict[str, str | bytes] = {**(more or {})}
    for to in drawings:
        files |= {f"parts-{to}/{n}": t for n, t in part_files(built, to, mode).items()}
        files |= {f"templates-{to}/{n}": t for n, t in template_files(built, to).items()}
        for found in nests:
            files |= {f"sheets-{to}/{n}": t for n, t in sheet_files(built, found, to, mode).items()}
    name = safe(built.document.name)
    files |= {f"{name}_{end}": text for end, text in lists_of(built).items()}
    files["problems.txt"] = problems_text(problems)
    files[f"{name}.json"] = json.dumps(built.document.dump(), indent=1, ensure_ascii=False)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, text in files.items():
            archive.writestr(path, text)
    return out.getvalue()
