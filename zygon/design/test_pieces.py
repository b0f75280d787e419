"""Records of test pieces: which parts they are, what they were made for, and with which kerf they are cut."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from zygon.measure.asked import asked
from zygon.measure.entry import Record

__all__ = ["READINGS", "BendReading", "BendTest", "CombTest", "KerfReading", "KerfTest", "RoundCombTest", "TestPiece"]


class _Test(Record):
    stock: str
    cutter: str
    parts: list[str] = Field(max_length=10, description="part keys")
    kerf: float = Field(ge=0, description="mm, when the piece was made")


class CombTest(_Test):
    """A comb with a slot for each clearance (mm, slot minus thickness)."""

    kind: Literal["comb"] = "comb"
    clearances: list[float] = Field(min_length=2, max_length=20)


class RoundCombTest(_Test):
    """A comb with a round hole for each clearance (mm, hole minus shaft) of a shaft, a bar by its key."""

    kind: Literal["round_comb"] = "round_comb"
    shaft: str
    clearances: list[float] = Field(min_length=2, max_length=20)


class KerfTest(_Test):
    """A row of squares in a frame whose window is drawn ``play`` mm longer than the row."""

    kind: Literal["kerf"] = "kerf"
    squares: int = Field(ge=2, le=40)
    side: float = Field(gt=0, description="mm")
    play: float = Field(ge=0, description="mm")


class BendTest(_Test):
    """A strip that is bent in its middle; mm, and the angle of bend in degrees."""

    kind: Literal["bend"] = "bend"
    length: float = Field(gt=0, description="of the strip, flat")
    radius: float = Field(ge=0, description="inside, as the tool gives it")
    angle: float = Field(gt=0, lt=180)


class KerfReading(Record):
    """What is measured of the row of squares."""

    title: ClassVar[str] = "Set the kerf"
    slack: float = asked("Gap measured", suffix="mm", note="between the last square and the frame, the others pushed together")


class BendReading(Record):
    """What is measured of a strip once it is bent; the radius where it is not the one that the strip was made for."""

    title: ClassVar[str] = "Set K"
    first: float = asked("First leg", suffix="mm")
    second: float = asked("Second leg", suffix="mm")
    radius: float | None = asked("Inside radius", None, suffix="mm")


#: Readings by the kind of their test piece.
READINGS: dict[str, type[KerfReading | BendReading]] = {"kerf": KerfReading, "bend": BendReading}

TestPiece = Annotated[CombTest | RoundCombTest | KerfTest | BendTest, Field(discriminator="kind")]
