"""Rules of a router's bits, clamps and ways of milling: every entry can be read, and means something."""

from __future__ import annotations

from collections.abc import Iterator

from zygon.design.document import Document
from zygon.design.pointer import pointer
from zygon.errors import ExpressionError
from zygon.limits import MAX_BIT
from zygon.making.result.fault import Fault
from zygon.measure.display import format_length
from zygon.measure.entry import Entry
from zygon.measure.evaluate import plain_length

__all__ = ["MILLING", "router_faults"]

#: Entries of how it mills, what they are called, and whether they may be nothing.
MILLING = {
    "reach": ("cutting length", False), "finish": ("left for a finishing run", True), "over": ("into the bed", True), "peck": ("pecks", False),
    "mark_depth": ("depth of marks", False), "tab_length": ("length of a tab", False), "tab_height": ("height of a tab", False),
    "skin": ("skin left to the last", True), "safe": ("safe height", False),
}  # a row a line  # fmt: skip


def router_faults(document: Document) -> list[Fault]:
    """What is wrong with the entries of the chosen cutter, where it is a router."""
    cutter = document.cutters.get(document.cutter)
    if cutter is None or not cutter.can.bit:
        return []
    base = ("cutters", document.cutter)
    found: list[Fault] = []
    for field, (said, nothing) in MILLING.items():
        entry = getattr(cutter.routing, field)
        if entry:
            found += _length(entry, f"{cutter.name}, {said}", pointer(*base, "routing", field), nothing=nothing)
    numbers = {1: "the bit of outlines"}
    for key, bit in cutter.bits.items():
        where = f"{cutter.name}, {bit.name}"
        found += _length(bit.diameter, f"{where}: its diameter", pointer(*base, "bits", key, "diameter"), most=MAX_BIT)
        if bit.reach:
            found += _length(bit.reach, f"{where}: its cutting length", pointer(*base, "bits", key, "reach"))
        if bit.number in numbers:
            rule = "each bit has a number of its own"
            said = f"{where}: T{bit.number} is {numbers[bit.number]} already"
            found.append(Fault("bad_value", said, rule, str(bit.number), entry=pointer(*base, "bits", key, "number")))
        numbers.setdefault(bit.number, bit.name)
    for key, clamp in cutter.clamps.items():
        for field, said, nothing in (
            ("x", "from the left", True),
            ("y", "from below", True),
            ("length", "along", False),
            ("width", "across", False),
            ("height", "height", False),
        ):
            found += _length(
                getattr(clamp, field), f"{cutter.name}, {clamp.name}, {said}", pointer(*base, "clamps", key, field), nothing=nothing
            )
    return found


def _length(entry: Entry, said: str, where: str, *, nothing: bool = False, most: float | None = None) -> Iterator[Fault]:
    try:
        value = plain_length(entry)
    except ExpressionError as error:
        yield Fault("broken_expression", f"{said}: {error.message}", error.reason, error.text, entry=where)
        return
    shown = format_length(value)
    if value < 0 or (value == 0 and not nothing):
        yield Fault("bad_value", f"{said} is {shown}", "0 or more" if nothing else "it is greater than 0", shown, entry=where)
    elif most is not None and value > most:
        yield Fault("bad_value", f"{said} is {shown}", f"at most {format_length(most)}", shown, entry=where)
