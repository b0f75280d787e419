"""Records of test pieces: which parts they are, what they were made for, and with which kerf they are cut."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from zygon.measure.entry import Record

__all__ = ["CombTest", "KerfTest", "TestPiece"]


class _Test(Record):
    stock: str
    cutter: str
    parts: list[str] = Field(max_length=10, description="part keys")
    kerf: float = Field(ge=0, description="mm, when the piece was made")


class CombTest(_Test):
    """A comb with a slot for each clearance (mm, slot minus thickness)."""

    kind: Literal["comb"] = "comb"
    clearances: list[float] = Field(min_length=2, max_length=20)


class KerfTest(_Test):
    """A row of squares in a frame whose window is drawn ``play`` mm longer than the row."""

    kind: Literal["kerf"] = "kerf"
    squares: int = Field(ge=2, le=40)
    side: float = Field(gt=0, description="mm")
    play: float = Field(ge=0, description="mm")


TestPiece = Annotated[CombTest | KerfTest, Field(discriminator="kind")]
