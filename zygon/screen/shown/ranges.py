"""A range test as it is shown."""

from __future__ import annotations

from typing_extensions import TypedDict

__all__ = ["ShownBreak", "ShownEntry", "ShownPairBreak", "ShownRange", "ShownRangeTest"]


class ShownEntry(TypedDict):
    """A value as it would be typed."""

    text: str
    unit: str


class ShownBreak(TypedDict):
    """Where a size breaks something one way: ``at`` as it is shown and as an ``entry``, and what: the first of so many ``errors``."""

    at: str
    entry: ShownEntry
    words: str
    message: str
    code: str
    part: str
    errors: int


class ShownRange(TypedDict):
    """A size over its range. ``low`` and ``high`` are how far it is good, ``offer`` the same as entries where that is not its own range; ``wrong`` why it was not tried."""

    key: str
    name: str
    wrong: str
    whole: bool
    words: str
    low: str
    high: str
    below: ShownBreak | None
    above: ShownBreak | None
    offer: list[ShownEntry]


class ShownPairBreak(TypedDict):
    """Two sizes that break together what neither does alone."""

    keys: list[str]
    at: list[str]
    words: str
    message: str
    code: str
    part: str
    errors: int


class ShownRangeTest(TypedDict):
    """What was found so far; ``done`` of ``total`` walks, at so many places ``tried``."""

    sizes: list[ShownRange]
    pairs: list[ShownPairBreak]
    tried: int
    done: int
    total: int
    words: str
