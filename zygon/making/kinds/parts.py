"""Built parts of every kind: one flat for an original and all copies that are like it, mirrored for handed ones."""

from __future__ import annotations

import math
from collections.abc import Mapping

from zygon.design.document import mirrored_axes
from zygon.design.parts.kinds import PlacedKind, is_placed
from zygon.design.pointer import pointer
from zygon.errors import ExpressionError
from zygon.geometry.motion import Motion
from zygon.limits import MAX_BIT
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.instances import Instance
from zygon.making.datums.values import Values
from zygon.making.flats.alike import alike, row_numbers
from zygon.making.flats.flat import flat_of
from zygon.making.flats.handed import handed_flat
from zygon.making.flats.relief import Relief
from zygon.making.kinds.registry import KINDS
from zygon.making.result.body import Straight
from zygon.making.result.box import Box
from zygon.making.result.built import BuiltPart, FlatPart, MadePart
from zygon.making.result.fault import Fault
from zygon.making.result.flat import Flat
from zygon.making.result.operations import Operation
from zygon.owner import joint_id
from zygon.stock.cutter import mill_widths
from zygon.stock.section import Section

#: What is made before all else, by part key: its body and the motion that takes it to its rest.
Bodies = Mapping[str, tuple[Straight, Motion]]

#: What is done to a copy in place of what is done to its original, by instance key and owner.
Instead = Mapping[str, Mapping[str, list[Operation]]]

__all__ = ["numbers_of", "parts_of"]


def _relief(values: Values, key: str, thickness: float) -> Relief | None:
    """What a round bit asks for on a board ``thickness`` mm thick: its radius and those of finer ones, and each joint's relief; None for other cutters."""
    document = values.document
    cutter = document.cutters.get(document.cutter)
    if cutter is None or not cutter.can.bit:
        return None
    try:
        radius, *finer = (w / 2 for w in mill_widths(cutter, values.boards[key].stock, thickness))
    except ExpressionError:
        return None  # said by the checks of the cutter
    if radius > MAX_BIT / 2:
        return None  # said by the checks of the cutter too
    ends = [(k, j, {j.a.partition("@")[0], j.b.partition("@")[0]}) for k, j in document.joints.items()]
    styles = tuple((joint_id(k), getattr(j, "relief", "none")) for k, j, parts in ends if key in parts)
    return Relief(radius, styles, tuple(finer))


def parts_of(
    values: Values,
    blanks: dict[str, Blank],
    instances: dict[str, Instance],
    operations: dict[str, list[Operation]],
    bodies: Bodies,
    nominal: bool,
    instead: Instead,
) -> tuple[dict[str, BuiltPart], tuple[str, ...]]:
    """The parts in the cut list's order, copies behind their originals; and the keys of those that were made now."""
    parts: dict[str, BuiltPart] = {}
    rebuilt = []
    stale = {w for w, v in values.values.items() if v.stale}
    by_part: dict[str, list[Instance]] = {}
    for i in instances.values():
        by_part.setdefault(i.part, []).append(i)
    for key in values.document.in_order():
        record, blank, box = values.document.parts[key], blanks.get(key), None
        if is_placed(record) and blank is None:
            box = values.box(key)
        ready = blank is not None or (box is not None and (key in bodies or KINDS[record.kind].make is not None))
        if not is_placed(record) or not ready:
            parts[key] = BuiltPart(key=key, path=record.name, record=record, stale=is_placed(record), of=key)
            continue
        prefix = pointer("parts", key) + "/"
        is_stale = any(w.startswith(prefix) for w in stale)
        relief = None if nominal or blank is None else _relief(values, key, blank.thickness)
        for instance in by_part[key]:
            mirrored = mirrored_axes(values.document, (c for c, _ in instance.made_by))
            part: MadePart
            if blank is None:
                assert box
                part = _straight(instance, record, box, bodies.get(key), values.section_of(key), is_stale, mirrored)
            else:
                spared, other = instance.without(values.document), instead.get(instance.key, {})
                own = blank.without(spared) if spared else blank
                done = [o for o in operations.get(key, []) if o.owner not in spared and o.owner not in other]
                flat, made = flat_of(own, [*done, *(o for owner, ops in other.items() if owner not in spared for o in ops)], relief)
                if made:
                    rebuilt.append(instance.key)
                part = _placed(instance, instances[key], blank, flat, is_stale, mirrored)
            parts[instance.key] = part
            if not _finite(part):
                said = f"{instance.name}: its shape cannot be worked out"
                values.faults.append(Fault("not_finite", said, "sizes that give a shape", part=instance.key))
                parts[instance.key] = BuiltPart(key=instance.key, path=instance.name, record=record, stale=True, of=key)
    return parts, tuple(rebuilt)


def _finite(part: MadePart) -> bool:
    """Whether a part lies somewhere: what is no number must not reach a screen or a file."""
    if part.body.empty:
        return True
    figures = [*(x for row in part.matrix for x in row), *(x for corner in part.reaches for x in corner)]
    return all(map(math.isfinite, figures))


def _straight(
    instance: Instance,
    record: PlacedKind,
    box: Box,
    ready: tuple[Straight, Motion] | None,
    section: Section | None,
    stale: bool,
    mirrored: frozenset[str],
) -> MadePart:
    """One instance of a kind that needs no flat: its body, mirrored where it has to be, and where it lies."""
    kind = KINDS[record.kind]
    assert kind.mirrored
    body: Straight
    if ready is not None:
        body, rest = ready
    else:
        assert kind.make
        body, rest = kind.make(record, box, section)
    matrix, handed = instance.motion @ rest, 1
    if matrix.handed < 0:
        image, back = kind.mirrored(body)
        matrix, handed, body = matrix @ back, 1 if image.alike == body.alike else -1, image
    if instance.made_by:
        matrix = matrix.rounded()
    return MadePart(
        key=instance.key,
        path=instance.name,
        record=record,
        of=instance.part,
        stale=stale,
        handed=handed,
        made_by=instance.made_by,
        span_box=box,
        box=box,
        body=body,
        matrix=matrix.matrix,
        place=instance.motion,
        mirrored=mirrored,
    )


def _placed(instance: Instance, original: Instance, blank: Blank, flat: Flat, stale: bool, mirrored: frozenset[str]) -> FlatPart:
    """One instance of what lies in a plane: its flat, mirrored where it has to be, and where it lies."""
    moved = instance.motion @ original.motion.inverse  # in the room, from the original's place to the copy's
    matrix, handed = moved @ blank.in_room, 1
    if matrix.handed < 0:
        image = handed_flat(flat)
        matrix = matrix @ _mirror(flat)
        back = alike(flat, image)
        if back is not None:  # it is its own mirror image: an equal part, turned or moved
            matrix = matrix @ _in_plane(back)
        else:
            flat, handed = image, -1
    if instance.made_by:
        matrix = matrix.rounded()
    return FlatPart(
        key=instance.key,
        path=instance.name,
        record=blank.record,
        of=instance.part,
        stale=stale,
        handed=handed,
        made_by=instance.made_by,
        frame=blank.frame,
        span_box=blank.span,
        box=blank.extents,
        body=flat,
        matrix=matrix.matrix,
        place=moved @ blank.place,
        mirrored=mirrored,
    )


def _mirror(flat: Flat) -> Motion:
    """From the mirrored flat's (u, v, w) to the flat's own; left for right about its middle."""
    x0, _, x1, _ = flat.bounds if flat.pieces else (0.0, 0.0, 0.0, 0.0)
    return Motion(((-1.0, 0.0, 0.0, x0 + x1), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))


def _in_plane(turn: tuple[float, float, float, float]) -> Motion:
    """(cos, sin, du, dv) as a motion of (u, v, w)."""
    c, s, du, dv = turn
    return Motion(((c, -s, 0.0, du), (s, c, 0.0, dv), (0.0, 0.0, 1.0, 0.0)))


def numbers_of(
    values: Values,
    blanks: dict[str, Blank],
    instances: dict[str, Instance],
    operations: dict[str, list[Operation]],
    bodies: Bodies,
    nominal: bool,
    instead: Instead,
) -> dict[str, int]:
    """The cut list's numbers by part key, as they come out before any marks that help are engraved."""
    parts, _ = parts_of(values, blanks, instances, operations, bodies, nominal, instead)
    return {parts[k].of: n for k, n in row_numbers(values.document, parts).items() if not parts[k].made_by}
