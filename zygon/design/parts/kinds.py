"""The kinds of parts that a document may have, and which of them lie in the room."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field
from typing_extensions import TypeIs

from zygon.design.parts.board import Board
from zygon.design.parts.bought import BoughtPart
from zygon.design.parts.folded import FoldedPart
from zygon.design.parts.item import Item
from zygon.design.parts.placed import PlacedPart

__all__ = ["Part", "PlacedKind", "is_placed"]

PlacedKind = Board | FoldedPart | BoughtPart
Part = Annotated[Board | FoldedPart | BoughtPart | Item, Field(discriminator="kind")]


def is_placed(part: Part | None) -> TypeIs[PlacedKind]:
    """Whether a part lies between places in the room."""
    return isinstance(part, PlacedPart)
