"""The kinds of parts that a document may have, and which of them lie in the room or in a plane."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field
from typing_extensions import TypeIs

from zygon.design.parts.board import Board
from zygon.design.parts.bought import BoughtPart
from zygon.design.parts.connector import Connector
from zygon.design.parts.folded import FoldedPart
from zygon.design.parts.hardware import HardwarePart
from zygon.design.parts.item import Item
from zygon.design.parts.member import Member
from zygon.design.parts.placed import PlacedPart
from zygon.design.parts.plate import PlatePart
from zygon.design.parts.rod import Rod
from zygon.design.parts.turned import TurnedPart

__all__ = [
    "Part",
    "PlacedKind",
    "PlateKind",
    "is_connector",
    "is_framed",
    "is_hardware",
    "is_member",
    "is_placed",
    "is_plate",
    "is_rod",
    "is_turned",
]

PlateKind = Board | FoldedPart | BoughtPart
PlacedKind = Board | FoldedPart | BoughtPart | Rod | Member | Connector | TurnedPart | HardwarePart
Part = Annotated[Board | FoldedPart | BoughtPart | Rod | Member | Connector | TurnedPart | HardwarePart | Item, Field(discriminator="kind")]


def is_placed(part: Part | None) -> TypeIs[PlacedKind]:
    """Whether a part lies between places in the room."""
    return isinstance(part, PlacedPart)


def is_plate(part: Part | None) -> TypeIs[PlateKind]:
    """Whether a part lies in a plane, with faces, edges and what is worked into them."""
    return isinstance(part, PlatePart)


def is_member(part: Part | None) -> TypeIs[Member]:
    """Whether a part lies on lines of a frame."""
    return isinstance(part, Member)


def is_rod(part: Part | None) -> TypeIs[Rod]:
    """Whether a part is a length of bar between two places."""
    return isinstance(part, Rod)


def is_turned(part: Part | None) -> TypeIs[TurnedPart]:
    """Whether a part is a half-profile round an axis."""
    return isinstance(part, TurnedPart)


def is_hardware(part: Part | None) -> TypeIs[HardwarePart]:
    """Whether a part is a piece of hardware that lies by itself."""
    return isinstance(part, HardwarePart)


def is_connector(part: Part | None) -> TypeIs[Connector]:
    """Whether a part stands on a point of a frame with sockets for its members."""
    return isinstance(part, Connector)


def is_framed(part: Part | None) -> TypeIs[Member | Connector]:
    """Whether a part lies on a frame's lines or stands on one of its points."""
    return isinstance(part, Member | Connector)
