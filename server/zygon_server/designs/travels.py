"""How far things go, looked for beside the answers: an answer waits a moment for it, and tells how much of it is done where it takes longer."""

from __future__ import annotations

import logging
import threading
from concurrent.futures import Future, ThreadPoolExecutor, wait
from dataclasses import dataclass, field
from functools import partial
from uuid import UUID

from zygon.errors import StoppedError
from zygon.making.result.built import Built
from zygon.memo import Memo
from zygon.patience import asked_by
from zygon.screen.moves import travel_data
from zygon.screen.shown.moves import ShownTravel

__all__ = ["Looked", "look"]

#: So long an answer waits, in seconds.
PATIENCE = 0.6

_log = logging.getLogger(__name__)
_POOL = ThreadPoolExecutor(1, "travels")
_LOCK = threading.Lock()
#: By design its searches of one revision, with what ends them; a newer revision ends those of the older one.
_SEARCHES = Memo(200)


@dataclass
class _Searches:
    revision: int
    stop: threading.Event = field(default_factory=threading.Event)
    by: dict[str, Future[ShownTravel]] = field(default_factory=dict)
    share: dict[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class Looked:
    """How far a movement goes, or None while it is looked for; ``share`` of the search is done."""

    travel: ShownTravel | None
    share: float


def look(design: UUID, revision: int, built: Built, key: str) -> Looked:
    """How far a movement of a design goes, as far as it is known after PATIENCE. Raises KeyError where there is no such movement."""
    with _LOCK:
        own: _Searches | None = _SEARCHES.known(str(design))
        if own is None or own.revision != revision:
            if own is not None:
                own.stop.set()
            own = _Searches(revision)
            _SEARCHES.put(str(design), own)
        future = own.by.get(key)
        if future is None or (future.done() and future.exception() is not None):
            future = own.by[key] = _POOL.submit(_search, built, key, own)
    wait([future], PATIENCE)
    # one that a newer edit has ended is asked for again
    ended = future.done() and not isinstance(future.exception(), StoppedError)
    return Looked(future.result(), 1.0) if ended else Looked(None, own.share.get(key, 0.0))


def _search(built: Built, key: str, own: _Searches) -> ShownTravel:
    def told(share: float) -> None:
        own.share[key] = share

    try:
        with asked_by(partial(_go_on, own.stop)):
            return travel_data(built, key, told)
    except (StoppedError, KeyError):
        raise
    except Exception:
        _log.exception("how far a thing goes was not found")
        raise


def _go_on(stop: threading.Event) -> None:
    if stop.is_set():
        raise StoppedError("a newer edit is looked at")
