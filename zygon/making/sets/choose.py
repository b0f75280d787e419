"""What a set is made of where it passes a stack: washers and nut, the shortest screw that does, and the holes of each part. Millimetres along the axis, from the head on."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Literal

from zygon.design.hardware import HardwareSet
from zygon.making.result.hardware import BoreHole
from zygon.making.sets.stack import Passed
from zygon.stock.engagement import engagement
from zygon.stock.hardware.catalogue import piece
from zygon.stock.hardware.holes import COUNTERBORE, clearance
from zygon.stock.hardware.inserts import INSERTS
from zygon.stock.hardware.nuts import NUTS, WASHERS, washer_size
from zygon.stock.hardware.piece import Hardware
from zygon.stock.hardware.rivets import RIVETS
from zygon.stock.hardware.screws import SCREWS, SHEET_HOLE, Screws
from zygon.stock.hardware.threads import METRIC, core_hole, diameter_of
from zygon.stock.hardware.wood import PILOT
from zygon.stock.kinds import StockKind
from zygon.tolerance import CONTACT

__all__ = ["Chosen", "Wrong", "choose", "hole_of"]

#: A screw in wood ends so far before the far side (mm), and a blind hole so far behind a screw's tip.
BEFORE, BEHIND = 2.0, 1.0
#: A blind tapped hole is so many pitches deeper than its screw reaches, for the tap's lead (common practice), and leaves so much under it (mm).
RUNOUT, FLOOR = 3, 1.0
#: A counterbore lets a head lie so far under the face (common practice).
UNDER = 0.4
#: A hole in an edge takes at most this share of the sheet's thickness (common practice).
EDGE = 0.5
#: The pilot hole of a wood screw that is in no table, in its diameters (common practice).
PILOT_SHARE = 0.7
#: A length that is asked for may differ by so much from the one that is found by a sum of floats.
PLAY = 1e-6

Lay = tuple[Hardware, float, bool]


@dataclass(frozen=True)
class Wrong:
    """What cannot be, or should not: the field of the set, a code, what is so in words with figures in mm, and the rule."""

    field: str
    code: str
    message: str
    rule: str
    value: float
    severity: Literal["error", "warning"] = "error"
    source: str = ""
    #: the head that would do
    instead: str = ""


@dataclass
class Chosen:
    """``lay`` are the pieces from the head on, each with its place along the axis and whether it is turned end for end; ``holes`` by part and number of its passage."""

    lay: list[Lay] = field(default_factory=list)
    holes: dict[tuple[str, int], BoreHole] = field(default_factory=dict)
    wrong: list[Wrong] = field(default_factory=list)
    needed: float | None = None
    length: float | None = None
    engaged: float = 0.0
    #: where the head's bearing face lies, where the tip does, and what lies between both ends of the stack
    under: float = 0.0
    #: where what lies under the head ends: the face of the part
    bearing: float = 0.0
    tip: float = 0.0
    stack: tuple[float, float] = (0.0, 0.0)
    tool: tuple[float, float] = (0.0, 0.0)


def hole_of(said: HardwareSet) -> float:
    """The hole in what a set passes, by its standard."""
    if said.head in RIVETS:
        return RIVETS[said.head].rows[said.size][0]
    size = f"{diameter_of(said.size):g}"
    try:
        return clearance(size, said.hole)
    except KeyError:  # sheet metal screws lie between the sizes of the table
        return round(diameter_of(said.size) * {"fine": 1.05, "medium": 1.1, "coarse": 1.15}[said.hole], 1)


def choose(said: HardwareSet, stack: list[Passed], stock_of: Callable[[str], StockKind], length: float | None) -> Chosen:
    """The pieces of a set through a stack (head first, places along the axis as seen from the head), with a stated length or the shortest that does."""
    made = Chosen(stack=(stack[0].low, stack[-1].high))
    if said.head == "none":
        _on_thread(said, stack, made)
        return made
    if said.head in RIVETS:
        _riveted(said, stack, made, length)
        return made
    screw = SCREWS[said.head]
    into = said.holds_by
    passed, last = (stack, None) if into == "nut" else (stack[:-1], stack[-1])
    _seat(said, screw, stack, made, bare=not passed)
    for n, p in enumerate(passed):
        made.holes[p.part, p.number] = _passing(said, screw, made, first=n == 0)
    if last is None:
        _nut(said, screw, made, length)
    else:
        _into_last(said, screw, last, stock_of(last.part), made, length)
        if not passed and last is stack[0]:
            own = made.holes[last.part, last.number]
            seat = _passing(said, screw, made, first=True)
            made.holes[last.part, last.number] = BoreHole(own.wide, own.deep, own.high, seat.sink, seat.counterbore)
    _through_own_holes(said, screw, stack, made)
    for p in stack:
        own_hole = made.holes.get((p.part, p.number))
        if own_hole is not None and p.off[0] > CONTACT:
            made.holes[p.part, p.number] = replace(own_hole, below=p.off[0])
    first = stack[0]
    if not first.hole and screw.flush and screw.head(said.size)[0] / 2 - diameter_of(said.size) / 2 > first.high - first.low + CONTACT:
        high = screw.head(said.size)[0] / 2 - diameter_of(said.size) / 2
        made.wrong.append(
            Wrong(
                "head",
                "countersunk_through",
                f"its head is {_mm(high)} high, and what it is sunk in {_mm(first.high - first.low)} thick",
                "a head lies on the face of what is thinner than it is high",
                high,
            )
        )
    return made


def _through_own_holes(said: HardwareSet, screw: Screws, stack: list[Passed], made: Chosen) -> None:
    """Holes that hardware has itself: the screw goes through, and its head does not."""
    d = diameter_of(said.size)
    for n, p in enumerate(stack):
        if p.hole and d > p.hole + CONTACT:
            made.wrong.append(
                Wrong(
                    "size",
                    "hole_too_small",
                    f"{said.size} does not go through a hole of {_mm(p.hole)}",
                    f"a screw of at most {_mm(p.hole)}",
                    d,
                )
            )
        elif p.hole and n == 0 and screw.head(said.size)[0] <= p.hole + CONTACT and said.washer == "none":
            wide = screw.head(said.size)[0]
            made.wrong.append(
                Wrong(
                    "size",
                    "head_falls_through",
                    f"its head of {_mm(wide)} goes through a hole of {_mm(p.hole)}",
                    "a head, or a washer, wider than the hole",
                    wide,
                )
            )


def _seat(said: HardwareSet, screw: Screws, stack: list[Passed], made: Chosen, *, bare: bool) -> None:
    """The head, and the washer under it."""
    t0, first = stack[0].low, stack[0]
    washer = _washer(said.washer, said.size) if not screw.flush and screw.turned != "held" else None
    thick = washer.span[1] if washer else 0.0
    _, high = screw.head(said.size)
    made.tool = screw.tool(said.size)
    if screw.flush:
        made.under = made.bearing = t0
        return
    collar = INSERTS[said.holds_by].rows[said.size][3] if bare and said.holds_by in INSERTS else 0.0
    if collar:  # the head lies on the collar of what holds it, and not in a counterbore
        made.under, made.bearing = t0 - collar - thick, t0 - collar
        if washer:
            made.lay.append((washer, made.under, False))
        return
    sunk = said.seat == "sunk" and screw.turned != "held"
    bearing = t0 + (UNDER + high + thick if sunk else 0.0)
    if sunk and bearing - t0 > first.high - first.low - CONTACT and not (bare and said.holds_by != "nut" and bearing < first.high):
        made.wrong.append(
            Wrong(
                "seat",
                "counterbore_through",
                f"its counterbore is {_mm(bearing - t0)} deep, and what it is in {_mm(first.high - first.low)} thick",
                "a counterbore leaves something for the head to lie on",
                bearing - t0,
            )
        )
        bearing = t0
    if washer:
        made.lay.append((washer, bearing - thick, False))
    made.under, made.bearing = bearing - thick, bearing


def _passing(said: HardwareSet, screw: Screws, made: Chosen, *, first: bool) -> BoreHole:
    """The hole in a part that is passed; the first one takes the head."""
    wide = hole_of(said)
    if not first:
        return BoreHole(wide)
    if screw.flush:
        return BoreHole(wide, sink=(screw.head(said.size)[0], screw.angle))
    deep = made.under - made.stack[0] + _thick(said.washer, said.size)
    if said.seat == "sunk" and screw.turned != "held" and made.bearing > made.stack[0] + CONTACT:
        size = f"{diameter_of(said.size):g}"
        across = max(
            COUNTERBORE.get(size, 0.0),
            screw.head(said.size)[0] + 1,
            WASHERS[said.washer].rows[washer_size(said.size)][1] + 1 if said.washer != "none" else 0.0,
        )
        if screw.turned == "spanner":
            across = max(across, screw.tool(said.size)[0])
        return BoreHole(wide, counterbore=(math.ceil(across * 2) / 2, deep))
    return BoreHole(wide)


def _nut(said: HardwareSet, screw: Screws, made: Chosen, stated: float | None) -> None:
    end = made.stack[1]
    washer = _washer(said.nut_washer, said.size)
    nut = NUTS[said.nut]
    face = end + (washer.span[1] if washer else 0.0)
    row = nut.rows[said.size]
    deep, step = nut.deep(said.size), METRIC[said.size]
    # one pitch past an open nut; in a closed one as much thread as a plain one has, and never to its bottom
    held = row[1] + step if deep is None else min(NUTS["hexagon_nut"].rows[said.size][1], deep)
    needed = face + held - made.under
    most = math.inf if deep is None else face + deep - made.under
    length = _length(
        said, screw, made, needed, most, stated, "one pitch past the nut" if deep is None else "as deep as a plain nut is high"
    )
    bare = length - screw.thread_of(said.size, length)
    if face - made.under < bare - CONTACT:
        made.wrong.append(
            Wrong(
                "length",
                "nut_on_shank",
                f"the nut would lie on the shank, which is {_mm(bare)} long",
                f"the nut lies on the thread: at least {_mm(bare)} from the head, and it is {_mm(face - made.under)}",
                length,
                instead="hexagon",
            )
        )
    if washer:
        made.lay.append((washer, end, False))
    made.lay.append((piece(said.nut, said.size), face, False))
    made.engaged = min(length + made.under - face, deep if deep is not None else row[1])


def _into_last(said: HardwareSet, screw: Screws, last: Passed, stock: StockKind, made: Chosen, stated: float | None) -> None:
    """What holds the thread in the last part, and how deep it reaches in."""
    into, d = said.holds_by, diameter_of(said.size)
    room = last.high - last.low
    start = max(last.low, made.bearing)
    if into in INSERTS:
        _insert(said, screw, last, made, stated, room)
        return
    wanted = engagement(stock, along=last.how == "edge") * d
    if into == "sheet":
        tip = d
        needed = last.high + tip - made.under
        length = _length(said, screw, made, needed, math.inf, stated, "past the sheet by its tip")
        made.holes[last.part, last.number] = BoreHole(SHEET_HOLE[said.size])
        made.engaged = room
        return
    before = BEFORE if into == "wood" else 0.0
    blind_tap = into == "thread" and said.tapped == "blind"
    beyond = RUNOUT * METRIC[said.size] if blind_tap else 0.0
    most = start + room - before - beyond - (FLOOR if blind_tap else 0.0) - made.under
    needed = start + min(wanted, room - before) - made.under
    if into == "thread" and not blind_tap and _shortest(screw, said.size, needed, most) is None:
        most = math.inf  # its tip comes out of a tapped hole that goes through
    length = _length(
        said,
        screw,
        made,
        needed,
        most,
        stated,
        f"{wanted / d:g} diameters into {stock.name}",
        start - made.under + CONTACT if into == "wood" else None,
    )
    reach = made.under + length - start
    made.engaged = max(0.0, min(reach, room))
    if made.engaged < wanted - PLAY and not any(w.field == "length" for w in made.wrong):
        code, what = ("thread_too_short", "thread") if into == "thread" else ("grips_little", "it reaches in")
        shown = round(made.engaged, 2)
        message = f"{_mm(shown)} of thread in {stock.name}" if what == "thread" else f"it reaches {_mm(shown)} into {stock.name}"
        made.wrong.append(Wrong("size", code, message, f"{wanted / d:g} diameters, {_mm(wanted)}", shown, "warning"))
    if into == "thread":
        wide = core_hole(said.size)
    else:
        wide = PILOT.get(said.size, round(PILOT_SHARE * d, 1))
    if last.how == "edge" and wide > last.sheet * EDGE + CONTACT:
        made.wrong.append(
            Wrong(
                "size",
                "splits_edge",
                f"{said.size} splits an edge {_mm(last.sheet)} thick",
                f"a hole of at most half of it; this one is {_mm(wide)}",
                wide,
                source="common practice",
            )
        )
    blind = (into == "wood" and reach < room - CONTACT) or blind_tap
    made.holes[last.part, last.number] = BoreHole(wide, max(reach + beyond, CONTACT) if blind else None)


def _insert(said: HardwareSet, screw: Screws, last: Passed, made: Chosen, stated: float | None, room: float) -> None:
    family = INSERTS[said.holds_by]
    own, d = piece(family.key, said.size), diameter_of(said.size)
    long = family.long(said.size)
    start = max(last.low, made.bearing)
    if family.most:
        if not family.least - CONTACT <= room <= family.most + CONTACT:
            made.wrong.append(
                Wrong(
                    "into",
                    "insert_room",
                    f"a rivet nut in {_mm(room)}",
                    f"it closes on {family.least:g} to {_mm(family.most)} of sheet",
                    room,
                )
            )
        if last.low > made.stack[0] + CONTACT:
            high = family.rows[said.size][3]
            made.wrong.append(
                Wrong(
                    "into",
                    "rivet_nut_collar",
                    f"the rivet nut's collar of {_mm(high)} stands between what is screwed on and the sheet",
                    "what is screwed on lies on the collar, or is recessed for it",
                    high,
                    "warning",
                )
            )
    elif long > room + CONTACT:
        made.wrong.append(
            Wrong("into", "insert_room", f"an insert {_mm(long)} long in {_mm(room)}", "an insert does not come out on the far side", long)
        )
    through = bool(family.most) or long + BEHIND > room - CONTACT
    needed = start + d - made.under
    most = math.inf if through else start + long - made.under
    length = _length(said, screw, made, needed, most, stated, "one diameter into the insert, and not past it")
    made.engaged = min(made.under + length - start, long)
    made.lay.append((own, start, False))
    made.holes[last.part, last.number] = BoreHole(family.hole(said.size), None if through else long + BEHIND)


def _riveted(said: HardwareSet, stack: list[Passed], made: Chosen, stated: float | None) -> None:
    family = RIVETS[said.head]
    made.under = stack[0].low
    grip = made.stack[1] - made.stack[0]
    lengths = family.lengths_of(said.size)
    fitting = [x for x in lengths if family.grips(said.size, x) >= grip - PLAY]
    made.needed = grip + 0.9 * float(said.size)
    length = stated if stated is not None else min(fitting, default=lengths[-1])
    if family.grips(said.size, length) < grip - PLAY:
        made.wrong.append(
            Wrong(
                "length",
                "screw_too_short",
                f"a rivet {_mm(length)} long grips {_mm(family.grips(said.size, length))}, and {_mm(grip)} lie under it",
                "a rivet closes on all that it passes",
                length,
            )
        )
    made.length, made.engaged, made.tip = length, 0.0, made.under + length
    made.lay.append((piece(said.head, said.size, length), made.under, False))
    for p in stack:
        made.holes[p.part, p.number] = BoreHole(hole_of(said))


def _on_thread(said: HardwareSet, stack: list[Passed], made: Chosen) -> None:
    """Washers and a nut where a thread comes out of what it passes."""
    near, far = _washer(said.washer, said.size), _washer(said.nut_washer, said.size)
    made.under = stack[0].low
    start = stack[0].low - (near.span[1] if near else 0.0)
    if said.near_nut != "none":
        nut = piece(said.near_nut, said.size)
        made.lay.append((nut, start, True))
    if near:
        made.lay.append((near, start, False))
    face = made.stack[1]
    if far:
        made.lay.append((far, face, False))
        face += far.span[1]
    made.lay.append((piece(said.nut, said.size), face, False))
    row, deep = NUTS[said.nut].rows[said.size], NUTS[said.nut].deep(said.size)
    made.engaged = row[1] if deep is None else deep
    # where the thread has to reach to
    made.tip = face + (row[1] + METRIC[said.size] if deep is None else min(NUTS["hexagon_nut"].rows[said.size][1], deep))


def _length(
    said: HardwareSet, screw: Screws, made: Chosen, needed: float, most: float, stated: float | None, why: str, least: float | None = None
) -> float:
    """The length that a screw has; what cannot be is said. Over ``least`` it holds something at all, which where given is enough. Its head is laid first of all."""
    made.needed = needed
    enough = needed if least is None else least
    series = screw.lengths_of(said.size)
    length = stated if stated is not None else _shortest(screw, said.size, needed, most)
    if length is None:
        length = max((x for x in series if x <= most + PLAY), default=series[0])
        if length < enough - PLAY:
            rule = f"at least {_mm(needed)}: {why}" if needed > series[-1] else f"from {needed:g} to {_mm(most)}: {why}"
            made.wrong.append(
                Wrong(
                    "size", "no_length", f"no {screw.title} {said.size} is sold that does: {series[0]:g} to {_mm(series[-1])}", rule, needed
                )
            )
        elif length > most + PLAY:
            made.wrong.append(
                Wrong(
                    "size",
                    "screw_too_long",
                    f"the shortest {said.size} is {_mm(length)} long",
                    f"at most {_mm(most)}, or its tip comes out or bottoms",
                    length,
                )
            )
    elif length < enough - PLAY:
        made.wrong.append(Wrong("length", "screw_too_short", f"{said.size} × {_mm(length)}", f"at least {_mm(needed)}: {why}", length))
    elif length > most + PLAY:
        made.wrong.append(
            Wrong(
                "length", "screw_too_long", f"{said.size} × {_mm(length)}", f"at most {_mm(most)}, or its tip comes out or bottoms", length
            )
        )
    elif not any(abs(length - x) < PLAY for x in series):
        near = min(series, key=lambda x: (x < length - PLAY, abs(x - length)))
        made.wrong.append(
            Wrong(
                "length",
                "length_not_sold",
                f"{said.size} × {_mm(length)} is not sold",
                f"a length of its standard's series, as {_mm(near)}",
                length,
                "warning",
            )
        )
    made.length, made.tip = length, made.under + length
    made.lay.insert(0, (piece(said.head, said.size, length), made.under, False))
    return length


def _mm(x: float) -> str:
    """Hardware is made in millimetres, whatever a design is drawn in."""
    return f"{round(x, 2):g} mm"


def _shortest(screw: Screws, size: str, needed: float, most: float) -> float | None:
    return min((x for x in screw.lengths_of(size) if needed - PLAY <= x <= most + PLAY), default=None)


def _washer(kind: str, size: str) -> Hardware | None:
    return None if kind == "none" else piece(kind, washer_size(size))


def _thick(kind: str, size: str) -> float:
    return 0.0 if kind == "none" else WASHERS[kind].rows[washer_size(size)][2]
