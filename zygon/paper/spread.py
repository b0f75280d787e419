"""Labels along a line, moved apart as little as keeps them from overlapping."""

from __future__ import annotations

from collections.abc import Sequence

from zygon.tolerance import TINY

__all__ = ["spread"]


def spread(wanted: Sequence[float], sizes: Sequence[float], gap: float = 0.0, low: float | None = None) -> list[float]:
    """The middles of labels, in the order given, as near to where they are ``wanted`` (ascending) as their sizes and the gap allow: least squares, by pooling neighbours that touch. None reaches under ``low``."""
    pools: list[tuple[list[int], float]] = []  # members, and where the first one's middle is
    offsets: dict[int, float] = {}
    for i, at in enumerate(wanted):
        offsets[i] = 0.0
        pools.append(([i], at))
        while len(pools) > 1:
            (left, start), (right, begin) = pools[-2], pools[-1]
            last, first = left[-1], right[0]
            apart = (sizes[last] + sizes[first]) / 2 + gap
            if start + offsets[last] + apart <= begin + TINY:
                break
            shift = offsets[last] + apart
            for k in right:
                offsets[k] += shift
            members = left + right
            best = sum(wanted[k] - offsets[k] for k in members) / len(members)
            pools[-2:] = [(members, best)]
    found = [start + offsets[k] for members, start in pools for k in members]
    if low is not None:
        for i, size in enumerate(sizes):
            least = low + size / 2 if i == 0 else found[i - 1] + (sizes[i - 1] + size) / 2 + gap
            found[i] = max(found[i], least)
    return found
