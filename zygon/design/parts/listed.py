"""What every line of the cut list has."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from zygon.design.limits import MAX_QUANTITY
from zygon.measure.entry import Record

__all__ = ["Key", "ListedPart"]

Key = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,40}$")]


class ListedPart(Record):
    """A part of any kind."""

    name: str
    order: int = 0
    quantity: int = Field(default=1, ge=1, le=MAX_QUANTITY)
    group: str = Field(default="", description="key of the group that it lies in")
    out: bool = Field(default=False, description="left out of the design without being deleted")
    note: str = Field(default="", max_length=200, description="what the shop should know of it; it stands on the cut list")
