"""The picture behind a drawing: laid, scaled by two of its places, straightened, moved, cropped; each as one edit."""

from __future__ import annotations

import math
from typing import Any, Literal

from zygon.design.patch import Patch
from zygon.drawn.backdrop import Backdrop
from zygon.edits.drawings.draft import PLACES, Draft, refused
from zygon.limits import FARTHEST, MAX_PICTURE
from zygon.making.datums.scope import EntryScope
from zygon.making.result.built import Built
from zygon.measure.entry import Entry
from zygon.measure.evaluate import evaluate
from zygon.tolerance import CONTACT

__all__ = ["BackdropHow", "lay_backdrop", "place_backdrop"]

BackdropHow = Literal["scale", "level", "upright", "move", "crop", "whole"]
Pair = tuple[float, float]
LABELS: dict[BackdropHow, str] = {
    "scale": "Scale the picture",
    "level": "Straighten the picture",
    "upright": "Straighten the picture",
    "move": "Move the picture",
    "crop": "Crop the picture",
    "whole": "Show the whole picture",
}
#: Of a cropped picture so much stays (pixels).
LEAST = 8.0


def lay_backdrop(
    built: Built, part: str, feature: str, picture: str, name: str, wide: int, high: int, scale: float | None
) -> tuple[str, Patch]:
    """Label and patch that lay a picture behind a drawing; as large as its file says (mm a pixel), else as large as its part, and in its middle."""
    draft = Draft(built, part, feature)
    w, h = draft.place.size
    by = scale or max(w / wide, h / high)
    du, dv = draft.shift_now()
    at = [round((w - wide * by) / 2 - du, PLACES), round((h - high * by) / 2 - dv, PLACES)]
    found = Backdrop(picture=picture, name=name, wide=wide, high=high, at=at, scale=by)
    op = "replace" if draft.drawing.backdrop else "add"
    return "Lay a picture behind the drawing", [{"op": op, "path": f"{draft.place.where}/backdrop", "value": _dump(found)}]


def place_backdrop(built: Built, part: str, feature: str, how: BackdropHow, a: Pair, b: Pair, length: Entry | None) -> tuple[str, Patch]:
    """Label and patch that lay a picture anew by two places on it (mm, as the drawing is shown): how far apart they are, or that they lie level or upright;
    by which it is moved, or between which it is shown. Raises DocumentError where that is not to be had."""
    draft = Draft(built, part, feature)
    now = draft.drawing.backdrop
    if now is None:
        raise refused("There is no picture behind the drawing", "backdrop", None, "a picture that is laid there")
    if now.locked and how not in ("crop", "whole"):
        raise refused("The picture is locked", "backdrop", now.name, "a picture that may be moved")
    du, dv = draft.shift_now()
    a, b = (a[0] - du, a[1] - dv), (b[0] - du, b[1] - dv)
    apart = math.dist(a, b)
    if how != "whole" and apart <= CONTACT:
        raise refused("Both places are one", "b", list(b), "two places apart")
    made: dict[str, Any]
    if how == "scale":
        if length is None:
            raise refused("How far apart they are is not said", "length", None, "a length")
        value = evaluate(length.text, length.unit, "length", EntryScope(draft.place.values)).value
        if not 0 < value <= FARTHEST:
            raise refused(f"They are {length.text} apart", "length", length.text, "greater than 0")
        by = value / apart
        if not 0 < now.scale * by <= 1000:
            raise refused("The picture would be far too large", "length", length.text, "at most 1000 mm a pixel")
        made = {"scale": now.scale * by, "at": _about(now, a, by, 0.0)}
    elif how in ("level", "upright"):
        # the nearer way round: a sheet is not laid on its head because it was pressed from right to left
        wanted = 0.0 if how == "level" else math.pi / 2
        turn = math.remainder(wanted - math.atan2(b[1] - a[1], b[0] - a[0]), math.pi)
        made = {"turned": round(math.remainder(now.turned + math.degrees(turn), 360.0), 9) + 0.0, "at": _about(now, a, 1.0, turn)}
    elif how == "move":
        made = {"at": [now.at[0] + b[0] - a[0], now.at[1] + b[1] - a[1]]}
    else:
        made = {"crop": None if how == "whole" else _crop(now, a, b)}
    if "at" in made:
        made["at"] = [round(x, PLACES) + 0.0 for x in made["at"]]
        if any(abs(x) > FARTHEST for x in made["at"]):
            raise refused("The picture would lie too far away", "at", made["at"], f"within {FARTHEST:g} mm")
    anew = _dump(now.model_copy(update=made))
    return LABELS[how], [{"op": "replace", "path": f"{draft.place.where}/backdrop", "value": anew}]


def _dump(found: Backdrop) -> dict[str, object]:
    return found.model_dump(mode="json", exclude_none=True)


def _about(now: Backdrop, centre: Pair, by: float, turn: float) -> list[float]:
    """Where the picture's corner comes to that is made larger and turned about a place."""
    x, y = (now.at[0] - centre[0]) * by, (now.at[1] - centre[1]) * by
    cos, sin = math.cos(turn), math.sin(turn)
    return [centre[0] + x * cos - y * sin, centre[1] + x * sin + y * cos]


def _crop(now: Backdrop, a: Pair, b: Pair) -> list[float]:
    """What is hidden at its left, low, right and high side, in pixels, where it is shown between two corners."""
    turn = -math.radians(now.turned)
    corners: list[Pair] = []
    for p in (a, (b[0], a[1]), b, (a[0], b[1])):
        x, y = (p[0] - now.at[0]) / now.scale, (p[1] - now.at[1]) / now.scale
        corners.append((x * math.cos(turn) - y * math.sin(turn), x * math.sin(turn) + y * math.cos(turn)))
    (x0, x1), (y0, y1) = ((min(c[k] for c in corners), max(c[k] for c in corners)) for k in (0, 1))
    sides = [max(x0, 0.0), max(y0, 0.0), max(now.wide - x1, 0.0), max(now.high - y1, 0.0)]
    if sides[0] + sides[2] > now.wide - LEAST or sides[1] + sides[3] > now.high - LEAST:
        raise refused("Nothing would be left of the picture", "b", list(b), f"a corner of it, of at least {LEAST:g} pixels")
    return [round(min(s, MAX_PICTURE), 3) for s in sides]
