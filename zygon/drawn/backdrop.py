"""Record of a picture that lies behind a drawing, to be traced: where it lies, how large a pixel of it is, and how much of it is seen."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from zygon.limits import FARTHEST, MAX_PICTURE
from zygon.measure.entry import Record

__all__ = ["Backdrop"]

Pixels = Annotated[int, Field(ge=1, le=MAX_PICTURE)]
Margin = Annotated[float, Field(ge=0, le=MAX_PICTURE)]


class Backdrop(Record):
    """A picture behind a drawing. Its low left corner lies at ``at`` (mm in the plane), from where it is turned counter-clockwise.

    The picture itself is kept beside the design under its digest; ``crop`` is what is hidden at its left, low, right and high side, in pixels.
    """

    picture: str = Field(pattern=r"^[0-9a-f]{64}$", description="SHA-256 of the picture's file, in hexadecimal")
    name: str = Field(default="", max_length=120, description="of the file that it came from")
    wide: Pixels
    high: Pixels
    at: Annotated[list[Annotated[float, Field(ge=-FARTHEST, le=FARTHEST)]], Field(min_length=2, max_length=2)] = [0.0, 0.0]
    scale: float = Field(gt=0, le=1000, description="mm that a pixel is wide")
    turned: float = Field(default=0.0, ge=-360, le=360, description="degrees")
    crop: Annotated[list[Margin], Field(min_length=4, max_length=4)] | None = None
    strength: float = Field(default=0.6, ge=0.05, le=1, description="1 is as strong as the picture is")
    locked: bool = Field(default=False, description="it cannot be moved")
    hidden: bool = False
