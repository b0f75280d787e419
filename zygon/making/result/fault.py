"""What is found wrong while a design is made, and the obvious ways out."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

__all__ = ["Fault", "Mend"]


@dataclass(frozen=True)
class Mend:
    """The obvious way out, as one edit with a label."""

    label: str
    patch: list[dict[str, Any]]


@dataclass(frozen=True)
class Fault:
    """A problem as it is found: what is broken, where, the measured value and the rule. Becomes a problem with an id in check."""

    code: str
    message: str
    rule: str
    value: str = ""
    source: str = ""
    severity: Literal["error", "warning"] = "error"
    part: str = ""
    other: str = ""
    owner: str = ""
    entry: str = ""
    at: tuple[float, float] | None = None
    mends: tuple[Mend, ...] = ()
    #: the name that an entry wants and that stands for nothing
    lost: str = ""
    #: what was measured, in mm, where less is worse: of like faults the worst is told
    measure: float | None = None
