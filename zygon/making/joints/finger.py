"""The finger joint at a corner: the corner's block is shared out along the run in fingers of equal width.

Not here: the cube where three boards meet (``build/corners.py``); it overrides the owners that are laid out here.
"""

from __future__ import annotations

import math
from functools import lru_cache

from zygon.geometry.contour import rectangle
from zygon.making.blanks.blank import Blank
from zygon.making.joints.base import OVERSHOOT, JointContext, clean_runs, how_they_meet
from zygon.making.joints.contact import Contact
from zygon.making.result.built import Finger
from zygon.making.result.operations import Cut
from zygon.measure.display import format_length
from zygon.tolerance import CONTACT

__all__ = ["cuts", "layout", "lengthen", "offers", "refusal"]

MOST = 999


def refusal(contact: Contact) -> str:
    """Why a finger joint cannot be at this contact; '' where it can."""
    if contact.kind == "none":
        return contact.reason
    if contact.kind == "corner":
        return ""
    return f"a finger joint needs a corner, and these boards {how_they_meet(contact)}"


def offers(contact: Contact, name_a: str, name_b: str) -> list[dict[str, str]]:
    """The ways this joint could be made at a contact."""
    return [{"kind": "finger", "order": "ab", "title": f"Finger joint {name_a}–{name_b}", "refused": refusal(contact)}]


def lengthen(contact: Contact, a: Blank, b: Blank) -> None:
    """Each board that ends at the other's near face grows to its far face."""
    for blank, reach, other in ((a, contact.reach_a, b), (b, contact.reach_b, a)):
        slab = other.span.span(other.frame.normal)
        blank.lengthen(other.frame.normal, reach.side, slab[1] if reach.side == "high" else slab[0])


def layout(context: JointContext) -> tuple[Finger, ...]:
    """The fingers along the run, low to high, before any corner cube is taken out."""
    low, high = context.contact.run
    widths = _widths(context, high - low)
    owners = (context.a.key, context.b.key)
    if context.record.starts == "b":
        owners = owners[::-1]
    fingers, at = [], low
    for i, width in enumerate(widths):
        end = high if i == len(widths) - 1 else at + width
        fingers.append(Finger(at, end, owners[i % 2]))
        at = end
    return tuple(fingers)


def _widths(context: JointContext, run: float) -> list[float]:
    record = context.record
    thickness = max(context.a.thickness, context.b.thickness)
    count = context.read(record.count, "count", kind="count")
    context.figures["count"] = default_count(run, thickness)
    pitch = context.read(record.pitch, "pitch")
    if count is not None:
        n = int(count)
        if 2 <= n <= MOST:
            return [run / n] * n
        context.fault("count", f"{n} fingers", f"a corner has from 2 to {MOST} fingers", str(n))
    elif pitch is not None:
        widths = _pitched(run, pitch)
        if widths:
            return widths
        shown = format_length(pitch, context.values.document.display)
        context.fault(
            "pitch", f"a pitch of {shown}", f"a pitch is greater than 0, at most the run, and gives at most {MOST} fingers", shown
        )
    n = default_count(run, thickness)
    return [run / n] * n


def default_count(run: float, thickness: float) -> int:
    """The odd number of fingers whose width comes nearest to two thicknesses without going under one; at least 3."""
    most = run / thickness
    nearest = run / (2 * thickness)
    odd = 2 * math.floor((nearest - 1) / 2 + 0.5) + 1
    while odd > most and odd > 3:
        odd -= 2
    return int(min(max(odd, 3), MOST))


def _pitched(run: float, pitch: float) -> list[float]:
    """Odd number of fingers of half a pitch, what is left over shared equally by both ends."""
    width = pitch / 2
    if width <= 0 or run / width > MOST or run < 2 * width:
        return []
    n = 2 * math.floor(run / width / 2) + 1
    end = (run - (n - 2) * width) / 2
    return [end, *[width] * (n - 2), end]


def cuts(context: JointContext, fingers: tuple[Finger, ...], fit: float) -> tuple[list[Cut], list[Cut]]:
    """The cuts in a and in b for fingers whose owners are settled; flanks stand back so that the whole fit lies between them."""
    c, runs = context.contact, clean_runs(fingers)
    return (
        _side(context.a, context.b, c.reach_a.side, c.axis, runs, fit, context.owner),
        _side(context.b, context.a, c.reach_b.side, c.axis, runs, fit, context.owner),
    )


def _side(own: Blank, other: Blank, side: str, axis: str, runs: tuple[Finger, ...], fit: float, owner: str) -> list[Cut]:
    """The cuts in one board: every stretch of the block that is not its own."""
    low, high = other.span.span(other.frame.normal)
    depth = (low, high + OVERSHOOT) if side == "high" else (low - OVERSHOOT, high)
    extent = own.extents.span(axis)
    taken: list[list[float]] = []
    for i, f in enumerate(runs):
        if f.owner == own.key:
            continue
        start = f.low - fit / 4 if i else _end(f.low, extent[0], -1, fit)
        end = f.high + fit / 4 if i < len(runs) - 1 else _end(f.high, extent[1], 1, fit)
        if taken and start <= taken[-1][1] + CONTACT:
            taken[-1][1] = end
        else:
            taken.append([start, end])
    found = []
    for start, end in taken:
        u0, v0, u1, v1 = own.local({other.frame.normal: depth, axis: (start, end)})
        if u1 - u0 > CONTACT and v1 - v0 > CONTACT:
            found.append(_cut(u0, v0, u1, v1, owner))
    return found


@lru_cache(maxsize=20_000)
def _cut(u0: float, v0: float, u1: float, v1: float, owner: str) -> Cut:
    """The same cut where it is the same: there are hundreds, and a changed size leaves most of them as they were."""
    return Cut(rectangle(u0, v0, u1, v1, owner), owner)


def _end(at: float, extent: float, way: int, fit: float) -> float:
    """Where a cut at the run's end stops: past the board's edge, or with half the fit where the board runs on."""
    runs_on = (extent - at) * way > CONTACT
    return at + way * (fit / 2 if runs_on else OVERSHOOT)
