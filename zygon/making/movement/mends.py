"""What to change so that a shaft has the end play that is asked of it."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zygon.design.parts.kinds import is_member, is_rod
from zygon.design.pointer import pointer
from zygon.geometry.frame import AXES
from zygon.making.movement.pieces import part_of
from zygon.making.movement.report import Play
from zygon.making.movement.travel import Stop
from zygon.making.result.built import Built, MadePart
from zygon.making.result.fault import Mend
from zygon.making.sets.rings import rings_of
from zygon.making.tube.cuts import AtEnd
from zygon.measure.display import format_length
from zygon.measure.moved import moved
from zygon.tolerance import SLACK, WITHIN

__all__ = ["play_mends"]

#: A ring stops a shaft where it lies so near to what is struck (mm).
AT_RING = 6.0


def play_mends(built: Built, play: Play, least: float | None, most: float | None) -> tuple[Mend, ...]:
    """The rings, or else the boards, of which one moved gives the play that is asked for: its middle, or its one limit."""
    bounds = [b for b in (least, most) if b is not None]
    by = sum(bounds) / len(bounds) - play.size
    return tuple(_rings(built, play, by)) or tuple(_boards(built, play, by))


def _rings(built: Built, play: Play, by: float) -> Iterator[Mend]:
    """Each ring that stops the shaft, moved toward its end for more play: ``by`` mm, less where under 0."""
    axis = np.array(play.along.way)
    for stop in (play.high, play.low):
        if stop.at is None or not _fits(stop, by):
            continue
        found = _ring_at(built, {part_of(p) for p in play.along.thing.pieces}, np.array(stop.at), axis)
        if found is None:
            continue
        part, end = found
        where = pointer("parts", part.of, "worked", end, "ring")
        record = built.document.parts[part.of]
        work = record.worked.get(end) if is_rod(record) or is_member(record) else None
        if work is None or work.ring is None:
            continue
        entry = work.ring
        text = moved(entry.text, entry.unit, -by)
        shown = format_length(round(abs(by), 3), built.document.display)
        way = "toward the end" if by > 0 else "away from the end"
        yield Mend(
            f"Move the ring at end {end.upper()} of {built.parts[part.of].path} {shown} {way}",
            [{"op": "replace", "path": where, "value": {"text": text, "unit": entry.unit}}],
        )


def _boards(built: Built, play: Play, by: float) -> Iterator[Mend]:
    """Each board that the shaft comes up against, moved away from it for more play; what is turned, or a copy, is not placed along the axis by one entry."""
    axis = np.array(play.along.way)
    k = int(np.abs(axis).argmax())
    if abs(axis[k]) < 1 - WITHIN:
        return
    for stop, sign in ((play.high, 1.0), (play.low, -1.0)):
        part = built.flats.get(part_of(stop.b))
        if not _fits(stop, by) or part is None or part.made_by or not part.place.plain or part.frame.normal != AXES[k]:
            continue
        entry, away = part.record.position.at, by * sign * float(axis[k])
        yield Mend(
            f"Move {part.path} {format_length(round(abs(by), 3), built.document.display)} {'away from' if by > 0 else 'toward'} the shaft",
            [
                {
                    "op": "replace",
                    "path": pointer("parts", part.of, "position", "at"),
                    "value": {"text": moved(entry.text, entry.unit, away), "unit": entry.unit},
                }
            ],
        )


def _fits(stop: Stop, by: float) -> bool:
    """Whether there is so much room at a stop as is to be taken there; where more is wanted, always."""
    return abs(stop.by) + by > -SLACK


def _ring_at(built: Built, keys: set[str], place: np.ndarray, axis: np.ndarray) -> tuple[MadePart, AtEnd] | None:
    """The rod of a thing with the ring that lies at a place along an axis, and the end that it is told from."""
    best: tuple[MadePart, AtEnd] | None = None
    near = AT_RING
    for part, ring in rings_of(built):
        if part.key not in keys:
            continue
        off = abs(float((np.array(ring.motion.shift) - place) @ axis))
        if off < near:
            m = np.array(part.matrix)
            along = float((np.array(ring.motion.shift) - m[:3, 3]) @ m[:3, 2])
            length = float(np.ptp(np.array(part.reaches) @ m[:3, 2]))
            best, near = (part, "a" if along < length / 2 else "b"), off
    return best
