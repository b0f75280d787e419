"""What of a folded part is to be said as it stands: where the outer faces of its flanges lie, and holes in its plate."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from zygon.geometry.motion import Vector
from zygon.making.result.built import FlatPart
from zygon.making.result.flat import Flat
from zygon.making.result.fold import face_motions
from zygon.owner import part_id
from zygon.paper.looks import LOOKS
from zygon.paper.of_flat import lying_up
from zygon.paper.view import WAYS, Spot, View
from zygon.tolerance import SEEN

__all__ = ["legs_on"]


def legs_on(part: FlatPart, views: Sequence[View]) -> list[View]:
    """The views, in which each flange that is seen edge on has its outer face among the places that are wanted, in one view."""
    flat = lying_up(part)
    fold = flat.fold
    assert fold is not None
    motions = face_motions(fold)
    across: list[tuple[str, str, Vector, Vector, str]] = []  # name, words, a place on the outer face, its way out, what is selected
    for n, (face, motion) in enumerate(zip(fold.faces, motions, strict=True)):
        x0, y0, x1, y1 = face.outline[0].bounds
        middle = ((x0 + x1) / 2, (y0 + y1) / 2)
        for side, w in (("a", flat.thickness), ("b", 0.0)):
            at = motion.point((*middle, w))
            out = motion.vector((0.0, 0.0, 1.0 if side == "a" else -1.0))
            words = f"{face.key.replace('_', ' ') or 'plate'}, face {side.upper()}"
            across.append(
                (
                    f"{face.owner or part_id(part.of)}/{face.key}/{side}",
                    words,
                    _faced(at),
                    _faced(out, way=True),
                    face.owner or part_id(part.of),
                )
            )
        across += _free_end(flat, part, n)
    # where profiles are seen: flanges on the sides from above, those at the ends from the left
    ends = any(abs(out[2]) > 1 - SEEN for name, _, _, out, _ in across if not name.endswith("/end"))
    wanted = {("left", "x"): 1} if ends else {("top", "y"): 1}
    wanted |= {("top", "x"): 0, ("left", "y"): 2}
    return [_with(v, across, wanted) for v in views]


def _free_end(flat: Flat, part: FlatPart, n: int) -> list[tuple[str, str, Vector, Vector, str]]:
    """The far edge of a flange that carries no other, as a face that looks the way in which it runs."""
    fold = flat.fold
    assert fold is not None
    if n == 0 or any(b.parent == n for b in fold.bends):
        return []
    face, bend, motion = fold.faces[n], fold.bends[n - 1], face_motions(fold)[n]
    out = bend.outward
    far = max(face.outline[0].points, key=lambda p: p[0] * out[0] + p[1] * out[1])
    owner = face.owner or part_id(part.of)
    at, way = motion.point((*far, flat.thickness)), motion.vector((*out, 0.0))
    return [(f"{owner}/{face.key}/end", f"{face.key.replace('_', ' ')}, its end", _faced(at), _faced(way, way=True), owner)]


def _faced(p: Vector, *, way: bool = False) -> Vector:
    """A place or way of the flat as its views have it: the face stands to the front."""
    del way  # the turn has no shift
    return p[0], -p[2], p[1]


def _with(view: View, across: Sequence[tuple[str, str, Vector, Vector, str]], wanted: dict[tuple[str, str], int]) -> View:
    look = next((look for name, look in LOOKS.items() if name == view.name), None)
    if look is None:
        return view
    spots, found = dict(view.spots), {"x": [*view.across], "y": [*view.up]}
    x0, y0, x1, y1 = view.bounds
    for name, words, at, out, of in across:
        seen, way = look.seen(at), look.seen(out)
        for k, along in enumerate(WAYS):
            if abs(abs(way[k]) - 1) > SEEN:
                continue
            low, high = ((x0, x1), (y0, y1))[k]
            # the outer of a flange's two faces is the one that looks away from the middle of the view
            outer = name.endswith("/end") or (seen[k] - (low + high) / 2) * way[k] >= 0
            spots[name] = Spot(name, seen, along, words, of)
            if outer and (view.name, along) in wanted:
                found[along].append(name)
    return replace(view, spots=spots, across=tuple(found["x"]), up=tuple(found["y"]))
