"""Hardware that lies in a design by itself."""

from __future__ import annotations

from zygon.geometry.motion import Motion, mirroring
from zygon.making.hardware.body import HardwareBody
from zygon.making.kinds.base import MadeKind, sizes_of_box

__all__ = ["HARDWARE"]

MIRROR = mirroring("x", 0.0)


def _mirrored(body: HardwareBody) -> tuple[HardwareBody, Motion]:
    """Left for right across u."""
    return body.mirrored, MIRROR


HARDWARE = MadeKind(
    lambda body: body.meshes, lambda _: (), lambda body: body.volume, lambda body: body.exact(), sizes_of_box, mirrored=_mirrored
)
