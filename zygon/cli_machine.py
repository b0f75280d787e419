"""``zygon machine``: the simulated machine, which listens until it is stopped."""

from __future__ import annotations

import argparse
import re
from pathlib import Path
from typing import Any

from zygon.errors import ZygonError

__all__ = ["add_machine", "bed_of"]


def add_machine(commands: Any) -> None:
    """Adds the command."""
    add = commands.add_parser("machine", help="a simulated machine that takes programs on a port of 127.0.0.1")
    add.add_argument("--port", type=int, required=True)
    add.add_argument("--journal", type=Path, required=True, help="a file that keeps what it cut")
    add.add_argument("--bed", metavar="LxW", help="mm, as 1300x900")
    add.add_argument("--rapid", type=float, default=300.0, help="mm/s")
    add.add_argument("--acceleration", type=float, default=3000.0, help="mm/s²")
    add.add_argument("--speed", type=float, default=1.0, help="how much faster than in truth it goes")
    add.add_argument("--name", default="Machine", help="what it calls itself")
    add.add_argument("--kind", choices=("beam", "bit"), default="beam", help="what it cuts with")
    add.set_defaults(run=_machine)


def _machine(a: argparse.Namespace) -> None:
    from zygon.machine.serve import serve
    from zygon.program.timed import Machine

    for entry, value in (("--rapid", a.rapid), ("--acceleration", a.acceleration), ("--speed", a.speed)):
        if not 0 < value < float("inf"):
            raise ZygonError(f"{entry} {value:g}: give more than 0", code="bad_machine", entry=entry, value=value, rule="over 0")
    serve(a.port, a.journal, Machine(a.rapid, a.acceleration, bed_of(a.bed)), a.speed, a.name, a.kind)


def bed_of(text: str | None, entry: str = "--bed") -> tuple[float, float]:
    """A bed as it is typed, in mm; 0, 0 where nothing is. Raises ZygonError."""
    if not text:
        return 0.0, 0.0
    said = re.fullmatch(r"(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)", text)
    if not said or not float(said[1]) or not float(said[2]):
        raise ZygonError(f"{entry} {text}: give length x width", code="bad_bed", entry=entry, value=text, rule="mm over 0, as 1300x900")
    return float(said[1]), float(said[2])
