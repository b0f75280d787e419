"""A drawer that fills an opening, or several one above the other: front, sides, back and bottom, joined, as one edit."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document
from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.geometry.frame import FACES, Plane, axis_of_face, frame_of
from zygon.owner import group_id

__all__ = ["CORNERS", "MOST", "PLAY", "place_drawer"]

#: So many are placed at once.
MOST = 100
#: Room all round what slides, as common practice has it, by the design's unit.
PLAY = {"mm": "0.5 mm", "in": "0.02 in"}

#: By which joints a drawer's corners are held.
CORNERS = ("finger", "dovetail", "rebate", "dowels", "screws", "butt")
_FACING: dict[str, Plane] = {"x": "facing_side", "y": "facing_front"}


def place_drawer(
    document: Document,
    stock: str,
    bottom: str,
    room: dict[str, tuple[str, str]],
    out: str,
    *,
    number: int = 1,
    play: str = "",
    corners: str = "finger",
) -> tuple[str, Patch]:
    """Label and patch of a drawer in a ``room`` (entries by axis, low and high) that is drawn out at its end ``out``.

    Its front lies flush with the room's end, its back stops at the other one; ``play`` is left at both sides, below and above. A ``number`` over 1
    makes so many of equal height, one above the other. Sides and front are of ``stock``, the ``bottom`` of another one, which sits in grooves where
    the cutter cuts to a depth and else in slots. Raises DocumentError.
    """
    _check(document, stock, bottom, out, number, corners)
    along = axis_of_face(out)
    cross = "y" if along == "x" else "x"
    at_low = out == FACES[along][0]
    front, back = FACES[along] if at_low else FACES[along][::-1]
    left, right = FACES[cross]
    group, names = _names(document)
    play = play or PLAY[document.unit]
    low, high = room["z"]
    whole = f"{high} - ({low})"
    each = f"({whole} - {number + 1} * ({play})) / {number}"
    foot = f"{low} + {play}"
    sides = {cross: (f"{room[cross][0]} + {play}", f"{room[cross][1]} - {play}")}
    height = {"z": (foot, f"{foot} + {each}")}
    own = {"z": (f"{names['front']}.bottom", f"{names['front']}.top")}
    face_in, stop = f"{names['front']}.{back}", room[along][1 if at_low else 0]
    deep = {along: (face_in, stop) if at_low else (stop, face_in)}
    inner = {cross: (f"{names['left']}.{right}", f"{names['right']}.{left}")}
    base = f"{names['front']}.bottom + {names['front']}.thickness"
    within = {along: (face_in, f"{names['back']}.{front}") if at_low else (f"{names['back']}.{front}", face_in)}
    boards: dict[str, dict[str, Any]] = {
        "front": _board(document, _FACING[along], stock, front, room[along][0 if at_low else 1], sides | height),
        "left": _board(document, _FACING[cross], stock, left, f"{names['front']}.{left}", deep | own),
        "right": _board(document, _FACING[cross], stock, right, f"{names['front']}.{right}", deep | own),
        "back": _board(document, _FACING[along], stock, back, stop, inner | own),
        "bottom": _board(document, "lying", bottom, "bottom", base, inner | within),
    }
    patch: Patch = [
        {"op": "add", "path": pointer("groups", group), "value": {"name": group, "order": next_order(document.groups), "parent": ""}}
    ]
    keys = {}
    inward = {"front": back, "back": front, "left": right, "right": left}
    for n, (role, record) in enumerate(boards.items()):
        if role in inward and frame_of(record["plane"]).face_a != inward[role]:  # its groove is cut from above
            record["up"] = "b"
        keys[role] = fresh_key(document.parts, names[role])
        record |= {"name": names[role], "group": group, "order": next_order(document.parts) + n}
        patch.append({"op": "add", "path": pointer("parts", keys[role]), "value": record})
    patch += _joints(document, keys, corners)
    if number > 1:
        row = {
            "kind": "row",
            "name": f"{group} evenly",
            "of": [group_id(group)],
            "axis": "z",
            "order": next_order(document.copies),
            "number": entry_of(document, str(number)),
            "spacing": entry_of(document, f"{each} + {play}"),
        }
        patch.append({"op": "add", "path": pointer("copies", fresh_key(document.copies, f"{group}_row")), "value": row})
    return f"{number} drawers" if number > 1 else f"Drawer {group}", patch


def _check(document: Document, stock: str, bottom: str, out: str, number: int, corners: str) -> None:
    for entry, key in (("stock", stock), ("bottom", bottom)):
        if key not in document.sheets:
            raise DocumentError("A drawer is cut from sheets of this design", entry=entry, value=key, rule="a sheet stock of the design")
    level = (*FACES["x"], *FACES["y"])
    if out not in level:
        rule = f"one of {', '.join(level)}"
        raise DocumentError(f"A drawer is drawn out level: at {rule}", entry="out", value=out, rule=rule)
    if not 1 <= number <= MOST:
        raise DocumentError(f"{number} drawers: from 1 to {MOST} are placed at once", entry="number", value=number, rule=f"1 to {MOST}")
    if corners not in CORNERS:
        rule = f"one of {', '.join(CORNERS)}"
        raise DocumentError(f"A drawer's corners are held by {rule}", entry="corners", value=corners, rule=rule)


def _names(document: Document) -> tuple[str, dict[str, str]]:
    """A name for the group, which is its key too, and one for each board by its role."""
    n, group = 1, "drawer"
    roles = ("front", "left", "right", "back", "bottom")
    while True:
        names = {r: f"{group}_{r}" for r in roles}
        free = all(fresh_name(document, name) == name for name in (group, *names.values()))
        if free and group not in document.groups:
            return group, names
        n += 1
        group = f"drawer_{n}"


def _board(document: Document, plane: Plane, stock: str, face: str, at: str, spans: dict[str, tuple[str, str]]) -> dict[str, Any]:
    return {
        "kind": "board",
        "stock": stock,
        "plane": plane,
        "position": {"face": face, "at": entry_of(document, at)},
        "spans": {a: {"low": entry_of(document, low), "high": entry_of(document, high)} for a, (low, high) in spans.items()},
    }


def _joints(document: Document, keys: dict[str, str], corners: str) -> Patch:
    """The corners, and the bottom in all four; which board comes first is as the kinds have it: the ends of sides in front and back."""
    cutter = document.cutters.get(document.cutter)
    held = "groove" if cutter is None or cutter.can.depth else "tab_slot"
    pairs = [(corners, keys[side], keys[end]) for end in ("front", "back") for side in ("left", "right")]
    pairs += [(held, keys["bottom"], keys[wall]) for wall in ("front", "left", "right", "back")]
    taken: dict[str, object] = dict(document.joints)
    patch: Patch = []
    for n, (kind, a, b) in enumerate(pairs):
        key = fresh_key(taken, f"{a}-{b}")
        taken[key] = None
        record = {"kind": kind, "a": a, "b": b, "order": next_order(document.joints) + n}
        patch.append({"op": "add", "path": pointer("joints", key), "value": record})
    return patch
