"""What a build gives out, condensed into figures that can be kept and compared: every number of every output counts, none is left out.

Numbers of one kind (``parts/*/flat/bends/*/angle``) become their count and two sums, one of them weighted by place, so that figures which
change places are seen; texts become a checksum. It says where something changed, not whether it is right: that is other tests' work.
"""

from __future__ import annotations

import json
import math
import os
import re
import zlib
from pathlib import Path
from typing import Any

from zygon.check.run import check
from zygon.cut.kerf import by_hand_of, compensated, kerf_of
from zygon.cut.reckon import by_hand, cutting_order, reckon
from zygon.design.document import Document
from zygon.errors import ZygonError
from zygon.exchange.assembly_text import assembly_text
from zygon.exchange.bends import write_bends
from zygon.exchange.bundle import part_files
from zygon.exchange.cutlist import write_csv
from zygon.exchange.drilling import write_drilling
from zygon.making.flats.layers import volume_of
from zygon.making.pipeline import build
from zygon.screen.design import built_data, part_resources
from zygon.screen.joint_figure import joint_figure
from zygon.screen.picture import picture

__all__ = ["compared", "condensed", "figures_of", "said", "without_digests"]

NUMBER = re.compile(r"-?\d+(?:\.\d+)?(?:[eE][-+]?\d+)?")
KEPT = Path(__file__).parent / "fixtures" / "figures"
#: A name that hangs on every bit of what it stands for.
DIGEST = re.compile(r"(?:[a-z]+-)?[0-9a-f]{12,}.*")
#: Keys that are names of what stands under them, rather than of what it is.
MANY = {"parts", "joints", "values", "bores", "copies", "groups", "clearances", "solids", "flats", "resources", "good", "fits"}


def condensed(data: Any) -> dict[str, list[float]]:
    """Count, sum, and weighted sum of the numbers by where they stand; for texts a checksum of all of them."""
    numbers: dict[str, list[float]] = {}
    texts: dict[str, int] = {}

    def number(value: float, path: str) -> None:
        row = numbers.get(path)
        if row is None:
            row = numbers[path] = [0, 0.0, 0.0]
        row[0] += 1
        row[1] += value
        row[2] += value * (1 + row[0] % 17)

    def walk(value: Any, path: str, named: bool = False) -> None:
        if isinstance(value, list | tuple):
            below = path + "/*"
            row = numbers.get(below)
            for inner in value:
                # nearly all that there is are numbers in lists: this is ``number``, written out
                if type(inner) is float:
                    if row is None:
                        row = numbers.setdefault(below, [0, 0.0, 0.0])
                    row[0] += 1
                    row[1] += inner
                    row[2] += inner * (1 + row[0] % 17)
                else:
                    walk(inner, below)
        elif isinstance(value, dict):
            for key, inner in value.items():
                if named:
                    texts[path] = zlib.crc32(str(key).encode(), texts.get(path, 0))
                walk(inner, f"{path}/*" if named else f"{path}/{key}", key in MANY and not named)
        elif isinstance(value, bool) or value is None:
            texts[path] = zlib.crc32(str(value).encode(), texts.get(path, 0))
        elif isinstance(value, int | float):
            number(value, path)
        else:
            told = str(value)
            for found in NUMBER.findall(told):
                walk(float(found), f"{path}#")
            texts[path] = zlib.crc32(NUMBER.sub("#", told).encode(), texts.get(path, 0))

    walk(data, "")
    # a digest is no figure
    return {p: [round(x, 4) for x in row] for p, row in numbers.items()} | {f"{p}$": [n] for p, n in texts.items()}


#: Groups of a DXF that only tell its records apart.
HANDLES = {"5", "105", "330", "360"}


def _drawn(text: str) -> list[list[str]]:
    """What a drawing draws: code and value of the entities of a DXF, the lines of an SVG."""
    if "ENTITIES" not in text:
        return [[line] for line in text.splitlines()]
    lines = [line.strip() for line in text.split("ENTITIES", 1)[1].split("ENDSEC", maxsplit=1)[0].splitlines()[1:]]
    return [[code, value] for code, value in zip(lines[::2], lines[1::2], strict=False) if code not in HANDLES]


def _cut(built, part) -> list[Any]:
    """Paths, what is left, time and cost of a part."""
    document = built.document
    cutter = document.cutters.get(document.cutter)
    try:
        found = compensated(part.flat, kerf_of(document, part.record.stock), by_hand_of(cutter, part.record.stock))
    except ZygonError as error:
        return [error.message]
    order = cutting_order([found])
    took = reckon(order, cutter, part.record.stock, part.flat.thickness)
    paths = [[name, list(c.points), list(c.bulges)] for name, c in (*order, *by_hand([found]))]
    return [paths, [n.width for n in found.narrow], took.cut_length, took.travel_length, took.pierces, took.seconds, took.cost, took.known]


def without_digests(data: Any) -> Any:
    """Names of what is remembered hang on every bit of a number; the numbers themselves are there beside them."""
    if isinstance(data, dict):
        if any(isinstance(k, str) and DIGEST.fullmatch(k) for k in data):
            return [without_digests(v) for v in data.values()]
        return {k: without_digests(v) for k, v in data.items() if k not in ("digest", "id")}
    if isinstance(data, list | tuple):
        return [x if type(x) is float else without_digests(x) for x in data]
    return "digest" if isinstance(data, str) and DIGEST.fullmatch(data) else data


def said(fault: Any) -> list[Any]:
    """All that a fault tells: where, what, by which rule, and the mends that it offers."""
    return [
        fault.code,
        fault.severity,
        fault.entry,
        fault.part,
        fault.owner,
        fault.value,
        fault.rule,
        fault.message,
        fault.at,
        [[m.label, m.patch] for m in fault.mends],
    ]


def figures_of(document: Document, good: dict[str, float] | None = None, *, files: bool = True) -> dict[str, dict[str, list[float]]]:
    """Everything that goes out of a design, condensed by output; without files only what the screen is told and what is wrong."""
    built = build(document, good)
    problems = check(built)
    out: dict[str, Any] = {
        "screen": built_data(built, problems),
        "problems": [
            [p.open, f.code, f.severity, f.entry, f.part, f.owner, f.value, f.rule, f.message, f.at, [[m.label, m.patch] for m in f.mends]]
            for p in problems
            for f in (p.fault,)
        ],
    }
    if files:
        parts = [p for p in built.flats.values() if p.flat.pieces]
        out |= {
            "resources": list(part_resources(built).values()),
            "joint figures": [joint_figure(built, key) for key in built.joints],
            "volumes": [volume_of(p.flat) for p in parts],
            "cutting": [_cut(built, p) for p in parts],
            "cut list": write_csv(built).splitlines(),
            "drilling list": write_drilling(built).splitlines(),
            "bends": write_bends(built).splitlines(),
            "assembly": assembly_text(built).splitlines(),
            "picture": picture(built),
        }
        for to in ("dxf", "svg"):
            drawings = part_files(built, to, "compensated")
            out |= {f"{to} files": [[name, _drawn(text)] for name, text in sorted(drawings.items())]}
    return {name: condensed(without_digests(data)) for name, data in out.items()}


def compared(name, found):
    """Writes the figures, or tells where they are not what was kept."""
    path = KEPT / f"{name.replace(' ', '-')}.json"
    if os.environ.get("ZYGON_WRITE_FIGURES") == "1":
        KEPT.mkdir(exist_ok=True)
        rows = [
            f"{json.dumps(o)}: {{\n" + ",\n".join(f" {json.dumps(p)}: {json.dumps(v)}" for p, v in sorted(f.items())) + "\n}"
            for o, f in found.items()
        ]
        path.write_text("{\n" + ",\n".join(rows) + "\n}\n")
        return
    kept = json.loads(path.read_text())
    assert found.keys() == kept.keys()
    for output, figures in kept.items():
        now = found[output]
        assert now.keys() == figures.keys(), (output, sorted(now.keys() ^ figures.keys())[:8])
        for place, figure in figures.items():
            same = len(figure) == len(now[place]) and all(
                math.isclose(a, b, rel_tol=1e-6, abs_tol=2e-3) for a, b in zip(figure, now[place], strict=True)
            )
            assert same, (output, place, figure, now[place])
