"""What screens are told of programs for the cutter."""

from __future__ import annotations

from typing_extensions import TypedDict

__all__ = ["ShownProgram", "ShownProgramCut", "ShownProgramSheet"]


class ShownProgramSheet(TypedDict):
    """A sheet as nested for which there may be a program; ``why`` there is none, '' where there is."""

    stock: str
    name: str
    number: int
    of: int
    pieces: int
    why: str


class ShownProgramCut(TypedDict):
    """A contour of a piece: which of its moves are its own, from ``first`` to before ``last``. ``loose`` where the piece comes off with it."""

    operation: str
    key: str
    copy: int
    part: str
    code: str
    first: int
    last: int
    loose: bool


class ShownProgram(TypedDict):
    """A program to be played: of every move where it ends (``x``, ``y`` mm), its ``bulge`` (tangent of a quarter of its sweep, 0 of what is straight), when it ends
    (``t``, s), what it is (``kind``: 0 rapid, 1 cut, 2 mark, 3 wait) and its ``line``. It begins at 0, 0. ``outline`` is that of an offcut as path data, '' of a whole sheet. ``said`` is what the cutter would have otherwise, ``faults`` what keeps it here."""

    stock: str
    name: str
    number: int
    length: float
    width: float
    outline: str
    kerf: float
    thickness: float
    cutter: str
    seconds: float
    cut: float
    rapid: float
    pierces: int
    x: list[float]
    y: list[float]
    bulge: list[float]
    t: list[float]
    kind: list[int]
    line: list[int]
    cuts: list[ShownProgramCut]
    faults: list[str]
    said: list[str]
