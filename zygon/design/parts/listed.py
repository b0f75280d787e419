"""What every line of the cut list has."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from zygon.limits import MAX_QUANTITY
from zygon.measure.entry import Record
from zygon.measure.key import Key

__all__ = ["CUT_HERE", "Key", "ListedPart", "Made"]

#: How a part is made: cut or bent from a stock of the shop, turned or printed, or bought.
Made = Literal["cut", "bent", "turned", "printed", "bought"]
#: Those that are cut from the shop's stock; all else is counted at its own price.
CUT_HERE: frozenset[Made] = frozenset({"cut", "bent"})


class ListedPart(Record):
    """A part of any kind; each kind says as ``made`` how it is made, or lets it be said."""

    name: str
    order: int = 0
    quantity: int = Field(default=1, ge=1, le=MAX_QUANTITY)
    group: str = Field(default="", description="key of the group that it lies in")
    out: bool = Field(default=False, description="left out of the design without being deleted")
    note: str = Field(default="", max_length=200, description="what the shop should know of it; it stands on the cut list")

    @property
    def cut_here(self) -> bool:
        """Whether it is cut from a stock of the shop."""
        return getattr(self, "made", "") in CUT_HERE
