"""Orders of bending and what moves, found beside the answers: an edit waits a moment for them, and what takes longer is filled in when it is found."""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor, wait
from functools import partial
from uuid import UUID

from zygon.brake.bend_plan import find_plans, unknown_plans
from zygon.check.moves import known_move_faults, move_faults
from zygon.errors import StoppedError
from zygon.making.result.built import Built
from zygon.memo import Memo
from zygon.patience import asked_by

__all__ = ["begin", "going_on", "missing", "when_done"]

#: So long an answer waits for the orders, in seconds.
PATIENCE = 0.3

_log = logging.getLogger(__name__)
_POOL = ThreadPoolExecutor(1, "orders")
_LOCK = threading.Lock()
#: By design its search, with what ends it; a newer one ends the older one.
_SEARCHES = Memo(200)


def missing(built: Built) -> list[str]:
    """What is not known yet, in words: the order of bending of a part by its name, and what moves."""
    found = [f"the order of bending of {part.path}" for part, _ in unknown_plans(built)]
    return [*dict.fromkeys(found), *(["what moves"] if known_move_faults(built) is None else [])]


def begin(design: UUID, built: Built) -> None:
    """Looks for what is not known of a design, in place of what was looked for before; returns after PATIENCE at the latest."""
    with _LOCK:
        before = _SEARCHES.known(str(design))
        if before:
            before[1].set()
        if not missing(built):
            return
        stop = threading.Event()
        future = _POOL.submit(_search, built, stop)
        _SEARCHES.put(str(design), (future, stop))
    wait([future], PATIENCE)


def _search(built: Built, stop: threading.Event) -> None:
    try:
        with asked_by(partial(_go_on, stop)):
            move_faults(built)
        find_plans(built, stop.is_set)
    except StoppedError:
        raise
    except Exception:
        _log.exception("an order of bending, or what moves, was not found")
        raise


def _go_on(stop: threading.Event) -> None:
    if stop.is_set():
        raise StoppedError("a newer edit is looked at")


def when_done(design: UUID, then: Callable[[], None]) -> None:
    """Calls ``then`` once the search of a design has come to its end by itself; at once where it has."""
    search = _SEARCHES.known(str(design))
    if search is None:
        return

    def ended(future: Future[None]) -> None:
        if not future.cancelled() and future.exception() is None:
            then()

    search[0].add_done_callback(ended)


def going_on(design: UUID, built: Built) -> bool:
    """Whether something is still being looked for; begun again where another edit, refused since, had ended the search. False too where it failed."""
    if not missing(built):
        return False
    search = _SEARCHES.known(str(design))
    if search is None or search[1].is_set():
        begin(design, built)
        return bool(missing(built))
    return not search[0].done()
