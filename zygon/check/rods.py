"""The rule that something holds a rod along its axis: a tight hole, a blind one, a nut, a ring on each side, or what stands before its end."""

from __future__ import annotations

import numpy as np

from zygon.design.pointer import pointer
from zygon.geometry.frame import FACES
from zygon.making.assembly.sweep import TOUCH, runs_into
from zygon.making.result.built import Built, MadePart
from zygon.making.result.fault import Fault, Mend
from zygon.making.sets.rings import rings_of
from zygon.owner import bore_id
from zygon.tolerance import CONTACT

__all__ = ["rod_faults"]


def rod_faults(built: Built) -> list[Fault]:
    """Rods in bores that nothing keeps from sliding out of all that they lie in, each once."""
    faults: list[Fault] = []
    document = built.document
    for key, bore in document.bores.items():
        rod = built.made.get(bore.member) if bore.member else None
        if rod is None or bore.out or rod.record.kind != "rod" or rod.body.empty:
            continue
        held = [p for p in built.made.values() if p is not rod and frozenset((rod.key, p.key)) in built.bored]
        if not held or any(built.bored[frozenset((rod.key, p.key))] <= 0 for p in held) or bore.hardware is not None:
            continue
        k = next(i for i in range(3) if abs(rod.matrix[i][2]) > 1 - CONTACT) if rod.place.square else None
        if k is None:  # askew it is not looked along
            continue
        free = [sign for sign in (-1, 1) if _slides_out(built, rod, held, k, sign)]
        if not free:
            continue
        where = " and ".join(FACES["xyz"[k]][sign > 0] for sign in free)
        mends = tuple(
            Mend(
                f"Fix it in {p.path}",
                [{"op": "replace", "path": pointer("bores", key, "parts", p.key, "fit"), "value": {"text": "0", "unit": document.unit}}],
            )
            for p in held
            if not p.made_by
        )
        faults.append(
            Fault(
                "slides_out",
                f"{rod.path} slides out to the {where}: nothing holds it along its axis",
                "a rod is tight in one of its holes, or has a nut, a ring or something else before each end",
                where,
                "common practice",
                "warning",
                rod.key,
                owner=bore_id(key),
                mends=mends,
            )
        )
    return faults


def _slides_out(built: Built, rod: MadePart, held: list[MadePart], k: int, sign: int) -> bool:
    """Whether a rod can be moved one way along its axis until it is out of all that it lies in, rings and parts allowing."""
    low, high = rod.reaches[0][k], rod.reaches[1][k]
    if sign > 0:
        reach = max(p.reaches[1][k] for p in held) - low
    else:
        reach = high - min(p.reaches[0][k] for p in held)
    for part, ring in rings_of(built):
        at = ring.motion.shift[k]
        # a ring that lies behind a part on the way stops at it
        if part.key == rod.key and any((p.reaches[0][k] - at if sign > 0 else at - p.reaches[1][k]) > -CONTACT for p in held):
            return False
    way = ("xyz"[k], sign)
    return not any(runs_into(rod, other, way, reach, max(TOUCH, _bite(built, rod, other))) for other in _on_its_way(built, rod, k))


def _bite(built: Built, rod: MadePart, other: MadePart) -> float:
    return TOUCH + max(0.0, -built.bored.get(frozenset((rod.key, other.key)), 0.0))


def _on_its_way(built: Built, rod: MadePart, k: int) -> list[MadePart]:
    """The other parts whose boxes lie on the rod's axis, however far."""
    low, high = (np.array(c) for c in rod.reaches)
    others = [i for i in range(3) if i != k]
    found = []
    for part in built.made.values():
        if part is rod or part.body.empty or part.record.aside:
            continue
        if all(part.reaches[0][i] < high[i] - CONTACT and part.reaches[1][i] > low[i] + CONTACT for i in others):
            found.append(part)
    return found
