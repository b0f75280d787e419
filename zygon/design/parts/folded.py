"""A part that is bent from one sheet."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from zygon.design.folding import Folding
from zygon.design.parts.plate import PlatePart

__all__ = ["FoldedPart"]


class FoldedPart(PlatePart):
    """A plate with flanges that stand on it; the spans are the outer or the inner sizes, as its folding says."""

    kind: Literal["folded"] = "folded"
    made: Literal["bent", "bought"] = Field(default="bent", description="bought: as a bracket from a shop is")
    price: float = Field(default=0.0, ge=0, description="of one, where it is bought")
    folding: Folding
    deep: ClassVar[None] = None
    mass: ClassVar[None] = None
    solid: ClassVar[None] = None
