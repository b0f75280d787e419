"""What is bought for a design: the hardware of its sets and joints by its standards, and its bought parts; and as CSV."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from zygon.design.parts.kinds import is_placed
from zygon.exchange.cutlist import cut_list
from zygon.exchange.figures import plain
from zygon.exchange.table import csv_text
from zygon.making.result.built import Built
from zygon.making.sets.rings import rings_of
from zygon.owner import bore_id, joint_id, part_id
from zygon.stock.hardware.catalogue import FAMILIES, by_designation, piece
from zygon.stock.hardware.piece import Hardware
from zygon.tolerance import CONTACT

__all__ = ["BuyRow", "hardware_used", "to_buy", "write_to_buy"]


@dataclass(frozen=True)
class BuyRow:
    """One line of an order. ``needed`` are those of the design, ``spare`` what is bought beyond; price and mass (g) of one, None where not known.

    ``owners`` are the bores, joints and parts that need it; ``designation`` is '' for what no standard names.
    """

    name: str
    standard: str
    designation: str
    needed: int
    spare: int
    price: float | None
    mass: float | None
    owners: tuple[str, ...]

    @property
    def quantity(self) -> int:
        """How many are bought."""
        return self.needed + self.spare

    @property
    def total(self) -> float | None:
        """The price of all that are bought."""
        return None if self.price is None else self.price * self.quantity


def hardware_used(built: Built) -> Iterator[tuple[Hardware, int, str]]:
    """Every piece of hardware with how many of it one bore or joint needs."""
    document = built.document
    for key, one in built.sets.items():
        for place in one.places:
            times = min((built.parts[k].record.quantity for k in place.parts if k in built.parts), default=1)
            for p in place.pieces:
                yield p.hardware, times, bore_id(key)
    for part, ring in rings_of(built):
        yield ring.hardware, part.record.quantity, part_id(part.of)
    for item in built.parts.values():
        designation = getattr(item.record, "designation", "")
        if designation and designation not in document.hardware.own:
            yield by_designation(designation), item.record.quantity, part_id(item.of)
    for key, joint in built.joints.items():
        record = document.joints.get(key)
        if record is None or joint.refused or not joint.fingers or record.kind not in ("screws", "dowels"):
            continue
        hardware = _of_joint(record.kind, getattr(record, "size", ""), joint.details)
        if hardware is None:
            continue
        for pair in joint.pairs:
            times = min((built.parts[k].record.quantity for k in pair if k in built.parts), default=1)
            yield hardware, times * len(joint.fingers), joint_id(key)


def _of_joint(kind: str, size: str, details: dict[str, float]) -> Hardware | None:
    """The screw or the dowel that a joint takes; None where none is made like that."""
    if kind == "screws":
        lengths = FAMILIES["wood"].lengths_of(size) if size in FAMILIES["wood"].rows else ()
        length = next((x for x in lengths if abs(x - details.get("length", 0.0)) < CONTACT), None)
        return piece("wood", size, length) if length else None
    size = f"{details.get('diameter', 0.0):g}"
    if size not in FAMILIES["dowel"].rows:
        return None
    room = details.get("depth_edge", 0.0) + details.get("depth_face", 0.0)
    fitting = [x for x in FAMILIES["dowel"].lengths_of(size) if x <= room + CONTACT]
    return piece("dowel", size, max(fitting)) if fitting else None


def to_buy(built: Built) -> list[BuyRow]:
    """The lines of an order: hardware by family, size and length, then bought parts in the cut list's order."""
    said = built.document.hardware
    counts: dict[Hardware, tuple[int, dict[str, None]]] = {}
    for hardware, n, owner in hardware_used(built):
        before, owners = counts.get(hardware, (0, {}))
        owners[owner] = None
        counts[hardware] = (before + n, owners)
    # an item that is counted only may say what it costs itself
    own = {
        designation: p.record.price
        for p in built.parts.values()
        if (designation := getattr(p.record, "designation", "")) and p.record.price
    }
    prices = {**own, **said.prices}
    order = list(FAMILIES)
    rows = []
    for h in sorted(counts, key=lambda h: (order.index(h.family), list(FAMILIES[h.family].rows).index(h.size), h.length or 0.0)):
        n, owners = counts[h]
        rows.append(BuyRow(h.name, h.standard, h.designation, n, _spare(n, said.spare), prices.get(h.designation), h.mass, tuple(owners)))
    rows += _own(built)
    for row in cut_list(built):
        record = built.parts[row.key].record
        if row.made == "bought" and not getattr(record, "designation", ""):
            loose = 0 if is_placed(record) else _spare(row.quantity, said.spare)
            owners = {part_id(built.parts[k].of): None for k in row.keys}
            rows.append(BuyRow(row.part.replace("_", " "), "", "", row.quantity, loose, row.price or None, row.mass, tuple(owners)))
    return rows


def _own(built: Built) -> list[BuyRow]:
    """What of the shop's own list is needed, each piece once."""
    said = built.document.hardware
    found: dict[str, tuple[int, dict[str, None]]] = {}
    for part in built.parts.values():
        designation = getattr(part.record, "designation", "")
        if designation in said.own and not is_placed(part.record):
            n, owners = found.get(designation, (0, {}))
            owners[part_id(part.of)] = None
            found[designation] = (n + part.record.quantity, owners)
    return [
        BuyRow(said.own[d].name, "", d, n, _spare(n, said.spare), said.prices.get(d), said.own[d].mass, tuple(owners))
        for d, (n, owners) in found.items()
    ]


def _spare(n: int, share: float) -> int:
    """So many more are bought, in whole pieces."""
    return math.ceil(n * share / 100 - CONTACT)


def write_to_buy(built: Built) -> str:
    """The order as CSV (RFC 4180), UTF-8; masses in grams; '' where nothing is bought."""
    rows = to_buy(built)
    if not rows:
        return ""
    head = ["Name", "Standard", "Designation", "Needed", "Spare", "To buy", "Price each", "Price", "Mass g each"]
    lines: list[list[object]] = []
    for r in rows:
        each = "" if r.price is None else plain(r.price, 4)
        total = "" if r.total is None else plain(r.total, 2)
        lines.append(
            [r.name, r.standard, r.designation, r.needed, r.spare, r.quantity, each, total, "" if r.mass is None else plain(r.mass, 2)]
        )
    return csv_text(head, lines)
