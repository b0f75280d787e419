"""Whether the application runs on this folder: its supervisor holds a lock there for as long as it lives."""

from __future__ import annotations

import fcntl
from collections.abc import Iterator
from contextlib import contextmanager

from zygon_server.local import VAR

__all__ = ["RunsAlreadyError", "alone"]

_LOCK = "running"


class RunsAlreadyError(Exception):
    """The application runs on this folder."""


@contextmanager
def alone() -> Iterator[None]:
    """Holds the lock; RunsAlreadyError where another process does. The system lets go of it with the process, however that ends."""
    VAR.mkdir(parents=True, exist_ok=True)
    with open(VAR / _LOCK, "w") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise RunsAlreadyError(f"Zygon runs on {VAR}; stop it first.") from None
        yield
