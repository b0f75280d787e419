"""How a stock's bends are reckoned: a K-factor, a bend table of the shop's own, DIN 6935, or the handbook's three classes."""

from __future__ import annotations

import csv
import io
import re
from pathlib import Path
from typing import ClassVar, Literal

from pydantic import Field

from zygon.errors import ImportFileError
from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record
from zygon.measure.units import INCH

__all__ = ["BendRow", "BendRule", "Bending", "bend_rows", "read_bend_table"]

BendRule = Literal["k", "table", "din6935", "handbook-soft", "handbook-half-hard", "handbook-hard"]
MAX_ROWS = 2000
_RULE_WORDS = {
    "k": "K-factor",
    "table": "the shop's own bend table",
    "din6935": "DIN 6935",
    "handbook-soft": "handbook: soft copper, brass",
    "handbook-half-hard": "handbook: soft steel, aluminium",
    "handbook-hard": "handbook: hard copper, spring steel",
}


class BendRow(Record):
    """One measured bend: thickness and inside radius in mm, angle of bend in degrees, and one of K, allowance and deduction (mm).

    The deduction refers to the outer sharp up to 90 degrees of bend and to the tangent over it.
    """

    thickness: float = Field(gt=0, le=50)
    radius: float = Field(ge=0, le=1000)
    angle: float = Field(gt=0, lt=180)
    k: float | None = Field(default=None, ge=0, le=1)
    allowance: float | None = Field(default=None, gt=0)
    deduction: float | None = None


class Bending(Record):
    """Bend data of a sheet metal."""

    title: ClassVar[str] = "Bends"

    rule: BendRule = asked("Reckoned by", "k", words=_RULE_WORDS)
    k: float = asked(
        "K", 1 / 3, note="neutral line from the inside, as a share of the thickness", only={"rule": ("k",)}, step=0.01, ge=0, le=1
    )
    table: list[BendRow] = Field(default_factory=list, max_length=MAX_ROWS)
    radius: Entry | None = asked("Inside radius", None, note="that parts of it have where they say none", blank="by the tools")
    least_radius: Entry | None = asked("Least radius", None, note="smallest inside radius", blank="the thickness")
    hole_distance: Entry | None = asked(
        "Hole to bend", None, note="least from a hole to the start of a bend", section="limits", blank="2 T + R"
    )
    strength: float = asked(
        "Strength", 400.0, note="tensile strength, for the force of a bend", section="limits", suffix=" N/mm²", step=10, gt=0, le=3000
    )
    air: float = asked(
        "Air-bend radius",
        0.16,
        note="inside radius of an air bend as a share of the die's opening",
        section="limits",
        suffix=" of V",
        step=0.01,
        gt=0,
        le=1,
    )


#: A heading of a bend table, with its unit where it says one: 'thickness', 'radius (in)', 'allowance_mm', 'angle, deg'.
HEADING = re.compile(r"(thickness|radius|angle|k|allowance|deduction)[\s_,(\[]*(mm|in|inch|deg|°)?[)\]]?")


def read_bend_table(path: Path, name: str = "", unit: Literal["mm", "in"] = "mm") -> list[BendRow]:
    """The rows of a CSV in UTF-8 with the columns thickness, radius, angle and one of k, allowance, deduction. Raises ImportFileError.

    Lengths are in ``unit`` where their heading says no other.
    """
    name = name or path.name
    try:
        return bend_rows(path.read_text("utf-8-sig"), name, unit)
    except UnicodeDecodeError as error:
        raise ImportFileError(f"{name} is no text in UTF-8", entry=name, rule="a CSV in UTF-8") from error
    except csv.Error as error:
        raise ImportFileError(f"{name}: not a CSV that can be read ({error})", entry=name, rule="a CSV in UTF-8") from error


def bend_rows(text: str, name: str = "table", unit: Literal["mm", "in"] = "mm") -> list[BendRow]:
    """The rows of a bend table's text, in mm and degrees. Raises ImportFileError, and csv.Error for what is no CSV."""
    reader = csv.DictReader(io.StringIO(text))
    read = {c: HEADING.fullmatch((c or "").strip().lower()) for c in reader.fieldnames or []}
    called = {c: m[1] if m else (c or "").strip().lower() for c, m in read.items()}
    lengths = ("thickness", "radius", "allowance", "deduction")
    units = {m[1]: m[2] or unit for m in read.values() if m and m[1] in lengths}
    columns = list(called.values())
    figures = [c for c in ("k", "allowance", "deduction") if c in columns]
    if not {"thickness", "radius", "angle"} <= set(columns) or len(figures) != 1:
        rule = "columns thickness, radius, angle and one of k, allowance, deduction"
        raise ImportFileError(
            f"{name}: its columns are {', '.join(columns)[:80] or 'none'}; a bend table has {rule}", entry=name, rule=rule
        )
    rows: list[BendRow] = []
    for n, raw in enumerate(reader, 2):
        values = {called[k]: (v or "").strip() for k, v in raw.items() if k in called and isinstance(v, str)}
        try:
            found = {c: float(values[c]) for c in ("thickness", "radius", "angle", figures[0])}
            rows.append(BendRow.model_validate({c: x * (INCH if units.get(c) in ("in", "inch") else 1.0) for c, x in found.items()}))
        except (KeyError, ValueError) as error:
            rule = "numbers: thickness over 0, radius from 0, angle between 0 and 180 degrees"
            raise ImportFileError(
                f"{name}, line {n}: {', '.join(values.values())[:80]} is not a bend", entry=name, value=n, rule=rule
            ) from error
        if len(rows) > MAX_ROWS:
            raise ImportFileError(f"{name}: more than {MAX_ROWS} rows", entry=name, rule=f"at most {MAX_ROWS}")
    if not rows:
        raise ImportFileError(f"{name}: no rows", entry=name, rule="at least one row")
    return rows
