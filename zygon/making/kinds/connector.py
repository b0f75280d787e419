"""Connectors: fittings with sockets on the points of frames."""

from __future__ import annotations

from typing import Any

from zygon.geometry.mesh import Mesh
from zygon.geometry.motion import Motion
from zygon.making.connector.body import ConnectorBody
from zygon.making.connector.solid import connector_exact, connector_mesh
from zygon.making.flats.layers import Layer
from zygon.making.kinds.base import MadeKind, sizes_of_box
from zygon.making.tube.cuts import MIRROR
from zygon.memo import Memo

__all__ = ["CONNECTOR"]

_MESHES = Memo(500)
_EXACT = Memo(100)


def _mesh(body: ConnectorBody) -> Mesh:
    return _MESHES.get(body.digest, lambda: connector_mesh(body))[0]


def _meshes(body: ConnectorBody) -> list[Mesh]:
    return [_mesh(body)]


def _layers(body: ConnectorBody) -> tuple[Layer, ...]:
    """It is no stack of outlines."""
    return ()


def _volume(body: ConnectorBody) -> float:
    """Of the mesh; its chords are within a three hundredth of what is round."""
    return body.given.volume if body.given else _mesh(body).moments()[0]


def _exact(body: ConnectorBody) -> Any:
    return _EXACT.get(body.digest, lambda: connector_exact(body))[0]


def _mirrored(body: ConnectorBody) -> tuple[ConnectorBody, Motion]:
    """Left for right across x."""
    return body.mirrored, MIRROR


CONNECTOR = MadeKind(_meshes, _layers, _volume, _exact, sizes_of_box, mirrored=_mirrored)
