"""A shop's own list of hardware: names, numbers, prices and masses as CSV. What the catalogue knows gets a price, the rest is the shop's own."""

from __future__ import annotations

import math
from dataclasses import dataclass

from zygon.errors import DocumentError, ZygonError
from zygon.stock.hardware.catalogue import by_designation, search
from zygon.stock.typed_table import cells_of

__all__ = ["COLUMNS", "Listed", "read_hardware"]

#: The headings that are read, each with other words for it.
COLUMNS: dict[str, tuple[str, ...]] = {
    "name": ("name", "what", "description"),
    "designation": ("designation", "number", "article", "standard"),
    "price": ("price", "price each", "each"),
    "mass": ("mass", "mass g", "mass g each", "weight"),
}
_MOST = 500


@dataclass(frozen=True)
class Listed:
    """One row: ``known`` is the designation of the catalogue's piece that it is, '' for the shop's own; price and mass (g) None where not said."""

    name: str
    designation: str
    known: str
    price: float | None
    mass: float | None


def read_hardware(text: str) -> list[Listed]:
    """The rows of a list with headings. Columns may be parted by commas, semicolons or tabs, and figures may have a decimal comma.

    Raises DocumentError that names the row, the column and the rule.
    """
    rows = cells_of(text)
    head = [h.strip().lower() for h in rows[0]] if rows else []
    at = {c: next((head.index(w) for w in words if w in head), None) for c, words in COLUMNS.items()}
    if at["name"] is None and at["designation"] is None:
        raise _refused("columns", ", ".join(head), "the list has headings, among them a name or a designation")
    if len(rows) - 1 > _MOST:
        raise _refused("rows", len(rows) - 1, f"at most {_MOST} rows")
    found = []
    for n, cells in enumerate(rows[1:], 2):
        said = {c: cells[i].strip() for c, i in at.items() if i is not None and i < len(cells) and cells[i].strip()}
        name = said.get("name") or said.get("designation", "")
        if not name:
            raise _refused(f"row {n}", "", "a row has a name or a designation")
        known = _known(said.get("designation", "")) or _known(said.get("name", ""))
        own = (said.get("designation") or name)[:60]
        found.append(Listed(name[:80], own, known, _figure(said, "price", n), _figure(said, "mass", n)))
    if not found:
        raise _refused("rows", 0, "at least one row below the headings")
    return found


def _known(words: str) -> str:
    """The designation of the one piece of the catalogue that words mean; '' where they mean none, or several."""
    if not words:
        return ""
    try:
        return by_designation(words).designation
    except KeyError:
        pass
    try:
        found = search(words)
    except ZygonError:
        return ""
    return found[0].designation if len(found) == 1 else ""


def _figure(said: dict[str, str], column: str, n: int) -> float | None:
    text = said.get(column)
    if text is None:
        return None
    try:
        value = float(text.replace(",", ".") if text.count(",") == 1 and "." not in text else text.replace(",", ""))
    except ValueError:
        value = math.nan
    if not 0 <= value < 1e6:
        raise _refused(f"row {n}, {column}", text, "a figure from 0 on")
    return value


def _refused(entry: str, value: object, rule: str) -> DocumentError:
    return DocumentError(f"The list of hardware, {entry}: {value!r} is not {rule}", entry=entry, value=value, rule=rule, code="bad_list")
