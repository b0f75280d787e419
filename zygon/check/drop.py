"""The rule that something holds every part up, with a support or joints as its mends."""

from __future__ import annotations

from zygon.check.holding import holding_mends, joint_mends
from zygon.geometry.frame import FACES
from zygon.making.assembly.hold import Drop, drops
from zygon.making.result.built import Built, MadePart
from zygon.making.result.fault import Fault
from zygon.measure.display import format_length

__all__ = ["drop_faults"]


def drop_faults(built: Built, *, tried: bool = True) -> list[Fault]:
    """Parts that would drop, or tip; ``tried``: what would hold a part that is copied is built before it is offered."""
    faults = []
    display = built.document.display
    said: set[str] = set()
    for drop, with_it in _together(built, drops(built)):
        part = built.made[drop.part]
        if part.made_by and part.of in said:
            continue  # a copy drops as its original does
        said |= {part.of, *(built.parts[k].of for k in with_it)}
        if drop.way:
            faults.append(_tips(built, part, drop))
            continue
        shown = format_length(drop.height, display)
        where = f"onto {built.parts[drop.onto].path}" if drop.onto else "to the ground"
        n = len(with_it)
        what = part.path if not n else f"{part.path} and what is joined to it ({n} more {'part' if n == 1 else 'parts'})"
        faults.append(
            Fault(
                "drops",
                f"Nothing holds {what} up: it would drop {shown} {where}",
                "every part rests on something or is joined to what does",
                shown,
                "geometry",
                "warning",
                drop.part,
                drop.onto,
                mends=holding_mends(built, part, drop, with_it, tried=tried),
            )
        )
    return faults


def _together(built: Built, found: list[Drop]) -> list[tuple[Drop, list[str]]]:
    """What drops together, told once: the one that lands first of all that are joined, and the keys of the others."""
    falling = {d.part: d for d in found if not d.way}
    near: dict[str, set[str]] = {k: set() for k in falling}
    for joint in built.joints.values():
        for a, b in joint.pairs:
            if not joint.refused and a in near and b in near:
                near[a].add(b)
                near[b].add(a)
    for seat in built.seats:
        if seat.connector in near and seat.member in near:
            near[seat.connector].add(seat.member)
            near[seat.member].add(seat.connector)
    told: list[tuple[Drop, list[str]]] = [(d, []) for d in found if d.way]
    left = dict.fromkeys(falling)
    while left:
        group, waiting = [], [next(iter(left))]
        while waiting:
            key = waiting.pop()
            if key in left:
                del left[key]
                group.append(key)
                waiting += near[key]
        first = min(group, key=lambda k: (falling[k].height, bool(built.parts[k].made_by), group.index(k)))
        told.append((falling[first], [k for k in group if k != first]))
    return told


def _tips(built: Built, part: MadePart, drop: Drop) -> Fault:
    """A part that lies on something at one side only."""
    shown = format_length(round(drop.beyond, 2), built.document.display)
    side = FACES[drop.way[0]][drop.way[1] > 0]  # type: ignore[index]
    where = {"front": "to the front", "back": "to the back"}.get(side, f"to the {side}")
    return Fault(
        "tips",
        f"{part.path} tips {where}: its centre of gravity lies {shown} beyond what bears it",
        "what lies loose is borne under its centre of gravity, or joined",
        shown,
        "geometry",
        "warning",
        drop.part,
        mends=joint_mends(built, built.flats[drop.part]) if drop.part in built.flats else (),
    )
