"""Views of solids: what is looked at from where, for parts by themselves and for the whole, and the views made of what is seen."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from typing import Literal

import numpy as np

from zygon.design.papers import LOOK_WORDS
from zygon.geometry.motion import three
from zygon.making.result.body import Matrix
from zygon.making.result.built import Built, FlatPart, MadePart
from zygon.making.tube.body import MemberBody
from zygon.making.turned.body import TurnedBody
from zygon.owner import part_id
from zygon.paper.hidden import Asked, Seen, Thing
from zygon.paper.ink import Arc, Line
from zygon.paper.looks import LOOKS, LookName, is_corner, place_about
from zygon.paper.of_flat import lying_up
from zygon.paper.things import thing_of, things_of
from zygon.paper.view import Spot, View, boxed

__all__ = ["alone", "box_view", "everything", "middle_of_longest", "part_spots", "placed_alone"]

#: From a part's own (u, v, w): a flat stands with its face to the front; what is long lies along the paper.
_FACED = ((1.0, 0.0, 0.0, 0.0), (0.0, 0.0, -1.0, 0.0), (0.0, 1.0, 0.0, 0.0))
_ALONG = ((0.0, 0.0, 1.0, 0.0), (1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0))


def alone(part: MadePart, looks: Iterable[LookName], *, hidden: bool) -> dict[LookName, Asked]:
    """A part by itself, from some sides."""
    thing = Thing(part.key, part.record.kind, lying_up(part), _FACED) if isinstance(part, FlatPart) else thing_of(part, placed_alone(part))
    return {name: Asked((thing,), LOOKS[name], hidden and not is_corner(name)) for name in looks}


def placed_alone(part: MadePart) -> Matrix:
    """Where a part that is drawn by itself lies, from its own coordinates."""
    return _ALONG if isinstance(part.body, MemberBody | TurnedBody) else part.matrix[:3]


def everything(built: Built, looks: Iterable[LookName], *, hidden: bool) -> dict[LookName, Asked]:
    """All parts and their hardware in their places."""
    things = things_of(built)
    return {name: Asked(things, LOOKS[name], hidden and not is_corner(name)) for name in looks}


def box_view(
    look: LookName,
    seen: Seen,
    angle: Literal["first", "third"],
    *,
    of: str = "",
    label: str | None = None,
    sizes: str = "xy",
    spots: Mapping[str, Spot] | None = None,
) -> View:
    """A view with its sizes over all; ``sizes`` says along which ways."""
    own, overall = boxed("box", seen.bounds, ("left end", "right end", "lower end", "upper end"), of)
    low_x, high_x, low_y, high_y = own
    column, row = place_about(look, angle)
    return View(
        name=look,
        label=label if label is not None else "" if is_corner(look) else LOOK_WORDS[look],
        strokes=seen.strokes,
        bounds=seen.bounds,
        spots=own | dict(spots or {}),
        corners=(low_x, high_x, low_y, high_y),
        overall=tuple(o for o in overall if o.way in sizes),
        look=None if is_corner(look) else LOOKS[look],
        column=column,
        row=row,
    )


def part_spots(built: Built, look: LookName) -> dict[str, Spot]:
    """The ends of every part in a view of the whole, by its name and the face's word, for dimensions put in by hand."""
    found: dict[str, Spot] = {}
    to = LOOKS[look]
    if is_corner(look):
        return found
    for part in built.made.values():
        if part.body.empty:
            continue
        low, high = part.reaches
        a, b = to.seen(three(low)), to.seen(three(high))
        (x0, x1), (y0, y1) = sorted((a[0], b[0])), sorted((a[1], b[1]))
        name = part.path.replace("_", " ")
        words = (f"left end of {name}", f"right end of {name}", f"lower end of {name}", f"upper end of {name}")
        found |= boxed(part_id(part.key), (x0, y0, x1, y1), words, part_id(part.of))[0]
    return found


def middle_of_longest(seen: Seen, key: str) -> list[tuple[float, float]]:
    """Places on what is seen of a part, on its longest lines first: where its balloon may point."""
    own: list[tuple[float, tuple[float, float]]] = []
    for s in seen.strokes:
        if s.of != key or s.pen != "visible":
            continue
        if isinstance(s, Line):
            own.append((math.dist(s.p, s.q), ((s.p[0] + s.q[0]) / 2, (s.p[1] + s.q[1]) / 2)))
        elif isinstance(s, Arc):
            own.append((abs(s.sweep) * s.radius, s.at(0.5)))
        else:
            own.append((float(np.hypot(*np.diff(np.array(s.points), axis=0).T).sum()), s.points[len(s.points) // 2]))
    return [at for _, at in sorted(own, reverse=True)[:4]]
