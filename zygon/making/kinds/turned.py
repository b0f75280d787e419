"""Turned parts: half-profiles drawn round an axis."""

from __future__ import annotations

from zygon.making.kinds.base import MadeKind, Sizes
from zygon.making.turned.body import TurnedBody, mirror_of
from zygon.memo import Memo

__all__ = ["TURNED"]

_MESHES = Memo(1000)


def _sizes(body: TurnedBody) -> Sizes:
    return Sizes(body.length, thickness=2 * body.radius)


TURNED = MadeKind(
    lambda body: [_MESHES.get(body.digest, body.mesh)[0]],
    lambda _: (),
    lambda body: body.volume,
    lambda body: body.exact(),
    _sizes,
    mirrored=mirror_of,
)
