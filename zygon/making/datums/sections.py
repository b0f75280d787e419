"""What bars look like across, as their stocks say it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from zygon.design.pointer import pointer
from zygon.drawing.loops import Loops
from zygon.errors import MemberError
from zygon.geometry.boolean import to_polygons
from zygon.geometry.contour import Contour
from zygon.making.datums.drawings import drawn_on
from zygon.making.datums.on_plane import OnPlane
from zygon.making.datums.scope import EntryScope
from zygon.making.result.fault import Fault
from zygon.measure.display import format_length
from zygon.owner import stock_id
from zygon.stock.bar import BarStock
from zygon.stock.section import OPEN, Section, drawn_section

if TYPE_CHECKING:
    from zygon.making.datums.values import Values

__all__ = ["plane_of_stock", "section_of_stock"]

#: No section is thinner than this in a drawing that stands for one (mm).
LEAST = 0.1


def plane_of_stock(stock: BarStock, key: str) -> OnPlane:
    """The plane in which a bar's section is drawn, which lies nowhere in the room."""
    return OnPlane(stock.name, "", key, "", ("", ""), (0.0, 0.0), zeros=("the upright line", "the level line"))


def section_of_stock(values: Values, key: str, stock: BarStock) -> Section:
    """What a bar looks like across; solid, and as wide as it is high, where what is said of it cannot be."""
    height, sizes = values.thicknesses[key], dict[str, float]()
    for field, entry in (("width", stock.width), ("wall", stock.wall), ("corner", stock.corner)):
        if entry is not None:
            sizes[field] = values.read(entry, pointer("stocks", key, field), "length", EntryScope(values, stock=key), fallback=0.0)
    if stock.least_radius is not None:
        values.read(stock.least_radius, pointer("stocks", key, "least_radius"), "length", EntryScope(values, stock=key))
    width = sizes.get("width") or height
    if stock.shape == "drawn":
        found = _drawn(values, key, stock)
        if found is not None:
            values.thicknesses[key] = found.height
        return found or Section("rectangle", height, max(width, LEAST))
    usual = min(width, height) / 10 if stock.shape in OPEN else 0.0
    try:
        return Section(stock.shape, height, width, sizes.get("wall", usual), sizes.get("corner", 0.0))
    except MemberError as error:
        value = format_length(sizes.get(error.entry, 0.0 if error.entry == "wall" else height))
        values.fault_entry(pointer("stocks", key, error.entry), "bad_value", f"{stock.name}: a {error.entry} of {value}", error.rule, value)
        shape = "rectangle" if stock.shape in OPEN else stock.shape
        return Section(shape, height, max(width, LEAST))


def _drawn(values: Values, key: str, stock: BarStock) -> Section | None:
    """A section that is drawn; None where it cannot be, which is said."""
    where = pointer("stocks", key, "drawing")
    if stock.drawing is None:
        values.faults.append(Fault("bad_section", f"{stock.name}: its section is not drawn yet", "a closed outline", entry=where))
        return None
    found = drawn_on(values, plane_of_stock(stock, key), stock.drawing, where, stock_id(key))
    values.drawn_sections[key] = found
    wrong = _fault(found.loops)
    if wrong is None:
        return drawn_section(found.loops.closed[0], found.loops.closed[1:])
    message, rule, curve = wrong
    entry = where + (pointer("curves", curve) if curve else "")
    values.faults.append(Fault("bad_section", f"{stock.name}, section: {message}", rule, entry=entry))
    return None


def _fault(loops: Loops) -> tuple[str, str, str] | None:
    """What keeps loops from being a section: the sentence, the rule and the curve; None for nothing."""
    for fault in loops.faults:
        return fault.message, fault.rule, fault.curves[0] if fault.curves else ""
    if not loops.closed:
        return "nothing is drawn", "a closed outline", ""
    polygons = to_polygons(list(loops.closed), LEAST / 10)
    for n, loop in enumerate(loops.closed[1:], 1):
        if not polygons[0].contains(polygons[n]):
            return "a loop lies beside its outline", "one outline, with hollows in it", _curve(loop)
        if any(polygons[k].contains(polygons[n]) for k in range(1, n)):
            return "a loop lies in a hollow", "hollows that lie apart", _curve(loop)
    return None


def _curve(loop: Contour) -> str:
    return loop.owners[0]
