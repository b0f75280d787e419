"""What the head does, in order: cuts of parts, each as runs with the beam on."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from zygon.geometry.contour import Contour, Point

__all__ = ["Cut", "SheetPaths"]


@dataclass(frozen=True)
class Cut:
    """One contour of a part. ``runs`` are open, with leads where there was room, in mm on the sheet; between them the beam is off (micro-joints).

    ``key`` and ``copy`` tell the piece, ``owner`` what the contour is of. ``lead`` is how it is begun: 'arc', 'line', 'none', '' of marks.
    ``outline`` is the closed contour that it cuts, and ``by`` are places by which the head comes to it. ``held`` where micro-joints hold the piece after it; ``speed`` (mm/s) and ``power`` (share of 1) are its own where they are not the sheet's.
    """

    operation: Literal["mark", "inside", "outside"]
    key: str
    copy: int
    owner: str
    runs: tuple[Contour, ...]
    lead: Literal["arc", "line", "none", ""] = ""
    held: bool = False
    outline: Contour | None = None
    by: tuple[Point, ...] = ()
    speed: float | None = None
    power: float | None = None

    @property
    def start(self) -> Point:
        """Where it is pierced first."""
        return self.runs[0].points[0]

    @property
    def end(self) -> Point:
        """Where the beam goes off last."""
        return self.runs[-1].points[-1]

    @property
    def length(self) -> float:
        """How far the beam is on, mm."""
        return sum(r.length for r in self.runs)


@dataclass(frozen=True)
class SheetPaths:
    """A sheet's cuts in order, with what they are cut by: ``kerf``, ``thickness`` in mm, speeds in mm/s, ``pierce`` in s, powers as shares of 1.

    ``size`` is the sheet's length and width (mm), ``home`` are places by which the head goes home; within ``corner_way`` mm of sharp corners it
    cuts at ``corner_speed`` (a share of 1). ``faults`` are sentences on what is not as was asked for, ``wrong`` on what must not be cut so.
    """

    cuts: tuple[Cut, ...]
    size: tuple[float, float]
    kerf: float
    thickness: float
    cut_speed: float
    mark_speed: float
    pierce: float
    power: float
    mark_power: float
    faults: tuple[str, ...] = ()
    wrong: tuple[str, ...] = ()
    home: tuple[Point, ...] = ()
    corner_speed: float = 1.0
    corner_way: float = 0.0
