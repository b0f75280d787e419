"""Hardware that stands on a face, and a body read from a file in the place of an older one; each one edit."""

from __future__ import annotations

from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.parts.bought import Solid
from zygon.design.parts.kinds import is_hardware
from zygon.design.patch import Patch, patched
from zygon.design.pointer import pointer
from zygon.edits.holes_over import holes_over
from zygon.errors import DocumentError
from zygon.geometry.found import names_kept
from zygon.geometry.frame import AXES, FACES
from zygon.making.result.built import Built
from zygon.making.rooms.hanging import piece_called, square_part
from zygon.making.rooms.named import figure
from zygon.stock.hardware.catalogue import FAMILIES

__all__ = ["replace_shape", "stand_on"]


def stand_on(built: Built, designation: str, part: str, face: str, at: tuple[float, float, float]) -> tuple[str, Patch]:
    """Label and patch of a piece of hardware that stands on a part's face at a point of it (mm), in whole millimetres from the face's low corner: a foot on it,
    a magnet or a bearing let in flush. Raises DocumentError where that is no face along the axes, or hardware that lies along a bore."""
    document, piece = built.document, piece_called(designation)
    role = FAMILIES[piece.family].role
    if role not in ("foot", "magnet", "bearing", "pin", "dowel"):
        rule = "a foot, a magnet, a bearing or a pin; hinges and slides lie between two parts, screws along a bore"
        raise DocumentError(f"{piece.name} does not stand on a face by itself", entry="designation", value=designation, rule=rule)
    pressed = square_part(built, part, "part")
    i = next((n for n, a in enumerate(AXES) if face in FACES[a]), None)
    if i is None:
        raise DocumentError("Hardware stands on a face", entry="face", value=face, rule="a face of the part")
    high = face == FACES[AXES[i]][1]
    entries = {AXES[i]: f"{pressed.path}.{face}"}
    for n, axis in enumerate(AXES):
        if n == i:
            continue
        low, top = pressed.reaches[0][n], pressed.reaches[1][n]
        ends = [f"{pressed.path}.{word}" for word in FACES[axis]]
        if abs(at[n] - (low + top) / 2) < 0.02 * (top - low):
            entries[axis] = f"mid({ends[0]}, {ends[1]})"
        else:
            entries[axis] = f"{ends[0]} + {figure(round(at[n] - low), document.unit)}"
    flush = role in ("magnet", "bearing")
    name = fresh_name(document, piece.title.split()[-1])
    key = fresh_key(document.parts, name)
    deep = piece.span[1] - piece.span[0]
    record = {
        "kind": "hardware",
        "name": name,
        "order": next_order(document.parts),
        "designation": designation,
        "looks": ("+" if high else "-") + AXES[i],
        "along": "+" + AXES[(i + 1) % 3],
        "at": {a: entry_of(document, t) for a, t in entries.items()},
        "on": {"a": part},
        "group": document.parts[part].group,
        **({"by": {AXES[i]: face}, "let_in": entry_of(document, figure(deep, document.unit))} if flush else {}),
        **({"by": {AXES[i]: "centre"}, "let_in": entry_of(document, figure(deep / 2, document.unit))} if role in ("pin", "dowel") else {}),
    }
    patch: Patch = [{"op": "add", "path": pointer("parts", key), "value": record}]
    if role == "foot":
        patch += holes_over(patched(document.dump(), patch), built, key)
    return f"{piece.name} on {pressed.path}", patch


def replace_shape(built: Built, key: str, shape: Solid) -> tuple[str, Patch]:
    """Label and patch by which a part has the shape of a newer file: holes and faces that lie where they lay keep their names, so that what is built on them stands.

    Raises DocumentError where the part has no shape that was read from a file.
    """
    record = built.document.parts.get(key)
    if not is_hardware(record) or record.shape is None:
        raise DocumentError(
            "A newer file takes the place of one that was read", entry="part", value=key, rule="a part that was read from a file"
        )
    made = names_kept(record.shape.model_dump(mode="json"), shape.model_dump(mode="json"))
    checked = Solid.model_validate(made).model_dump(mode="json", exclude_defaults=True)
    return f"{record.name}: {shape.source}", [{"op": "replace", "path": pointer("parts", key, "shape"), "value": checked}]
