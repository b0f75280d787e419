"""The kinds of joints in words, and the entries of each as a screen needs them: label, kind of value, choices, meaning."""

from __future__ import annotations

from typing import Any, get_args

from zygon.design.joints import JOINT_RECORDS
from zygon.measure.entry import Entry

__all__ = ["TITLES", "joint_kinds"]

TITLES = {
    "finger": "Finger joint", "tab_slot": "Tab and slot", "cross_lap": "Cross lap", "half_lap": "Half-lap", "dovetail_lap": "Dovetailed half-lap", "groove": "Groove",
    "rebate": "Rebate", "dovetail": "Through dovetails", "edge_key": "Keys in one plane", "mortise_tenon": "Mortise and tenon", "dowels": "Dowels", "screws": "Screws",
    "mitre": "Mitre", "bevel": "Bevelled end", "butt": "Butt joint", "face_glue": "Face gluing",
}  # fmt: skip
#: Choices in words; LOW, HIGH, A and B are replaced on screen by the run's ends and the boards' names.
CHOICES = {
    "dog_bone": "Dog-bone", "t_bone": "T-bone", "none": "None", "low": "LOW", "high": "HIGH", "a": "A", "b": "B", "through": "Through", "stopped": "Stopped",
    "open_low": "Open at LOW", "open_high": "Open at HIGH", "1:6": "1 : 6", "1:8": "1 : 8", "angle": "Angle", "dovetail": "Dovetail", "round": "Round",
    "usual": "As is usual for it", "dry": "Dry", "glued": "Glued", "screwed": "Screwed", "riveted": "Riveted", "welded": "Welded",
}  # fmt: skip
COUNTED = ("count", "number")
NUMBERS = ("share",)
#: Entries that matter only while another field has a value.
ONLY = {
    ("dovetail", "angle"): ("slope", "angle"), ("dovetail_lap", "angle"): ("slope", "angle"), ("edge_key", "angle"): ("slope", "angle"),
    ("edge_key", "slope"): ("shape", "dovetail"), ("mortise_tenon", "depth"): ("ends", "stopped"), ("mortise_tenon", "end_play"): ("ends", "stopped"),
}  # fmt: skip


def joint_kinds() -> list[dict[str, Any]]:
    """Every kind of joint with its fields, in the order in which they are shown."""
    return [
        {
            "kind": kind,
            "title": TITLES[kind],
            "note": (record.__doc__ or "").strip(),
            "fields": [_field(kind, n, record.model_fields[n]) for n in _order(record)],
        }
        for kind, record in JOINT_RECORDS.items()
    ]


def _order(record: Any) -> list[str]:
    """The names of a record's fields that have a label; the fit, the relief and what holds it come last."""
    names = [n for n, f in record.model_fields.items() if f.title]
    return sorted(names, key=("fit", "relief", "held").__contains__)


def _field(kind: str, name: str, field: Any) -> dict[str, Any]:
    only = ONLY.get((kind, name), ("", ""))
    data = {
        "name": name, "label": field.title, "note": field.description or "", "type": "entry", "value_kind": "length", "optional": False, "choices": [],
        "default": None, "only_field": only[0], "only_value": only[1], "only_cutter": "router" if name == "relief" else "",
    }  # fmt: skip
    if field.annotation is bool:
        return {**data, "type": "flag", "default": str(field.default).lower()}
    if field.annotation is Entry or Entry in get_args(field.annotation):
        value_kind = "count" if name in COUNTED else "number" if name in NUMBERS else "angle" if name == "angle" else "length"
        default = field.default.text if isinstance(field.default, Entry) else None
        return {**data, "value_kind": value_kind, "optional": field.default is None, "default": default}
    choices = get_args(field.annotation)
    return {
        **data,
        "type": "choice",
        "default": str(field.default),
        "choices": [{"value": c, "label": CHOICES.get(c, f"{c}")} for c in choices],
    }
