"""``zygon program`` and ``zygon simulate``: a sheet's program for the machine, and what a program does."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import Any

from zygon.cli_machine import bed_of
from zygon.errors import ZygonError

__all__ = ["add_program"]


def add_program(commands: Any) -> None:
    """Adds both commands."""
    add = commands.add_parser("program", help="a sheet of a design as a program (RS-274) for the chosen cutter")
    add.add_argument("design", type=Path)
    add.add_argument("--stock", metavar="KEY", help="which stock, where several are laid out")
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
    from zygon.exchange.path_files import paths_file
    from zygon.making.pipeline import build
    from zygon.nest.design import laid_out, plans
    from zygon.program.of_design import program_of

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
    made = program_of(document, nest, a.sheet, check(built), under=a.under)
    paths, looked = made.paths, made.looked
    text = made.leave() if a.to == "nc" else paths_file(document, made, a.to)
    a.out.parent.mkdir(parents=True, exist_ok=True)
    a.out.write_text(text, encoding="utf-8")
    if a.json:
        print(json.dumps({"file": str(a.out), "cuts": len(paths.cuts), "said": list(paths.faults), **_told(looked)}, ensure_ascii=False))
        return
    print(f"{a.out}: {len(paths.cuts)} cuts, {looked.cut:.0f} mm, {looked.seconds:.0f} s")
    for fault in paths.faults:
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
