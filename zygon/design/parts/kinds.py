"""The kinds of parts that a document may have, and which of them lie in the room or in a plane."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field
from typing_extensions import TypeIs

from zygon.design.parts.board import Board
from zygon.design.parts.bought import BoughtPart
from zygon.design.parts.folded import FoldedPart
from zygon.design.parts.item import Item
from zygon.design.parts.placed import PlacedPart
from zygon.design.parts.plate import PlatePart
from zygon.design.parts.rod import Rod

__all__ = ["Part", "PlacedKind", "PlateKind", "is_placed", "is_plate"]

PlateKind = Board | FoldedPart | BoughtPart
PlacedKind = Board | FoldedPart | BoughtPart | Rod
Part = Annotated[Board | FoldedPart | BoughtPart | Rod | Item, Field(discriminator="kind")]


def is_placed(part: Part | None) -> TypeIs[PlacedKind]:
    """Whether a part lies between places in the room."""
    return isinstance(part, PlacedPart)


def is_plate(part: Part | None) -> TypeIs[PlateKind]:
    """Whether a part lies in a plane, with faces, edges and what is worked into them."""
    return isinstance(part, PlatePart)
