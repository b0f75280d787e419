"""Round shafts, and the axes that they and bearings lie on."""

from __future__ import annotations

import numpy as np

from zygon.making.hardware.body import HardwareBody
from zygon.making.result.body import Prism
from zygon.making.result.built import MadePart
from zygon.making.tube.body import MemberBody
from zygon.making.turned.body import TurnedBody
from zygon.tolerance import CONTACT

__all__ = ["axis_of", "is_round", "thick_at", "through"]

#: Axes that lie so near to one another (mm) are one.
ON_AXIS = 0.1


def axis_of(part: MadePart) -> tuple[np.ndarray, np.ndarray]:
    """The direction of a part's w in the room, and a place on its axis: of a piece of hardware the middle of its width."""
    m = np.array(part.matrix)
    half = 0.0
    if isinstance(part.body, HardwareBody) and part.body.piece:
        low, high = part.body.piece.span
        half = (low + high) / 2
    return m[:3, 2], m[:3, 3] + m[:3, 2] * half


def is_round(part: MadePart) -> bool:
    """Whether it is a rod, a straight member or a turned part, and round."""
    body = part.body
    if isinstance(body, Prism):
        return body.section.outer.as_circle is not None
    if isinstance(body, MemberBody):
        return body.section.shape == "round"
    return isinstance(body, TurnedBody)


def thick_at(part: MadePart, along: float) -> float | None:
    """How thick (mm) a round part is so far along its axis; None where it does not reach, or is not round."""
    body = part.body
    if isinstance(body, Prism):
        disc = body.section.outer.as_circle
        return 2 * disc[2] if disc else None
    if isinstance(body, MemberBody):
        return body.section.height if body.section.shape == "round" else None
    if isinstance(body, TurnedBody):
        return next((2 * r for r, _, a, b in body.steps if a - CONTACT <= along <= b + CONTACT), None)
    return None


def through(bearing: MadePart, shaft: MadePart) -> float | None:
    """How thick (mm) a shaft is where it goes through a bearing; None where it does not."""
    (own, at), (axis, start) = axis_of(bearing), axis_of(shaft)
    if abs(abs(float(own @ axis)) - 1) > CONTACT:
        return None
    off = at - start
    along = float(off @ axis)
    if np.linalg.norm(off - axis * along) > ON_AXIS:
        return None
    low, high = (np.array(c) for c in shaft.reaches)
    if not bool(((at > low - CONTACT) & (at < high + CONTACT)).all()):
        return None
    return thick_at(shaft, along)
