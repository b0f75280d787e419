"""Copies: from a mirror's or a repeat's entries to the motions of its copies, one each, without the original's own."""

from __future__ import annotations

import math
from collections.abc import Callable

from zygon.design.document import scope_of
from zygon.design.layout import GridCopy, MirrorCopy, RingCopy, RowCopy
from zygon.design.pointer import pointer
from zygon.geometry.frame import AXES
from zygon.geometry.motion import Motion, moving, three, turning
from zygon.limits import MAX_COPIES, MAX_INSTANCES
from zygon.making.blanks.originals import originals
from zygon.making.datums.placing import handed_motion
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.measure.display import format_angle, format_length
from zygon.measure.entry import Entry
from zygon.measure.quantity import Kind
from zygon.owner import copy_id
from zygon.tolerance import CONTACT, EPS, WITHIN

__all__ = ["copy_motions"]


#: How many there are in all, and what makes the copies' motions.
_Plan = tuple[int, Callable[[], list[Motion]]]

#: The entries that say how many there are; the first that a copy has is told where there are too many.
_HOW_MANY = ("number_2", "number", "largest", "length")


class _Reader:
    """Reads one copy's entries, each once; remembers whether all of them make sense."""

    def __init__(self, values: Values, key: str) -> None:
        self.values, self.key, self.record = values, key, values.document.copies[key]
        self.group = scope_of(values.document, self.record.of[0]) or ""
        self.known: dict[str, float] = {}
        self.good = True

    def read(self, entry: Entry, *path: str, kind: Kind = "length", axis: str = "") -> float:
        where = pointer("copies", self.key, *path)
        if where not in self.known:
            scope = EntryScope(self.values, axis, group=self.group)
            self.known[where] = self.values.read(entry, where, kind, scope, owner=copy_id(self.key))
            self.good &= not self.values.values[where].stale or where in self.values.good
        return self.known[where]

    def say(self, field: str, message: str, rule: str, value: str) -> None:
        """Says what cannot be at a field, or of the copy as a whole."""
        where = pointer("copies", self.key, *([field] if field else []))
        self.values.fault_entry(where, "bad_copy", f"{self.record.name}: {message}", rule, value, owner=copy_id(self.key))

    def last_good(self, field: str) -> float:
        """The entry's last good value; where it has none the copy makes nothing."""
        where = pointer("copies", self.key, field)
        self.good &= self.values.stand(where)
        self.known[where] = self.values.values[where].value
        return self.known[where]

    def number(self, entry: Entry, field: str) -> int:
        """How many in all."""
        n = round(self.read(entry, field, kind="count"))
        if self.good and not 1 <= n <= MAX_COPIES:
            self.say(field, f"{n} in all", f"from 1 to {MAX_COPIES}, the original included", str(n))
            n = round(self.last_good(field))
        return n

    def length(self, entry: Entry, field: str, said: str, rule: str = "not 0") -> float:
        """A length that is not 0; one above 0 where the rule says so."""
        value = self.read(entry, field)
        if self.good and (value if rule == "greater than 0" else abs(value)) <= CONTACT:
            shown = self.shown(value)
            self.say(field, said.format(shown), rule, shown)
            value = self.last_good(field)
        return value

    def spacing(self, entry: Entry, field: str) -> float:
        """A spacing that sets copies apart."""
        return self.length(entry, field, "a spacing of {}", "copies stand apart: not 0")

    def too_many(self, message: str, rule: str, value: str) -> None:
        """Says that there are too many; all that says how many goes back to what it was, as any of it may be what was changed."""
        fields = [f for f in _HOW_MANY if getattr(self.record, f, None) is not None]
        self.say(fields[0] if fields else "", message, rule, value)
        self.good &= bool(fields)
        for field in fields:
            self.last_good(field)

    def shown(self, value: float) -> str:
        return format_length(value, self.values.document.display)


def copy_motions(values: Values, key: str, members: int, room: int) -> list[Motion]:
    """The motion of each copy, within the group that it lies in, for ``members`` parts where the design has ``room`` for more.

    What cannot be is said, and stands as it was last good; where it never was, there are no copies.
    """
    reader = _Reader(values, key)
    n, made = _plan(reader)
    over = _too_many(reader, n, members, room)
    if over:
        reader.too_many(*over)
        n, made = _plan(reader)
        reader.good &= _too_many(reader, n, members, room) is None
    return made() if reader.good else []


def _too_many(r: _Reader, n: int, members: int, room: int) -> tuple[str, str, str] | None:
    """What there is to say where there would be too many: the message, the rule and the value."""
    if not r.good:
        return None
    if n > MAX_COPIES:
        return f"{n} in all", f"at most {MAX_COPIES}", str(n)
    total = MAX_INSTANCES - room + members * (n - 1)
    if total > MAX_INSTANCES:
        return f"with it the design would have {total} parts in their places", f"at most {MAX_INSTANCES}", str(total)
    return None


def _plan(r: _Reader) -> _Plan:
    match r.record:
        case MirrorCopy():
            return 2, lambda: _mirror(r)
        case RowCopy():
            return _row(r, r.record)
        case GridCopy():
            return _grid(r, r.record)
        case RingCopy():
            return _ring(r, r.record)


def _mirror(r: _Reader) -> list[Motion]:
    try:
        return [handed_motion(r.values, r.key)]
    except KeyError:
        return []  # its plane is broken, which is said


def _along(axis: str, by: float) -> Motion:
    return moving(tuple(by if a == axis else 0.0 for a in AXES))


def _row(r: _Reader, record: RowCopy) -> _Plan:
    if record.length is not None:
        length = r.length(record.length, "length", "a length of {} to fill")
        largest = r.length(record.largest, "largest", "a largest spacing of {}", "greater than 0") if record.largest else abs(length)
        # equal gaps, none larger than said
        gaps = max(1, math.ceil(abs(length) / largest - EPS)) if r.good else 0
        return gaps + 1, lambda: [_along(record.axis, length * i / gaps) for i in range(1, gaps + 1)]
    if record.number is None or record.spacing is None:
        r.good = False
        r.say("number", "neither a length to fill nor a number and a spacing", "one of both is needed", "")
        return 0, list
    n, step = r.number(record.number, "number"), r.spacing(record.spacing, "spacing")
    return n, lambda: [_along(record.axis, step * i) for i in range(1, n)]


def _grid(r: _Reader, record: GridCopy) -> _Plan:
    n, step = r.number(record.number, "number"), r.spacing(record.spacing, "spacing")
    n_2, step_2 = r.number(record.number_2, "number_2"), r.spacing(record.spacing_2, "spacing_2")
    if r.good and record.axis == record.axis_2:
        r.good = False
        r.say("axis_2", f"both of its rows run along {record.axis}", "two different axes", record.axis_2)

    def made() -> list[Motion]:
        return [_along(record.axis, step * i) @ _along(record.axis_2, step_2 * j) for j in range(n_2) for i in range(n) if i or j]

    return n * n_2, made


def _ring(r: _Reader, record: RingCopy) -> _Plan:
    at = [r.read(record.at[a], "at", a, axis=a) if a != record.axis else 0.0 for a in AXES]  # type: ignore[index]
    n, angle = r.number(record.number, "number"), r.read(record.angle, "angle", kind="angle")
    if r.good and n > 1 and abs(angle) < WITHIN:
        r.say("angle", "a ring over 0°", "copies stand apart: not 0", format_angle(angle))
        angle = r.last_good("angle")
    whole = abs(abs(angle) - 2 * math.pi) < EPS
    step = angle / n if whole and n else angle / max(n - 1, 1)

    def made() -> list[Motion]:
        found = [turning(record.axis, at, step * i) for i in range(1, n)]
        return [_kept_upright(m, r) if record.upright else m for m in found]

    return n, made


def _kept_upright(motion: Motion, r: _Reader) -> Motion:
    """The move of the originals' common middle round the ring, without the turn."""
    middle = _middle(r)
    to = motion.point(middle)
    return moving([to[i] - middle[i] for i in range(3)])


def _middle(r: _Reader) -> tuple[float, float, float]:
    values = r.values
    centres = []
    for key in originals(values.document, r.record.of):
        try:
            centres.append([values.datum(key, a, "centre") for a in AXES])
        except KeyError:
            continue
    n = max(len(centres), 1)
    return three(sum(c[i] for c in centres) / n for i in range(3))
