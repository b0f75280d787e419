"""The core's errors, each knowing the entry, the value and the rule it is about.

::

    ZygonError
    ├── ExpressionError      an entry that cannot be read or worked out (carries the position)
    ├── DocumentError        a document that breaks its schema, its limits or a reference
    ├── PatchError           an edit that cannot be applied
    ├── ImportFileError      a file from outside that cannot be read
    ├── NestError            a nesting request that makes no sense
    ├── MemberError          a tube's end or a bent bar that cannot be made
    └── UnprintableError     a text with a character that cannot be seen (zygon.design.text)

Problems *of a design* (a thin web, a part too large) are data, never exceptions: see ``zygon.check``.
"""

from __future__ import annotations

from collections.abc import Sequence

__all__ = ["DocumentError", "ExpressionError", "ImportFileError", "MemberError", "NestError", "PatchError", "StoppedError", "ZygonError"]


class ZygonError(Exception):
    """Base of the core's errors: ``code`` is stable, ``message`` is a sentence for a maker."""

    code = "error"

    def __init__(self, message: str, *, entry: str = "", value: object = None, rule: str = "", code: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.entry = entry
        self.value = value
        self.rule = rule
        if code:
            self.code = code

    def as_dict(self) -> dict[str, object]:
        """The error as plain data: code, message, entry, value, rule."""
        return {
            "code": self.code,
            "message": self.message,
            "entry": self.entry,
            "value": self.value,
            "rule": self.rule,
        }


class ExpressionError(ZygonError):
    """An entry that cannot be read or worked out; ``start`` and ``end`` are offsets into ``text``.

    ``readings`` are the entry written out in each way that it could be meant; ``lost`` is the name that stands for nothing.
    """

    code = "broken_expression"

    def __init__(
        self, reason: str, text: str, start: int = 0, end: int | None = None, readings: Sequence[str] = (), lost: str = ""
    ) -> None:
        super().__init__(f"{text}: {reason}", entry=text, value=text[start:end], rule=reason)
        self.reason = reason
        self.text = text
        self.start = start
        self.readings = tuple(readings)
        self.lost = lost
        self.end = len(text) if end is None else end

    def as_dict(self) -> dict[str, object]:
        """As the base, with ``start`` and ``end``, and ``readings`` where it could be read in more than one way."""
        return {**super().as_dict(), "start": self.start, "end": self.end, **({"readings": list(self.readings)} if self.readings else {})}


class DocumentError(ZygonError):
    """A document that breaks its schema, its limits or a reference between its records."""

    code = "bad_document"


class PatchError(ZygonError):
    """An edit that cannot be applied to the document it is meant for."""

    code = "bad_patch"


class ImportFileError(ZygonError):
    """A file from outside that cannot be read as outlines."""

    code = "bad_file"


class StoppedError(Exception):
    """A search that nobody asks for any more; never shown to a maker."""


class MemberError(ZygonError):
    """A tube's end or a bent bar that cannot be made."""

    code = "impossible_member"


class NestError(ZygonError):
    """A nesting request that makes no sense (an impossible sheet, a negative gap)."""

    code = "bad_nest"
