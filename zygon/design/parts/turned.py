"""A turned part: a half-profile of steps, or one that is drawn, round an axis, with bores, flats and cross holes; turned, printed or bought."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, ClassVar, Literal

from pydantic import Field

from zygon.design.parts.listed import Key
from zygon.design.parts.placed import Axis, End, PlacedPart, Span, Work, ends_along
from zygon.drawn.drawing import Drawing
from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record

__all__ = ["MAX_STEPS", "CrossHole", "TurnedBore", "TurnedFlat", "TurnedPart", "TurnedStep"]

MAX_STEPS = 60


class TurnedStep(Record):
    """A length of one diameter, or a taper; the one without a length takes what is left."""

    title: ClassVar[str] = "Step"

    order: int = 0
    across: Entry = asked("Diameter", begin="12 mm", place=1)
    to: Entry | None = asked("Tapers to", None, note="diameter at its far end", blank="straight", place=2)
    length: Entry | None = asked("Long", None, blank="what is left", place=3)
    chamfer: Entry | None = asked("Chamfer", None, note="45°, at its edges that stand out", blank="none", place=4)
    round: Entry | None = asked("Rounded", None, note="radius, at its edges that stand out", blank="sharp", place=5)
    teeth: int = asked("Serrations", 0, note="V-grooves along it, evenly round", suffix="", step=6, place=6, ge=0, le=200)
    tooth: Entry = asked("Serrations are deep", Entry(text="0.5 mm"), place=7)


class TurnedBore(Record):
    """A hole along the axis, from an end or all through."""

    title: ClassVar[str] = "Bore along it"

    order: int = 0
    shape: Literal["round", "square", "hexagon"] = asked(
        "Bore", "round", words={"round": "round", "square": "square", "hexagon": "hexagon"}, place=1
    )
    across: Entry = asked("Across", begin="6 mm", note="diameter, side, or size across flats", place=2)
    deep: Entry | None = asked("Deep", None, blank="all through", place=3)
    end: Literal["a", "b"] = asked("From end", "a", words={"a": "A", "b": "B"}, place=4)


class TurnedFlat(Record):
    """Flats along it, evenly round."""

    title: ClassVar[str] = "Flats"

    order: int = 0
    off: Entry = asked("From the axis", begin="5 mm", note="how far each lies from it", place=1)
    begins: Entry = asked("Begins at", Entry(text="0"), note="from end A", place=2)
    length: Entry = asked("Long", begin="10 mm", place=3)
    number: int = asked("How many", 2, suffix="", place=4, ge=1, le=12)
    around: Entry = asked("Round it", Entry(text="0"), kind="angle", note="where the first looks", place=5)


class CrossHole(Record):
    """A round hole square to the axis, through one side or both."""

    title: ClassVar[str] = "Cross hole"

    order: int = 0
    off: Entry = asked("At", begin="5 mm", note="from end A", place=1)
    across: Entry = asked("Diameter", begin="3 mm", place=2)
    around: Entry = asked("Round it", Entry(text="0"), kind="angle", place=3)
    walls: Literal["one", "both"] = asked("Goes through", "both", words={"one": "one side", "both": "both sides"}, place=4)


class TurnedPart(PlacedPart):
    """It runs along an axis between two places, from end A (low) to B (high); ``at`` says where its axis lies along the two others."""

    kind: Literal["turned"] = "turned"
    cut_from: ClassVar[str] = "bar"
    declines: ClassVar[Mapping[Work, str]] = {
        "joint": "a joint is between parts that lie in a plane",
        "bore": "a turned part has bores and cross holes of its own",
        "trace": "what is traced lies in a plane",
    }
    stock: str = Field(default="", description="what it is turned from, where it is one of the bars")
    made: Literal["turned", "printed", "bought"] = "turned"
    price: float = Field(default=0.0, ge=0, description="of one")
    mass: float | None = Field(default=None, ge=0, description="in g; from its stock's density where not said")
    deep: Entry = Field(description="the largest diameter, of what it is turned from")
    axis: Axis
    span: Span
    at: dict[Axis, Entry]
    steps: dict[Key, TurnedStep] = Field(default_factory=dict, max_length=MAX_STEPS, description="its half-profile, where none is drawn")
    drawing: Drawing | None = Field(
        default=None,
        description="its half-profile drawn freely, in a plane through its axis: a line from axis to axis, or closed and clear of it",
    )
    bores: dict[Key, TurnedBore] = Field(default_factory=dict, max_length=12)
    flats: dict[Key, TurnedFlat] = Field(default_factory=dict, max_length=12)
    cross: dict[Key, CrossHole] = Field(default_factory=dict, max_length=24)
    riveted: dict[Literal["a", "b"], Entry] = Field(
        default_factory=dict, description="how much of an end is riveted over once it is in its place; it is drawn as it is turned"
    )

    def ends(self) -> list[End]:
        """Its two ends, and its axis along the two other axes."""
        return ends_along(self.axis, self.span, self.at)

    def own_fault(self) -> tuple[str, Any, str] | None:
        """It has a place along each axis that it does not run along, and one step at most without a length."""
        if set(self.at) != {"x", "y", "z"} - {self.axis}:
            return "at", sorted(self.at), f"a turned part along {self.axis} has a place along each of the two other axes"
        if bool(self.steps) == (self.drawing is not None):
            return "steps", len(self.steps), "a turned part has steps, or its half-profile is drawn"
        if sum(s.length is None for s in self.steps.values()) > 1:
            return "steps", len(self.steps), "one step at most takes what is left"
        return None
