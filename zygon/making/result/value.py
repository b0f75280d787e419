"""What one entry gives."""

from __future__ import annotations

from dataclasses import dataclass

__all__ = ["Value"]


@dataclass(frozen=True)
class Value:
    """What one entry gives: mm, radians, or a plain value; ``stale`` where it is the last good one.

    ``reading`` says how a mixed number was read: '1 + 1/2'.
    """

    value: float
    kind: str
    stale: bool = False
    reading: str = ""
