"""Rules about what moves: it goes as far as it is asked to, keeps its room and its play, hangs together without contradiction, and what should not move does not."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from zygon.design.layout_operations import without_moves
from zygon.design.pointer import pointer
from zygon.making.movement.found import moving_key
from zygon.making.movement.mends import play_mends
from zygon.making.movement.pieces import part_of
from zygon.making.movement.pose import loop_freedoms
from zygon.making.movement.record import Movement
from zygon.making.movement.report import play_of, together_with, travel_of
from zygon.making.movement.said import Said, SaidMove, said_of
from zygon.making.movement.things import ROUNDED, RUNS, slip_of
from zygon.making.movement.travel import Stop, nearest
from zygon.making.movement.words import amount, names, piece_name, way_words
from zygon.making.result.built import Built, BuiltJoint
from zygon.making.result.fault import Fault, Mend
from zygon.measure.display import format_length
from zygon.memo import Memo, digest
from zygon.owner import joint_id, move_id
from zygon.tolerance import SLACK

__all__ = ["MoveFaults", "known_move_faults", "move_faults"]

_FAULTS = Memo(200)
#: A movement counts as gone as far as is asked to within this (mm at its axis, or radians).
REACHED = math.radians(0.02)
#: In larger designs what moves is looked for only where something is said of it.
MOST = 150


#: What is wrong with what moves in a design; None where that is not known yet.
MoveFaults = Callable[[Built], list[Fault] | None]


def move_faults(built: Built) -> list[Fault]:
    """What is wrong with what moves, kept once it is found: how far things go takes a second or two. Where nothing is said of movements only what moves and
    should not is looked for."""
    return _FAULTS.get(_key(built), lambda: _found(built))[0]


def known_move_faults(built: Built) -> list[Fault] | None:
    """The same where it was found before; None where it was not."""
    found: list[Fault] | None = _FAULTS.known(_key(built))
    return found


def _key(built: Built) -> str:
    """What it hangs on: what moves, what is said of that, and how it is told."""
    document = built.document
    said = document.model_dump_json(include={"moves", "positions", "display", "unit"})
    values = [(k, v.value) for k, v in built.values.items() if k.startswith(("/moves/", "/positions/"))]
    return digest("move faults", moving_key(built), said, values)


def _found(built: Built) -> list[Fault]:
    document = built.document
    if not document.moves and len(built.made) > MOST:
        return []
    said = said_of(built)
    faults = list(_lost(built, said))
    against = list(_against(built, said))
    faults += against
    if not against:
        for key, own in said.of.items():
            movement = said.movement(key)
            faults += _strikes(built, said, movement, own)
            faults += _play(built, said, movement, own)
            faults += _near(built, said, movement, own)
    return [*faults, *_free(built, said)]


def _lost(built: Built, said: Said) -> Iterator[Fault]:
    """What is said of what does not move."""
    for key in said.lost:
        record = built.document.moves[key]
        path = built.parts[part_of(record.part)].path if part_of(record.part) in built.parts else record.part
        yield Fault(
            "lost_move",
            f"{record.name}: {path} no longer {record.kind}",
            "what is said of a movement is said of one that is there",
            severity="warning",
            part=part_of(record.part) if part_of(record.part) in built.parts else "",
            owner=move_id(key),
            entry=pointer("moves", key),
            mends=(Mend(f"Forget what is said of {record.name}", without_moves(built.document, {key})),),
        )


def _against(built: Built, said: Said) -> Iterator[Fault]:
    """Couplings that contradict one another, so that nothing they couple can move."""
    if not said.couplings:
        return
    ways = loop_freedoms(said.moving, said.couplings)
    order = [m.key for m in said.moving.movements]
    told: set[str] = set()
    for c in said.couplings:
        group = together_with(said, c.first)
        if group & told or any(abs(float(x)) > SLACK for k in group for x in ways[order.index(k)]):
            continue
        told |= group
        moved = [said.movement(k) for k in order if k in group]
        record = next((s.key for k, s in said.of.items() if k in group and s.record.follows), "")
        yield Fault(
            "coupling",
            f"{' and '.join(names(built, [m.thing.key])[0] for m in moved)} stand still: what couples them contradicts itself",
            "what is coupled can move together",
            str(len(moved)),
            "geometry",
            part=part_of(moved[0].thing.key),
            other=part_of(moved[-1].thing.key),
            owner=move_id(record) if record else "",
            entry=pointer("moves", record, "follows") if record else "",
            mends=(Mend(f"Uncouple {built.document.moves[record].name}", [{"op": "remove", "path": pointer("moves", record, "follows")}]),)
            if record
            else (),
        )


def _strikes(built: Built, said: Said, movement: Movement, own: SaidMove) -> Iterator[Fault]:
    """What is struck before a movement has gone as far as it is said to, and where it is said to be moved farther than it can go."""
    positions = {k: at[movement.key] for k, at in said.positions.items() if movement.key in at}
    if own.to is own.least is own.most is None and not positions:
        return
    found = travel_of(said, movement.key)
    told: set[int] = set()
    for field, wanted, strikes in (("most", own.most, True), ("least", own.least, True), ("to", own.to, False)):
        if wanted is None:
            continue
        sign = {"most": 1, "least": -1}.get(field, 1 if wanted > 0 else -1)
        stop = found.high if sign > 0 else found.low
        if sign in told or not _short(stop, sign, wanted) or (strikes and stop.why != "strikes"):
            continue
        told.add(sign)
        yield _struck(built, movement, own, stop, field, wanted)
    for key, wanted in positions.items():
        sign = 1 if wanted > 0 else -1
        stop = found.high if sign > 0 else found.low
        if sign in told or not _short(stop, sign, wanted):
            continue
        position = built.document.positions[key]
        shown, asked = (amount(movement.kind, x, built.document.display) for x in (stop.by, wanted))
        yield Fault(
            "position_strikes" if stop.why == "strikes" else "position_beyond",
            f"{position.name}: {_ends(built, own, stop)} at {shown}, before {asked}",
            "what a position asks for can be reached from where everything is drawn",
            shown,
            "geometry",
            part=part_of(stop.a or movement.thing.key),
            other=part_of(stop.b),
            owner=move_id(own.key),
            entry=pointer("positions", key, "at", own.key),
        )


def _short(stop: Stop, sign: int, wanted: float) -> bool:
    """Whether a movement ends before it has gone as far as is wanted; what turns all round, or comes out, does not end."""
    return stop.why in ("strikes", "limit", "loop") and (wanted - stop.by) * sign > REACHED


def _ends(built: Built, own: SaidMove, stop: Stop) -> str:
    """Why it ends there."""
    if stop.why == "strikes":
        a, b = (piece_name(built, p) for p in (stop.a, stop.b))
        return f"{a} strikes {b}"
    return f"{own.record.name} ends"


def _struck(built: Built, movement: Movement, own: SaidMove, stop: Stop, field: str, wanted: float) -> Fault:
    shown, asked = (amount(movement.kind, x, built.document.display) for x in (stop.by, wanted))
    unit = built.document.unit
    to = f"{math.degrees(stop.by):.6g} deg" if movement.kind == "turns" else f"{stop.by:.6g} mm"
    where = pointer("moves", own.key, field)
    return Fault(
        "strikes" if stop.why == "strikes" else "beyond",
        f"{own.record.name}: {_ends(built, own, stop)} at {shown}, and it is to go to {asked}",
        "what moves goes as far as it is said to",
        shown,
        "geometry",
        part=part_of(stop.a or movement.thing.key),
        other=part_of(stop.b),
        owner=move_id(own.key),
        entry=where,
        mends=(Mend(f"Let it go to {shown}", [{"op": "replace", "path": where, "value": {"text": to, "unit": unit}}]),),
    )


def _play(built: Built, said: Said, movement: Movement, own: SaidMove) -> Iterator[Fault]:
    """End play under or over what is asked."""
    if own.play_least is None and own.play_most is None:
        return
    display = built.document.display
    limits = [f"{w} {format_length(v, display)}" for w, v in (("at least", own.play_least), ("at most", own.play_most)) if v is not None]
    rule, owner = f"end play {' and '.join(limits)}", move_id(own.key)
    field = "play_least" if own.play_least is not None else "play_most"
    play = play_of(said, movement.key)
    path = built.parts[part_of(movement.thing.key)].path
    if play is None:
        yield Fault(
            "play_none",
            f"{own.record.name}: {path} is not stopped at both ends, so it has no end play",
            rule,
            "",
            "geometry",
            "warning",
            part_of(movement.thing.key),
            owner=owner,
            entry=pointer("moves", own.key, field),
        )
        return
    less = own.play_least is not None and play.size < own.play_least - SLACK
    more = own.play_most is not None and play.size > own.play_most + SLACK
    if not less and not more:
        return
    shown = format_length(round(play.size, 3), display)
    pairs = [" and ".join(piece_name(built, p) for p in (s.a, s.b)) for s in (play.low, play.high)]
    yield Fault(
        "end_play",
        f"{own.record.name}: {shown} of end play, between {pairs[0]} on the one side and {pairs[1]} on the other",
        rule,
        shown,
        "asked of it",
        part=part_of(play.high.a),
        other=part_of(play.high.b),
        owner=owner,
        entry=pointer("moves", own.key, "play_least" if less else "play_most"),
        mends=play_mends(built, play, own.play_least, own.play_most),
    )


def _near(built: Built, said: Said, movement: Movement, own: SaidMove) -> Iterator[Fault]:
    """Room under watch that is not kept on the way."""
    if own.clear is None or own.clear <= 0:
        return
    found = travel_of(said, movement.key)
    carriers = set(said.moving.carriers.get(movement.thing.key, ()))
    touching = {frozenset((part_of(a), part_of(b))) for a in movement.thing.pieces for b in carriers}

    def beside(a: str, b: str) -> bool:
        return frozenset((part_of(a), part_of(b))) in touching

    least = nearest(said.moving, said.couplings, movement, (found.low.by, found.high.by), own.clear, beside)
    if least is None or least.room >= own.clear - SLACK:
        return
    display = built.document.display
    shown = format_length(round(least.room, 2), display)
    a, b = (piece_name(built, p) for p in (least.a, least.b))
    at = amount(movement.kind, least.by, display)
    yield Fault(
        "comes_near",
        f"{own.record.name}: {a} comes as near as {shown} to {b}, at {at}",
        f"never nearer than {format_length(own.clear, display)} on its way",
        shown,
        "asked of it",
        part=part_of(least.a),
        other=part_of(least.b),
        owner=move_id(own.key),
        entry=pointer("moves", own.key, "clear"),
    )


def _free(built: Built, said: Said) -> Iterator[Fault]:
    """What slides although its joints are made to stay: they run, and nothing else holds it."""
    for movement in said.moving.movements:
        if movement.key in said.of or movement.kind != "slides":
            continue
        own, other = ({part_of(p) for p in t.pieces} for t in (movement.thing, movement.on))
        running = [
            j for j in built.joints.values() if _runs(built, j) and any((a in own) != (b in own) and {a, b} & other for a, b in j.pairs)
        ]
        if not running:
            continue
        joint = running[0]
        part = joint.b if joint.b in own else joint.a if joint.a in own else part_of(movement.thing.key)
        where = pointer("joints", joint.key)
        unit = built.document.unit
        shown = format_length(round(joint.fit, 3), built.document.display)
        goes = " or ".join(way_words(movement, s) for s in movement.ways)
        yield Fault(
            "runs_free",
            f"{built.parts[part].path} slides {goes}: its joints run, by {shown}, and nothing else holds it",
            "what is joined stays: snug, glued or stopped; what is to slide is loose in a groove",
            shown,
            "common practice",
            "warning",
            part,
            owner=joint_id(joint.key),
            entry=f"{where}/fit",
            mends=(
                Mend(
                    "Make its joints snug",
                    [
                        {"op": "replace", "path": f"{pointer('joints', j.key)}/fit", "value": {"text": "snug", "unit": unit}}
                        for j in running
                    ],
                ),
                Mend(
                    "Glue its joints",
                    [
                        {
                            "op": "replace" if "held" in built.document.joints[j.key].model_fields_set else "add",
                            "path": f"{pointer('joints', j.key)}/held",
                            "value": "glued",
                        }
                        for j in running
                    ],
                ),
            ),
        )


def _runs(built: Built, joint: BuiltJoint) -> bool:
    """Whether a joint that is made to stay has a running fit: it slips by hand, and in a groove is not as loose as what is to slide."""
    if joint.refused or joint.fastened or getattr(built.document.joints[joint.key], "held", "usual") == "dry":
        return False
    slip, loose = slip_of(built, joint)
    return joint.fit > slip - ROUNDED and (joint.kind not in RUNS or joint.fit < loose - ROUNDED)
