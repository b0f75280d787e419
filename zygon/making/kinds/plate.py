"""What lies in a plane: boards, folded parts, and bought blocks. They are made of blanks, joints and features, and each has a flat."""

from __future__ import annotations

from typing import Any

from zygon.making.flats.flat import mesh_of
from zygon.making.flats.layers import layers_of, volume_of
from zygon.making.kinds.base import MadeKind, Sizes
from zygon.making.result.flat import Flat

__all__ = ["PLATE"]


def _exact(flat: Flat) -> Any:
    from zygon.making.flats.exact import solid_of

    return solid_of(flat)


def _sizes(flat: Flat) -> Sizes:
    if flat.empty:
        return Sizes(thickness=flat.thickness, area=flat.area)
    length, width = flat.size
    return Sizes(length, width, flat.thickness, flat.area)


PLATE = MadeKind(mesh_of, layers_of, volume_of, _exact, _sizes)
