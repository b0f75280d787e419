"""How far a punch goes down for an air bend."""

from __future__ import annotations

import math

__all__ = ["punch_travel"]


def punch_travel(angle: float, thickness: float, radius: float, v: float, shoulder: float) -> float:
    """From where the punch touches the sheet to where it lets go of it, mm, for a bend by ``angle`` (radians) over a V of opening ``v``.

    The sheet's legs lie on the rounds of the V's shoulders (radius ``shoulder``), its inside is round by ``radius`` at the punch; the V is as wide as where its
    rounds meet the die's face. What springs back and what the machine gives comes on top: it is a start for a try. Plane geometry, common practice.
    """
    slope = angle / 2
    over = v / 2 * math.tan(slope) + shoulder * (1 - 1 / math.cos(slope))
    return over + thickness * (1 - 1 / math.cos(slope)) - radius * (1 / math.cos(slope) - 1)
