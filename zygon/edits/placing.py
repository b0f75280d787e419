"""A board placed in a room, or several evenly, and what it touches joined: what a hand does in the picture, as edits."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document
from zygon.design.layout_operations import fresh_key, fresh_name
from zygon.design.parts.kinds import is_placed
from zygon.design.patch import Patch, pointer
from zygon.errors import DocumentError
from zygon.geometry.frame import FACES, Plane, frame_of
from zygon.making.asked.questions import Meeting
from zygon.making.result.built import Built
from zygon.making.rooms.catches import evenly
from zygon.making.rooms.free import Bound
from zygon.owner import part_id

__all__ = ["join_all", "place_board"]

#: What a board that stands so is called until it is called something else.
NAMES: dict[Plane, str] = {"lying": "shelf", "facing_side": "divider", "facing_front": "panel"}
#: And the first one of a design.
FIRST_NAMES: dict[Plane, str] = {"lying": "floor", "facing_side": "side", "facing_front": "front"}
MOST = 100


def place_board(
    document: Document, stock: str, plane: Plane, spans: dict[str, tuple[str, str]], face: str, at: str, *,
    number: int = 1, between: tuple[str, str] | None = None,
) -> tuple[str, Patch]:  # fmt: skip
    """Label and patch of a board that runs from ``spans[axis][0]`` to ``[1]`` with its ``face`` at a place; all are entries.

    With a ``number`` over 1 so many stand evenly ``between`` two places along its thickness, copies of the first in a row. Raises DocumentError.
    """
    frame = frame_of(plane)
    if stock not in document.sheets:
        raise DocumentError("A board is cut from a sheet of this design", entry="stock", value=stock, rule="a sheet stock of the design")
    if set(spans) != {frame.u, frame.v}:
        raise DocumentError(
            f"A board that stands so runs along {frame.u} and {frame.v}", entry="spans", value=sorted(spans), rule="its two axes"
        )
    if face not in (*FACES[frame.normal], "centre"):
        rule = f"{FACES[frame.normal][0]}, {FACES[frame.normal][1]} or centre"
        raise DocumentError(f"A board that stands so is placed by its {rule}", entry="face", value=face, rule=rule)
    if not 1 <= number <= MOST:
        raise DocumentError(f"{number} boards: from 1 to {MOST} are placed at once", entry="number", value=number, rule=f"1 to {MOST}")
    name = fresh_name(document, (NAMES if document.placed(out=True) else FIRST_NAMES)[plane])
    key = fresh_key(document.parts, name)
    spacing = ""
    if number > 1:
        if between is None:
            raise DocumentError("Several boards stand between two places", entry="between", value=None, rule="two places")
        face = FACES[frame.normal][0]
        at, spacing = evenly(Bound(0.0, between[0]), Bound(0.0, between[1]), number, name)
    record = {
        "kind": "board", "name": name, "stock": stock, "plane": plane, "order": _next(document.parts),
        "position": {"face": face, "at": _entry(document, at)},
        "spans": {axis: {"low": _entry(document, low), "high": _entry(document, high)} for axis, (low, high) in spans.items()},
    }  # fmt: skip
    patch: Patch = [{"op": "add", "path": pointer("parts", key), "value": record}]
    if number == 1:
        return f"Board {name}", patch
    row = {
        "kind": "row", "name": f"{name} evenly", "of": [part_id(key)], "axis": frame.normal, "order": _next(document.copies),
        "number": _entry(document, str(number)), "spacing": _entry(document, spacing),
    }  # fmt: skip
    patch.append({"op": "add", "path": pointer("copies", fresh_key(document.copies, f"{name}_row")), "value": row})
    return f"{number} boards {name}, evenly", patch


def join_all(built: Built, pairs: list[tuple[str, str, str]]) -> tuple[str, Patch]:
    """Label and patch that join boards in pairs (a, b, kind), each whichever way round it can be. Raises DocumentError where a pair cannot."""
    document, meeting = built.document, Meeting(built.document)
    patch: Patch = []
    keys: dict[str, Any] = dict(document.joints)
    for a, b, kind in pairs:
        offers = [o for o in meeting.offers(a, b) if o["kind"] == kind]
        offer = next((o for o in offers if not o["refused"]), None)
        if offer is None:
            why = offers[0]["refused"] if offers else f"there is no joint {kind}"
            names = " and ".join(_path(built, k) for k in (a, b))
            raise DocumentError(f"{names} cannot be joined so: {why}", entry="pairs", value=kind, rule=why)
        one, other = (a, b) if offer["order"] == "ab" else (b, a)
        key = fresh_key(keys, f"{one}-{other}".replace("@", "_"))
        keys[key] = True
        record = {"kind": kind, "a": one, "b": other, "order": _next(document.joints) + len(patch)}
        patch.append({"op": "add", "path": pointer("joints", key), "value": record})
    first = _path(built, pairs[0][0]) if pairs else ""
    return f"Join {first} to {len(pairs)}" if len(pairs) != 1 else f"Join {first} to {_path(built, pairs[0][1])}", patch


def _path(built: Built, key: str) -> str:
    part = built.parts.get(key)
    record = built.document.parts.get(key)
    return part.path if part else record.name if is_placed(record) else key


def _entry(document: Document, text: str) -> dict[str, str]:
    return {"text": text, "unit": document.unit}


def _next(records: dict[str, Any]) -> int:
    return max((r.order for r in records.values()), default=-1) + 1
