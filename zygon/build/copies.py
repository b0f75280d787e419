"""Copies: from a mirror's or a repeat's entries to the motions of its copies, one each, without the original's own."""

from __future__ import annotations

import math

from zygon.build.placing import handed_motion
from zygon.build.values import EntryScope, Values
from zygon.design.document import scope_of
from zygon.design.layout import GridCopy, MirrorCopy, RingCopy, RowCopy
from zygon.design.limits import MAX_COPIES
from zygon.design.patch import pointer
from zygon.geometry.frame import AXES
from zygon.geometry.motion import Motion, moving, turning
from zygon.geometry.tolerance import CONTACT
from zygon.measure.display import format_length
from zygon.measure.entry import Entry
from zygon.measure.quantity import Kind

__all__ = ["copy_motions"]


class _Reader:
    """Reads one copy's entries; remembers whether all of them make sense."""

    def __init__(self, values: Values, key: str, record: MirrorCopy | RowCopy | GridCopy | RingCopy) -> None:
        self.values, self.key, self.record = values, key, record
        self.group = scope_of(values.document, record.of[0]) or ""
        self.good = True

    def read(self, entry: Entry, *path: str, kind: Kind = "length", axis: str = "") -> float:
        scope = EntryScope(self.values, axis, group=self.group)
        where = pointer("copies", self.key, *path)
        value = self.values.read(entry, where, kind, scope, owner=f"copy:{self.key}")
        self.good &= not self.values.values[where].stale or where in self.values.good
        return value

    def fault(self, field: str, message: str, rule: str, value: str) -> None:
        self.good = False
        where = pointer("copies", self.key, field)
        self.values.fault_entry(where, "bad_copy", f"{self.record.name}: {message}", rule, value, owner=f"copy:{self.key}")

    def number(self, entry: Entry, field: str) -> int:
        """How many in all; 0 with a fault where that makes no row."""
        n = round(self.read(entry, field, kind="count"))
        if self.good and not 1 <= n <= MAX_COPIES:
            self.fault(field, f"{n} in all", f"from 1 to {MAX_COPIES}, the original included", str(n))
        return n if self.good else 0

    def spacing(self, entry: Entry, field: str) -> float:
        """A spacing that sets copies apart."""
        step = self.read(entry, field)
        if self.good and abs(step) <= CONTACT:
            self.fault(field, f"a spacing of {self.shown(step)}", "copies stand apart: not 0", self.shown(step))
        return step

    def shown(self, value: float) -> str:
        return format_length(value, self.values.document.display)


def copy_motions(values: Values, key: str) -> list[Motion]:
    """The motion of each copy, within the group that it lies in; none where an entry makes no sense (which is said)."""
    record = values.document.copies[key]
    reader = _Reader(values, key, record)
    match record:
        case MirrorCopy():
            motions = _mirror(values, key)
        case RowCopy():
            motions = [moving(_along(record.axis, x)) for x in _row(reader, record)]
        case GridCopy():
            motions = _grid(reader, record)
        case RingCopy():
            motions = _ring(reader, record)
    return motions if reader.good else []


def _mirror(values: Values, key: str) -> list[Motion]:
    try:
        return [handed_motion(values, key)]
    except KeyError:
        return []  # its plane is broken, which is said


def _along(axis: str, by: float) -> tuple[float, float, float]:
    return tuple(by if a == axis else 0.0 for a in AXES)  # type: ignore[return-value]


def _row(r: _Reader, record: RowCopy) -> list[float]:
    """How far each copy lies from the original."""
    if record.length is not None:
        length = r.read(record.length, "length")
        largest = r.read(record.largest or record.length, "largest" if record.largest else "length")
        if r.good and largest <= CONTACT:
            r.fault("largest", f"a largest spacing of {r.shown(largest)}", "greater than 0", r.shown(largest))
        if not r.good or abs(length) <= CONTACT:
            if r.good:
                r.fault("length", f"a length of {r.shown(length)} to fill", "not 0", r.shown(length))
            return []
        gaps = max(1, math.ceil(abs(length) / largest - 1e-9))
        if gaps + 1 > MAX_COPIES:
            r.fault("largest", f"{gaps + 1} would be needed to fill {r.shown(length)}", f"at most {MAX_COPIES}", str(gaps + 1))
            return []
        return [length * i / gaps for i in range(1, gaps + 1)]
    if record.number is None or record.spacing is None:
        r.fault("number", "neither a length to fill nor a number and a spacing", "one of both is needed", "")
        return []
    n, step = r.number(record.number, "number"), r.spacing(record.spacing, "spacing")
    return [step * i for i in range(1, n)]


def _grid(r: _Reader, record: GridCopy) -> list[Motion]:
    n, step = r.number(record.number, "number"), r.spacing(record.spacing, "spacing")
    n_2, step_2 = r.number(record.number_2, "number_2"), r.spacing(record.spacing_2, "spacing_2")
    if r.good and record.axis == record.axis_2:
        r.fault("axis_2", f"both of its rows run along {record.axis}", "two different axes", record.axis_2)
    if r.good and n * n_2 > MAX_COPIES:
        r.fault("number_2", f"{n} by {n_2} in all", f"at most {MAX_COPIES} together", str(n * n_2))
    if not r.good:
        return []
    return [
        moving(_along(record.axis, step * i)) @ moving(_along(record.axis_2, step_2 * j)) for j in range(n_2) for i in range(n) if i or j
    ]


def _ring(r: _Reader, record: RingCopy) -> list[Motion]:
    at = [r.read(record.at[a], "at", a, axis=a) if a != record.axis else 0.0 for a in AXES]  # type: ignore[index]
    n, angle = r.number(record.number, "number"), r.read(record.angle, "angle", kind="angle")
    if r.good and n > 1 and abs(angle) < 1e-6:
        r.fault("angle", "a ring over 0°", "copies stand apart: not 0", f"{math.degrees(angle):.4g}°")
    if not r.good:
        return []
    whole = abs(abs(angle) - 2 * math.pi) < 1e-9
    step = angle / n if whole else angle / max(n - 1, 1)
    found = [turning(record.axis, at, step * i) for i in range(1, n)]
    return [_kept_upright(m, r) if record.upright else m for m in found]


def _kept_upright(motion: Motion, r: _Reader) -> Motion:
    """The move of the originals' common middle round the ring, without the turn."""
    middle = _middle(r)
    to = motion.point(middle)
    return moving([to[i] - middle[i] for i in range(3)])


def _middle(r: _Reader) -> tuple[float, float, float]:
    from zygon.build.instances import originals  # both rooms need each other at this one place

    values = r.values
    centres = []
    for key in originals(values.document, r.record.of):
        try:
            centres.append([values.datum(key, a, "centre") for a in AXES])
        except KeyError:
            continue
    n = max(len(centres), 1)
    return tuple(sum(c[i] for c in centres) / n for i in range(3))  # type: ignore[return-value]
