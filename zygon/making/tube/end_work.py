"""What is done at the ends of members once they are sawn, as their entries say it."""

from __future__ import annotations

from zygon.design.parts.kinds import is_member, is_rod
from zygon.design.pointer import pointer
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.tube.cuts import ENDS, AtEnd
from zygon.making.tube.flat_end import Flat, flat_wide
from zygon.making.tube.tips import Tip, core_of, size_of
from zygon.measure.display import format_length
from zygon.measure.quantity import Kind
from zygon.stock.hardware.pins import PINS, ring_for
from zygon.stock.section import Section
from zygon.tolerance import CONTACT, WITHIN

__all__ = ["tips_of"]


def tips_of(values: Values, key: str, section: Section, straight: tuple[float, float]) -> tuple[Tip | None, Tip | None]:
    """The threads and chamfers at A and at B; ``straight`` is how far each end is straight and cut off square, 0 where it is not. What cannot be is a fault."""
    member = values.boards[key]
    assert is_member(member) or is_rod(member)
    return tuple(_tip(values, key, end, section, far) if end in member.worked else None for end, far in zip(ENDS, straight, strict=True))  # type: ignore[return-value]


def _tip(values: Values, key: str, end: AtEnd, section: Section, straight: float) -> Tip | None:
    member = values.boards[key]
    assert is_member(member) or is_rod(member)
    work, where = member.worked[end], pointer("parts", key, "worked", end)
    scope, name = EntryScope(values, stock=member.stock), f"{member.name}, end {end.upper()}"
    long = values.read(work.long, f"{where}/long", "length", scope, part=key) if work.thread else 0.0
    chamfer = values.read(work.chamfer, f"{where}/chamfer", "length", scope, part=key) if work.chamfer is not None else 0.0
    if work.flat is not None:
        return _flat(values, key, end, section, straight)
    if not work.thread and not chamfer and work.ring is None:
        return None

    def wrong(field: str, said: str, rule: str, value: str) -> None:
        values.fault_entry(f"{where}/{field}", "bad_end", f"{name}: {said}", rule, value, key)

    if section.shape != "round" or (work.thread and section.wall):
        wrong(
            "thread", "a thread, a chamfer or a groove on what is not round", "a round bar; a tube has no thread of its own", section.shape
        )
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
    groove = None
    if work.ring is not None:
        off = values.read(work.ring, f"{where}/ring", "length", scope, part=key)
        found = _groove(section, off, max(long, chamfer), straight)
        if isinstance(found, str):
            shown = format_length(off)
            wrong("ring", f"a retaining ring {shown} from the end of {format_length(section.height)}", found, shown)
        else:
            groove = found
    return Tip(work.thread, long, chamfer, groove=groove) if work.thread or chamfer or groove else None


def _groove(section: Section, off: float, taken: float, straight: float) -> tuple[float, float, float] | str:
    """The groove of a retaining ring: from where, how wide, its ground's diameter; the rule that is broken where there can be none."""
    rows = PINS["shaft_ring"].rows
    size = ring_for(section.height)
    if section.wall or size is None:
        return f"a solid round bar of {', '.join(rows)} mm: DIN 471"
    _, _, core, wide = rows[size]
    least = max(taken, 0.75 * (section.height - core))  # what is left beside a groove: DIN 471 (from memory)
    if not least - WITHIN <= off <= straight - wide + WITHIN:
        return f"at least {format_length(round(least, 2))} from the end, and on the rod"
    return off, wide, core


def _flat(values: Values, key: str, end: AtEnd, section: Section, straight: float) -> Tip | None:
    """An end that is pressed flat."""
    member = values.boards[key]
    assert is_member(member) or is_rod(member)
    work, where = member.worked[end], pointer("parts", key, "worked", end)
    name = f"{member.name}, end {end.upper()}"

    def read(field: str, usual: float, kind: Kind = "length") -> float:
        entry = getattr(work, field)
        return usual if entry is None else values.read(entry, f"{where}/{field}", kind, EntryScope(values, stock=member.stock), part=key)

    def wrong(field: str, said: str, rule: str, value: str) -> None:
        values.fault_entry(f"{where}/{field}", "bad_end", f"{name}: {said}", rule, value, key)

    if section.shape != "round":
        wrong("flat", "an end pressed flat of what is not round", "a round tube or bar", section.shape)
        return None
    if work.thread or work.chamfer is not None or work.ring is not None:
        wrong("flat", "an end that is pressed flat has a thread or chamfer", "a thread and a chamfer are on a round end", work.thread)
        return None
    if not straight:
        wrong("flat", "an end that is pressed flat is cut to something", "an end that is cut off square", "")
        return None
    across, wall = section.height, section.wall
    least = 2 * wall if wall else 0.0
    thick = read("thick", least or across / 2)
    if not (max(least - WITHIN, CONTACT) <= thick < across - CONTACT):
        shown, most = format_length(round(thick, 3)), format_length(across)
        rule = f"{f'at least its two walls, {format_length(least)}' if wall else 'greater than 0'}, and less than {most}"
        wrong("thick", f"a flat {shown} thick", rule, shown)
        return None
    flat, blend = read("flat", 0.0), read("blend", across)
    for field, far, room in (("flat", flat, straight), ("blend", blend, straight - flat)):
        if not CONTACT < far <= room + WITHIN:
            shown, most = format_length(round(far, 3)), format_length(round(max(room, 0.0), 3))
            wrong(field, f"a flat that takes {shown}", f"longer than 0, and no longer than what is straight there, {most}", shown)
            return None
    wide = flat_wide(across, wall, thick)
    bore = read("bore", 0.0)
    off = read("bore_off", flat / 2)
    if work.bore is not None and not (CONTACT < bore < wide - CONTACT):
        shown, most = format_length(round(bore, 3)), format_length(round(wide, 2))
        wrong("bore", f"a hole of {shown} in the flat", f"greater than 0, and less than the flat is wide, {most}", shown)
        bore = 0.0
    elif bore and not bore / 2 - WITHIN < off < flat - bore / 2 + WITHIN:
        shown = format_length(round(off, 3))
        wrong("bore_off", f"a hole {shown} from the end", "a hole lies whole in the flat", shown)
        bore = 0.0
    turned = read("looks", 0.0, "angle")
    # an end's own v looks the other way at A
    return Tip(flat=Flat(across, wall, flat, blend, thick, -turned if end == "a" else turned, bore, off if bore else 0.0))
