"""A part hung on another by hinges, or run on it by a slide, as one edit: the hardware, its row, and the screws through its holes."""

from __future__ import annotations

from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.patch import Patch, patched
from zygon.design.pointer import pointer
from zygon.edits.holes_over import holes_over
from zygon.errors import DocumentError
from zygon.making.result.built import Built
from zygon.making.rooms.hanging import hangings, piece_called
from zygon.making.rooms.named import figure
from zygon.stock.hardware.catalogue import FAMILIES
from zygon.stock.hardware.piece import Hardware
from zygon.tolerance import CONTACT

__all__ = ["hang"]

#: A hinge's middle lies so many of its lengths from the end, as common practice has it.
FROM_END = 1.5


def hang(built: Built, designation: str, part: str, on: str, number: int = 2, way: str = "") -> tuple[str, Patch]:
    """Label and patch by which a part hangs ``on`` another by so many hinges, evenly, or runs on a slide; with their screws. ``way`` are the words of one of ``hangings``.

    Raises DocumentError where it does not fit between them, with what is missing.
    """
    piece = piece_called(designation)
    found = hangings(built, designation, part, on)
    hinge = FAMILIES[piece.family].role == "hinge"
    chosen = next((h for h in found if not way or h.words == way), None)
    if chosen is None:
        raise _no_room(built, piece, part, on)
    document = built.document
    axis, low, high = chosen.run
    name = fresh_name(document, piece.title.split()[-1])
    key = fresh_key(document.parts, name)
    at = dict(chosen.at)
    patch: Patch = []
    if hinge:
        long = piece.leaves[0].foot[2] - piece.leaves[0].foot[0]
        off = min(FROM_END * long, (high - low) / 4)
        first, last = chosen.ends
        inset = figure(round(off, 1), document.unit)
        at[axis] = f"mid({first}, {last})" if number == 1 else f"{first} + {inset}"
        if number > 1:
            if (high - low - 2 * off) / (number - 1) < long:
                rule = f"hinges beside one another: each is {long:g} mm long, on {round(high - low, 1):g} mm"
                raise DocumentError(f"{number} hinges have no room", entry="number", value=number, rule=rule)
            together = fresh_name(document, f"{name}s", {c.name for c in document.copies.values()})
            row = {
                "kind": "row",
                "name": together,
                "order": next_order(document.copies),
                "of": [f"part:{key}"],
                "axis": axis,
                "number": entry_of(document, str(number)),
                "spacing": entry_of(document, f"({last} - {first} - 2 * {inset}) / {number - 1}"),
            }
            patch.append({"op": "add", "path": pointer("copies", fresh_key(document.copies, together)), "value": row})
    record = {
        "kind": "hardware",
        "name": name,
        "order": next_order(document.parts),
        "designation": designation,
        "looks": chosen.looks,
        "along": chosen.along,
        "at": {a: entry_of(document, t) for a, t in at.items()},
        "by": chosen.by,
        "moved": entry_of(document, chosen.moved),
        "on": {"a": on, "b": part},
        "group": document.parts[on].group if document.parts[on].group == document.parts[part].group else "",
        **({"let_in": entry_of(document, figure(chosen.let_in, document.unit))} if chosen.let_in > CONTACT else {}),
    }
    patch.insert(0, {"op": "add", "path": pointer("parts", key), "value": record})
    patch += holes_over(patched(document.dump(), patch), built, key)
    names = built.made[part].path, built.made[on].path
    if hinge:
        return f"{names[0]} hangs on {names[1]} by {number} {piece.title}{'' if number == 1 else 's'}", patch
    return f"{names[0]} runs on {names[1]}", patch


def _no_room(built: Built, piece: Hardware, part: str, on: str) -> DocumentError:
    """Why no leaf lies there, in words."""
    a, b = built.flats[on].path, built.flats[part].path
    if FAMILIES[piece.family].role == "slide":
        rule = f"{piece.leaves[1].lies:g} mm between two faces that look at one another, {piece.leaves[0].foot[3] * 2:g} mm high and {piece.length:g} mm deep"
    else:
        reach, long = piece.leaves[1].foot[3], piece.leaves[0].foot[2] - piece.leaves[0].foot[0]
        rule = f"a face of each beside the other's, {reach:g} mm wide and {long:g} mm long, as they stand closed"
    return DocumentError(
        f"{piece.name} has no room between {a} and {b}", entry="designation", value=piece.designation, rule=rule, code="no_room"
    )
