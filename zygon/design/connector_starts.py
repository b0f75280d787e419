"""Connectors to begin with: the sockets of a tee, a corner, a cross, an elbow, a foot, a swivel, a clamp."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from zygon.design.parts.connector import Toward

__all__ = ["CONNECTOR_STARTS", "ConnectorStart", "SocketStart"]


@dataclass(frozen=True)
class SocketStart:
    """A socket: the way it looks, whether a member runs through it, the axis it swings about, whether it lies beside the middle, and whether it goes into its tube."""

    toward: Toward
    through: bool = False
    swings: Literal["", "x", "y", "z"] = ""
    beside: Toward | None = None
    inside: bool = False


@dataclass(frozen=True)
class ConnectorStart:
    """A connector to begin with; ``plate`` how much wider than its tube the plate of a foot is, as a share."""

    key: str
    title: str
    words: str
    sockets: tuple[SocketStart, ...]
    plate: float = 0.0


def _sockets(*toward: Toward, through: Toward | None = None) -> tuple[SocketStart, ...]:
    first = (SocketStart(through, through=True),) if through else ()
    return (*first, *(SocketStart(t) for t in toward))


def _spigots(*toward: Toward) -> tuple[SocketStart, ...]:
    return tuple(SocketStart(t, inside=True) for t in toward)


#: In the order in which one is looked for that fits a point: each has as few sockets as can be.
CONNECTOR_STARTS: dict[str, ConnectorStart] = {
    s.key: s
    for s in (
        ConnectorStart("elbow", "Elbow", "two tubes at a right angle", _sockets("right", "up")),
        ConnectorStart("coupling", "Coupling", "two tubes in line", _sockets("right", "left")),
        ConnectorStart("tee", "Tee", "a tube that runs through, and one from its side", _sockets("right", through="up")),
        ConnectorStart("corner", "Corner of three", "three tubes, each square to the others", _sockets("right", "back", "up")),
        ConnectorStart("split_tee", "Tee of three ends", "two tubes in line, and one from their side", _sockets("up", "right", "left")),
        ConnectorStart(
            "side_tee", "Corner tee", "a tube that runs through, and two from its sides", _sockets("right", "back", through="up")
        ),
        ConnectorStart("cross", "Cross", "a tube that runs through, and two in line across it", _sockets("right", "left", through="up")),
        ConnectorStart("split_cross", "Cross of four ends", "four tubes in one plane", _sockets("right", "left", "up", "down")),
        ConnectorStart(
            "three_way",
            "Tee of four",
            "a tube that runs through, and three from its sides",
            _sockets("right", "left", "back", through="up"),
        ),
        ConnectorStart(
            "four_way",
            "Cross of five",
            "a tube that runs through, and four from its sides",
            _sockets("right", "left", "back", "front", through="up"),
        ),
        ConnectorStart("swivel", "Swivel elbow", "two tubes at any angle", (SocketStart("right"), SocketStart("up", swings="y"))),
        ConnectorStart(
            "swivel_tee",
            "Swivel tee",
            "a tube that runs through, and one from its side at any angle",
            (SocketStart("right", through=True), SocketStart("up", swings="y")),
        ),
        ConnectorStart(
            "swivel_corner_tee",
            "Swivel corner tee",
            "a tube that runs through, one square to it, and one at any angle",
            (SocketStart("up", through=True), SocketStart("right"), SocketStart("back", swings="x")),
        ),
        ConnectorStart(
            "clamp",
            "Clamp",
            "two tubes that run through, one across the other beside it",
            (SocketStart("right", through=True), SocketStart("back", through=True, beside="up")),
        ),
        ConnectorStart("foot", "Foot", "one tube on a round plate", _sockets("up"), plate=2.0),
        ConnectorStart("cap", "Cap", "closes the end of one tube", _sockets("up")),
        ConnectorStart("plug", "Plug", "goes into the end of one tube and closes it", _spigots("up")),
        ConnectorStart("inner_coupling", "Inner coupling", "goes into two tubes in line", _spigots("right", "left")),
        ConnectorStart("inner_elbow", "Inner elbow", "goes into two tubes at a right angle", _spigots("right", "up")),
        ConnectorStart(
            "inner_corner", "Inner corner of three", "goes into three tubes, each square to the others", _spigots("right", "back", "up")
        ),
    )
}
