"""The rule that a bearing fits the shaft that goes through it."""

from __future__ import annotations

import numpy as np

from zygon.design.parts.kinds import is_hardware
from zygon.making.hardware.body import HardwareBody
from zygon.making.result.body import Prism
from zygon.making.result.built import Built, MadePart
from zygon.making.result.fault import Fault
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.making.turned.body import TurnedBody
from zygon.measure.display import format_length
from zygon.owner import part_id
from zygon.stock.hardware.catalogue import FAMILIES
from zygon.tolerance import CONTACT

__all__ = ["bearing_faults"]

#: A shaft measures so much less than a bearing's bore at most (mm), as drawn bars do (h11 up to 18 mm: 0.11, ISO 286-2 from memory).
UNDER = 0.15
#: Axes that lie so near to one another (mm) are one.
ON_AXIS = 0.1


def bearing_faults(built: Built) -> list[Fault]:
    """Bearings on shafts that are too thin or too thick, and bearings that nothing goes through."""
    faults = []
    shafts = [(p, s) for p in built.made.values() if not p.body.empty and (s := _round(p)) is not None]
    for part in built.made.values():
        body = part.body
        if not is_hardware(part.record) or not isinstance(body, HardwareBody) or body.piece is None or part.record.aside:
            continue
        if FAMILIES[body.piece.family].role != "bearing" or part.made_by:
            continue
        bore = FAMILIES[body.piece.family].measures(body.piece.size)["inner"]
        found = next(((s, wide) for s, wide in ((s, _through(part, s, at)) for s, at in shafts) if wide is not None), None)
        if found is None:
            faults.append(
                Fault(
                    "bearing_empty",
                    f"{part.path}: nothing goes through this bearing",
                    f"a shaft of {format_length(bore, built.document.display)}",
                    "",
                    "",
                    "warning",
                    part.key,
                    owner=part_id(part.of),
                )
            )
            continue
        shaft, wide = found
        if bore - UNDER - CONTACT <= wide <= bore + CONTACT:
            continue
        shown, wanted = (format_length(x, built.document.display) for x in (wide, bore))
        what = "thin" if wide < bore else "thick"
        faults.append(
            Fault(
                "bearing_shaft",
                f"{shaft.path} is too {what} for {part.path}: {shown} in a bore of {wanted}",
                f"a shaft of {wanted}, at most {UNDER:g} mm under it",
                shown,
                "ISO 15, ISO 286-2 (from memory)",
                part=part.key,
                other=shaft.key,
                owner=part_id(part.of),
            )
        )
    return faults


def _round(part: MadePart) -> float | None:
    """How thick a rod, a straight member or a turned part is all along, mm; 0 of a turned part, which is asked where it passes."""
    body = part.body
    if isinstance(body, Prism):
        disc = body.section.outer.as_circle
        return 2 * disc[2] if disc else None
    if isinstance(body, MemberBody) and not isinstance(body, BentBody):
        return body.section.height if body.section.shape == "round" else None
    return 0.0 if isinstance(body, TurnedBody) else None


def _through(bearing: MadePart, shaft: MadePart, wide: float) -> float | None:
    """How thick a shaft is where it goes through a bearing; None where it does not."""
    (own, at), (axis, start) = _line(bearing), _line(shaft)
    if abs(abs(float(own @ axis)) - 1) > CONTACT:
        return None
    off = at - start
    along = float(off @ axis)
    if np.linalg.norm(off - axis * along) > ON_AXIS:
        return None
    low, high = (np.array(c) for c in shaft.reaches)
    inside = bool(((at > low - CONTACT) & (at < high + CONTACT)).all())
    if not inside:
        return None
    if isinstance(shaft.body, TurnedBody):
        return next((2 * r for r, _, a, b in shaft.body.steps if a - CONTACT <= along <= b + CONTACT), None)
    return wide


def _line(part: MadePart) -> tuple[np.ndarray, np.ndarray]:
    """The direction of a part's w in the room, and a point on its axis: of a bearing the middle of its width."""
    m = np.array(part.matrix)
    half = 0.0
    if isinstance(part.body, HardwareBody) and part.body.piece:
        low, high = part.body.piece.span
        half = (low + high) / 2
    return m[:3, 2], m[:3, 3] + m[:3, 2] * half
