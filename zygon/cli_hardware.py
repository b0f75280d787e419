"""The command line's hardware: what words and sizes mean in the catalogue."""

from __future__ import annotations

import argparse
import json

__all__ = ["add_hardware"]


def add_hardware(commands) -> None:
    """Adds ``zygon hardware``."""
    add = commands.add_parser("hardware", help='hardware of the standards by words and sizes, as "M6 washer"')
    add.add_argument("text", help='as "M6 washer", "dowel 8", "countersunk M5 x 20"')
    add.add_argument("--hole", type=float, help="of a hole that it should fit, mm: what goes in best comes first")
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_hardware)


def _hardware(a: argparse.Namespace) -> None:
    from zygon.stock.hardware.catalogue import FAMILIES, search

    found = search(a.text, near=a.hole)
    if a.json:
        rows = [
            {
                "designation": h.designation,
                "name": h.name,
                "standard": h.standard,
                "source": h.source,
                "size": h.size,
                "length": h.length,
                "mass": round(h.mass, 3),
                "moves": h.freedom.words if h.freedom else "",
                "measures": FAMILIES[h.family].measures(h.size),
            }
            for h in found
        ]
        print(json.dumps({"found": rows, "unit": "mm", "mass_unit": "g"}))
        return
    wide = max(len(h.name) for h in found)
    for h in found:
        measures = ", ".join(f"{k.replace('_', ' ')} {v:g}" for k, v in FAMILIES[h.family].measures(h.size).items())
        print(f"{h.name:{wide}}  {h.standard or h.source:12} {h.mass:9.2f} g  {measures}")
