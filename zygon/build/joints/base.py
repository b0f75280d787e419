"""What every joint works with: the contact, both blanks, and a reader for its entries."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from zygon.build.blanks import Blank
from zygon.build.built import Finger
from zygon.build.contact import Contact
from zygon.build.values import EntryScope, Values
from zygon.design.patch import pointer
from zygon.measure.entry import Entry
from zygon.measure.quantity import Kind

__all__ = ["OVERSHOOT", "JointContext", "clean_runs"]

#: Cuts that leave a board at its edge reach this far past it (mm), so that no film stays.
OVERSHOOT = 0.01


@dataclass(frozen=True)
class JointContext:
    """One joint being built."""

    key: str
    #: of the kind's own record type; each joint's module reads its own
    record: Any
    contact: Contact
    a: Blank
    b: Blank
    values: Values

    @property
    def owner(self) -> str:
        """The id that its cuts carry."""
        return f"joint:{self.key}"

    @property
    def title(self) -> str:
        """The joint in words."""
        return f"{self.a.record.name}–{self.b.record.name}"

    def read(self, entry: Entry | None, *path: str, kind: Kind = "length", fallback: float = 0.0) -> float | None:
        """A joint's entry worked out with the stock of part a; None where it is not given or not known."""
        if entry is None:
            return None
        scope = EntryScope(self.values, stock=self.a.record.stock)
        where = pointer("joints", self.key, *path)
        value = self.values.read(entry, where, kind, scope, fallback=fallback, part=self.a.key, owner=self.owner)
        # a broken entry without a last good value counts as not given; that it is broken is said already
        return None if self.values.values[where].stale and where not in self.values.good else value

    def fault(self, field: str, message: str, rule: str, value: str = "", code: str = "joint_value") -> None:
        """Records a fault of one of the joint's entries."""
        where = pointer("joints", self.key, field)
        self.values.fault_entry(where, code, f"{self.title}: {message}", rule, value, part=self.a.key, owner=self.owner)


def clean_runs(fingers: tuple[Finger, ...]) -> tuple[Finger, ...]:
    """Neighbouring stretches of one owner as one."""
    merged: list[Finger] = []
    for f in fingers:
        if merged and merged[-1].owner == f.owner:
            merged[-1] = Finger(merged[-1].low, f.high, f.owner)
        else:
            merged.append(f)
    return tuple(merged)
