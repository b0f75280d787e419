"""Spreading tabs, tenons, keys, dowels or screws over a joint's run: by number, length, spacing and inset."""

from __future__ import annotations

from zygon.making.joints.base import JointContext
from zygon.making.result.built import Finger
from zygon.tolerance import CONTACT

__all__ = ["MOST", "centres", "number_of", "spaced"]

MOST = 200


def number_of(context: JointContext, default: int, what: str) -> int:
    """How many there are; 1 with a fault where the entry makes no sense."""
    n = round(context.figure("number", default, "count"))
    if not 1 <= n <= MOST:
        context.fault("number", f"{n} {what}", f"from 1 to {MOST} {what}", str(n))
        n = 1
    context.figures["number"] = n
    return n


def centres(run: tuple[float, float], n: int, first: float, spacing: float | None) -> list[float]:
    """The middles of n things along a run: the outer ones ``first`` mm from its ends, or ``spacing`` apart about its middle."""
    low, high = run
    middle = (low + high) / 2
    if n == 1:
        return [middle]
    if spacing is not None:
        return [middle + (i - (n - 1) / 2) * spacing for i in range(n)]
    return [low + first + (high - low - 2 * first) * i / (n - 1) for i in range(n)]


def spaced(context: JointContext, spans: list[tuple[float, float]], what: str, owner: str, field: str = "width") -> tuple[Finger, ...]:
    """The spans that lie within the run and apart from one another; the others are faults and left out."""
    low, high = context.contact.run
    kept: list[Finger] = []
    for start, end in sorted(spans):
        if end - start <= CONTACT:
            size = context.shown(end - start)
            context.fault(field, f"{what} {size} long", f"{what} is longer than 0", size)
        elif start < low - CONTACT or end > high + CONTACT:
            over = context.shown(max(low - start, end - high))
            context.fault(
                "number" if field == "width" else "tabs",
                f"{what} reaches {over} past the run",
                "all lie within the length that both boards share",
                over,
            )
        elif kept and start < kept[-1].high + CONTACT:
            over = context.shown(kept[-1].high - start)
            context.fault("spacing", f"{what} runs into the next by {over}", "they stand apart", over)
        else:
            kept.append(Finger(start, end, owner))
    return tuple(kept)
