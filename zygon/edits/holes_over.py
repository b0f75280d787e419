"""The holes of hardware taken over as bores into what it lies on, with the screws that are usual for them."""

from __future__ import annotations

import math
from typing import Any

from zygon.design.document import Document
from zygon.design.features import Bore
from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.parts.kinds import is_hardware, is_placed
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.instances import instances_of
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.solving import solve
from zygon.making.features.bore_lines import BoreLine, OwnHole, lines_of_holes, meetings
from zygon.making.hardware.body import body_of
from zygon.making.metal.folding import fold_blanks
from zygon.making.metal.leg_places import leg_face
from zygon.making.pipeline import blanks_of
from zygon.making.result.built import Built
from zygon.making.rooms.named import figure
from zygon.stock.engagement import is_wooden
from zygon.stock.hardware.catalogue import FAMILIES
from zygon.stock.hardware.holes import CLEARANCE
from zygon.stock.hardware.screws import SCREWS
from zygon.stock.hardware.threads import diameter_of
from zygon.tolerance import CONTACT

__all__ = ["holes_over", "take_holes"]

#: What hardware lies on begins within this of its hole's end (mm), and at most so far behind it.
FLUSH, BEHIND = 0.1, 6.0
#: A screw holds by so many of its diameters in the face of a board (common practice), and leaves so much of it behind its tip (mm).
ENGAGED, LEFT = 4.0, 2.0
#: A hole's screw is so much thinner (mm) at least.
LOOSE = 0.2


def take_holes(built: Built, key: str) -> tuple[str, Patch]:
    """Label and patch of bores, with the usual screws, through the holes of a piece of hardware into what it lies on; holes that a bore has taken over are left.

    Raises DocumentError where it is no hardware, or none of its holes lies on a part.
    """
    record = built.document.parts.get(key)
    if not is_hardware(record):
        raise DocumentError("Holes are taken over from hardware", entry="part", value=key, rule="a piece of hardware of the design")
    patch = holes_over(built.document, built, key)
    if not patch:
        rule = "a hole that no bore has taken over, on the face or the edge of a part"
        raise DocumentError(f"{record.name} has no hole that lies on a part", entry="part", value=key, rule=rule, code="no_hole")
    return f"Holes of {record.name}", patch


def holes_over(document: Document, built: Built, key: str) -> Patch:
    """The patch of a bore, with its usual screws, for each leaf and part that the holes of a piece of hardware lie on, and for each width of hole; ``document`` has it already."""
    values = solve(document, built.good, leg_face)
    instances = instances_of(values)
    blanks = blanks_of(values, instances)
    fold_blanks(values, blanks)
    taken = {h for b in document.bores.values() if b.member == key for h in (b.holes or ["*"])}
    whole = {"name": "holes", "axis": "z", "member": key, "at": {}, "diameter": entry_of(document, "1 mm")}
    lines, own = lines_of_holes(values, Bore.model_validate(whole), instances)
    record = document.parts[key]
    assert is_hardware(record)
    body = body_of(record.designation, record.shape, None)
    let_in = (
        0.0
        if record.let_in is None
        else values.read(record.let_in, pointer("parts", key, "let_in"), "length", EntryScope(values), part=key)
    )
    role = FAMILIES[body.piece.family].role if body.piece else ""
    leaf_of, sinks = {h.name: h.leaf for h in body.holes}, {h.name: h.sink for h in body.holes}
    groups: dict[tuple[str, str, str, float], list[BoreLine]] = {}
    for line in lines[:own]:
        hole = line.hole
        assert hole
        met = _lies_on(blanks, line)
        if met and hole.name not in taken and "*" not in taken and (hole.name != "bore" or role == "foot"):
            groups.setdefault((leaf_of[hole.name], *met, hole.across), []).append(line)
    patch: Patch = []
    names = {b.name for b in document.bores.values()}
    keys: dict[str, Any] = dict(document.bores)
    for n, ((leaf, part, how, _), own_lines) in enumerate(groups.items()):
        name = fresh_name(document, f"screws_{record.name}_{leaf}"[:38], names)
        names.add(name)
        first = own_lines[0].hole
        assert first
        thick = blanks[part].thickness - let_in
        bore = {
            **whole,
            "name": name,
            "order": next_order(document.bores) + n,
            "holes": [x.hole.name for x in own_lines if x.hole],
            "diameter": entry_of(document, figure(first.across, document.unit)),
            "parts": {part: {"action": "drill" if how == "edge" else "cut", "fit": entry_of(document, "0")}},
            "hardware": _screw_for(document, part, first, thick, sunk=sinks[first.name] > 0, edge=how == "edge"),
        }
        own_key = fresh_key(keys, name)
        keys[own_key] = None
        patch.append({"op": "add", "path": pointer("bores", own_key), "value": bore})
    return patch


def _lies_on(blanks: dict[str, Blank], line: BoreLine) -> tuple[str, str] | None:
    """The part that begins where a hole's axis leaves the hardware, and how it is met."""
    for key, blank in blanks.items():
        for m in meetings(blank, line):
            half = math.dist(m.start, m.end) / 2
            if m.how != "angle" and -FLUSH - half < m.along - half < BEHIND:
                return key, m.how
    return None


def _holds_in(head: str, size: str, own: float, thick: float) -> bool:
    """Whether a wood screw that is sold goes through what is ``own`` mm thick and holds in a board without coming out of it."""
    return any(
        own + diameter_of(size) * ENGAGED <= x + CONTACT and x <= own + thick - LEFT + CONTACT for x in SCREWS[head].lengths_of(size)
    )


def _screw_for(document: Document, part: str, hole: OwnHole, thick: float, *, sunk: bool, edge: bool) -> dict[str, Any]:
    """What goes through a hole into a part as a rule, of which so much (mm) lies behind it: a wood screw into wood, else a metric one with its nut."""
    across, screw, own = hole.across, hole.screw, hole.thick
    record = document.parts[part]
    if is_placed(record) and record.stock and is_wooden(document.stock_of(record)):
        head = "wood" if sunk else "wood_round"
        most = diameter_of(screw[1]) if screw[1] else across - LOOSE
        sizes = [s for s in SCREWS[head].rows if diameter_of(s) <= most + CONTACT and SCREWS[head].head(s)[0] > across]
        # what is thin takes a thinner screw, which holds in it
        sizes = [s for s in sizes if edge or _holds_in(head, s, own, thick)] or sizes[:1]
        return {"head": head, "size": max(sizes, key=diameter_of, default="2.5"), "side": "low"}
    for head in ("countersunk", "pan") if sunk else ("pan",):
        fine = [s for s in SCREWS[head].rows if CLEARANCE[s[1:]][0] <= across + CONTACT and SCREWS[head].head(s)[0] > across]
        if fine:
            return {"head": head, "size": max(fine, key=diameter_of), "side": "low"}
    return {"head": "pan", "size": "M2", "side": "low"}
