"""How a field of a record is asked for on a screen: its label, what it means, what a draft begins with, the words of its choices."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field
from pydantic.config import JsonDict
from pydantic.fields import FieldInfo

from zygon.measure.quantity import Kind

__all__ = ["ASKED", "Among", "asked", "asked_for"]

#: What a field is chosen among that only the part at hand can say: its edges, its corners, the two ways across it.
Among = Literal["", "edge", "corner", "way"]

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
    only: tuple[str, str] | None = None,
    cutter: str = "",
    along: str = "",
    **rules: Any,
) -> Any:
    """A field with its label. ``begin`` is what a draft starts with where the record has no default (``small`` on a flange), ``blank`` what stands in the field while
    nothing is typed, ``words`` the labels of choices; it is shown only while the field ``only[0]`` has the value ``only[1]``, and on
    cutters of the kind ``cutter``; ``along`` names the field that says its axis. Anything else goes to pydantic.
    """
    said: JsonDict = {
        "kind": kind,
        "begin": begin,
        "small": small or begin,
        "blank": blank,
        "words": {**(words or {})},
        "among": among,
        "only": list(only or ("", "")),
        "cutter": cutter,
        "along": along,
    }
    return Field(default, title=title, description=note or None, json_schema_extra={ASKED: said}, **rules)


def asked_for(field: FieldInfo) -> dict[str, Any]:
    """What ``asked`` was told of a field; nothing where it was made otherwise."""
    extra = field.json_schema_extra
    said = extra.get(ASKED) if isinstance(extra, dict) else None
    return dict(said) if isinstance(said, dict) else {}
