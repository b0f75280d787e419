"""A design file read: JSON of any known schema, brought up to date and checked."""

from __future__ import annotations

import json
import math
from pathlib import Path

from zygon.design.document import Document
from zygon.design.text import printable
from zygon.design.upgrade import load
from zygon.errors import ImportFileError

__all__ = ["read_design"]


def read_design(path: Path, name: str = "") -> Document:
    """The document in a design file. Raises ImportFileError where it is no JSON, DocumentError and UnprintableError where it breaks a rule."""
    name = name or path.name
    try:
        data = printable(json.loads(path.read_text("utf-8"), parse_float=_finite, parse_constant=_finite))
    except (ValueError, RecursionError) as error:
        told = "its values lie too deep in one another" if isinstance(error, RecursionError) else str(error)
        raise ImportFileError(f"{name} is not a design file: {told}", entry="file", value=name, rule="JSON in UTF-8") from error
    return load(data)


def _finite(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise ValueError(f"{text[:20]} is no finite number")
    return value
