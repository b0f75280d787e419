"""Parts that overlap in the room, from the layers of their flats and their places, or from their solids where they stand at an angle."""

from __future__ import annotations

import numpy as np

from zygon.making.connector.body import ConnectorBody
from zygon.making.result.built import Built, MadePart
from zygon.making.result.fault import Fault
from zygon.making.solids.places import PlacedLayer, along_axes, common, in_own_frame, placed_layers
from zygon.making.solids.solids import depth_in_common, in_common, turned_alike
from zygon.measure.display import format_length, format_volume
from zygon.memo import Memo, digest
from zygon.tolerance import CHECK

__all__ = ["common_length", "overlap_faults", "tangled"]

_PAIRS = Memo(8000)
#: Solids that lie against each other at an angle may have a film of this (mm) in common: chords of arcs, and floats.
OBLIQUE = 0.01
#: So many pairs are told; where more overlap, as in rows whose spacing is a slip of the finger, the others are counted.
MOST = 100


def overlap_faults(built: Built) -> list[Fault]:
    """Pairs of parts that take up the same room, with volume and place. A press fit may bite by its half a flank."""
    faults: list[Fault] = []
    allowed = {pair: max(0.0, -fit) for pair, fit in built.bored.items()} | {
        frozenset(p): j.bite for j in built.joints.values() for p in j.pairs
    }
    solid = [p for p in built.made.values() if not p.body.empty]
    near = _near(solid)
    for k, (a, b) in enumerate(near):
        if len(faults) == MOST:
            faults.append(_many(len(near) - k))
            break
        if frozenset((a.key, b.key)) in built.laid or _in_its_socket(built, frozenset((a.key, b.key))) or _in_its_hole(built, a, b):
            continue
        press = allowed.get(frozenset((a.key, b.key)), 0.0)
        found = common_length(a, b, press + CHECK)
        if found:
            display = built.document.display
            shared = in_common(a, b)
            volume = format_volume(shared.volume, built.document.display) if shared else ""
            shown = format_length(round(found, 3), display)
            place = (
                f" at {', '.join(format_length(round(x, 1), display) for x in shared.at)} (right, back, up){_more(shared.places)}"
                if shared
                else ""
            )
            faults.append(
                Fault(
                    "overlap",
                    f"{a.path} and {b.path} overlap over {shown}{place}",
                    "two parts cannot take up the same room",
                    volume or shown,
                    "geometry",
                    part=a.key,
                    other=b.key,
                )
            )
    return faults


def _in_its_socket(built: Built, pair: frozenset[str]) -> bool:
    """Whether a pair is a member and a connector that leaves room for it: its socket is as wide as is said, and what does not go in is told by that.

    What swings may be swung into a tube, and a shape that was read has the holes that it has.
    """
    seat = built.seated.get(pair)
    body = built.made[seat.connector].body if seat else None
    return isinstance(body, ConnectorBody) and body.given is None and not any(s.swings for s in body.sleeves)


def _in_its_hole(built: Built, a: MadePart, b: MadePart) -> bool:
    """Whether one is a rod or turned and the other is bored for it: the hole is as wide as is said, and as deep as the rod reaches."""
    return bool({"rod", "turned"} & {a.record.kind, b.record.kind}) and frozenset((a.key, b.key)) in built.bored


def tangled(faults: list[Fault]) -> bool:
    """Whether so many pairs overlap that they are counted and not told one by one."""
    return any(f.code == "overlaps" for f in faults)


def _many(rest: int) -> Fault:
    """What stands for all other pairs, in one sentence: they are counted and not cut out of one another."""
    pairs = f"{rest:,} more {'pair' if rest == 1 else 'pairs'} of parts"
    return Fault(
        "overlaps",
        f"{pairs} reach into each other, or come close to it: they are looked at one by one, and so is what holds each part up, once the {MOST} told here are apart",
        "two parts cannot take up the same room",
        str(rest),
        "geometry",
    )


def _more(places: int) -> str:
    """That there are other places than the one that is told."""
    return "" if places < 2 else f" and at {places - 1} other {'place' if places == 2 else 'places'}"


def _near(parts: list[MadePart]) -> list[tuple[MadePart, MadePart]]:
    """The pairs whose boxes in the room overlap, in order."""
    if len(parts) < 2:
        return []
    lows, highs = (np.array([p.reaches[k] for p in parts]) for k in (0, 1))
    meets = (lows[:, None, :] < highs[None, :, :] - CHECK).all(axis=2)
    first, second = np.nonzero(np.triu(meets & meets.T, 1))
    return [(parts[i], parts[j]) for i, j in zip(first.tolist(), second.tolist(), strict=True)]


def common_length(a: MadePart, b: MadePart, tolerance: float) -> float:
    """How far two boards run through one another, in mm; 0 where nowhere by more than ``tolerance``.

    Boards along the same axes are reckoned from their layers, others from their solids.
    """
    key = digest("pair", a.body.digest, a.matrix, b.body.digest, b.matrix, round(tolerance, 6))

    def make() -> float:
        if not turned_alike(a, b):
            return depth_in_common(a, b, max(tolerance, OBLIQUE))
        one, other = (a, b) if along_axes(a) else (in_own_frame(a, a), in_own_frame(b, a))
        others: list[PlacedLayer] = placed_layers(other)
        return max((common(x, y, tolerance) for x in placed_layers(one) for y in others), default=0.0)

    return _PAIRS.get(key, make)[0]
