"""``zygon program`` and ``zygon simulate``: a sheet's program for the machine, and what a program does."""

from __future__ import annotations

import argparse
import json
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from zygon.cli_machine import bed_of
from zygon.errors import ZygonError

__all__ = ["add_program"]

#: How layers of a drawing begin whose lines are not cut through.
NO_CUTS = ("MARK", "NOTE", "DEPTH", "DRILL", "BEND")


def add_program(commands: Any) -> None:
    """Adds both commands."""
    add = commands.add_parser("program", help="a sheet of a design as a program (RS-274) for the chosen cutter")
    add.add_argument("design", type=Path, help="a design, or a sheet that is laid out as a DXF of nominal outlines")
    add.add_argument("--stock", metavar="KEY", help="which stock, where several are laid out; of a drawing the one that it is cut from")
    add.add_argument(
        "--like", type=Path, metavar="DESIGN", help="whose cutter and stocks a drawing is cut with; the starting workshop's where not said"
    )
    add.add_argument("--cutter", metavar="KEY", help="which of its cutters, for a drawing")
    add.add_argument("--size", metavar="LxW", help="the sheet of a drawing in mm, as 1220x610; as far as it reaches where not said")
    add.add_argument("--sheet", type=int, default=1)
    add.add_argument("--to", choices=("nc", "dxf", "svg"), default="nc", help="a program, or its paths as a drawing")
    add.add_argument("--under", action="store_true", help="for the face that lies down, on a router")
    add.add_argument("--nest", type=float, default=2.0, metavar="SECONDS", help="for a stock that is not laid out by hand")
    add.add_argument("--out", type=Path, required=True)
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_program)
    add = commands.add_parser("simulate", help="what a program does: length cut, rapids, time, extents, faults, as JSON")
    add.add_argument("program", type=Path)
    add.add_argument("--bed", metavar="LxW", help="mm, as 1300x900")
    add.add_argument("--rapid", type=float, default=300.0, help="mm/s")
    add.add_argument("--acceleration", type=float, default=3000.0, help="mm/s²")
    add.add_argument("--face", type=float, default=0.0, help="height of the sheet's face in a program for a bit, mm")
    add.add_argument("--waits", choices=("s", "ms"), default="s", help="what G4 P is in")
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_simulate)


def _program(a: argparse.Namespace) -> None:
    from zygon.check.run import check
    from zygon.exchange.design_in import read_design
    from zygon.making.pipeline import build
    from zygon.nest.design import laid_out, plans
    from zygon.program.of_design import program_of

    if a.design.suffix.lower() == ".dxf":
        _of_drawing(a)
        return
    document = read_design(a.design, str(a.design))
    if not a.nest > 0:
        raise ZygonError(f"--nest {a.nest:g}: give more than 0 seconds", code="bad_time", entry="--nest", value=a.nest, rule="over 0")
    built = build(document)
    found = {p.stock: p for p in plans(built)}
    if not found or (a.stock is None and len(found) > 1) or (a.stock is not None and a.stock not in found):
        rule = f"one of {', '.join(found)}" if found else "a design that has sheets to cut"
        raise ZygonError(f"--stock has to say which stock: {rule}", code="no_stock", entry="--stock", value=a.stock, rule=rule)
    plan = found[a.stock] if a.stock else next(iter(found.values()))
    nest = laid_out(document, plan, a.nest)
    if nest is None:
        raise ZygonError(
            f"{plan.stock} has no sheets", code="no_sheet", entry="--stock", value=plan.stock, rule="a stock with a sheet size"
        )
    _leave(a, document, program_of(document, nest, a.sheet, check(built), under=a.under))


def _of_drawing(a: argparse.Namespace) -> None:
    """A program of a sheet as drawn."""
    from zygon.design.document import SCHEMA, Document
    from zygon.design.pointer import pointer
    from zygon.design.upgrade import load
    from zygon.design.workshop import workshop
    from zygon.exchange.bundle import COMPENSATED
    from zygon.exchange.design_in import read_design
    from zygon.exchange.read import read_outlines
    from zygon.making.pipeline import build
    from zygon.program.of_design import program_of
    from zygon.program.of_outlines import sheet_of_outlines

    document: Document = read_design(a.like, str(a.like)) if a.like else load({"schema": SCHEMA, "name": a.design.stem, **workshop()})
    for entry, value, there in (("--stock", a.stock, document.sheets), ("--cutter", a.cutter or document.cutter, document.cutters)):
        if value not in there:
            rule = f"one of {', '.join(there)}"
            raise ZygonError(f"{entry} has to be {rule}", code="no_stock", entry=entry, value=value, rule=rule)
    document = document.model_copy(update={"name": a.design.stem, "cutter": a.cutter or document.cutter})
    # what is worked into a face, drilled, bent or marked is told apart by its layer, as our own drawings have it
    names = [layer.name for layer in read_outlines(a.design, str(a.design)).layers]
    found = read_outlines(a.design, str(a.design), [n for n in names if not n.upper().startswith(NO_CUTS)])
    if COMPENSATED.encode() in a.design.read_bytes():
        said = f"{a.design} is compensated for its kerf, which the program does by itself: give the nominal drawing"
        raise ZygonError(said, code="compensated", entry="design", value=str(a.design), rule="nominal outlines")
    stock = document.sheets[a.stock]
    thickness = build(document).values[pointer("stocks", a.stock, "measured" if stock.measured else "nominal")].value
    nest = sheet_of_outlines(a.stock, found.regions, thickness, bed_of(a.size, "--size") if a.size else None)
    left = [f"{layer.name}: {layer.curves} curves are not in the program" for layer in found.layers if not layer.read]
    _leave(a, document, program_of(document, nest, 1), left)


def _leave(a: argparse.Namespace, document: Any, made: Any, left: Sequence[str] = ()) -> None:
    """Writes it, and says what there is to say."""
    from zygon.exchange.path_files import paths_file

    paths, looked = made.paths, made.looked
    text = made.leave() if a.to == "nc" else paths_file(document, made, a.to)
    a.out.parent.mkdir(parents=True, exist_ok=True)
    a.out.write_text(text, encoding="utf-8")
    if a.json:
        print(
            json.dumps({"file": str(a.out), "cuts": len(paths.cuts), "said": [*left, *paths.faults], **_told(looked)}, ensure_ascii=False)
        )
        return
    print(f"{a.out}: {len(paths.cuts)} cuts, {looked.cut:.0f} mm, {looked.seconds:.0f} s")
    for fault in (*left, *paths.faults):
        print(f"  ! {fault}")


def _simulate(a: argparse.Namespace) -> None:
    from zygon.program.looked_through import look_through
    from zygon.program.read import read_program
    from zygon.program.timed import Machine

    for entry, value in (("--rapid", a.rapid), ("--acceleration", a.acceleration)):
        if not 0 < value < float("inf"):
            raise ZygonError(f"{entry} {value:g}: give more than 0", code="bad_machine", entry=entry, value=value, rule="over 0")
    try:
        text = a.program.read_text(encoding="utf-8")
    except UnicodeDecodeError:
        raise ZygonError(f"{a.program} is no text", code="broken_program", entry=str(a.program), rule="a program as text (UTF-8)") from None
    program = read_program(text, wait_in=a.waits)
    looked = look_through(program, Machine(a.rapid, a.acceleration, bed_of(a.bed), _face(program, a.face)))
    print(json.dumps(_told(looked), ensure_ascii=False))


def _face(program: Any, face: float) -> float | None:
    """A program without heights is for a beam."""
    return face if any(m.p[2] or m.q[2] for m in program.moves) else None


def _told(looked: Any) -> dict[str, Any]:
    return {
        "cut_mm": round(looked.cut, 3),
        "rapid_mm": round(looked.rapid, 3),
        "seconds": round(looked.seconds, 3),
        "pierces": looked.pierces,
        "extents_mm": [round(x, 3) for x in looked.extents],
        "faults": list(looked.faults),
    }
