"""Tables as CSV (RFC 4180): one writer for all of them, whose texts no spreadsheet takes for formulas."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable

__all__ = ["csv_text"]

_NUMBER = re.compile(r"[+-]?\d+(\.\d+)?")


def csv_text(head: Iterable[str], rows: Iterable[Iterable[object]]) -> str:
    """A heading and rows. A text that begins as a formula does, and is no number, is given an apostrophe, which spreadsheets leave away."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(head)
    for row in rows:
        writer.writerow([_plain(cell) if isinstance(cell, str) else cell for cell in row])
    return out.getvalue()


def _plain(cell: str) -> str:
    begins = cell[:1] in ("=", "+", "-", "@", "\t", "\r", "\n")
    return f"'{cell}" if begins and not _NUMBER.fullmatch(cell) else cell
