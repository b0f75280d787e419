"""What a text may hold: letters in one form (Unicode's NFC), and nothing that cannot be seen, which would break a file, a table or a name into two."""

from __future__ import annotations

import re
import unicodedata
from typing import Any

from zygon.errors import ZygonError

__all__ = ["UnprintableError", "cleaned", "printable"]

#: Control characters, the two separators that some programs take for line ends, marks that turn the direction of writing, and halves of characters.
_UNSEEN = re.compile("[\x00-\x1f\x7f-\x9f\u2028\u2029\u202a-\u202e\u2066-\u2069\ufeff\ud800-\udfff]")
#: Notes have lines, and so has what a controller wants before and after a program.
_IN_NOTES = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\u2028\u2029\u202a-\u202e\u2066-\u2069\ufeff\ud800-\udfff]")
_HALVES = re.compile("[\ud800-\udfff]")
#: Fields of several lines.
_NOTES = ("note", "header", "footer")


class UnprintableError(ZygonError):
    """A text with a character that cannot be seen."""

    code = "bad_text"


def printable(value: Any, entry: str = "", secrets: tuple[str, ...] = ()) -> Any:
    """Plain data with all its texts in one form; ``entry`` is where it stands, as a JSON pointer. What stands in ``secrets`` is taken as it was typed.

    Raises UnprintableError that names the entry and the character.
    """
    if isinstance(value, str):
        return _text(value, entry, secrets)
    if isinstance(value, dict):
        # What an operation of a patch writes is held to the rule of the place it writes to.
        written = str(value["path"]).rsplit("/", 1)[-1] if isinstance(value.get("path"), str) and "op" in value else ""
        return {
            _text(k, entry): _text(v, f"{entry}/{k}", secrets, written)
            if k == "value" and isinstance(v, str)
            else printable(v, f"{entry}/{k}", secrets)
            for k, v in value.items()
        }
    if isinstance(value, list):
        return [printable(v, f"{entry}/{n}", secrets) for n, v in enumerate(value)]
    return value


def cleaned(value: Any) -> Any:
    """Plain data as it was kept before texts were looked at, without what cannot be seen; as it is where there is nothing."""
    if isinstance(value, str):
        return _IN_NOTES.sub(" ", value)
    if isinstance(value, dict):
        return {k: _line(v) if isinstance(v, str) and k not in _NOTES else cleaned(v) for k, v in value.items()}
    if isinstance(value, list):
        return [cleaned(v) for v in value]
    return value


def _line(value: str) -> str:
    return _UNSEEN.sub(" ", value)


def _text(value: str, entry: str, secrets: tuple[str, ...] = (), field: str = "") -> str:
    field = field or entry.rsplit("/", 1)[-1]
    found = (_HALVES if field in secrets else _IN_NOTES if field in _NOTES else _UNSEEN).search(value)
    if found:
        name = _name(found[0])
        raise UnprintableError(
            f"{entry or 'A text'}: {name} cannot be part of it (after {value[: found.start()][-20:]!r})",
            entry=entry,
            value=f"U+{ord(found[0]):04X}",
            rule="characters that can be seen",
        )
    return value if field in secrets or value.isascii() else unicodedata.normalize("NFC", value)


def _name(char: str) -> str:
    """What a character that is not seen is called."""
    usual = {"\n": "a line break", "\r": "a line break", "\t": "a tab", "\u2028": "a line break", "\u2029": "a line break"}
    return usual.get(char) or ("half a character" if "\ud800" <= char <= "\udfff" else f"the control character U+{ord(char):04X}")
