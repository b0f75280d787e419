"""Tables as they are typed or saved from a spreadsheet: rows of cells, whatever parts the columns."""

from __future__ import annotations

import csv
import io

__all__ = ["cells_of"]


def cells_of(text: str) -> list[list[str]]:
    """The rows of a table whose columns are parted by commas, semicolons or tabs, without empty ones."""
    plain = text.lstrip("\ufeff")
    first = next((line for line in plain.splitlines() if line.strip()), "")
    delimiter = max(",;\t", key=first.count)
    return [row for row in csv.reader(io.StringIO(plain), delimiter=delimiter) if any(c.strip() for c in row)]
