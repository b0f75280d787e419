"""An end of a straight member that is cut in the face of a board it comes to, and stops there."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from zygon.design.parts.kinds import is_plate
from zygon.geometry.frame import AXES, frame_of
from zygon.geometry.motion import Motion
from zygon.making.blanks.instances import Instance
from zygon.making.datums.values import Values
from zygon.making.result.box import Box
from zygon.making.tube.cuts import AtEnd, PlaneCut
from zygon.making.tube.ends import Refused
from zygon.making.tube.meeting import LEAST_ANGLE, SHORT, Straight, reach_of
from zygon.measure.display import Display, format_length
from zygon.tolerance import CONTACT

__all__ = ["BoardPlace", "board_at", "end_on_board"]

_STILL = Motion(((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))


@dataclass(frozen=True)
class BoardPlace:
    """A board: its ``box`` at rest, the ``normal`` to its faces ('x', 'y' or 'z' there), and ``place``, which takes the rest to the room."""

    name: str
    box: Box
    normal: str
    place: Motion


def board_at(values: Values, key: str, instances: dict[str, Instance]) -> BoardPlace | None:
    """A board or one of its copies; None where it is none or has no place."""
    instance = instances.get(key)
    record = values.boards.get(instance.part) if instance else None
    box = values.box(instance.part) if instance and is_plate(record) else None
    if instance is None or record is None or box is None or not is_plate(record):
        return None
    return BoardPlace(instance.name, box, frame_of(record.plane).normal, instance.motion)


def end_on_board(one: Straight, board: BoardPlace, gap: float, owner: str, display: Display = "mm") -> tuple[AtEnd, PlaneCut]:
    """Which end of a member comes to a board, and its cut in the face that it comes to, ``gap`` mm off it, in the member's own coordinates.

    Raises Refused where the member runs alongside the board, passes beside or through it, or ends short of it.
    """
    to = one.place.inverse @ board.place
    k = AXES.index(board.normal)
    low, high = board.box.span(board.normal)
    middle = np.array([(board.box.low[i] + board.box.high[i]) / 2 for i in range(3)])
    normal = np.array(to.vector([1.0 if i == k else 0.0 for i in range(3)]))
    if abs(normal[2]) < math.sin(LEAST_ANGLE):
        raise Refused(f"{one.name} runs alongside {board.name}")
    crossings = []
    for at in (low, high):
        point = np.array(to.point([at if i == k else middle[i] for i in range(3)]))
        crossings.append((float(point @ normal / normal[2]), point))
    end: AtEnd = "a" if sum(t for t, _ in crossings) < one.length else "b"
    crossings.sort(key=lambda c: c[0], reverse=end == "a")
    (near, on), (far, _) = crossings
    # how far the section reaches along the member where it is cut aslant
    slant = reach_of(one.section, _STILL, np.array((normal[0], normal[1], 0.0))) / abs(normal[2])
    beyond = far - one.length if end == "b" else -far
    if -beyond > slant + SHORT:
        raise Refused(f"{one.name} passes through {board.name}; it can be let through")
    lacking = near - one.length if end == "b" else -near
    if lacking > slant + SHORT:
        raise Refused(f"{one.name} ends {format_length(round(lacking, 3), display)} short of {board.name}")
    hit = to.inverse.point((0.0, 0.0, near))
    if any(not board.box.low[i] - CONTACT <= hit[i] <= board.box.high[i] + CONTACT for i in range(3) if i != k):
        raise Refused(f"{one.name} passes beside {board.name}")
    out = normal if (normal[2] > 0) == (end == "b") else -normal
    point = on - out * gap
    x, y, z = (float(c) for c in out)
    return end, PlaneCut((float(point[0]), float(point[1]), float(point[2])), (x, y, z), owner)
