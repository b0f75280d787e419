"""The steps that bend a part as a screen tells them; lengths in mm, force in kN."""

from __future__ import annotations

from typing_extensions import TypedDict


class ShownBendStep(TypedDict):
    """A step on the press brake: the bends that it makes, the back-gauge from the bend line in mm, tools, force in kN, what it runs into."""

    number: int
    keys: list[str]
    owners: list[str]
    gauge: float | None
    against: str
    length: float
    force: float
    tool: str
    radius: float | None
    handling: str
    collides: list[str]
