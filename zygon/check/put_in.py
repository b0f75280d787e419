"""The rule that a screw can be put in when its turn comes: what stands by then leaves its length free before its hole."""

from __future__ import annotations

import numpy as np

from zygon.check.locked import MOST
from zygon.check.sets import near_parts, out_of_the_way
from zygon.making.assembly.plan import assembly
from zygon.making.result.built import Built, MadePart
from zygon.making.result.fault import Fault
from zygon.making.result.hardware import SetPlace
from zygon.making.solids.hardware import box_of_room, room_before
from zygon.measure.display import format_length
from zygon.owner import bore_id
from zygon.stock.hardware.catalogue import FAMILIES
from zygon.tolerance import SEEN

__all__ = ["put_in_faults"]


def put_in_faults(built: Built) -> list[Fault]:
    """Screws and rivets that cannot be pushed home past what is there already, one place each."""
    parts = [p for p in built.made.values() if not p.body.empty and not p.record.aside]
    lows, highs = (np.array([p.reaches[k] for p in parts]).reshape(-1, 3) for k in (0, 1))
    blocked: list[tuple[str, int, SetPlace, list[tuple[float, MadePart]], float]] = []
    for key, one in built.sets.items():
        for n, place in enumerate(one.places):
            head = place.pieces[0].hardware
            if FAMILIES[head.family].role not in ("screw", "rivet"):
                continue
            wide, long = 2 * head.reach, place.tip
            opens = out_of_the_way(built, place)
            found = []
            for i in near_parts(*box_of_room(place, wide, long), lows, highs):
                part = parts[i]
                if part.of in opens or part.key in place.parts:
                    continue
                free = room_before(place, wide, long, part)
                if free < long - SEEN:
                    found.append((free, part))
            if found:
                blocked.append((key, n, place, found, long))
    if not blocked or len(built.parts) > MOST:
        return []
    plan = assembly(built)
    arrives = dict.fromkeys(plan.first, 0) | {k: n for n, step in enumerate(plan.steps, 1) for k in step.parts}
    faults, said = [], set()
    for key, _, place, found, long in blocked:
        turn = max((arrives.get(k, 0) for k in place.parts), default=0)
        there = [(free, part) for free, part in found if arrives.get(part.key, 0) <= turn]
        if not there or key in said:
            continue
        said.add(key)
        free, part = min(there, key=lambda fp: fp[0])
        shown, wanted = (format_length(round(x, 1), built.document.display) for x in (free, long))
        name = built.document.bores[key].name
        faults.append(
            Fault(
                "cannot_be_put_in",
                f"{name}: {part.path}, which is there by then, leaves {shown} before it, and its screw is {wanted} long",
                f"{wanted} free before the hole when the set is put in",
                shown,
                "geometry",
                part=part.key,
                owner=bore_id(key),
                measure=free,
            )
        )
    return faults
