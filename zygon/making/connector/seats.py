"""The connectors of a design as they stand, and what lies in the sockets of them and of their copies."""

from __future__ import annotations

from zygon.design.parts.kinds import is_connector
from zygon.geometry.motion import Motion
from zygon.making.blanks.instances import Instance
from zygon.making.connector.body import ConnectorBody
from zygon.making.datums.values import Values
from zygon.making.result.built import Seated

__all__ = ["connectors_of", "seats_of"]


def connectors_of(values: Values) -> dict[str, tuple[ConnectorBody, Motion]]:
    """Every connector that has a place: its body and the motion that takes it to its rest."""
    found = {}
    for key, part in values.boards.items():
        if is_connector(part) and values.box(key) is not None:
            fitting = values.fitting(key)
            found[key] = fitting.body, fitting.motion
    return found


def seats_of(values: Values, connectors: dict[str, tuple[ConnectorBody, Motion]], instances: dict[str, Instance]) -> tuple[Seated, ...]:
    """What lies in which socket, originals and those copies that stand to each other as they do."""
    by_part: dict[str, list[Instance]] = {}
    for i in instances.values():
        by_part.setdefault(i.part, []).append(i)
    found = []
    for key, (body, _) in connectors.items():
        record = values.boards[key]
        if not is_connector(record) or values.connectors_at[record.frame, record.point][0] != key:
            continue
        sleeves = {s.key: s for s in body.sleeves}
        for seat in values.seating(key).seats:
            gap = sleeves[seat.socket].play(seat.run.section)
            fastened = "" if record.held == "dry" else record.held
            stands = instances[key].motion.inverse @ instances[seat.run.part].motion
            for one in by_part[key]:
                other = next((i for i in by_part[seat.run.part] if (one.motion.inverse @ i.motion).same(stands)), None)
                if other is not None:
                    found.append(Seated(one.key, seat.socket, other.key, seat.run.at, fastened, round(gap, 7)))
    return tuple(found)
