"""The places along an axis that an entry may name, and how a place is best written."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.design.flange_names import FLANGE_FACES, names_of_flanges
from zygon.design.outlines import drawing_of
from zygon.geometry.frame import FACES
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.measure.units import INCH
from zygon.tolerance import WITHIN

__all__ = ["NamedPlace", "figure", "named_places", "written"]


@dataclass(frozen=True)
class NamedPlace:
    """A face, a flange's far edge or a named line of a drawing that lies square to the axis, at ``value`` mm; ``rank`` is the lower the longer its name will last."""

    value: float
    text: str
    part: str
    rank: int


def named_places(values: Values, axis: str) -> list[NamedPlace]:
    """All of them, as entries of the room read them; originals before mirror images, boards before what is bought."""
    scope = EntryScope(values, axis)
    found = []
    for name, key, rank in _parts(values):
        record = values.boards[key.partition("@")[0]]
        legs = [f"{leg}.{face}" for leg in names_of_flanges(record) for face in FLANGE_FACES] if "@" not in key else []
        drawing = drawing_of(record)
        lines = [c.name for c in drawing.curves.values() if c.name and c.thing == "l"] if drawing else []
        for face in (*(f for pair in FACES.values() for f in pair), *legs, *lines):
            try:
                value = scope.face(name, face).value
            except KeyError:
                continue
            found.append(NamedPlace(value, f"{name}.{face}", key, rank + 4 * ("." in face or face in lines)))
    return found


def _parts(values: Values) -> list[tuple[str, str, int]]:
    boards = [
        (name, key, 2 if values.boards[key].kind in ("bought", "rod", "hardware") else 0)
        for name, key in values.board_keys.items()
        if not values.boards[key].aside
    ]
    handed = [(name, f"{part}@{copy}.1", 1) for name, (part, copy) in values.handed.items()]
    return boards + handed


def written(places: list[NamedPlace], value: float, unit: str, first: str = "") -> str:
    """How a place is written in an entry: by the name of ``first``'s face where it is one, else by that which lasts longest, else as a figure."""
    here = [p for p in places if abs(p.value - value) <= WITHIN]
    best = min(here, key=lambda p: (p.part != first, p.rank), default=None)
    return best.text if best else figure(value, unit)


def figure(mm: float, unit: str) -> str:
    """A length as it is typed, to a thousandth of a millimetre."""
    size, places = (mm / INCH, 5) if unit == "in" else (mm, 3)
    return f"{round(size, places) + 0.0:.{places}f}".rstrip("0").rstrip(".") + f" {unit}"
