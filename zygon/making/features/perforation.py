"""Fields of holes: perforations by pitch and edge distance, and fans' openings."""

from __future__ import annotations

import math
from dataclasses import dataclass

from zygon.geometry.contour import circle, rectangle
from zygon.limits import MAX_FIELD_HOLES, MAX_HOLES
from zygon.making.features.reader import Reader
from zygon.making.result.operations import Cut, Operation
from zygon.making.result.value import Value
from zygon.measure.display import format_length
from zygon.tolerance import CONTACT, EPS

__all__ = ["Field", "counted", "fan_opening", "hole_places", "perforation"]


@dataclass(frozen=True)
class Field:
    """A field about (0, 0) in mm; ``height`` None for a round one of diameter ``width``. ``hole`` is the holes' diameter or side."""

    width: float
    height: float | None
    hole: float
    pitch: float
    edge: float
    staggered: bool
    square_holes: bool = False

    @property
    def area(self) -> float:
        """Of the field, mm²."""
        return math.pi * self.width**2 / 4 if self.height is None else self.width * self.height

    @property
    def hole_area(self) -> float:
        """Of one hole, mm²."""
        return self.hole**2 if self.square_holes else math.pi * self.hole**2 / 4


def hole_places(field: Field, most: int = MAX_HOLES) -> list[tuple[float, float]]:
    """The holes' middles, symmetric about both axes, every hole at least ``edge`` inside the outline; cut short past ``most``."""
    rise = field.pitch * (math.sqrt(3) / 2 if field.staggered else 1.0)
    half_w = field.width / 2 - field.edge - field.hole / 2
    half_h = (field.width if field.height is None else field.height) / 2 - field.edge - field.hole / 2
    if half_w < -CONTACT or half_h < -CONTACT:
        return []
    rows, places = int((half_h + EPS) / rise), []
    for j in range(-rows, rows + 1):
        y, off = j * rise, field.pitch / 2 if field.staggered and j % 2 else 0.0
        reach = half_w
        if field.height is None:  # a round field: no corner of a hole comes nearer to the circle than the edge distance
            limit = field.width / 2 - field.edge
            reach = _reach(limit, y, field.hole, square=field.square_holes)
            if reach < 0:
                continue
        count = int((reach - off + EPS) / field.pitch) if reach >= off - EPS else -1
        line = [off + i * field.pitch for i in range(count + 1)]
        places += [(x, y) for x in sorted({*line, *(-x for x in line)})]
        if len(places) > most:
            return places[: most + 1]
    return places


def _reach(limit: float, y: float, hole: float, *, square: bool) -> float:
    """How far from the middle a hole may lie at height ``y`` within a circle; under 0 where none fits."""
    if not square:
        inner = limit - hole / 2
        return math.sqrt(inner * inner - y * y) if inner >= abs(y) else -1.0
    top = abs(y) + hole / 2
    return math.sqrt(limit * limit - top * top) - hole / 2 if limit >= top else -1.0


def perforation(r: Reader, u: float, v: float) -> list[Operation]:
    """The holes of a field about (u, v); its open area stands beside its entries as a share."""
    f, display = r.feature, r.values.document.display
    width, diameter, pitch = r.positive("width"), r.positive("diameter"), r.positive("pitch")
    height = None if f.field == "round" else r.positive("height")
    edge = r.read("edge_distance")
    if min(width, diameter, pitch, width if height is None else height) <= CONTACT:
        return []
    if pitch <= diameter + CONTACT:
        shown = format_length(pitch, display)
        r.fault(
            "pitch", f"a pitch of {shown} leaves nothing between its holes", f"more than a hole, {format_length(diameter, display)}", shown
        )
        return []
    field = Field(width, height, diameter, pitch, edge, f.pattern == "staggered", f.hole == "square")
    places = hole_places(field)
    if not places:
        r.fault(
            "width", "no hole fits into its field", "a larger field, smaller holes or less edge distance", format_length(width, display)
        )
        return []
    if len(places) > MAX_HOLES:
        r.fault("pitch", f"more than {MAX_HOLES} holes", f"at most {MAX_HOLES} in one field", format_length(pitch, display), "too_many")
        return []
    if not counted(r, len(places), "pitch", format_length(pitch, display)):
        return []
    r.values.values[r.where("open_area")] = Value(len(places) * field.hole_area / field.area, "number")
    half = diameter / 2
    if field.square_holes:
        return [Cut(rectangle(u + x - half, v + y - half, u + x + half, v + y + half, r.owner), r.owner) for x, y in places]
    return [Cut(circle(u + x, v + y, half, r.owner), r.owner) for x, y in places]


def counted(r: Reader, many: int, field: str, shown: str) -> bool:
    """Counts what a field or a row has; False, with a fault at an entry, where all of a design have more than a design may have."""
    before = sum(v.value for where, v in r.values.values.items() if where.endswith("/holes"))
    if before + many > MAX_FIELD_HOLES:
        rule = f"at most {MAX_FIELD_HOLES} in all fields and rows of a design"
        r.fault(field, f"{many} of them, and there are {before:.0f} in other fields and rows", rule, shown, "too_many")
        return False
    r.values.values[r.where("holes")] = Value(many, "count")
    return True


def fan_opening(r: Reader, u: float, v: float) -> list[Operation]:
    """The opening and the four screw holes about (u, v)."""
    opening, pitch, diameter = r.positive("opening"), r.positive("pitch"), r.positive("diameter")
    if min(opening, pitch, diameter) <= CONTACT:
        return []
    if pitch / math.sqrt(2) - diameter / 2 <= opening / 2 + CONTACT:
        shown = format_length(pitch, r.values.document.display)
        r.fault("pitch", f"screw holes {shown} apart run into its opening", "their circle clears the opening", shown)
        return []
    half = pitch / 2
    screws = [circle(u + x * half, v + y * half, diameter / 2, r.owner) for x in (-1, 1) for y in (-1, 1)]
    return [Cut(c, r.owner) for c in (circle(u, v, opening / 2, r.owner), *screws)]
