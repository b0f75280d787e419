"""Where the head is while a move is made."""

from __future__ import annotations

import math

from zygon.program.read import Move

__all__ = ["place_at"]


def place_at(m: Move, share: float) -> tuple[float, float, float]:
    """Where the head is when so much of a move is done."""
    z = m.p[2] + (m.q[2] - m.p[2]) * share
    if m.kind == "arc" and m.centre is not None:
        (cx, cy), r = m.centre, math.dist(m.p[:2], m.centre)
        turn = math.atan2(m.p[1] - cy, m.p[0] - cx) + m.sweep * share
        return cx + r * math.cos(turn), cy + r * math.sin(turn), z
    return m.p[0] + (m.q[0] - m.p[0]) * share, m.p[1] + (m.q[1] - m.p[1]) * share, z
