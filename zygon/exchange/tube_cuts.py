"""Cuts of tubes for a tube cutter or a saw: each piece with its lengths, the angles of its ends, and the way round each end and through each hole; as JSON."""

from __future__ import annotations

import json
import math
from typing import Any

from zygon.exchange.cutlist import cut_list
from zygon.exchange.tubes import ENDS, cut_words, turn_between
from zygon.making.result.built import Built, MadePart
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody, SawEnd
from zygon.making.tube.cuts import AtEnd
from zygon.making.tube.developed import Around, developed, end_path
from zygon.stock.kinds import is_bar

__all__ = ["write_tube_cuts"]

#: Holes are told by chords that stray so far at most (mm).
FINE = 0.02


def write_tube_cuts(built: Built) -> str:
    """What is cut from bars, as JSON; '' where nothing is.

    Lengths in mm. A piece: from long point to long point, and of each end how far a saw stands off square and toward where (degrees), or None where no saw cuts it in one go, and of one that is not square the way
    round it: turn (degrees from the side at 0), mm round the outside, mm from the long point of end A. Holes are closed ways of the same. Bent bars have their ends' angles alone.
    """
    pieces: list[dict[str, Any]] = []
    for r in cut_list(built):
        part = built.made.get(r.key)
        if part is None or part.body.empty or not part.record.cut_here or not is_bar(built.document.stocks.get(part.record.stock)):
            continue
        body = part.body
        one: dict[str, Any] = {"number": r.number, "part": r.part, "pieces": r.quantity, "stock": r.stock, "long": r.length}
        if isinstance(body, MemberBody | BentBody):
            one["ends"] = {end: _end(built, part, end) for end in ENDS}
        if isinstance(body, MemberBody):
            turn = turn_between(body)
            one["turn_between"] = None if turn is None else round(math.degrees(turn), 4)
            if not body.section.open:
                one["holes"] = _holes(body)
        pieces.append(one)
    if not pieces:
        return ""
    told = {"design": built.document.name, "units": {"length": "mm", "angle": "deg"}, "pieces": pieces}
    return json.dumps(told, ensure_ascii=False) + "\n"


def _end(built: Built, part: MadePart, end: AtEnd) -> dict[str, Any]:
    body = part.body
    assert isinstance(body, MemberBody | BentBody)
    saw: SawEnd = body.saw(end)
    sawn = saw.angle is not None
    told: dict[str, Any] = {
        "how": cut_words(built, part, end),
        "off_square": round(math.degrees(saw.angle), 4) if saw.angle is not None else None,
        "toward": round(math.degrees(saw.toward) % 360, 3) if sawn and saw.angle else None,
    }
    if isinstance(body, MemberBody) and not body.section.open and saw.angle != 0.0:
        told["path"] = [[round(x, 4) for x in place] for place in end_path(body, end)]
    return told


def _holes(body: MemberBody) -> list[list[list[float]]]:
    around = Around(body.section)
    found = []
    for hole in developed(body)[1]:
        way = []
        for x, y in hole.flatten(FINE):
            u, v = around.point(x % around.length)
            way.append([round((math.degrees(math.atan2(v, u)) - 90) % 360, 4), round(x, 4), round(y, 4)])
        found.append(way)
    return found
