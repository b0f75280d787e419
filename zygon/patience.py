"""Whether work is still wanted, asked between its pieces: what nobody waits for any more ends early, and what takes too long ends at all."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

__all__ = ["GivenUp", "asked_by", "still_wanted"]

_ASK: ContextVar[Callable[[], None] | None] = ContextVar("ask", default=None)


class GivenUp(Exception):
    """Work that is not wanted any more; whoever asked it to be given up says why."""


def still_wanted() -> None:
    """Called between two pieces of work. Raises what ``asked_by`` was given raises; does nothing where nobody asks."""
    ask = _ASK.get()
    if ask is not None:
        ask()


@contextmanager
def asked_by(ask: Callable[[], None]) -> Iterator[None]:
    """While this stands, ``ask`` is called between the pieces of this thread's work, and may raise GivenUp."""
    token = _ASK.set(ask)
    try:
        yield
    finally:
        _ASK.reset(token)
