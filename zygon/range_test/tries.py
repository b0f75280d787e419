"""A design tried with other values of its sizes: whether it has errors that it has not as it stands. What was tried is kept, so that a test can be stopped and gone on with."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from pydantic import BaseModel, ConfigDict

from zygon.check.problem import Problem
from zygon.check.run import check
from zygon.design.document import Document
from zygon.errors import ZygonError
from zygon.making.pipeline import build
from zygon.measure.entry import Entry
from zygon.range_test.figures import plain_entry

__all__ = ["Broken", "Stopped", "Tries", "with_sizes"]


class Broken(BaseModel):
    """What is wrong with a design at other values: the first error that it has not as it stands."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    code: str
    message: str
    part: str = ""
    #: how many such errors there are
    errors: int = 1


class Stopped(Exception):
    """There is no time left for another try; what was tried so far is kept."""


@dataclass
class Tries:
    """Tries of one design. ``known`` are those that were made, by ``name_of`` their values; ``wanted`` is asked before each further one, and False stops."""

    document: Document
    known: dict[str, Broken | None] = field(default_factory=dict)
    wanted: Callable[[], bool] = lambda: True
    _as_it_stands: frozenset[str] | None = None

    def at(self, values: Mapping[str, float]) -> Broken | None:
        """What breaks at ``values`` of sizes by key (mm, radians or plain), None where nothing does. Raises Stopped."""
        name = name_of(values)
        if name not in self.known:
            if not self.wanted():
                raise Stopped
            self.known[name] = self._tried(values)
        return self.known[name]

    def _tried(self, values: Mapping[str, float]) -> Broken | None:
        if self._as_it_stands is None:
            self._as_it_stands = frozenset(p.id for p in check(build(self.document)))
        try:
            problems = check(build(with_sizes(self.document, values)))
        except ZygonError as error:
            return Broken(code=error.code, message=error.message)
        new = [p for p in problems if _counts(p) and p.id not in self._as_it_stands]
        if not new:
            return None
        fault = new[0].fault
        return Broken(code=fault.code, message=fault.message, part=fault.part, errors=len(new))


def _counts(problem: Problem) -> bool:
    return problem.fault.severity == "error" and problem.open


def name_of(values: Mapping[str, float]) -> str:
    """The name of a try: its values to a nanometre, in the order of their keys."""
    return ";".join(f"{key}={values[key]:.9g}" for key in sorted(values))


def with_sizes(document: Document, values: Mapping[str, float]) -> Document:
    """The design with sizes set to values by key (mm, radians or plain), also those that are reckoned."""
    sizes = dict(document.sizes)
    for key, value in values.items():
        entry = Entry(text=plain_entry(value, sizes[key].kind, document.unit), unit=document.unit)
        sizes[key] = sizes[key].model_copy(update={"entry": entry, "measured": None})
    return document.model_copy(update={"sizes": sizes})
