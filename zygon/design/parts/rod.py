"""A rod: a length of bar or tube."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, ClassVar, Literal

from pydantic import Field

from zygon.design.parts.listed import Made
from zygon.design.parts.member import EndWork
from zygon.design.parts.placed import Axis, End, PlacedPart, Span, Work, ends_along
from zygon.measure.entry import Entry

__all__ = ["Rod"]


class Rod(PlacedPart):
    """It runs along an axis between two places; ``at`` says where its centre line lies along the two others. Its section is its stock's."""

    kind: Literal["rod"] = "rod"
    cut_from: ClassVar[str] = "bar"
    declines: ClassVar[Mapping[Work, str]] = {
        "joint": "a joint is between parts that lie in a plane; bore a hole for it, which holds what goes through",
        "bore": "a bore goes through parts that lie in a plane",
        "trace": "what is traced lies in a plane",
    }
    made: ClassVar[Made] = "cut"
    price: ClassVar[float] = 0.0
    deep: ClassVar[None] = None
    mass: ClassVar[None] = None
    axis: Axis
    span: Span
    at: dict[Axis, Entry]
    worked: dict[Literal["a", "b"], EndWork] = Field(
        default_factory=dict, description="what is done at its ends: a is the low one along its axis, b the high one"
    )
    wide: Axis | None = Field(
        default=None, description="along which axis the width of its section lies; the first that it does not run along where not said"
    )

    @property
    def width_along(self) -> str:
        """The axis along which the width of its section lies; its height lies along the third."""
        return self.wide or next(a for a in ("x", "y", "z") if a != self.axis)

    def ends(self) -> list[End]:
        """Its two ends, and its centre line along the two other axes."""
        return ends_along(self.axis, self.span, self.at)

    def own_fault(self) -> tuple[str, Any, str] | None:
        """It has a place along each axis that it does not run along."""
        if self.wide == self.axis:
            return "wide", self.wide, f"the section of a rod along {self.axis} lies across it"
        if set(self.at) == {"x", "y", "z"} - {self.axis}:
            return None
        return "at", sorted(self.at), f"a rod along {self.axis} has a place along each of the two other axes"
