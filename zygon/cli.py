"""The command line ``zygon``: the core for scripts. JSON on standard output with --json; exit code 2 and one line on bad input."""

from __future__ import annotations

import argparse
import json
import math
import sys
from pathlib import Path
from typing import NoReturn

from zygon import __version__
from zygon.cli_hardware import add_hardware
from zygon.cli_machine import add_machine
from zygon.cli_members import add_members
from zygon.cli_moves import add_moves
from zygon.cli_nest import add_nest
from zygon.cli_outline import add_outline
from zygon.cli_papers import add_papers
from zygon.cli_program import add_program
from zygon.cli_range import add_range
from zygon.errors import ImportFileError, NestError, ZygonError

__all__ = ["main"]


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        raise NestError(message, code="bad_arguments")


#: What a design is written to here; the registry of formats loads only where it is used.
EXPORTS = ("dxf", "svg", "csv", "step", "stl", "3mf", "glb")


def main(argv: list[str] | None = None) -> int:
    """Runs one command; gives the exit code: 0, or 2 for bad input."""
    as_json = "--json" in (argv if argv is not None else sys.argv[1:])
    try:
        arguments = _parser().parse_args(argv)
        arguments.run(arguments)
        return 0
    except ZygonError as error:
        _tell(error, as_json=as_json)
        return 2
    except BrokenPipeError:
        return 0
    except OSError as error:
        found = ImportFileError(f"{error.filename}: {error.strerror}", entry=str(error.filename), rule="a file that can be read or written")
        _tell(found, as_json=as_json)
        return 2


def _tell(error: ZygonError, *, as_json: bool) -> None:
    """One line, whatever the message repeats of what was typed."""
    line = "".join(c if c.isprintable() else ascii(c)[1:-1] for c in error.message)
    print(json.dumps({"error": error.as_dict()}) if as_json else f"zygon: {line}", file=sys.stderr)


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="zygon", description="Parts cut from sheet stock: build, export, nest.")
    parser.add_argument("--version", action="version", version=__version__)
    commands = parser.add_subparsers(dest="command", required=True, parser_class=_Parser)
    add = commands.add_parser("example", help="print an example design as JSON")
    add.add_argument("name", nargs="?", default="", help="one of the names that are listed where none is given")
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_example)
    add = commands.add_parser("schema", help="print the JSON Schema of design files")
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_schema)
    add = commands.add_parser("build", help="list parts, joints and problems of a design")
    add.add_argument("design", type=Path)
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_build)
    add = commands.add_parser("export", help="write a design's flats, lists or solids")
    add.add_argument("design", type=Path)
    add.add_argument("--to", choices=EXPORTS, required=True)
    add.add_argument("--out", type=Path, required=True)
    add.add_argument("--kerf", choices=("nominal", "compensated"), default="nominal")
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_export)
    add = commands.add_parser("bend", help="allowance, setback, deduction and K of a bend, as JSON")
    add.add_argument("--thickness", type=float, required=True, help="mm")
    add.add_argument("--radius", type=float, required=True, help="inside, mm")
    add.add_argument("--angle", type=float, required=True, help="of the bend in degrees: 0 is flat, 90 square")
    by = add.add_mutually_exclusive_group(required=True)
    by.add_argument("--k", type=float)
    by.add_argument("--rule", choices=("din6935", "handbook-soft", "handbook-half-hard", "handbook-hard"))
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_bend)
    add_nest(commands)
    add_members(commands)
    add_hardware(commands)
    add_moves(commands)
    add_outline(commands)
    add_papers(commands)
    add_program(commands)
    add_range(commands)
    add_machine(commands)
    return parser


def _load(path: Path):
    from zygon.exchange.design_in import read_design

    return read_design(path, str(path))


def _example(a: argparse.Namespace) -> None:
    from zygon.design.examples import example

    print(json.dumps(example(a.name).dump(), indent=1, ensure_ascii=False))


def _schema(_: argparse.Namespace) -> None:
    from zygon.design.schema import json_schema

    print(json.dumps(json_schema(), indent=1))


def _build(a: argparse.Namespace) -> None:
    from zygon.check.run import check
    from zygon.exchange.cutlist import cut_list
    from zygon.making.pipeline import build
    from zygon.screen.design import problem_data

    built = build(_load(a.design))
    problems, rows = check(built), cut_list(built)
    if a.json:
        parts = [
            {
                "part": r.part,
                "key": r.key,
                "quantity": r.quantity,
                "made": r.made,
                "stock": r.stock,
                "thickness": r.measured or r.nominal,
                "length": r.length,
                "width": r.width,
                "area": r.area,
                "mass": r.mass,
            }
            for r in rows
        ]
        joints = [
            {
                "key": j.key,
                "kind": j.kind,
                "a": j.a,
                "b": j.b,
                "contact": j.contact,
                "axis": j.axis,
                "run": list(j.run),
                "fingers": len(j.fingers),
                "fit": j.fit,
                "refused": j.refused,
            }
            for j in built.joints.values()
        ]
        print(
            json.dumps(
                {"name": built.document.name, "parts": parts, "joints": joints, "problems": [problem_data(p) for p in problems]}, indent=1
            )
        )
        return
    print(f"{built.document.name}: {len(rows)} parts, {len(built.joints)} joints, {sum(p.open for p in problems)} problems")
    for r in rows:
        wide = f" x {r.width:8.2f} mm" if r.width is not None else f"{' mm':14}"
        size = f"{r.length:9.2f}{wide}" if r.length is not None else " " * 24
        area = f"{r.area / 100:9.1f} cm2 {r.mass or 0:8.1f} g" if r.area is not None else ""
        print(f"{r.number:3} {r.part:16} x{r.quantity:<3} {size} {area}  {r.stock or r.made}")
    for j in built.joints.values():
        print(
            f"    {built.document.joints[j.key].title.lower():20} {built.parts[j.a].path}-{built.parts[j.b].path}: {j.refused or f'{len(j.fingers)} along {j.axis}, fit {j.fit:g} mm'}"
        )
    for p in problems:
        print(f"  ! {'(kept) ' if p.kept else ''}{p.fault.message}. Rule: {p.fault.rule}")


def _export(a: argparse.Namespace) -> None:
    from zygon.exchange.bundle import part_files
    from zygon.exchange.formats import FORMATS, lists_of
    from zygon.exchange.named import safe
    from zygon.making.pipeline import build

    built = build(_load(a.design))
    if FORMATS[a.to].of == "solid":
        from zygon.exchange.solids import solid_files

        solids = solid_files(built, a.to)
        a.out.mkdir(parents=True, exist_ok=True)
        for name, content in solids.items():
            (a.out / name).write_bytes(content)
        print(json.dumps({"files": sorted(solids)}) if a.json else "\n".join(str(a.out / n) for n in sorted(solids)))
        return
    if FORMATS[a.to].of == "list":
        files = {f"{safe(built.document.name)}_{end}": text for end, text in lists_of(built).items()}
    else:
        files = part_files(built, a.to, a.kerf)
    a.out.mkdir(parents=True, exist_ok=True)
    for name, text in files.items():
        (a.out / name).write_text(text, encoding="utf-8", newline="")
    print(json.dumps({"files": sorted(files)}) if a.json else "\n".join(str(a.out / n) for n in sorted(files)))


def _bend(a: argparse.Namespace) -> None:
    from zygon.stock.allowance import bend_by
    from zygon.stock.bending import Bending

    limits = (("thickness", 0, math.inf, True), ("radius", 0, math.inf, False), ("angle", 0, 180, True), ("k", 0, 1, False))
    for name, low, high, over in limits:
        value = getattr(a, name)
        if value is None:
            continue
        if not math.isfinite(value) or value < low or value > high or (over and value in (low, high)):
            rule = f"{'greater than' if over else 'at least'} {low}" + (
                f" and {'under' if over else 'at most'} {high}" if high < math.inf else ""
            )
            raise NestError(f"--{name} {value:g}: {rule}", entry=f"--{name}", value=value, rule=rule, code="bad_arguments")
    by = Bending(rule=a.rule) if a.rule else Bending(k=a.k)
    bend = bend_by(by, a.thickness, a.radius, math.radians(a.angle))
    figures = {"allowance": bend.allowance, "setback": bend.setback, "deduction": bend.deduction, "k": bend.k}
    print(json.dumps({**{k: round(v, 6) for k, v in figures.items()}, "refers_to": bend.refers_to, "unit": "mm"}))


if __name__ == "__main__":
    sys.exit(main())
