"""A design file read: JSON of any known schema, brought up to date and checked."""

from __future__ import annotations

import base64
import hashlib
import json
import math
from pathlib import Path

from zygon.design.document import Document
from zygon.design.drawn_in import drawings_in
from zygon.design.text import printable
from zygon.design.upgrade import load
from zygon.errors import ImportFileError

__all__ = ["media_of", "pictures_in", "read_design", "read_design_file"]


def read_design(path: Path, name: str = "") -> Document:
    """The document in a design file. Raises ImportFileError where it is no JSON, DocumentError and UnprintableError where it breaks a rule."""
    return read_design_file(path, name)[0]


def read_design_file(path: Path, name: str = "") -> tuple[Document, dict[str, bytes]]:
    """The document in a design file, and the pictures by digest that lie behind its drawings. Raises as ``read_design``; what is no picture is refused."""
    name = name or path.name
    try:
        data = printable(json.loads(path.read_text("utf-8"), parse_float=_finite, parse_constant=_finite))
    except (ValueError, RecursionError) as error:
        told = "its values lie too deep in one another" if isinstance(error, RecursionError) else str(error)
        raise ImportFileError(f"{name} is not a design file: {told}", entry="file", value=name, rule="JSON in UTF-8") from error
    pictures = data.pop("pictures", None) if isinstance(data, dict) else None
    document = load(data)
    return document, _pictures(pictures, pictures_in(document), name)


def pictures_in(document: Document) -> set[str]:
    """The pictures that a document's drawings and papers name, by digest."""
    papers = {p for p in (document.papers.logo, document.papers.picture) if p}
    return papers | {d.drawing.backdrop.picture for d in drawings_in(document) if d.drawing.backdrop is not None}


def _pictures(found: object, named: set[str], name: str) -> dict[str, bytes]:
    kept: dict[str, bytes] = {}
    for digest, text in found.items() if isinstance(found, dict) else ():
        if digest not in named:
            continue
        try:
            data = base64.b64decode(text, validate=True)
        except (TypeError, ValueError):
            data = b""
        if hashlib.sha256(data).hexdigest() != digest or not media_of(data):
            rule = "a PNG or JPEG picture in Base64, under its SHA-256"
            raise ImportFileError(f"{name} has a picture that is none", entry=f"pictures/{digest}", value=digest, rule=rule)
        kept[digest] = data
    return kept


def media_of(data: bytes) -> str:
    """What kind of picture a file is that is kept: its media type, '' of one that is no picture."""
    return "image/png" if data[:8] == b"\x89PNG\r\n\x1a\n" else "image/jpeg" if data[:3] == b"\xff\xd8\xff" else ""


def _finite(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise ValueError(f"{text[:20]} is no finite number")
    return value
