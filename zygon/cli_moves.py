"""The command line's movements: what is one thing, what is free, and how far it goes."""

from __future__ import annotations

import argparse
import json
import math
from pathlib import Path
from typing import Any

__all__ = ["add_moves"]


def add_moves(commands) -> None:
    """Adds ``zygon moves``."""
    add = commands.add_parser("moves", help="what moves in a design: rigid things, freedoms with axis and range, stops, end play")
    add.add_argument("design", type=Path)
    add.add_argument("--json", action="store_true")
    add.set_defaults(run=_moves)


def _moves(a: argparse.Namespace) -> None:
    from zygon.exchange.design_in import read_design
    from zygon.making.pipeline import build
    from zygon.screen.moves import moves_data, travel_data

    built = build(read_design(a.design, str(a.design)))
    found = moves_data(built)
    travels = {m["key"]: travel_data(built, m["key"]) for m in found["moves"]}
    path = {k: p.path for k, p in built.parts.items()}
    if a.json:
        told: dict[str, Any] = {
            "things": [[path[k] for k in t["parts"]] for t in found["things"]],
            "still": [path[k] for k in found["still"]],
            "moves": [
                {
                    "key": m["key"],
                    "kind": m["kind"],
                    "parts": [path[k] for k in m["parts"]],
                    "carried_by": m["on"],
                    "goes_with": [k for k in m["group"] if k != m["key"]],
                    "axis": {"way": list(m["way"]), "at": list(m["at"])},
                    "unit": "deg" if m["kind"] == "turns" else "mm",
                    "stops": [_stop(travels[m["key"]][end], m["kind"], path) for end in ("low", "high")],
                    "end_play": travels[m["key"]]["play"],
                }
                for m in found["moves"]
            ],
            "loose": [[path[k] for k in x["parts"]] for x in found["loose"]],
        }
        print(json.dumps(told, ensure_ascii=False))
        return
    print(f"stands still: {', '.join(path[k] for k in found['still'])}")
    for m in found["moves"]:
        t = travels[m["key"]]
        print(f"{m['words']}\n    {t['words']}" + (f"; {t['play']}" if t["play"] else ""))
    for x in found["loose"]:
        print(x["words"])


def _stop(stop: Any, kind: str, path: dict[str, str]) -> dict[str, Any]:
    by = math.degrees(stop["by"]) if kind == "turns" else stop["by"]
    return {"by": round(by, 4), "why": stop["why"], "parts": [path[k] for k in stop["parts"]], "at": stop["at"]}
