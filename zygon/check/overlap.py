"""Parts that overlap in the room, from the layers of their flats and their places."""

from __future__ import annotations

from itertools import combinations

from zygon.build.built import Built, BuiltPart, Fault
from zygon.build.memo import Memo, digest
from zygon.build.places import PlacedLayer, common, placed_layers
from zygon.geometry.tolerance import CHECK
from zygon.measure.display import format_length

__all__ = ["common_length", "overlap_faults"]

_PAIRS = Memo(8000)


def overlap_faults(built: Built) -> list[Fault]:
    """Pairs of parts that take up the same room. A press fit may bite by its half a flank."""
    faults = []
    allowed = {frozenset((j.a, j.b)): max(0.0, -j.fit) for j in built.joints.values()}
    solid = [p for p in built.parts.values() if p.flat and p.box and p.record.quantity]
    for a, b in combinations(solid, 2):
        press = allowed.get(frozenset((a.key, b.key)), 0.0)
        found = common_length(a, b, press + CHECK)
        if found:
            shown = format_length(round(found, 3), built.document.display)
            faults.append(
                Fault("overlap", f"{a.path} and {b.path} overlap over {shown}", "two parts cannot take up the same room", shown, "geometry",
                      part=a.key, other=b.key)
            )  # fmt: skip
    return faults


def _boxes_meet(a: BuiltPart, b: BuiltPart) -> bool:
    if not a.flat.pieces or not b.flat.pieces:  # type: ignore[union-attr]
        return False
    (al, ah), (bl, bh) = a.reaches, b.reaches
    return all(al[i] < bh[i] - CHECK and bl[i] < ah[i] - CHECK for i in range(3))


def common_length(a: BuiltPart, b: BuiltPart, tolerance: float) -> float:
    """How far two boards run through one another, in mm; 0 where nowhere by more than ``tolerance`` along all three axes."""
    if not _boxes_meet(a, b):
        return 0.0
    key = digest("pair", a.flat.digest, a.matrix, b.flat.digest, b.matrix, round(tolerance, 6))  # type: ignore[union-attr]

    def make() -> float:
        others: list[PlacedLayer] = placed_layers(b)
        return max((common(x, y, tolerance) for x in placed_layers(a) for y in others), default=0.0)

    return _PAIRS.get(key, make)[0]
