"""What a new flange of each kind has, beside the edge that it stands on: plain data of its record."""

from __future__ import annotations

from typing import Any

from zygon.design.folding import FLANGE_RECORDS
from zygon.measure.asked import asked_for

__all__ = ["LOCKING_TAB", "flange_start"]

#: A partial flange that is pushed through a slot and locked: rounded corners, a slot near its root, a hole for a pin or screw.
LOCKING_TAB: dict[str, Any] = {
    "kind": "flange",
    "length": {"text": "22 mm"},
    "extent": "centred",
    "first": {"text": "30 mm"},
    "rounding": {"text": "4 mm"},
    "features": {
        "slot": {
            "kind": "slot",
            "name": "slot",
            "order": 0,
            "length": {"text": "16 mm"},
            "width": {"text": "3 mm"},
            "u": {"origin": "centre", "offset": {"text": "0"}},
            "v": {"origin": "root", "offset": {"text": "7 mm"}},
        },
        "hole": {
            "kind": "hole",
            "name": "hole",
            "order": 1,
            "diameter": {"text": "4.5 mm"},
            "u": {"origin": "centre", "offset": {"text": "0"}},
            "v": {"origin": "end", "offset": {"text": "7 mm"}},
        },
    },
}
_LEGS = [{"length": {"text": "25 mm"}, "angle": {"text": "90 deg"}}, {"length": {"text": "12 mm"}, "angle": {"text": "90 deg"}}]


#: One length that stands off a plate that lies.
_DRAWN = {
    "points": {"p1": {"x": 0.0, "y": 0.0}, "p2": {"x": 0.0, "y": 25.0}},
    "curves": {"line1": {"kind": "line", "a": "p1", "b": "p2"}},
}


def flange_start(kind: str) -> dict[str, Any]:
    """What is required of a kind of flange, as it begins; a profile with two legs, one that is drawn with one length."""
    fields = FLANGE_RECORDS[kind].model_fields
    begins = {n: {"text": asked_for(f)["begin"]} for n, f in fields.items() if f.is_required() and asked_for(f)}
    own: dict[str, dict[str, Any]] = {"profile": {"legs": _LEGS}, "drawn": {"drawing": _DRAWN}}
    return {"kind": kind, **begins, **own.get(kind, {})}
