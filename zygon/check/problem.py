"""A problem as it is shown: a fault with an id, and whether it is knowingly kept."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

from zygon.design.document import Document, Kept
from zygon.making.result.fault import Fault

__all__ = ["Problem", "as_problems"]


@dataclass(frozen=True)
class Problem:
    """A fault under a stable id. ``kept`` is there while its value and rule are those that were accepted; ``reopened`` once they changed."""

    id: str
    fault: Fault
    kept: Kept | None = None
    reopened: bool = False

    @property
    def open(self) -> bool:
        """Whether it still asks for something."""
        return self.kept is None


def as_problems(document: Document, faults: list[Fault]) -> list[Problem]:
    """Faults as problems, errors first; ids rest on what and where, not on the value."""
    found: dict[str, Problem] = {}
    for fault in faults:
        base = "|".join((fault.code, fault.part, fault.other, fault.owner, fault.entry))
        problem_id = hashlib.blake2b(base.encode(), digest_size=6).hexdigest()
        n = 2
        while problem_id in found:
            problem_id = f"{hashlib.blake2b(base.encode(), digest_size=6).hexdigest()}-{n}"
            n += 1
        kept = document.kept.get(problem_id)
        holds = kept is not None and kept.value == fault.value and kept.rule == fault.rule
        found[problem_id] = Problem(problem_id, fault, kept if holds else None, kept is not None and not holds)
    return sorted(found.values(), key=lambda p: (not p.open, p.fault.severity != "error"))
