"""What a kind of part tells of the parts that are made of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from zygon.design.parts.kinds import PlacedKind
from zygon.geometry.mesh import Mesh
from zygon.geometry.motion import Motion
from zygon.making.flats.layers import Layer
from zygon.making.result.body import Body, Straight
from zygon.making.result.box import Box
from zygon.stock.section import Section

__all__ = ["MadeKind", "Sizes", "sizes_of_box"]


@dataclass(frozen=True)
class Sizes:
    """Finished sizes in mm and area of the flat in mm²; None where a kind has no such thing."""

    length: float | None = None
    width: float | None = None
    thickness: float | None = None
    area: float | None = None


def sizes_of_box(body: Body) -> Sizes:
    """Those of the box round a body in its own coordinates, the longest first."""
    low, high = body.reach(((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))
    long, wide, thick = sorted((h - x for x, h in zip(low, high, strict=True)), reverse=True)
    return Sizes(round(long, 6), round(wide, 6), thickness=round(thick, 6))


@dataclass(frozen=True)
class MadeKind:
    """The answers of one kind about a body that it made, in the body's own (u, v, w) and mm.

    ``make`` gives the body between the places of a box at rest, of the section that it is cut from, and the motion that takes it there; None for
    what goes through blanks, joints and flats, and for members, which are joined first. ``mirrored`` gives the body's mirror image, and the motion of it that undoes the mirror. ``layers`` are asked of a
    layered body only; ``exact`` gives a shape of Open CASCADE.
    """

    meshes: Callable[[Any], list[Mesh]]
    layers: Callable[[Any], tuple[Layer, ...]]
    volume: Callable[[Any], float]
    exact: Callable[[Any], Any]
    sizes: Callable[[Any], Sizes]
    make: Callable[[PlacedKind, Box, Section | None], tuple[Straight, Motion]] | None = None
    mirrored: Callable[[Any], tuple[Straight, Motion]] | None = None
