"""A crank on the end of a shaft, with its handle, as one edit: the arm, both holes, the handle."""

from __future__ import annotations

import math

from zygon.design.document import Document
from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.parts.kinds import is_rod
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, FACES
from zygon.making.result.built import Built
from zygon.making.rooms.named import figure

__all__ = ["add_crank"]

#: The arm is so many times as wide as what goes through it, and this wide at least (mm, common practice).
WIDE, LEAST = 5.0, 40.0
#: How long a handle is that a hand takes (mm, common practice).
HANDLE = {"mm": "90 mm", "in": "3 1/2 in"}
PLANES = {"x": "facing_side", "y": "facing_front", "z": "lying"}


def add_crank(built: Built, rod: str, end: str, stock: str, handle: str, throw: str) -> tuple[str, Patch]:
    """Label and patch of a crank on the end 'a' (low) or 'b' (high) of a rod: an arm of a sheet ``stock`` whose far face is flush with the end, tight on the rod, and a
    handle of a bar, tight in the arm, ``throw`` (an entry) off the rod. Raises DocumentError where there is no such rod, stock or bar, or the rod is a copy."""
    document = built.document
    record = document.parts.get(rod)
    if not is_rod(record) or rod not in built.made:
        raise DocumentError("A crank is put on a rod", entry="rod", value=rod, rule="a rod of the design")
    if stock not in document.sheets:
        raise DocumentError("A crank is cut from sheet", entry="stock", value=stock, rule="a sheet stock of the design")
    bar = document.stocks.get(handle)
    if bar is None or bar.kind != "bar" or bar.shape != "round":
        raise DocumentError("A handle is cut from round bar", entry="handle", value=handle, rule="a round bar of the design")
    axis, high = record.axis, end == "b"
    across, up = [a for a in AXES if a != axis]
    thick = [_thick(built, s) for s in (record.stock, handle)]
    radius = figure(round(max(max(thick) * WIDE, LEAST) / 2, 1), document.unit)
    face = FACES[axis][high]
    centre = f"{record.name}.centre"
    names = {b.name for b in document.bores.values()}
    arm, grip = fresh_name(document, "crank"), fresh_name(document, "handle")
    far = f"{arm}.{face}"
    long = HANDLE[document.unit]
    arm_record = {
        "kind": "board",
        "name": arm,
        "stock": stock,
        "plane": PLANES[axis],
        "position": {"face": face, "at": entry_of(document, f"{record.name}.{face}")},
        "spans": {
            across: _span(document, f"{centre} - {radius}", f"{centre} + {radius}"),
            up: _span(document, f"{centre} - {radius}", f"{centre} + ({throw}) + {radius}"),
        },
        "outline": {"kind": "link"},
        "group": record.group,
        "order": next_order(document.parts),
    }
    # the handle begins in the arm, at the face that looks back along the rod
    ends = (f"{arm}.{FACES[axis][0]}", f"{far} + {long}") if high else (f"{far} - {long}", f"{arm}.{FACES[axis][1]}")
    grip_record = {
        "kind": "rod",
        "name": grip,
        "stock": handle,
        "axis": axis,
        "span": _span(document, *ends),
        "at": {across: entry_of(document, centre), up: entry_of(document, f"{centre} + ({throw})")},
        "group": record.group,
        "order": next_order(document.parts) + 1,
    }
    arm_key = fresh_key(document.parts, arm)
    grip_key = fresh_key({**document.parts, arm_key: None}, grip)
    tight = {"action": "cut", "fit": entry_of(document, "0")}
    patch: Patch = [
        {"op": "add", "path": pointer("parts", arm_key), "value": arm_record},
        {"op": "add", "path": pointer("parts", grip_key), "value": grip_record},
    ]
    own = next((k for k, b in document.bores.items() if b.member == rod), None)
    if own is not None:
        patch.append({"op": "add", "path": pointer("bores", own, "parts", arm_key), "value": tight})
    bores = dict(document.bores)
    for n, (name, member, wide) in enumerate(((record.name, rod, thick[0]), (grip, grip_key, thick[1]))):
        if member == rod and own is not None:
            continue
        called = fresh_name(document, f"{name}_hole"[:38], names)
        names.add(called)
        key = fresh_key(bores, called)
        bores[key] = None  # type: ignore[assignment]
        value = {
            "name": called,
            "axis": axis,
            "member": member,
            "at": {},
            "order": next_order(document.bores) + n,
            "diameter": entry_of(document, figure(wide, document.unit)),
            "parts": {arm_key: tight},
        }
        patch.append({"op": "add", "path": pointer("bores", key), "value": value})
    return f"Crank on {record.name}", patch


def _span(document: Document, low: str, high: str) -> dict[str, dict[str, str]]:
    return {"low": entry_of(document, low), "high": entry_of(document, high)}


def _thick(built: Built, stock: str) -> float:
    found = built.values.get(pointer("stocks", stock, "measured")) or built.values.get(pointer("stocks", stock, "nominal"))
    return found.value if found and math.isfinite(found.value) else 0.0
