"""Gears whose teeth stand in one another: they drive one another by their teeth."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

import numpy as np

from zygon.design.outlines import gear_of
from zygon.design.pointer import pointer
from zygon.making.movement.record import Meshed, Movement, Moving
from zygon.making.result.built import Built

__all__ = ["meshed"]

#: How far (mm) apart from the sum of their pitch radii the axes of gears may be that run in one another, in modules.
APART = 0.75
#: Axes are parallel to this (a sine).
PARALLEL = 1e-4


def meshed(moving: Moving, built: Built) -> Iterator[Meshed]:
    """The pairs of gears that run in one another."""
    found = [(m, p) for m in moving.movements if m.kind == "turns" for p in m.thing.pieces if gear_of(moving.pieces[p].part.record)]
    for (one, a), (other, b) in combinations(found, 2):
        if one.thing == other.thing:
            continue
        ratio = _ratio(moving, built, one, a, other, b)
        if ratio is not None:
            yield Meshed(one.key, other.key, ratio)


def _ratio(moving: Moving, built: Built, one: Movement, a: str, other: Movement, b: str) -> float | None:
    parts = [moving.pieces[k].part for k in (a, b)]
    gears = [gear_of(p.record) for p in parts]
    modules = [built.values.get(pointer("parts", p.of, "outline", "module")) for p in parts]
    if None in gears or None in modules:
        return None
    ways = [np.array(m.way) for m in (one, other)]
    along = float(ways[0] @ ways[1])
    if abs(abs(along) - 1) > PARALLEL:
        return None
    off = np.array(other.at) - np.array(one.at)
    apart = float(np.linalg.norm(off - ways[0] * float(off @ ways[0])))
    teeth = [g.teeth for g in gears if g]
    module = modules[0].value if modules[0] else 0.0
    if modules[1] is None or abs(module - modules[1].value) > PARALLEL or abs(apart - module * sum(teeth) / 2) > APART * module:
        return None
    # they lie beside one another along the axis
    spans = [moving.pieces[k].corners @ ways[0] for k in (a, b)]
    if min(float(s.max()) for s in spans) <= max(float(s.min()) for s in spans):
        return None
    return -teeth[0] / teeth[1] * (1.0 if along > 0 else -1.0)
