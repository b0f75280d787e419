"""What is said to a machine, whatever stands behind it: another machine is another module with a class like this."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, Protocol

__all__ = ["About", "Link", "LinkRefused", "NoWord", "Status"]

State = Literal["unhomed", "idle", "running", "held", "alarm"]


class NoWord(Exception):
    """The machine does not answer: whether it did what it was told is not known."""


class LinkRefused(Exception):
    """The machine does not do it; ``code`` is its own, the message a sentence."""

    def __init__(self, code: str, message: str) -> None:
        super().__init__(message)
        self.code, self.message = code, message


@dataclass(frozen=True)
class About:
    """What a machine is: what it cuts with, its bed in mm (0 for any), and how much faster than in truth a simulated one goes."""

    name: str
    kind: Literal["beam", "bit"]
    bed: tuple[float, float]
    speed: float = 1.0


@dataclass(frozen=True)
class Status:
    """How a machine stands: place in mm, feed in mm/s. ``run`` is what it works on, ``last`` what it worked on last, with how far that came."""

    state: State
    reason: str
    x: float
    y: float
    z: float
    feed: float
    tool: int
    on: bool
    run: str
    seconds: float
    of: float
    last: str
    move: int
    share: float


class Link(Protocol):
    """The line to a machine. Every call raises NoWord where it is not answered, and LinkRefused where the machine says no."""

    def about(self) -> About:
        """What it is."""
        ...

    def status(self) -> Status:
        """How it stands."""
        ...

    def known(self, run: str) -> Literal["no", "begun", "ended"]:
        """How far it ever came with a run."""
        ...

    def load(self, run: str, text: str, waits: str) -> None:
        """Gives it a program; nothing moves yet."""
        ...

    def start(self, run: str) -> None:
        """Begins a run that was loaded; no run is ever begun twice."""
        ...

    def hold(self) -> None:
        """Stands still, to go on."""
        ...

    def resume(self) -> None:
        """Goes on."""
        ...

    def stop(self) -> None:
        """Ends the run where it is."""
        ...

    def home(self) -> None:
        """Finds its zero."""
        ...
