"""How a field of a record is asked for on a screen: its label, what it means, what a draft begins with, the words of its choices."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field
from pydantic.config import JsonDict
from pydantic.fields import FieldInfo

from zygon.measure.quantity import Kind

__all__ = ["ASKED", "COLOUR", "Among", "asked", "asked_for"]

#: What a field is chosen among that only the part at hand can say: its edges, its corners, the two ways across it, the halves it has, the
#: lines of its outline.
Among = Literal["", "edge", "corner", "way", "halves", "outline"]

#: What a text that is a colour looks like.
COLOUR = "^#[0-9A-Fa-f]{6}$"

#: Under which a field keeps it, beside what a JSON Schema says.
ASKED = "asked"


def asked(
    title: str,
    default: Any = ...,
    *,
    note: str = "",
    kind: Kind = "length",
    begin: str = "",
    small: str = "",
    blank: str = "",
    words: dict[str, str] | None = None,
    among: Among = "",
    only: dict[str, tuple[str, ...]] | None = None,
    labels: dict[str, str] | None = None,
    cutter: str = "",
    along: str = "",
    section: str = "",
    place: int = 0,
    suffix: str = "",
    zero: str = "",
    step: float = 1.0,
    least: float | None = None,
    brings: dict[str, dict[str, bool | str]] | None = None,
    **rules: Any,
) -> Any:
    """A field with its label. ``begin`` is what a draft starts with where the record has no default (``small`` on a flange), ``blank`` what
    stands in the field while nothing is typed, ``words`` the labels of choices. It is shown only while each of the fields of ``only`` has one of
    the values given there, and on cutters of the kind ``cutter``; ``labels`` are its labels by the value of the first of those. ``along`` names
    the field that says its axis. Fields are shown in the order of their ``place``, then as they stand; ``section`` is the card's that they are in.
    A number has a ``suffix`` (CURRENCY: the design's), is stepped by ``step``, and nought of it may mean ``zero``; ``least`` is what may be typed
    where it has to be over a bound, one step more where that is not said. A choice ``brings`` values of other fields along: a flag as it is, the
    text of an entry only while the entry is what it is by default. Anything else goes to pydantic.
    """
    said: JsonDict = {
        "kind": kind,
        "begin": begin,
        "small": small or begin,
        "blank": blank,
        "words": {**(words or {})},
        "among": among,
        "only": {k: list(v) for k, v in (only or {}).items()},
        "labels": {**(labels or {})},
        "cutter": cutter,
        "along": along,
        "section": section,
        "place": place,
        "suffix": suffix,
        "zero": zero,
        "step": step,
        "least": least,
        "brings": {choice: {**fields} for choice, fields in (brings or {}).items()},
    }
    return Field(default, title=title, description=note or None, json_schema_extra={ASKED: said}, **rules)


def asked_for(field: FieldInfo) -> dict[str, Any]:
    """What ``asked`` was told of a field; nothing where it was made otherwise."""
    extra = field.json_schema_extra
    said = extra.get(ASKED) if isinstance(extra, dict) else None
    return dict(said) if isinstance(said, dict) else {}
