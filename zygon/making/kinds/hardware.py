"""Hardware that lies in a design by itself."""

from __future__ import annotations

from zygon.geometry.motion import Motion, mirroring
from zygon.making.hardware.body import HardwareBody
from zygon.making.kinds.base import MadeKind, Sizes

__all__ = ["HARDWARE"]

MIRROR = mirroring("x", 0.0)


def _sizes(body: HardwareBody) -> Sizes:
    """Of the box round it in its own coordinates, the longest first."""
    low, high = body.reach(((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))
    long, wide, thick = sorted((h - x for x, h in zip(low, high, strict=True)), reverse=True)
    return Sizes(round(long, 6), round(wide, 6), thickness=round(thick, 6))


def _mirrored(body: HardwareBody) -> tuple[HardwareBody, Motion]:
    """Left for right across u."""
    return body.mirrored, MIRROR


HARDWARE = MadeKind(lambda body: body.meshes, lambda _: (), lambda body: body.volume, lambda body: body.exact(), _sizes, mirrored=_mirrored)
