"""The bend table: a row a bend, in the order in which they hang on one another, outermost last."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from typing_extensions import TypedDict

from zygon.making.result.fold import Fold
from zygon.stock.allowance import Bend

__all__ = ["BendRow", "bend_rows"]


class BendRow(TypedDict):
    """A bend of the table as a screen and a file tell it, ``key`` its leg's; lengths in mm, ``angle`` in degrees of bend. ``owner`` is the bend's id, ``line`` its middle line on the flat."""

    number: int
    key: str
    owner: str
    direction: Literal["up", "down"]
    angle: float
    radius: float
    k: float
    allowance: float
    deduction: float
    refers_to: str
    length: float
    line: Sequence[float]


def bend_rows(fold: Fold, numbers: Sequence[int] = ()) -> list[BendRow]:
    """The rows of a fold as its flat is seen: 'up' is towards who looks at it. ``numbers`` are those of the steps that make the bends, if they are known."""
    found = []
    for i, b in enumerate(fold.bends):
        n = numbers[i] if numbers else i + 1
        bend = Bend(b.thickness, b.radius, abs(b.angle), b.k)
        (x0, y0), (x1, y1) = b.middle
        found.append(
            BendRow(
                number=n,
                key=b.key,
                owner=b.owner,
                direction="up" if b.angle > 0 else "down",
                angle=math.degrees(abs(b.angle)),
                radius=b.radius,
                k=b.k,
                allowance=bend.allowance,
                deduction=bend.deduction,
                refers_to=bend.refers_to,
                length=math.dist(b.start, b.end),
                line=(x0, y0, x1, y1),
            )
        )
    return found
