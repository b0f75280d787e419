"""Rooms for another board, and what a board touches, as plain data for screens."""

from __future__ import annotations

from typing import cast

from zygon.errors import DocumentError
from zygon.geometry.frame import Plane
from zygon.making.asked.contacts import touches
from zygon.making.asked.edges import edges_of
from zygon.making.result.built import Built
from zygon.making.rooms.catches import catches
from zygon.making.rooms.feature_pulls import FeaturePull, feature_pulls
from zygon.making.rooms.free import Bound, Room, free_rooms
from zygon.making.rooms.pulls import Pull, group_pulls, pulls
from zygon.making.rooms.size_lines import size_lines
from zygon.screen.shown.joints import ShownOffer
from zygon.screen.shown.rooms import ShownBound, ShownEdge, ShownFeaturePulls, ShownPull, ShownRoom, ShownRooms, ShownSizeLines, ShownTouch

__all__ = ["edges_data", "feature_pulls_data", "pulls_data", "rooms_data", "size_lines_data", "touches_data"]


def rooms_data(built: Built, part: str, face: str, plane: Plane, stock: str) -> ShownRooms:
    """The rooms before a face for a board of a stock, with where it catches in each. Raises DocumentError, with why, where there is none."""
    thickness = built.values.get(f"/stocks/{stock}/measured") or built.values.get(f"/stocks/{stock}/nominal")
    if stock not in built.document.sheets or thickness is None:
        raise DocumentError("A board is cut from a sheet of this design", entry="stock", value=stock, rule="a sheet stock of the design")
    found = free_rooms(built, part, face, plane, thickness.value)
    return {
        "rooms": [_room(built, r, plane, thickness.value) for r in found.rooms],
        "axis": found.axis,
        "at": found.at,
        "outward": found.outward,
        "thickness": thickness.value,
        "why": found.why,
    }


def _room(built: Built, room: Room, plane: Plane, thickness: float) -> ShownRoom:
    x, y, z = ([_bound(b) for b in room.bounds[a]] for a in "xyz")
    caught = [
        {"low": c.low, "face": c.face, "entry": c.entry, "words": c.words, "rank": c.rank} for c in catches(built, room, plane, thickness)
    ]
    return cast(ShownRoom, {"x": x, "y": y, "z": z, "open": list(room.open), "catches": caught})


def _bound(bound: Bound) -> ShownBound:
    return {"value": bound.value, "entry": bound.entry, "part": bound.part, "slopes": bound.slopes}


def touches_data(built: Built, part: str) -> list[ShownTouch]:
    """What a board touches and is not joined to yet. Raises DocumentError where it is no board."""
    return [
        {"part": t.part, "path": t.path, "contact": t.contact, "offers": [cast(ShownOffer, o) for o in t.offers]}
        for t in touches(built, part)
    ]


def pulls_data(built: Built, part: str, group: str = "") -> list[ShownPull]:
    """What can be pulled of a part, or of a group where one is named. Raises DocumentError where nothing can."""
    return [_pull(p) for p in (group_pulls(built, group) if group else pulls(built, part))]


def size_lines_data(built: Built) -> list[ShownSizeLines]:
    """Every size with the lines that it is the length of, and how it is pulled by them."""
    return [
        {
            "size": key,
            "pull": _pull(found.pull) if found.pull else None,
            "lines": [{"start": list(line.start), "end": list(line.end), "parts": list(line.parts)} for line in found.lines],
        }
        for key, found in size_lines(built).items()
    ]


def edges_data(built: Built, part: str) -> list[ShownEdge]:
    """The straight edges of a board, on which flanges may stand. Raises DocumentError where it is none."""
    return [{"name": name, "start": list(p), "end": list(q)} for name, (p, q) in edges_of(built.document, part).items()]


def feature_pulls_data(built: Built, part: str, feature: str) -> ShownFeaturePulls:
    """How a feature is dragged on its face. Raises DocumentError where it cannot be."""
    found = feature_pulls(built, part, feature)
    return cast(
        ShownFeaturePulls,
        {
            "at": list(found.at),
            "pulls": [_feature_pull(p) for p in found.pulls],
            "extents": [{"pull": _pull(e.pull), "way": list(e.way)} for e in found.extents],
        },
    )


def _feature_pull(pull: FeaturePull) -> dict[str, object]:
    text = pull.text
    return {
        "way": pull.way,
        "axis": pull.axis,
        "value": pull.value,
        "sign": pull.sign,
        "pointer": pull.pointer,
        "origin": pull.origin,
        "base": text.base,
        "constant": text.constant,
        "word": text.word,
        "factor": text.factor,
        "places": text.places,
        "whole": pull.whole,
        "marks": [{"value": m.value, "words": m.words, "origin": m.origin, "text": m.text, "edge": m.edge} for m in pull.marks],
    }


def _pull(pull: Pull) -> ShownPull:
    text = pull.text
    return {
        "face": pull.face,
        "axis": pull.axis,
        "value": pull.value,
        "pointer": pull.pointer,
        "base": text.base,
        "constant": text.constant,
        "word": text.word,
        "factor": text.factor,
        "places": text.places,
        "whole": pull.whole,
        "size": pull.size,
        "follow": pull.follow,
        "unit": text.bare,
        "catches": [{"value": c.value, "entry": c.entry} for c in pull.catches],
        "barred": [{"value": b.value, "why": b.why} for b in pull.barred],
    }
