"""The opening: the clear rectangle that neighbours leave on a board's face."""

from __future__ import annotations

from zygon.geometry.frame import Frame
from zygon.geometry.motion import three
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.instances import Instance
from zygon.making.joints.angle import same_frame
from zygon.making.result.box import Box
from zygon.tolerance import CONTACT, EPS

__all__ = ["neighbours_of", "opening"]


def opening(box: Box, frame: Frame, face: str, neighbours: list[tuple[Box, str]]) -> dict[str, tuple[float, float]]:
    """Low and high of the opening along the board's two axes, in the room.

    ``neighbours`` are other boards' boxes with their normals. One that stands on the face (or runs through it) takes its strip
    away; of the gaps that remain along each axis the widest counts, of equal ones the lower.
    """
    high_face = face == frame.face_a if frame.up > 0 else face == frame.face_b
    at = box.span(frame.normal)[1 if high_face else 0]
    found = {}
    for axis, other in ((frame.u, frame.v), (frame.v, frame.u)):
        strips = []
        for near, normal in neighbours:
            if normal != axis:
                continue
            low, high = near.span(frame.normal)
            across = near.span(other)
            own = box.span(other)
            meets = low < at - CONTACT < high or low < at + CONTACT < high
            if meets and min(across[1], own[1]) - max(across[0], own[0]) > CONTACT:
                strips.append(near.span(axis))
        found[axis] = _widest_gap(box.span(axis), strips)
    return found


def _widest_gap(span: tuple[float, float], strips: list[tuple[float, float]]) -> tuple[float, float]:
    best, at = (span[0], span[0]), span[0]
    for low, high in [*sorted(strips), (span[1], span[1])]:
        if min(low, span[1]) - at > best[1] - best[0] + CONTACT:
            best = (at, min(low, span[1]))
        at = max(at, high)
    return best if best[1] > best[0] else span


def neighbours_of(blank: Blank, blanks: dict[str, Blank], instances: dict[str, Instance]) -> list[tuple[Box, str]]:
    """The other boards' boxes with their normals, copies included, as far as they stand square to this one."""
    found = []
    for i in instances.values():
        other = blanks.get(i.part)
        if other is None or i.key == blank.key:
            continue
        if not i.made_by:
            if same_frame(blank, other):
                found.append((other.span, other.frame.normal))
            continue
        inner = blank.place.inverse @ i.motion @ instances[i.part].motion.inverse @ other.place
        if all(abs(inner.rows[r][c]) < EPS for r in range(3) for c in range(3) if r != c):
            low, high = inner.point(other.span.low), inner.point(other.span.high)
            corners = [three(round(f(low[k], high[k]), 7) for k in range(3)) for f in (min, max)]
            found.append((Box(corners[0], corners[1]), other.frame.normal))
    return found
