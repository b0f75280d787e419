"""The command line's range test: how far each size goes before something breaks."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import Any

__all__ = ["add_range"]


def add_range(commands) -> None:
    """Adds ``zygon range``."""
    add = commands.add_parser(
        "range", help="try sizes over their ranges: how far each goes before something breaks, and which break together"
    )
    add.add_argument("design", type=Path)
    add.add_argument(
        "--size", action="append", default=[], metavar="NAME", help="one size, and those that it acts with; may be given again"
    )
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_range)


def _range(a: argparse.Namespace) -> None:
    from zygon.exchange.design_in import read_design
    from zygon.range_test.run import range_test
    from zygon.range_test.tries import Tries
    from zygon.screen.ranges import ranges_data

    document = read_design(a.design, str(a.design))
    told = ranges_data(document, range_test(Tries(document), a.size))
    if a.json:
        print(json.dumps(told, ensure_ascii=False))
        return
    for size in told["sizes"]:
        print(f"{size['name']}: {size['words']}")
        for end in _breaks(size):
            print(f"    {end['words']}")
    for pair in told["pairs"]:
        print(pair["words"])
    print(told["words"])


def _breaks(size: Any) -> list[Any]:
    return [end for end in (size["below"], size["above"]) if end]
