"""Three boards that cross on one line: with cross laps pair by pair the middle one is cut in two; sharing the crossing in thirds, none is."""

from __future__ import annotations

from collections.abc import Collection

import numpy as np

from zygon.design.document import Document
from zygon.design.joints import CrossLap
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.making.asked.questions import Meeting
from zygon.making.joints.askew import crossing, looks_low, run_way
from zygon.making.joints.base import JointContext
from zygon.making.joints.ends import contact_of, end_blank
from zygon.tolerance import CONTACT, SLACK

__all__ = ["crossing_triples", "thirds"]

#: Of how much of the common crossing the lower of two boards keeps its wood: lowest and middle, lowest and highest, middle and highest.
SPLITS = {(0, 1): 1 / 3, (0, 2): 1 / 2, (1, 2): 2 / 3}


def crossing_triples(document: Document, among: Collection[str] = ()) -> list[tuple[str, str, str]]:
    """Keys of three cross laps that join three boards pair by pair; with ``among`` (joint keys) those in which one of these has a part."""
    laps = {k: j for k, j in document.joints.items() if isinstance(j, CrossLap) and not j.out}
    pairs = {frozenset((j.a, j.b)): k for k, j in laps.items()}
    boards = sorted({x for j in laps.values() for x in (j.a, j.b)})
    near = {b: {x for pair in pairs if b in pair for x in pair} - {b} for b in boards}
    found = []
    for a in boards:
        for b in sorted(x for x in near[a] if x > a):
            for c in sorted(x for x in near[a] & near[b] if x > b):
                keys = (pairs[frozenset((a, b))], pairs[frozenset((a, c))], pairs[frozenset((b, c))])
                if not among or set(keys) & set(among):
                    found.append(keys)
    return found


def thirds(document: Document, keys: tuple[str, str, str]) -> Patch:
    """The edit by which three cross laps share what their boards have in common, a third to each; empty where the boards do not cross on one line.

    Which board keeps the lowest third, and which the highest, follows the sides that the joints have; where these go round, the order of the boards.
    """
    meeting = Meeting(document)
    lines = [_line(document, meeting, k) for k in keys]
    if any(line is None for line in lines):
        return []
    runs = [line for line in lines if line is not None]
    way = runs[0].high - runs[0].low
    way = way / max(float(np.linalg.norm(way)), SLACK)
    start = runs[0].low
    for run in runs:  # all on one line
        for end in (run.low, run.high):
            off = end - start
            if float(np.linalg.norm(off - way * (off @ way))) > SLACK:
                return []
    low = max(min(float((r.low - start) @ way), float((r.high - start) @ way)) for r in runs)
    high = min(max(float((r.low - start) @ way), float((r.high - start) @ way)) for r in runs)
    if high - low <= CONTACT:
        return []
    rank = _ranks(document, keys, runs, way)
    patch: Patch = []
    for key, run in zip(keys, runs, strict=True):
        record = document.joints[key]
        first, second = rank[record.a], rank[record.b]
        lower = first < second
        split = low + SPLITS[min(first, second), max(first, second)] * (high - low)
        ends = sorted((float((run.low - start) @ way), float((run.high - start) @ way)))
        share = (ends[1] - split if lower else split - ends[0]) / (ends[1] - ends[0])
        # the first board is notched from where the higher one comes, or the lower
        side = "high" if lower == (run.own_up @ way > 0) else "low"
        patch += [
            {"op": "add", "path": pointer("joints", key, "share"), "value": {"text": _text(share), "unit": "mm"}},
            {"op": "add", "path": pointer("joints", key, "side"), "value": side},
        ]
    return patch


class _Run:
    """Where two boards cross: the ends of the line in the room, and the way to the first board's own high end."""

    def __init__(self, low: np.ndarray, high: np.ndarray, own_up: np.ndarray) -> None:
        self.low, self.high, self.own_up = low, high, own_up


def _line(document: Document, meeting: Meeting, key: str) -> _Run | None:
    """Where a cross lap's boards cross; None where they do not."""
    record = document.joints[key]
    a, b = (end_blank(x, meeting.blanks, meeting.instances) for x in (record.a, record.b))
    if a is None or b is None:
        return None
    contact = contact_of(meeting.values, a, b)
    context = JointContext(key, record, contact, a, b, meeting.values)
    if contact.kind == "cross":
        at = {a.frame.normal: sum(a.span.span(a.frame.normal)) / 2, b.frame.normal: sum(b.span.span(b.frame.normal)) / 2}
        points = [np.array(a.place.point([at.get(x, end) for x in "xyz"])) for end in contact.run]
        return _Run(points[0], points[1], points[1] - points[0])
    if contact.kind != "angle":
        return None
    run, way = crossing(context), run_way(context)
    if run is None or way is None:
        return None
    near, far = context.meeting.face(near=True), context.meeting.face(near=False)
    places = (near.low, near.high, far.low, far.high)
    middle = (min(places) + max(places)) / 2
    points = [np.array(a.in_room.point((*near.point(middle, along), a.thickness / 2))) for along in run]
    up = points[1] - points[0]
    return _Run(points[0], points[1], -up if looks_low(a, way) else up)


def _ranks(document: Document, keys: tuple[str, str, str], runs: list[_Run], way: np.ndarray) -> dict[str, int]:
    """0 for the board that keeps the lowest third along ``way``, 2 for the highest."""
    below: dict[str, set[str]] = {}
    for key, run in zip(keys, runs, strict=True):
        record = document.joints[key]
        lower = (getattr(record, "side", "high") == "high") == bool(run.own_up @ way > 0)
        one, other = (record.a, record.b) if lower else (record.b, record.a)
        below.setdefault(one, set()).add(other)
        below.setdefault(other, set())
    order = sorted(below, key=lambda b: -len(below[b]))
    if sorted(len(x) for x in below.values()) != [0, 1, 2]:  # they go round
        order = sorted(below, key=lambda b: (document.parts[b.partition("@")[0]].order, b))
    return {b: i for i, b in enumerate(order)}


def _text(share: float) -> str:
    """A share as it would be typed."""
    for top, bottom in ((1, 3), (1, 2), (2, 3)):
        if abs(share - top / bottom) < SLACK:
            return f"{top}/{bottom}"
    return f"{share:.4f}".rstrip("0")
