"""One cut or mark many times: in a row, and in rows beside each other."""

from __future__ import annotations

from dataclasses import replace

from zygon.geometry.frame import FACES
from zygon.limits import MAX_REPEATED
from zygon.making.features.perforation import counted
from zygon.making.features.reader import Reader
from zygon.making.result.operations import Cut, EdgeBore, Mark, Operation, Pocket
from zygon.measure.display import format_length
from zygon.tolerance import CONTACT

__all__ = ["in_rows", "shifts_of"]

#: From these a row goes on the other way: inward.
_FAR = {"end", "high", *(pair[1] for pair in FACES.values())}
#: About these it is spread evenly.
_MIDDLE = {"centre", "opening"}


def in_rows(reader: Reader, found: list[Operation], signs: tuple[int, int] = (1, 1)) -> list[Operation]:
    """The operations of one feature, once at each place of its rows; ``signs`` of -1 turn the rows of a mirror image round."""
    shifts = shifts_of(reader)
    many = len(shifts) * len(found)
    if many > len(found) and signs == (1, 1) and not counted(reader, many, "number" if reader.feature.number else "rows", str(len(shifts))):
        return found
    return found if shifts == [(0.0, 0.0)] else [_shifted(o, du * signs[0], dv * signs[1]) for du, dv in shifts for o in found]


def shifts_of(reader: Reader) -> list[tuple[float, float]]:
    """(du, dv) in mm from the feature's own place to each of those where it is; a row that makes no sense is a fault, and once."""
    f = reader.feature
    if getattr(f, "number", None) is None and getattr(f, "rows", None) is None:
        return [(0.0, 0.0)]
    along = _steps(reader, "number", "spacing")
    edge = getattr(f, "edge", None)
    if edge is not None:  # one row, along the edge
        name = "v" if edge in FACES[reader.blank.frame.u] else "u"
        return [(d, 0.0) if name == "u" else (0.0, d) for d in _placed(along, getattr(f, name).origin)]
    across = _steps(reader, "rows", "apart")
    if len(along) * len(across) > MAX_REPEATED:
        told = str(len(along) * len(across))
        reader.fault("rows", f"{told} of them", f"at most {MAX_REPEATED} of one cut", told, "too_many")
        return [(0.0, 0.0)]
    return [(du, dv) for dv in _placed(across, f.v.origin) for du in _placed(along, f.u.origin)]


def _steps(reader: Reader, number: str, spacing: str) -> list[float]:
    """How far each of a row lies from the first, in mm."""
    f = reader.feature
    if getattr(f, number) is None:
        return [0.0]
    n = round(reader.read(number, "count"))
    if not 1 <= n <= MAX_REPEATED:
        reader.fault(number, f"{n} of them", f"from 1 to {MAX_REPEATED}", str(n))
        return [0.0]
    if n == 1:
        return [0.0]
    if getattr(f, spacing) is None:
        reader.fault(number, f"{n} of them have no spacing", "a spacing where there is more than one", str(n))
        return [0.0]
    step = reader.read(spacing)
    if abs(step) <= CONTACT:
        shown = format_length(step, reader.values.document.display)
        reader.fault(spacing, f"a spacing of {shown}", "a spacing is not 0", shown)
        return [0.0]
    return [i * step for i in range(n)]


def _placed(steps: list[float], origin: str) -> list[float]:
    if origin in _MIDDLE:
        return [s - steps[-1] / 2 for s in steps]
    return [-s for s in steps] if origin in _FAR else steps


def _shifted(operation: Operation, du: float, dv: float) -> Operation:
    if isinstance(operation, Cut | Mark | Pocket):
        return replace(operation, contour=operation.contour.moved(du, dv))
    if isinstance(operation, EdgeBore):
        return replace(operation, along=operation.along + (dv if operation.across == "u" else du))
    return operation
