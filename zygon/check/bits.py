"""The rule that what is drilled by hand is drilled with a bit that the shop has."""

from __future__ import annotations

from zygon.making.result.built import Built
from zygon.making.result.fault import Fault
from zygon.measure.display import format_length

__all__ = ["bit_faults"]

#: A bit drills a hole that is so much wider or narrower than asked for (mm), which counts for the same.
SAME = 0.05


def bit_faults(built: Built) -> list[Fault]:
    """Holes in edges and at an angle, by part and diameter, for which there is no bit; nothing while the design says no bits."""
    bits = built.document.hardware.diameters
    if not bits:
        return []
    faults = []
    for part in built.flats.values():
        if part.made_by:
            continue
        asked: dict[float, list[str]] = {}
        drilled = [(b.diameter, b.owner) for b in part.flat.bores] + [(s.diameter, s.owner) for s in part.flat.skew_bores]
        for wide, owner in drilled:
            asked.setdefault(round(wide, 3), []).append(owner)
        for wide, owners in sorted(asked.items()):
            if any(abs(wide - b) <= SAME for b in bits):
                continue
            shown = format_length(wide, built.document.display)
            near = [max((b for b in bits if b < wide), default=None), min((b for b in bits if b > wide), default=None)]
            has = " or ".join(format_length(b, built.document.display) for b in near if b is not None)
            holes = "a hole" if len(owners) == 1 else f"{len(owners)} holes"
            faults.append(
                Fault(
                    "no_bit",
                    f"{part.path}: {holes} of {shown} to drill, and no such bit",
                    f"a bit of the shop's: the nearest is {has}",
                    shown,
                    "the shop's bits",
                    "warning",
                    part.key,
                    owner=owners[0],
                    entry="/hardware/bits",
                )
            )
    return faults
