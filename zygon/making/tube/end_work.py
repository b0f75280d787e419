"""What is done at the ends of members once they are sawn, as their entries say it."""

from __future__ import annotations

from zygon.design.parts.kinds import is_member
from zygon.design.patch import pointer
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.tube.tips import Tip, core_of, size_of
from zygon.measure.display import format_length
from zygon.stock.section import Section
from zygon.tolerance import CONTACT, WITHIN

__all__ = ["tips_of"]


def tips_of(values: Values, key: str, section: Section, straight: tuple[float, float]) -> tuple[Tip | None, Tip | None]:
    """The threads and chamfers at A and at B; ``straight`` is how far each end is straight and cut off square, 0 where it is not. What cannot be is a fault."""
    member = values.boards[key]
    assert is_member(member)
    return tuple(_tip(values, key, end, section, far) if end in member.worked else None for end, far in zip("ab", straight, strict=True))  # type: ignore[return-value]


def _tip(values: Values, key: str, end: str, section: Section, straight: float) -> Tip | None:
    member = values.boards[key]
    assert is_member(member)
    work, where = member.worked[end], pointer("parts", key, "worked", end)  # type: ignore[index]
    scope, name = EntryScope(values, stock=member.stock), f"{member.name}, end {end.upper()}"
    long = values.read(work.long, f"{where}/long", "length", scope, part=key) if work.thread else 0.0
    chamfer = values.read(work.chamfer, f"{where}/chamfer", "length", scope, part=key) if work.chamfer is not None else 0.0
    if not work.thread and not chamfer:
        return None

    def wrong(field: str, said: str, rule: str, value: str) -> None:
        values.fault_entry(f"{where}/{field}", "bad_end", f"{name}: {said}", rule, value, key)

    if section.shape != "round" or (work.thread and section.wall):
        wrong("thread", "a thread or chamfer on what is not round", "a round bar; a tube has no thread of its own", section.shape)
        return None
    if not straight:
        wrong("thread", "a thread or chamfer on an end that is cut to something", "an end that is cut off square", "")
        return None
    if work.thread:
        size = size_of(work.thread)
        if size > section.height + WITHIN:
            shown = format_length(section.height)
            wrong("thread", f"{work.thread} on a bar of {shown}", f"a thread is no thicker than its bar, {shown}", work.thread)
            return None
        if not CONTACT < long <= straight + WITHIN:
            shown, most = format_length(long), format_length(round(straight, 3))
            wrong("long", f"a thread {shown} long", f"longer than 0, and no longer than what is straight there, {most}", shown)
            return None
    radius = core_of(work.thread) / 2 if work.thread else section.height / 2
    room = min(radius, long or straight, section.wall or radius)
    if chamfer and not 0 < chamfer < room:
        shown, limit = format_length(chamfer), format_length(round(room, 3))
        wrong("chamfer", f"a chamfer of {shown}", f"more than 0, and less than {limit}", shown)
        chamfer = 0.0
    return Tip(work.thread, long, chamfer) if work.thread or chamfer else None
