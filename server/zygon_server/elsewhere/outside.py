"""What is said to an outside cutter, whoever it is: another one is another module with a class like this."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, Protocol

from zygon.exchange.elsewhere import OutsideItem, Wanted

__all__ = ["OutsideCutter", "OutsideRefused", "Quote"]

Progress = Literal["cutting", "sent"]


class OutsideRefused(Exception):
    """It does not do that; the message is a sentence with the part and the rule."""


@dataclass(frozen=True)
class Quote:
    """A price, and in how many days it would be sent."""

    price: float
    currency: str
    days: int


class OutsideCutter(Protocol):
    """An outside cutter."""

    @property
    def wants(self) -> Wanted:
        """How it wants its drawings."""
        ...

    @property
    def cuts(self) -> str:
        """What it cuts, in words."""
        ...

    def quote(self, items: Sequence[OutsideItem]) -> Quote:
        """What it would take. Raises OutsideRefused for what it does not cut."""
        ...

    def order(self, ours: str, items: Sequence[OutsideItem], files: bytes) -> str:
        """Orders; its own reference. Told the same order (``ours``) again it gives the same one, and cuts nothing twice."""
        ...

    def progress(self, reference: str) -> Progress:
        """How far an order is."""
        ...
