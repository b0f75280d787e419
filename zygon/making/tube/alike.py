"""Whether members are one and the same piece, whichever end is A and however they are turned about their axis."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from itertools import product

import numpy as np

from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import SideCut
from zygon.making.tube.tips import Tip
from zygon.memo import Memo, digest
from zygon.stock.section import Section
from zygon.tolerance import SAGITTA, SEEN, SLACK

__all__ = ["signature"]

_KNOWN = Memo(4000)
#: Fibres that are compared, round the section.
FIBRES = 24
#: Lengths (mm) are told apart in steps of this; no figure that a maker writes lies between two of them.
STEP = 0.01
BETWEEN = 0.00123
#: By how many turns a section comes to lie on itself.
FOLDS = {"square": 4, "rectangle": 2, "hexagon": 6}


def signature(body: MemberBody, *, mirrored: bool = False) -> str:
    """The same text for members that are the same piece; ``mirrored``: that of the mirror image."""
    return _KNOWN.get(digest("alike", body.digest, mirrored), lambda: _least(body, mirrored=mirrored))[0]


def _least(body: MemberBody, *, mirrored: bool) -> str:
    found = []
    for back in (False, True):
        # turned end for end about u, its degrees run the other way round; so do those of a mirror image
        flip = -1.0 if back != mirrored else 1.0
        for turn in _onto(body.section, flip) if body.section.open else _turns(body):
            found.append(_written(body, turn, flip, back=back))
    return digest(replace(body.section, flipped=False), min(found))


@lru_cache(maxsize=256)
def _onto(section: Section, flip: float) -> list[float]:
    """The quarter turns, in radians, by which the section that is not flipped comes to lie on this one, its degrees run the same way or the other."""
    plain = _corners(replace(section, flipped=False)) * (1.0, flip)
    own = _places(_corners(section))
    turns = (k * np.pi / 2 for k in range(4))
    return [t for t in turns if _places(plain @ ((np.cos(t), np.sin(t)), (-np.sin(t), np.cos(t)))) == own]


def _corners(section: Section) -> np.ndarray:
    """Its corners; of one that is drawn all places of its outline and its hollows, since arcs may differ where corners do not."""
    if section.drawn is None:
        return np.array(section.region.outer.points)
    return np.vstack([c.flatten(SAGITTA) for c in (section.region.outer, *section.region.inner)])


def _places(points: np.ndarray) -> set[tuple[int, ...]]:
    return {tuple(p) for p in np.round(points / SLACK).astype(int).tolist()}


def _turns(body: MemberBody) -> list[float]:
    """Turns about the axis that may lay a like piece on this one, in radians."""
    folds = FOLDS.get(body.section.shape)
    if folds:
        return [2 * np.pi * k / folds for k in range(folds)]
    # a round one has no side of its own: it is turned so that each end in turn, or a hole, comes first
    low, high = body.stops(_ring(body, np.arange(FIBRES) * 2 * np.pi / FIBRES))
    found = []
    for heights, order in product((low, high), (1, 2)):
        wave = np.fft.fft(heights)[order] / FIBRES
        if abs(wave) > SEEN:
            found += [-float(np.angle(wave)) / order + 2 * np.pi * k / order for k in range(order)]
    for flat in _flat_ways(body):
        found += [flat, flat + np.pi] if flat is not None else []
    for hole in (*body.holes, *body.marks):
        way = hole.motion.vector((0.0, 0.0, 1.0))
        found += [float(np.arctan2(way[1], way[0])) + np.pi * k for k in (0, 1)]
    return found or [0.0]


def _ring(body: MemberBody, angles: np.ndarray) -> np.ndarray:
    radius = min(body.section.extents) / 2
    return radius * np.column_stack((np.cos(angles), np.sin(angles)))


def _written(body: MemberBody, turn: float, flip: float, *, back: bool) -> tuple:
    angles = turn + flip * np.arange(FIBRES) * 2 * np.pi / FIBRES
    low, high = body.stops(_ring(body, angles))
    if back:
        low, high = -high, -low
    base = float(low.min())
    tips = [_tip(tip, way, turn, flip) for tip, way in zip(body.tips, _flat_ways(body), strict=True)]
    tips = tips[::-1] if back else tips
    shifted = np.concatenate((low, high)) - base
    return (
        tuple(np.round((shifted + BETWEEN) / STEP).astype(int).tolist()),
        tuple(sorted(_hole(h, turn, flip, base, back=back) for h in body.holes)),
        tuple(sorted(_hole(h, turn, flip, base, back=back) for h in body.marks)),
        tuple(tips),
    )


def _flat_ways(body: MemberBody) -> tuple[float | None, float | None]:
    """Where round the section the flats at A and at B look, in radians from u; None where an end is not pressed flat."""
    a, b = (tip.flat.turned if tip and tip.flat else None for tip in body.tips)
    # an end's own v looks the other way at A
    return (None if a is None else np.pi / 2 - a, None if b is None else np.pi / 2 + b)


def _tip(tip: Tip | None, way: float | None, turn: float, flip: float) -> str:
    """What is done at an end, as seen from a turned piece; a flat looks the same from both its sides."""
    if tip is None or tip.flat is None or way is None:
        return repr(tip)
    at = round(float((flip * (way - turn)) % np.pi) / SEEN) % round(np.pi / SEEN)
    return f"{replace(tip, flat=replace(tip.flat, turned=0.0))!r} {at}"


def _hole(hole: SideCut, turn: float, flip: float, base: float, *, back: bool) -> tuple:
    """What passes through, as seen from a turned piece: its section, and the line that it lies on."""
    start, way = np.array(hole.motion.shift), np.array(hole.motion.vector((0.0, 0.0, 1.0)))
    c, s = np.cos(turn), np.sin(turn)
    seen = np.array(((c, s, 0.0), (-s * flip, c * flip, 0.0), (0.0, 0.0, -1.0 if back else 1.0)))
    start, way = seen @ start, seen @ way
    start = start - way * float(start @ way) - np.array((0.0, 0.0, base))
    start = start - way * float(start @ way)
    section, across = hole.section, np.zeros(3)
    if section.open:  # it matters how it is turned about its own line, and whether it is seen in a mirror
        hand = -flip if back else flip
        across = seen @ np.array(hole.motion.vector((1.0, 0.0, 0.0))) * hand
        section = section.mirrored if hand < 0 else section
    lead = int(np.abs(way).round(6).argmax())
    if hole.begins is None and way[lead] < 0:  # through both walls it is the same from either side, seen in a mirror
        way, across, section = -way, -across, section.mirrored
    figures = [round((x + BETWEEN) / STEP) for x in start.tolist()] + [
        round((x + BETWEEN / 100) / SLACK) for x in (*way.tolist(), *across.tolist())
    ]
    return (repr(section), round(hole.gap / STEP), hole.begins is None, *figures)
