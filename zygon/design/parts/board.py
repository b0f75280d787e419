"""A board, cut flat from sheet."""

from __future__ import annotations

from typing import ClassVar, Literal

from zygon.design.parts.listed import Made
from zygon.design.parts.plate import PlatePart

__all__ = ["Board"]


class Board(PlatePart):
    """A part cut from sheet that stays flat."""

    kind: Literal["board"] = "board"
    made: ClassVar[Made] = "cut"
    price: ClassVar[float] = 0.0
    folding: ClassVar[None] = None
    deep: ClassVar[None] = None
    mass: ClassVar[None] = None
    solid: ClassVar[None] = None
