"""Rules of sets: they run into nothing, their heads can be reached, and what bears on wood has a washer."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zygon.design.parts.kinds import is_hardware
from zygon.design.pointer import pointer
from zygon.making.hardware.body import HardwareBody
from zygon.making.result.built import Built, FlatPart, MadePart
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.hardware import SetPiece, SetPlace
from zygon.making.solids.hardware import bitten, box_of_piece, box_of_tool, room_for_tool
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.measure.display import format_length
from zygon.owner import bore_id
from zygon.stock.engagement import is_wooden
from zygon.stock.hardware.catalogue import FAMILIES
from zygon.stock.hardware.nuts import WASHERS, washer_size
from zygon.stock.hardware.screws import SCREWS, Screws
from zygon.stock.hardware.threads import METRIC
from zygon.tolerance import SEEN

__all__ = ["near_parts", "out_of_the_way", "set_faults"]

#: Chords of holes and of hardware leave a film of this (mm) where one fits the other.
FILM = 0.12
#: A thread lies on a set's axis within this (mm): the play of its hole.
ON_AXIS = 1.0


def set_faults(built: Built) -> list[Fault]:
    """What is wrong with sets where they lie, one place each."""
    if not built.sets:
        return []
    parts = [p for p in built.made.values() if not p.body.empty]
    lows, highs = (np.array([p.reaches[k] for p in parts]).reshape(-1, 3) for k in (0, 1))
    faults: list[Fault] = []
    for key, place, n in _places(built):
        faults += _runs_into(built, key, place, parts, lows, highs)
        faults += _reached(built, key, place, parts, lows, highs)
        if n == 0:
            faults += _on_wood(built, key, place)
            faults += _on_thread(built, key, place)
    return [*faults, *_one_another(built)]


def _places(built: Built) -> Iterator[tuple[str, SetPlace, int]]:
    for key, one in built.sets.items():
        for n, place in enumerate(one.places):
            yield key, place, n


def near_parts(low: np.ndarray, high: np.ndarray, lows: np.ndarray, highs: np.ndarray) -> list[int]:
    """The numbers of the boxes that a box meets."""
    found = ((lows < high - SEEN) & (highs > low + SEEN)).all(axis=1)
    return [int(i) for i in np.flatnonzero(found)]


def _runs_into(built: Built, key: str, place: SetPlace, parts: list[MadePart], lows: np.ndarray, highs: np.ndarray) -> Iterator[Fault]:
    """Pieces in parts that they are not meant to be in, and heads, washers and nuts in what is bent up beside them."""
    said = set()
    for n, piece in enumerate(place.pieces):
        for i in near_parts(*box_of_piece(piece), lows, highs):
            part = parts[i]
            if part.key in said or not _may_meet(place, n, part):
                continue
            found = bitten(piece, part, head=n == 0 and part.key in place.parts)
            if found > FILM:
                said.add(part.key)
                shown = format_length(round(found, 2), built.document.display)
                what = f"{built.document.bores[key].name}: its {piece.hardware.title}"
                yield Fault(
                    "set_runs_into",
                    f"{what} runs {shown} into {part.path}",
                    "hardware and parts cannot take up the same room",
                    shown,
                    "geometry",
                    part=part.key,
                    owner=bore_id(key),
                )


def _may_meet(place: SetPlace, n: int, part: MadePart) -> bool:
    """Whether a piece and a part are worth a look: of the parts that a set holds a flat one has a hole for all that lies in it, a bent one or a tube may stand beside."""
    if part.key not in place.parts:
        return True
    if isinstance(part, FlatPart) and part.flat.fold is None:
        return False
    family = FAMILIES[place.pieces[n].hardware.family]
    return (n == 0 and isinstance(family, Screws) and not family.flush) or family.role in ("washer", "nut")


def _reached(built: Built, key: str, place: SetPlace, parts: list[MadePart], lows: np.ndarray, highs: np.ndarray) -> Iterator[Fault]:
    """What stands in the way of the key, the spanner or the driver over a head."""
    wide, long = place.tool
    if not wide or place.pieces[0].hardware.family not in SCREWS:
        return
    worst: tuple[float, MadePart] | None = None
    opens = out_of_the_way(built, place)
    for i in near_parts(*box_of_tool(place), lows, highs):
        part = parts[i]
        if part.of in opens:
            continue
        if part.key in place.parts and isinstance(part, FlatPart) and part.flat.fold is None:
            continue
        free = room_for_tool(place, part)
        if free < long - SEEN and (worst is None or free < worst[0]):
            worst = free, part
    if worst:
        free, part = worst
        shown, wanted = format_length(round(free, 1), built.document.display), format_length(long, built.document.display)
        screw = SCREWS[place.pieces[0].hardware.family]
        tool = {"key": "hexagon key", "spanner": "spanner", "driver": "driver"}[screw.turned]
        source = "ISO 2936 (from memory)" if screw.turned == "key" else "common practice"
        yield Fault(
            "no_room_for_tool",
            f"{built.document.bores[key].name}: {part.path} leaves {shown} over its head for the {tool}",
            f"room for the tool: {wanted} along its axis",
            shown,
            source,
            "warning",
            part.key,
            owner=bore_id(key),
            measure=free,
        )


def out_of_the_way(built: Built, place: SetPlace) -> set[str]:
    """What is out of the way while a set is put in, by the keys of originals: hardware that moves is opened, with what it lets move."""
    found = set()
    for key in place.parts:
        part = built.made.get(key)
        if part is not None and is_hardware(part.record) and isinstance(part.body, HardwareBody) and part.body.leaves:
            found |= {part.of, *part.record.on.values()}
    return found


def _on_wood(built: Built, key: str, place: SetPlace) -> Iterator[Fault]:
    """A head or a nut that bears on wood without a washer."""
    said = built.document.bores[key].hardware
    if said is None or said.seat == "sunk":
        return
    ends = []
    head = SCREWS.get(said.head)
    if (
        head
        and (head.thread == "metric" or head.turned == "spanner")
        and not head.flush
        and head.turned != "held"
        and said.washer == "none"
    ):
        ends.append(("head", "washer", place.parts[0]))
    if said.holds_by == "nut" and said.nut_washer == "none":
        ends.append(("nut", "nut_washer", place.parts[-1]))
    for what, field, part in ends:
        record = built.made[part].record if part in built.made else None
        if (
            record is None
            or not record.stock
            or not is_wooden(built.document.stock_of(record))
            or washer_size(said.size) not in WASHERS["plain_washer"].rows
        ):
            continue
        where = pointer("bores", key, "hardware", field)
        mends = tuple(
            Mend(f"Put a {w.title} under it", [{"op": "add", "path": where, "value": k}]) for k, w in WASHERS.items() if said.size in w.rows
        )
        yield Fault(
            "no_washer",
            f"{built.document.bores[key].name}: its {what} bears on the wood of {built.parts[part].path}",
            "a washer lies between a head or a nut and wood",
            "",
            "common practice",
            "warning",
            part,
            owner=bore_id(key),
            entry=where,
            mends=mends,
        )


def _on_thread(built: Built, key: str, place: SetPlace) -> Iterator[Fault]:
    """Nuts without a screw that no thread reaches through."""
    said = built.document.bores[key].hardware
    if said is None or said.head != "none":
        return
    at, way = np.array(place.at), np.array(place.way)
    nuts = [p for p in place.pieces if FAMILIES[p.hardware.family].role == "nut"]
    along = {id(p): float((np.array(p.motion.shift) - at) @ way) for p in nuts}
    # from the far side of the near nut on, or from the face of the only one
    low = min(along[id(p)] - (p.hardware.span[1] if n == 0 and len(nuts) > 1 else 0.0) for n, p in enumerate(nuts))
    name, where = built.document.bores[key].name, pointer("bores", key, "hardware")
    best: tuple[float, float, bool] | None = None
    for thread, start, end in _threads(built):
        if thread != said.size or max(_off_axis(p, at, way) for p in (start, end)) > ON_AXIS:
            continue
        begins, ends = float((start - at) @ way), float((end - at) @ way)
        if max(begins, ends) > low and min(begins, ends) < place.tip:
            best = min(begins, ends), max(begins, ends), ends > begins
    if best is None:
        yield Fault(
            "no_thread",
            f"{name}: no {said.size} thread lies where its nut is",
            "a nut without a screw is on the threaded end of a rod",
            said.size,
            owner=bore_id(key),
            entry=where,
        )
        return
    step = METRIC[said.size]  # past the nut that is nearer to the rod's end
    short = max(place.tip - best[1], best[0] - low) if best[2] else max(place.tip - step - best[1], best[0] - low + step)
    if short > SEEN:
        shown = format_length(round(short, 2), built.document.display)
        yield Fault(
            "thread_too_short",
            f"{name}: the thread on its axis is {shown} too short",
            "one pitch past the nut, and under all that is screwed on it",
            shown,
            owner=bore_id(key),
            entry=where,
        )


def _threads(built: Built) -> Iterator[tuple[str, np.ndarray, np.ndarray]]:
    """Every thread on the end of a member: its size, and both its ends in the room."""
    for part in built.made.values():
        body, m = part.body, np.array(part.matrix)
        for tip, place in body.tipped() if isinstance(body, MemberBody | BentBody) else ():
            if tip.thread:
                ends = place.points(np.array([(0.0, 0.0, -tip.long), (0.0, 0.0, 0.0)])) @ m[:3, :3].T + m[:3, 3]
                yield tip.thread, ends[0], ends[1]


def _off_axis(point: np.ndarray, at: np.ndarray, way: np.ndarray) -> float:
    off = point - at
    return float(np.linalg.norm(off - way * (off @ way)))


def _one_another(built: Built) -> Iterator[Fault]:
    """Pieces of different sets, or of one set in two places, in one another."""
    every: list[tuple[str, int, SetPiece]] = [(key, n, p) for n, (key, place, _) in enumerate(_places(built)) for p in place.pieces]
    boxes = [box_of_piece(p) for _, _, p in every]
    if len(every) < 2:
        return
    lows, highs = np.array([b[0] for b in boxes]), np.array([b[1] for b in boxes])
    places = np.array([n for _, n, _ in every])
    order = np.argsort(lows[:, 0], kind="stable")
    starts, ends, of = lows[order], highs[order], places[order]
    said = set()
    for k, i in enumerate(order.tolist()):
        last = int(np.searchsorted(starts[:, 0], ends[k, 0] - SEEN))
        if last <= k + 1:
            continue
        near = (starts[k + 1 : last, 1:] < ends[k, 1:] - SEEN).all(axis=1) & (ends[k + 1 : last, 1:] > starts[k, 1:] + SEEN).all(axis=1)
        for j in order[k + 1 : last][near & (of[k + 1 : last] != of[k])].tolist():
            (a, _, one), (b, _, other) = every[i], every[j]
            pair = frozenset((a, b))
            if pair in said:
                continue
            found = bitten(one, other)
            if found > FILM:
                said.add(pair)
                first, second = sorted((a, b))
                shown = format_length(round(found, 2), built.document.display)
                names = built.document.bores[first].name, built.document.bores[second].name
                what = f"{names[0]} and {names[1]}: their hardware runs" if first != second else f"{names[0]}: its hardware runs"
                yield Fault(
                    "sets_meet",
                    f"{what} {shown} into one another",
                    "two pieces cannot take up the same room",
                    shown,
                    "geometry",
                    owner=bore_id(first),
                    entry=pointer("bores", second, "hardware"),
                )
