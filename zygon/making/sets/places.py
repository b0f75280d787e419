"""The sets of a design's bores: chosen where the bores lie, laid wherever they are copied to. What is wrong with one is a fault of its bore."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from zygon.design.features import Bore
from zygon.design.hardware import HardwareSet
from zygon.design.pointer import pointer
from zygon.geometry.motion import IDENTITY, Motion, Vector
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.instances import Instance
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.features.bore_lines import BoreLine
from zygon.making.features.bores import Axes, Holes
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.hardware import BuiltSet, SetPiece, SetPlace
from zygon.making.result.operations import Operation
from zygon.making.sets.choose import Chosen, Wrong, choose
from zygon.making.sets.stack import Passed, stack_of
from zygon.making.tube.pieces import Pieces, pieces_of
from zygon.measure.display import format_length
from zygon.owner import bore_id
from zygon.stock.hardware.screws import SCREWS
from zygon.stock.kinds import StockKind
from zygon.tolerance import CONTACT, EPS

__all__ = ["sets_of"]

#: Stacks on one axis that lie within this of one another (mm) are passed as one.
TOUCHES = 0.05


@dataclass(frozen=True)
class _Way:
    """A set's axis as seen from its head: a place on it, its direction, and the sign of the bore's own coordinate along it."""

    point: Vector
    way: Vector


def sets_of(
    values: Values,
    blanks: dict[str, Blank],
    operations: Mapping[str, list[Operation]],
    instances: dict[str, Instance],
    axes: Axes,
) -> tuple[dict[str, BuiltSet], Holes]:
    """The sets by the keys of their bores, in order, and the holes that they ask for by bore, part and number of the passage along it."""
    sets: dict[str, BuiltSet] = {}
    holes: Holes = {}
    pieces: Pieces | None = None
    for key, at in axes.items():
        bore, lines = values.document.bores[key], at.lines
        said = bore.hardware
        if said is None:
            continue
        if pieces is None and any(values.section_of(p) for p in bore.parts if p in values.boards):
            pieces = pieces_of(values)
        lines = lines if lines[0].hole is not None else lines[: at.own]
        stacks = [stack_of(bore, line, blanks, operations, instances, pieces) for line in lines]
        made = _made(values, key, bore, lines, stacks, instances)
        if made is None:
            continue
        sets[key], own = made
        if said.head != "none":
            for (part, number), hole in own.holes.items():
                holes[key, part, number] = replace(hole, high=said.side == "high")
    return sets, holes


def _made(
    values: Values, key: str, bore: Bore, lines: tuple[BoreLine, ...], stacks: list[list[Passed]], instances: dict[str, Instance]
) -> tuple[BuiltSet, Chosen] | None:
    """The set of one bore, chosen where its own axis passes; None where it passes nothing. In a row it lies where the same parts are passed."""
    said, owner, where = bore.hardware, bore_id(key), pointer("bores", key, "hardware")
    assert said
    if not stacks[0]:
        values.faults.append(
            Fault(
                "set_holds_nothing",
                f"{bore.name}: its set holds nothing",
                "a set passes a part that its bore cuts",
                "",
                owner=owner,
                entry=where,
            )
        )
        return None
    seen = _from_head(said, stacks[0])
    if said.head != "none" and seen[0].how != "square":
        values.faults.append(
            Fault(
                "set_askew",
                f"{bore.name}: the head of its set would not lie flat on {values.boards[seen[0].part].name}",
                "a head lies on a face that its axis meets square",
                "",
                part=seen[0].part,
                owner=owner,
                entry=f"{where}/side",
            )
        )
        return None
    if said.holds_by not in ("nut", "rivet") and seen[-1].hole:
        values.faults.append(
            Fault(
                "set_holds_nothing",
                f"{bore.name}: its screw would go into {values.boards[seen[-1].part].name}",
                "a screw goes into what hardware lies on, through its hole; or on into a nut",
                "",
                part=seen[-1].part,
                owner=owner,
                entry=where,
            )
        )
        return None
    stated = None
    if said.length is not None:
        stated = values.read(said.length, where + "/length", "length", EntryScope(values), owner=owner)
        if stated <= CONTACT:
            if not values.values[where + "/length"].stale:
                shown = format_length(stated)
                values.fault_entry(
                    where + "/length", "bad_value", f"{bore.name}: a length of {shown}", "a length is greater than 0", shown, owner=owner
                )
            stated = None

    def stock_of(part: str) -> StockKind:
        return values.document.stock_of(values.boards[part])

    chosen = choose(said, seen, stock_of, stated)
    for w in chosen.wrong:
        values.faults.append(_fault(values, key, bore, w, seen))
    alike = [
        (line, _from_head(said, stack))
        for line, stack in zip(lines, stacks, strict=False)
        if [p.part for p in stack] == [p.part for p in stacks[0]]
    ]
    places = []
    for own, at in _places(values, key, said, alike, instances):
        laid = chosen if [(p.low, p.high) for p in own] == [(p.low, p.high) for p in seen] else choose(said, own, stock_of, stated)
        places.append(_place(laid, tuple(dict.fromkeys(p.instance for p in own)), at))
    holes = {p: h.wide for (p, _), h in chosen.holes.items()}
    return BuiltSet(key, _words(places[0]), chosen.needed, chosen.length, chosen.engaged, tuple(places), holes), chosen


def _from_head(said: HardwareSet, stack: list[Passed]) -> list[Passed]:
    """A stack as seen from the head: along the axis, or against it."""
    if said.side == "low":
        return stack
    return sorted((replace(p, low=-p.high, high=-p.low, off=p.off[::-1]) for p in stack), key=lambda p: (p.low, p.high))


#: A stack as seen from a head, and where that looks.
_Laid = tuple[list[Passed], _Way]


def _places(
    values: Values, key: str, said: HardwareSet, alike: list[tuple[BoreLine, list[Passed]]], instances: dict[str, Instance]
) -> list[_Laid]:
    """Where a set lies: where its bore does, and wherever that is copied to; what touches on one axis is passed as one."""
    sign = 1.0 if said.side == "low" else -1.0
    found: list[_Laid] = []
    for motion, keys in _motions(values, key, [p.part for p in alike[0][1]], instances):
        for line, seen in alike:
            x, y, z = motion.vector(line.way)
            at = _Way(motion.point(line.point), (x * sign, y * sign, z * sign))
            there = [_at(p, _moved(instances, motion, p.instance) if p.hole else keys[p.part]) for p in seen]
            if not _met_again(said, found, there, at):
                found.append((there, at))
    return found


def _met_again(said: HardwareSet, found: list[_Laid], seen: list[Passed], at: _Way) -> bool:
    """Whether what a set passes elsewhere lies on the axis of one that is there: its own image, or what it goes on through, which is then added to that."""
    for n, (stack, other) in enumerate(found):
        shift = _along(other, at)
        if shift is None:
            continue
        if _dot(at.way, other.way) > 0:
            own = [replace(p, low=p.low + shift, high=p.high + shift) for p in seen]
        else:
            own = [replace(p, low=shift - p.high, high=shift - p.low) for p in reversed(seen)]
        if all(any(abs(p.low - q.low) + abs(p.high - q.high) < TOUCHES for q in stack) for p in own):
            return True  # as of a bore in the plane that its parts are mirrored by
        if said.holds_by in ("nut", "rivet") and said.head != "none" and _touch(stack, own):
            found[n] = sorted((*stack, *own), key=lambda p: (p.low, p.high)), other
            return True
    return False


def _touch(a: list[Passed], b: list[Passed]) -> bool:
    (low, high), (other_low, other_high) = ((s[0].low, max(p.high for p in s)) for s in (a, b))
    return abs(low - other_high) < TOUCHES or abs(other_low - high) < TOUCHES


def _along(a: _Way, b: _Way) -> float | None:
    """Where b's own place lies along a's axis, where both run along one line."""
    if abs(abs(_dot(a.way, b.way)) - 1) > EPS:
        return None
    off = (b.point[0] - a.point[0], b.point[1] - a.point[1], b.point[2] - a.point[2])
    shift = _dot(off, a.way)
    beside = [o - w * shift for o, w in zip(off, a.way, strict=True)]
    return shift if math.hypot(*beside) < TOUCHES else None


def _dot(a: Vector, b: Vector) -> float:
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def _at(passed: Passed, instance: str) -> Passed:
    return passed if passed.instance == instance else replace(passed, instance=instance)


def _motions(values: Values, key: str, through: list[str], instances: dict[str, Instance]) -> list[tuple[Motion, dict[str, str]]]:
    """The motions that take a bore to where it is copied, with the instance that stands there for each of its parts."""
    own = {p: p for p in dict.fromkeys(through) if p in values.document.bores[key].parts}
    found: dict[Motion, dict[str, str]] = {IDENTITY: dict(own)}
    for i in instances.values():
        if not i.made_by or i.part not in own or bore_id(key) in i.without(values.document):
            continue
        other = values.document.bores[key].parts[i.part].copies.get(i.key)
        if other is not None and other.action not in ("cut", "drill"):
            continue
        motion = (i.motion @ instances[i.part].motion.inverse).rounded()
        found.setdefault(motion, dict(own))[i.part] = i.key
    return list(found.items())


def _moved(instances: dict[str, Instance], motion: Motion, key: str) -> str:
    """The instance of hardware that stands where a motion takes one of its instances; that one where none does."""
    there, own = motion @ instances[key].motion, instances[key]
    return next((i.key for i in instances.values() if i.part == own.part and i.motion.same(there)), key)


@lru_cache(maxsize=256)
def _ways(x: float, y: float, z: float) -> tuple[Vector, Vector, Vector]:
    """A direction, and two square to it and to one another, of length 1 and right-handed in the order u, v, w: w comes first."""
    w = np.array((x, y, z)) / math.sqrt(x * x + y * y + z * z)
    u = np.cross(np.eye(3)[int(np.abs(w).argmin())], w)
    u /= np.linalg.norm(u)
    v = np.cross(w, u)
    first, second, third = ((float(a[0]), float(a[1]), float(a[2])) for a in (w, u, v))
    return first, second, third


def _place(chosen: Chosen, parts: tuple[str, ...], at: _Way) -> SetPlace:
    """A set in one place in the room."""
    w, u, v = _ways(*(round(float(x), 12) for x in at.way))
    x, y, z = (float(c) for c in at.point)
    pieces = []
    for hardware, along, turned in chosen.lay:
        sign = -1.0 if turned else 1.0
        place = (x + w[0] * along, y + w[1] * along, z + w[2] * along)
        (a, b, c) = ((u[i], sign * v[i], sign * w[i], place[i]) for i in range(3))
        pieces.append(SetPiece(hardware, Motion((a, b, c))))
    under = chosen.under
    head = (x + w[0] * under, y + w[1] * under, z + w[2] * under)
    return SetPlace(
        parts,
        tuple(pieces),
        head,
        w,
        (chosen.stack[0] - under, chosen.stack[1] - under),
        chosen.tip - under,
        chosen.tool,
    )


def _words(place: SetPlace) -> str:
    """A set in words: 'socket head screw M5 × 60, 2 plain washers, hexagon nut'."""
    counted: dict[str, int] = {}
    for p in place.pieces:
        h = p.hardware
        name = f"{h.title} {h.measure}" if h.family in SCREWS or h.length is not None else h.title
        counted[name] = counted.get(name, 0) + 1
    return ", ".join(name if n == 1 else f"{n} {name}s" for name, n in counted.items())


def _fault(values: Values, key: str, bore: Bore, wrong: Wrong, stack: list[Passed]) -> Fault:
    where = pointer("bores", key, "hardware", wrong.field)
    said = bore.hardware
    mends: tuple[Mend, ...] = ()
    if wrong.field == "length" and said is not None and said.length is not None:
        mends = (Mend("Take the shortest that does", [{"op": "remove", "path": where}]),)
    if wrong.instead:
        title = SCREWS[wrong.instead].title
        mends = (
            *mends,
            Mend(f"Take a {title}", [{"op": "replace", "path": pointer("bores", key, "hardware", "head"), "value": wrong.instead}]),
        )
    part = stack[-1].part if wrong.code in ("thread_too_short", "grips_little", "insert_room") else ""
    return Fault(
        wrong.code,
        f"{bore.name}: {wrong.message}",
        wrong.rule,
        format_length(wrong.value),
        wrong.source,
        wrong.severity,
        part=part,
        owner=bore_id(key),
        entry=where,
        mends=mends,
    )
