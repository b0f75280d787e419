"""Sheets of the examples for the tests of papers, each made once a process."""

from __future__ import annotations

from functools import lru_cache

from zygon.design.examples import EXAMPLES, example
from zygon.making.pipeline import build
from zygon.making.result.built import Built
from zygon.memo import Memo
from zygon.paper.compose import make
from zygon.paper.hidden import Asked, Seen, look_at
from zygon.paper.ink import Paper
from zygon.paper.subjects import subjects

_SEEN = Memo(500)
#: Perforated all over, and looked at for half a minute: its flat stands for it.
SLOW = {"vent-plate"}
NAMES = sorted(set(EXAMPLES) - SLOW)


def seen(asked: Asked) -> Seen:
    """What is seen, remembered."""
    return _SEEN.get(asked.digest, lambda: look_at(asked))[0]


@lru_cache(maxsize=40)
def built_example(name: str) -> Built:
    return build(example(name))


def pages(built: Built, subject: str) -> list[Paper]:
    """The pages of a sheet."""
    one = next(s for s in subjects(built, out=True) if s.id == subject)
    return make(built, one, seen, "1 of 9")


@lru_cache(maxsize=40)
def every_page(name: str) -> tuple[Paper, ...]:
    """All pages of an example."""
    built = built_example(name)
    return tuple(p for s in subjects(built) for p in make(built, s, seen, "1 of 9"))
