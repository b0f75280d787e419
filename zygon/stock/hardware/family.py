"""A family of hardware: one standard's table, and the piece that each of its rows makes."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from zygon.stock.hardware.piece import STEEL, Hardware, Slice
from zygon.stock.hardware.shape import Freedom

__all__ = ["Family", "Role"]

Role = Literal["screw", "nut", "washer", "insert", "rivet", "dowel", "pin", "ring", "bearing", "hinge", "slide", "foot", "magnet"]


@dataclass(frozen=True)
class Family:
    """Pieces of one standard. ``rows`` are its sizes with their measures (mm) as ``columns`` names them; ``lengths`` those it is made in, by size, none where
    a size has just one. ``body`` makes the slices of a size and length; ``words`` are other words by which it is searched for."""

    key: str
    title: str
    standard: str
    role: Role
    columns: tuple[str, ...]
    rows: Mapping[str, tuple[float, ...]]
    body: Callable[[str, tuple[float, ...], float], tuple[Slice, ...]]
    lengths: Callable[[str], tuple[float, ...]] | None = None
    words: str = ""
    source: str = "memory"
    density: float = STEEL
    freedom: Freedom | None = None

    def piece(self, size: str, length: float | None = None) -> Hardware:
        """One piece. KeyError for a size that is not in the table."""
        row = self.rows[size]
        own = None if self.lengths is None else length
        return Hardware(
            self.key,
            self.title,
            self.standard,
            size,
            own,
            self.body(size, row, own or 0.0),
            self.source,
            self.density,
            freedom=self.freedom,
        )

    def measures(self, size: str) -> dict[str, float]:
        """A row by its columns. KeyError for a size that is not in the table."""
        return dict(zip(self.columns, self.rows[size], strict=True))

    def lengths_of(self, size: str) -> tuple[float, ...]:
        """The lengths that a size is made in; none where it has just one."""
        return () if self.lengths is None else self.lengths(size)
