"""A bounded memory of results by the hash of what they were made from; nothing depends on it for being right."""

from __future__ import annotations

import hashlib
import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Any, TypeVar

from zygon import KERNEL
from zygon.patience import still_wanted

__all__ = ["Memo", "digest", "keeps_words"]

T = TypeVar("T")


def digest(*parts: Any) -> str:
    """A hash of plain values (numbers, strings, tuples, frozen records of such) and of the kernel's version."""
    return hashlib.blake2b(repr((KERNEL, parts)).encode(), digest_size=16).hexdigest()


def keeps_words(record: type[T]) -> type[T]:
    """A frozen record that is written out once: what is made from it is told apart by its words again and again."""
    written = record.__repr__

    def words(self: Any) -> str:
        kept = self.__dict__
        if "_words" not in kept:
            kept["_words"] = written(self)
        return str(kept["_words"])

    record.__repr__ = words  # type: ignore[method-assign]
    return record


class Memo:
    """Least recently used results; safe for threads."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._kept: OrderedDict[str, Any] = OrderedDict()
        self._lock = threading.Lock()

    def put(self, key: str, made: Any) -> None:
        """Keeps a result that was made elsewhere."""
        with self._lock:
            self._kept[key] = made
            self._kept.move_to_end(key)
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)

    def known(self, key: str) -> Any:
        """The result under ``key``; None where it is not kept."""
        with self._lock:
            return self._kept.get(key)

    def get(self, key: str, make: Callable[[], T]) -> tuple[T, bool]:
        """The result under ``key``, made where it is not kept; and whether it was made now."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key], False
        still_wanted()
        made = make()
        with self._lock:
            self._kept[key] = made
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)
        return made, True
