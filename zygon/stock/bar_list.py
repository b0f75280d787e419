"""A list of bars as a table of text: the shop's own sizes, as a spreadsheet writes them."""

from __future__ import annotations

from typing import Any, get_args

from zygon.errors import DocumentError
from zygon.stock.bar import SHAPES
from zygon.stock.section import SectionShape
from zygon.stock.typed_table import cells_of

__all__ = ["COLUMNS", "read_bars"]

#: The columns that are read, by their heading in lower case; the first three have to be there.
COLUMNS = ("name", "section", "across", "width", "wall", "corner", "material", "density", "kg per m", "length", "price", "kerf", "trim")
_MOST = 200
_ENTRIES = {"across": "nominal", "width": "width", "wall": "wall", "corner": "corner", "kerf": "kerf", "trim": "trim"}
_NUMBERS = {"density": "density", "kg per m": "metre"}


def read_bars(text: str, unit: str) -> list[dict[str, Any]]:
    """The records of bar stocks in a table with headings, a row each; bare figures are in ``unit``. Rows of one name are one stock in several lengths.

    Columns may be parted by commas, semicolons or tabs. Raises DocumentError that names the row, the column and the rule.
    """
    rows = cells_of(text)
    head = [h.strip().lower() for h in rows[0]] if rows else []
    missing = [c for c in COLUMNS[:3] if c not in head]
    if missing:
        raise _refused("columns", ", ".join(head), f"the list has headings, among them {', '.join(COLUMNS[:3])}; {missing[0]} is missing")
    if len(rows) - 1 > _MOST:
        raise _refused("rows", len(rows) - 1, f"at most {_MOST} rows")
    found: dict[str, dict[str, Any]] = {}
    for n, cells in enumerate(rows[1:], 2):
        row = {h: c.strip() for h, c in zip(head, cells, strict=False) if h in COLUMNS and c.strip()}
        if not row:
            continue
        record = _record(row, n, unit)
        own = found.setdefault(record["name"], record)
        length = {"length": _entry(row.get("length", "6 m"), unit), "price": _number(row, "price", n)}
        own["lengths"][f"l{len(own['lengths']) + 1}"] = {**length, "order": len(own["lengths"])}
    if not found:
        raise _refused("rows", 0, "at least one row below the headings")
    return list(found.values())


def _record(row: dict[str, str], n: int, unit: str) -> dict[str, Any]:
    for column in COLUMNS[:3]:
        if column not in row:
            raise _refused(f"row {n}, {column}", "", f"a bar has a {column}")
    words = {
        **{w: s for s, w in SHAPES.items()},
        **{s: s for s in get_args(SectionShape)},
        "flat": "rectangle",
        "rectangular": "rectangle",
        "tube": "round",
    }
    shape = words.get(row["section"].lower())
    if shape is None:
        raise _refused(f"row {n}, section", row["section"], f"one of {', '.join(get_args(SectionShape))}")
    record: dict[str, Any] = {
        "kind": "bar",
        "name": row["name"][:60],
        "shape": shape,
        "material": row.get("material", "steel"),
        "tint": "#9FA8B0",
        "lengths": {},
    }
    record |= {field: _entry(row[c], unit) for c, field in _ENTRIES.items() if c in row}
    record |= {field: _number(row, c, n) for c, field in _NUMBERS.items() if c in row}
    return {"density": 7.85, **record}


def _entry(text: str, unit: str) -> dict[str, str]:
    """As an entry is typed: a comma in a figure alone is its point."""
    plain = text.replace(",", ".") if text.count(",") == 1 and text.replace(",", "").replace(".", "").isdigit() else text
    return {"text": plain, "unit": unit}


def _number(row: dict[str, str], column: str, n: int) -> float:
    text = row.get(column, "0").replace(",", ".")
    try:
        value = float(text)
    except ValueError:
        raise _refused(f"row {n}, {column}", text, "a plain number") from None
    if not 0 <= value < 1e6:
        raise _refused(f"row {n}, {column}", text, "a number from 0 on")
    return value


def _refused(entry: str, value: object, rule: str) -> DocumentError:
    return DocumentError(
        f"The list of bars, {entry}: {value}: {rule}" if value != "" else f"The list of bars, {entry}: {rule}",
        entry=entry,
        value=value,
        rule=rule,
    )
