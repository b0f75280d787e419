"""Sets and what is bought, as a screen is told of them. Lengths in mm, masses in g."""

from __future__ import annotations

from collections.abc import Sequence

from typing_extensions import TypedDict


class ShownSetPiece(TypedDict):
    """One piece of hardware: what it is called, its solid as a resource."""

    name: str
    standard: str
    solid: str


class ShownSetPlace(TypedDict):
    """A set in one place: the parts that it holds, head first, the place under its head, and of each piece the rows (3, 4) of the matrix that takes its solid to the room."""

    parts: Sequence[str]
    at: Sequence[float]
    way: Sequence[float]
    matrices: list[list[float]]


class ShownSet(TypedDict):
    """The set of a bore. Places on one axis that touch may have a longer screw, so that each says its own pieces; ``needed`` is the least length that does,
    ``holes`` how wide the holes in its parts are by the part's key."""

    bore: str
    words: str
    needed: float | None
    length: float | None
    engaged: float
    holes: dict[str, float]
    pieces: list[list[ShownSetPiece]]
    places: list[ShownSetPlace]


class ShownFitted(TypedDict):
    """A piece of hardware on a part, as a ring in its groove: the rows (3, 4) of the matrix that takes its solid to the room."""

    part: str
    name: str
    standard: str
    solid: str
    matrix: list[float]


class ShownBuy(TypedDict):
    """A line of what is bought, ``quantity`` with what is spare; price and mass of one, ``total`` the price of all, null where not known."""

    name: str
    standard: str
    designation: str
    needed: int
    spare: int
    quantity: int
    price: float | None
    total: float | None
    mass: float | None
    owners: Sequence[str]
