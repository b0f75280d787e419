"""A bought thing that is counted only."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from zygon.design.parts.listed import ListedPart, Made

__all__ = ["Item"]


class Item(ListedPart):
    """A bought thing that takes no part in the fitting: screws, felt."""

    kind: Literal["item"] = "item"
    made: ClassVar[Made] = "bought"
    price: float = Field(default=0.0, ge=0)
    designation: str = Field(
        default="", max_length=60, description="of a piece of the catalogue, as its standard writes it; '' for what is in none"
    )
