"""Shapes that a folded part is often begun with: which flanges stand on a plate."""

from __future__ import annotations

from typing import Any, Literal, get_args

from zygon.geometry.frame import FACES, Plane, frame_of
from zygon.measure.entry import Record

__all__ = ["FoldedShape", "folded_shapes"]

Way = Literal["u", "v"]
#: Stand in a flange for the two lengths that are asked for.
LENGTH, LIP = {"text": "length"}, {"text": "lip"}
BEGIN = {"length": "30 mm", "lip": "15 mm"}


class FoldedShape(Record):
    """A shape: its words, what its second length is called ('' where it has none), and whether its bends run one way of two.

    ``flanges`` are those of a plate by its plane and by the way along which the bends run; in their entries 'length' and 'lip' stand for the two
    lengths, which begin with ``begin``.
    """

    kind: str
    label: str
    lip: str
    one_way: bool
    begin: dict[str, str]
    flanges: dict[Plane, dict[Way, dict[str, dict[str, Any]]]]


def _flange(edge: str, **more: Any) -> dict[str, Any]:
    return {"kind": "flange", "edge": edge, "length": LENGTH, **more}


def _angle(low: str, high: str) -> dict[str, dict[str, Any]]:
    return {high: _flange(high)}


def _channel(low: str, high: str) -> dict[str, dict[str, Any]]:
    return {low: _flange(low), high: _flange(high)}


def _hat(low: str, high: str) -> dict[str, dict[str, Any]]:
    brims = {f"{e}_lip": _flange("end", on=e, toward="b", length=LIP, name=f"{e} brim") for e in (low, high)}
    return {**_channel(low, high), **brims}


def _zed(low: str, high: str) -> dict[str, dict[str, Any]]:
    return {low: _flange(low, toward="b"), high: _flange(high)}


def _sill(low: str, high: str) -> dict[str, dict[str, Any]]:
    legs = [{"length": LENGTH, "angle": {"text": "90 deg"}}, {"length": LIP, "angle": {"text": "-45 deg"}}]
    return {
        low: {"kind": "profile", "edge": low, "toward": "b", "legs": legs, "name": "nose"},
        high: _flange(high, length=LIP, name="upstand"),
    }


_ONE_WAY = (
    ("angle", "angle: one flange", "", _angle),
    ("channel", "channel: two flanges, the same way", "", _channel),
    ("hat", "hat: a channel with brims", "Brim length", _hat),
    ("zed", "zed: two flanges, opposite ways", "", _zed),
    ("sill", "sill: upstand, nose and drip", "Upstand, drip", _sill),
)


def folded_shapes() -> tuple[FoldedShape, ...]:
    """Every shape, in the order in which they are offered."""
    found = [
        FoldedShape(kind=kind, label=label, lip=lip, one_way=True, begin=BEGIN, flanges=_each(lambda sides, made=made: made(*sides[0])))
        for kind, label, lip, made in _ONE_WAY
    ]
    tray = _each(lambda sides: {e: _flange(e) for ends in sides for e in ends})
    return (*found, FoldedShape(kind="tray", label="tray: four flanges", lip="", one_way=False, begin=BEGIN, flanges=tray))


def _each(made: Any) -> dict[Plane, dict[Way, dict[str, dict[str, Any]]]]:
    """The flanges in each plane and way, in order; ``made`` is given the edges that the bends run along, and the two others."""
    found: dict[Plane, dict[Way, dict[str, dict[str, Any]]]] = {}
    for plane in get_args(Plane):
        frame = frame_of(plane)
        axes: tuple[tuple[Way, tuple[str, str]], ...] = (("u", (frame.v, frame.u)), ("v", (frame.u, frame.v)))
        found[plane] = {
            way: {key: {**flange, "order": n} for n, (key, flange) in enumerate(made([FACES[a] for a in across]).items())}
            for way, across in axes
        }
    return found
