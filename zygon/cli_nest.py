"""The command line's nesting: outlines on sheets, and lengths from bars."""

from __future__ import annotations

import argparse
import json
import math
import re
from pathlib import Path
from typing import TYPE_CHECKING, Any

from zygon.errors import ImportFileError, NestError

if TYPE_CHECKING:
    from zygon.geometry.boolean import Region
    from zygon.nest.bars import Cut
    from zygon.nest.task import Layout, NestSheet, Task

__all__ = ["add_nest"]

MOST_WORKERS = 32
MOST_SHEETS = 200


def add_nest(commands: Any) -> None:
    """Adds the command to a parser's commands."""
    add = commands.add_parser("nest", help="lay outlines from DXF or SVG files on sheets, or cut lengths, or those of a design, from bars")
    add.add_argument("files", nargs="*", metavar="FILE[:QTY]")
    where = add.add_mutually_exclusive_group(required=True)
    where.add_argument(
        "--sheet", action="append", metavar="LxW[:QTY[:PRICE]]", help="length x width in mm, as 1220x610; may be given more than once"
    )
    where.add_argument("--roll", help="width in mm")
    where.add_argument("--bar", action="append", metavar="LENGTH[:QTY[:PRICE]]", help="a stock length in mm; may be given more than once")
    add.add_argument("--offcut", action="append", default=[], metavar="FILE", help="the outline of an offcut, used before any sheet")
    add.add_argument("--cut", nargs="+", action="extend", default=[], metavar="LENGTH[:QTY]", help="lengths in mm to cut from bars")
    add.add_argument("--stock", metavar="NAME", help="of a design's bars the one that is meant, where it has several")
    add.add_argument("--kerf", type=float, default=0.0, help="mm lost with each cut of a bar")
    add.add_argument("--trim", type=float, default=0.0, help="mm cut off both ends of a bar")
    add.add_argument("--gap", type=float, default=0.0)
    add.add_argument("--margin", type=float, default=0.0)
    add.add_argument(
        "--margins", type=float, nargs=4, metavar=("LEFT", "BOTTOM", "RIGHT", "TOP"), help="mm at each edge, in place of --margin"
    )
    add.add_argument("--turn", default="none", help="none, free, or a step in degrees that divides 360, as 180, 90 or 15")
    add.add_argument("--mirror", action="store_true", help="parts may be turned over")
    add.add_argument("--time", type=float, default=10.0)
    add.add_argument("--seed", type=int, default=1)
    add.add_argument("--workers", type=int, help="processes that search side by side; as many as there are cores where it is not said")
    add.add_argument("--out", type=Path, help="folder for the sheets' files")
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_run)


def _run(a: argparse.Namespace) -> None:
    if a.bar:
        _bars(a)
        return
    if a.cut:
        raise NestError("--cut goes with --bar; sheets are laid out from files", entry="--cut", value=a.cut, rule="--bar")
    for entry, value in (("FILE", a.files), ("--out", a.out)):
        if not value:
            raise NestError(f"{entry} is missing: sheets are laid out from files into a folder", entry=entry, rule="files and --out")
    _nest(a)


def _numbers(entry: str, text: str, most: int) -> list[float]:
    """The numbers of 'A[:B[:C]]'; the second is a count."""
    found = text.split(":")
    whole = len(found) < 2 or re.fullmatch(r"-?\d+", found[1])
    if len(found) > most or not whole or not all(re.fullmatch(r"-?\d+(\.\d+)?", n) for n in found):
        form = {2: "LENGTH[:QTY]", 3: "LENGTH[:QTY[:PRICE]]"}[most]
        raise NestError(f"{entry} {text}: give {form}", entry=entry, value=text, rule=form)
    return [float(n) for n in found]


def _bars(a: argparse.Namespace) -> None:
    """Always JSON: the patterns, how many bars, and the bound."""
    from zygon.nest.bar_list import plan_data
    from zygon.nest.bars import Bar, Cut, cut_bars

    if not a.cut and not a.files:
        raise NestError("--bar goes with --cut, or with a design", entry="--cut", value=a.files, rule="lengths to cut")
    bars = []
    for text in a.bar:
        length, *rest = _numbers("--bar", text, 3)
        bars.append(Bar(length, rest[1] if len(rest) > 1 else 1.0, int(rest[0]) or None if rest else None))
    cuts = []
    for text in a.cut:
        length, *quantity = _numbers("--cut", text, 2)
        cuts.append(Cut(length, int(quantity[0]) if quantity else 1))
    for text in a.files:
        cuts += _lengths(text, a.stock)
    plan = cut_bars(cuts, bars, a.kerf, a.trim)
    data = plan_data(cuts, bars, plan)
    print(json.dumps(data))


def _lengths(text: str, wanted: str | None) -> list[Cut]:
    """What a design cuts of a bar stock, of the one that it has or of the one that is named."""
    from zygon.exchange.design_in import read_design
    from zygon.making.pipeline import build
    from zygon.nest.bars import Cut
    from zygon.nest.bars_of_design import lengths_of

    if not text.endswith(".json"):
        rule = "a design, as .json; lengths go with --cut"
        raise NestError(f"{text}: --bar takes {rule}", entry="FILE", value=text, rule=rule)
    built = build(read_design(Path(text), text))
    found = {built.document.stocks[k].name: own for k, own in lengths_of(built).items()}
    names = ", ".join(sorted(found)) or "none"
    if not found or (wanted is None and len(found) > 1) or (wanted is not None and wanted not in found):
        rule = "--stock with one of the bars that it is cut from"
        raise NestError(f"{text}: give {rule}; they are: {names}", entry="--stock", value=wanted, rule=rule)
    own = found[wanted] if wanted is not None else next(iter(found.values()))
    return [Cut(length, n, name, slant) for (name, length, slant), n in sorted(own.items(), key=lambda x: (-x[0][1], x[0]))]


def _kinds(a: argparse.Namespace) -> list[NestSheet]:
    """The kinds of sheets that can be had; a quantity of 0 is as many as are needed."""
    from zygon.nest.task import NestSheet

    if a.roll is not None:
        found = re.fullmatch(r"\d+(?:\.\d+)?", a.roll.strip())
        if not found or float(a.roll) <= 0:
            raise NestError(f"--roll {a.roll}: give a width in mm, as 600", entry="--roll", value=a.roll, rule="a width in mm")
        return [NestSheet(math.inf, float(a.roll), f"roll {a.roll}")]
    kinds = []
    for text in a.sheet:
        found = re.fullmatch(r"(\d+(?:\.\d+)?)[x×](\d+(?:\.\d+)?)(?::(\d+)(?::(\d+(?:\.\d+)?))?)?", text.strip().lower())
        if not found or float(found[1]) <= 0 or float(found[2]) <= 0:
            rule = "length x width in mm, as 1220x610, with :QTY and :PRICE where you like"
            raise NestError(f"--sheet {text}: give {rule}", entry="--sheet", value=text, rule=rule)
        length, width, quantity = float(found[1]), float(found[2]), int(found[3] or 0)
        if quantity > MOST_SHEETS:
            rule = f"at most {MOST_SHEETS} of a kind; leave the quantity out for as many as are needed"
            raise NestError(f"--sheet {text}: {rule}", entry="--sheet", value=quantity, rule=rule)
        # without a price, material is what counts
        price = float(found[4]) if found[4] else length * width / 1e6
        kinds.append(NestSheet(length, width, f"{length:g}x{width:g}", price, count=quantity or None))
    return kinds


def _offcut(path: Path) -> NestSheet:
    from zygon.nest.remainder import offcut_sheet

    return offcut_sheet(path.name, _one_region(path))


def _one_region(path: Path) -> Region:
    from zygon.exchange.read import read_regions

    regions = read_regions(path)
    if len(regions) != 1:
        rule = "one outline with its holes"
        raise ImportFileError(
            f"{path}: {len(regions)} separate outlines; one a file is read", entry=str(path), value=len(regions), rule=rule
        )
    return regions[0]


def _shapes(a: argparse.Namespace) -> list[Any]:
    from zygon.nest.engine import allowed_turns
    from zygon.nest.task import Shape

    if not re.fullmatch(r"none|free|[1-9]\d{0,2}", a.turn) or (a.turn.isdigit() and 360 % int(a.turn)):
        rule = "none, free, or a step in degrees that divides 360"
        raise NestError(f"--turn {a.turn}: give {rule}", entry="--turn", value=a.turn, rule=rule)
    shapes = []
    for text in a.files:
        found = re.fullmatch(r"(.+):(-?\d+)", text)
        name, quantity = (found[1], int(found[2])) if found and not Path(text).exists() else (text, 1)
        shapes.append(Shape(name, _one_region(Path(name)), quantity, allowed_turns(a.turn), a.mirror, a.turn == "free"))
    return shapes


def _laid(a: argparse.Namespace) -> tuple[Task, Layout]:
    """The task that was asked for, and its layout: offcuts first, then the cheapest choice of the kinds."""
    from zygon.nest.engine import cores, nest
    from zygon.nest.task import Task

    workers = min(cores(), MOST_WORKERS) if a.workers is None else a.workers
    if not 1 <= workers <= MOST_WORKERS:
        raise NestError(f"--workers {a.workers}: 1 to {MOST_WORKERS}", entry="--workers", value=a.workers, rule=f"1 to {MOST_WORKERS}")
    first, *others = _kinds(a)
    task = Task(
        tuple(_shapes(a)),
        first,
        a.gap,
        a.margin,
        a.seed,
        a.time,
        MOST_SHEETS,
        workers=workers,
        stock=tuple(_offcut(Path(f)) for f in a.offcut),
        others=tuple(others),
        margins=tuple(a.margins) if a.margins else None,
    )
    return task, nest(task)


def _nest(a: argparse.Namespace) -> None:
    from zygon.cut.kerf import CutContours
    from zygon.cut.reckon import cutting_order
    from zygon.exchange.dxf import write_dxf
    from zygon.geometry.contour import rectangle
    from zygon.nest.left_over import reason_of
    from zygon.nest.legal import layout_faults
    from zygon.stock.cutter import Layers

    task, layout = _laid(a)
    faults = layout_faults(task, layout)
    if faults:
        raise NestError(f"The layout breaks its own rules: {faults[0]}", value=faults, rule="legal to 0.001 mm")
    a.out.mkdir(parents=True, exist_ok=True)
    sheets = []
    for n, sheet in enumerate(layout.sheets, 1):
        contours = []
        for p in sheet.placements:
            region = task.shapes[p.shape].region
            moved = [c.moved(p.x, p.y, p.angle, p.mirrored) for c in (region.outer, *region.inner)]
            contours.append(CutContours((), tuple(moved[1:]), (moved[0],)))
        length = sheet.used_length if sheet.sheet.roll else sheet.sheet.length
        own = sheet.sheet.outline
        frame = [("frame", c) for c in ((own.outer, *own.inner) if own else (rectangle(0, 0, length, sheet.sheet.width),))]
        text = write_dxf(
            [*frame, *cutting_order(contours)],
            Layers(),
            [f"sheet {n} of {len(layout.sheets)}", "outlines as in their files: no kerf added here"],
        )
        (a.out / f"sheet-{n}.dxf").write_text(text, encoding="utf-8")
        parts = [
            {
                "source": task.shapes[p.shape].name,
                "copy": p.copy + 1,
                "x": p.x,
                "y": p.y,
                "angle": math.degrees(p.angle),
                "mirrored": p.mirrored,
            }
            for p in sheet.placements
        ]
        sheets.append(
            {"width": length, "height": sheet.sheet.width, "used_length": sheet.used_length, "sheet": sheet.sheet.name, "parts": parts}
        )
    unplaced: list[dict[str, Any]] = [
        {"source": task.shapes[i].name, "count": n, "reason": reason_of(task, i)} for i, n in sorted(layout.unplaced.items())
    ]
    data = {"sheets": sheets, "yield": layout.share, "cost": sum(s.cost for s in layout.sheets), "unplaced": unplaced}
    (a.out / "layout.json").write_text(json.dumps(data, indent=1), encoding="utf-8")
    if a.json:
        print(json.dumps(data))
    else:
        print(f"{len(sheets)} sheets, {layout.share:.1%} used, {sum(u['count'] for u in unplaced)} left over; {a.out / 'layout.json'}")
