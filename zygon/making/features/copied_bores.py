"""Bores repeat along: where a bore goes through a board that is copied and one that stays, the copies bore the one that stays too."""

from __future__ import annotations

from zygon.making.blanks.blank import Blank
from zygon.making.blanks.carry import carrier, carry
from zygon.making.blanks.instances import Instance
from zygon.making.datums.values import Values
from zygon.making.result.operations import Operation
from zygon.owner import bore_id

__all__ = ["add_copied_bores"]


def add_copied_bores(
    values: Values,
    blanks: dict[str, Blank],
    instances: dict[str, Instance],
    bored: dict[str, list[Operation]],
    operations: dict[str, list[Operation]],
) -> None:
    """Adds to boards that stay what copies of their bores' other boards carry there."""
    copied = [i for i in instances.values() if i.made_by]
    if not copied:
        return
    parts_of = {i.part for i in copied}
    for key, bore in values.document.bores.items():
        through = [p for p in bore.parts if p in blanks]
        if bore.out or not any(p in parts_of for p in through):
            continue
        for part in through:
            blank = blanks[part]
            own = [o for o in bored.get(part, []) if o.owner == bore_id(key)]
            seen = {instances[part].motion.rounded(), *(i.motion.rounded() for i in copied if i.part == part)}
            for i in copied:
                if i.part == part or i.part not in through or bore_id(key) in i.without(values.document):
                    continue
                motion = i.motion @ instances[i.part].motion.inverse
                there = (motion @ instances[part].motion).rounded()
                if there in seen:  # it was copied along, or bored by this very motion already
                    continue
                seen.add(there)
                by = carrier(blank, blank, motion)
                carried = [carry(o, by, blank, blank) for o in own] if by else []
                operations[part].extend(o for o in carried if o is not None)
