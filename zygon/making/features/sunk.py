"""Features with depth and in edges: pockets, grooves, rebates, blind holes."""

from __future__ import annotations

from typing import Any

from zygon.geometry.contour import Contour, rectangle, rounded_rectangle
from zygon.geometry.frame import FACES
from zygon.making.features.reader import Reader
from zygon.making.result.operations import EdgeBore, Operation, Pocket, Side
from zygon.measure.display import format_length
from zygon.tolerance import CONTACT

__all__ = ["edge_hole", "edge_of", "extents_of", "groove_outline", "rebate_outline", "rounded", "sunk"]

#: Cuts that leave a board at its edge reach this far past it (mm).
OVERSHOOT = 0.01


def sunk(r: Reader, outline: Contour | None, face: Side, what: Any = "pocket") -> list[Operation]:
    """A depth operation of an outline; nothing where its outline or its depth makes no sense."""
    depth = r.depth()
    return [Pocket(outline, r.owner, face, depth, what)] if outline and depth else []


def rounded(r: Reader, u: float, v: float) -> Contour | None:
    """A rectangle with corner radius about (u, v)."""
    w, h, radius = r.positive("width"), r.positive("height"), r.read("radius")
    if min(w, h) <= CONTACT:
        return None
    if not -CONTACT <= radius <= min(w, h) / 2 + CONTACT:
        r.fault(
            "radius",
            f"a corner radius of {format_length(radius)}",
            f"from 0 to half the shorter side, {format_length(min(w, h) / 2)}",
            format_length(radius),
        )
        radius = min(max(radius, 0.0), min(w, h) / 2)
    return rounded_rectangle(u, v, w, h, radius, r.read("angle", "angle"), r.owner)


def extents_of(r: Reader, name: str) -> tuple[float, float]:
    """The blank's low and high along u or v, in its own coordinates."""
    axis = getattr(r.blank.frame, name)
    low, high = r.blank.extents.span(axis)
    origin = r.blank.span.span(axis)[0]
    return low - origin, high - origin


def groove_outline(r: Reader, u: float, v: float) -> Contour | None:
    """A groove about (u, v), or from edge to edge."""
    f, width = r.feature, r.positive("width")
    if width <= CONTACT:
        return None
    if f.length is None:
        low, high = extents_of(r, f.along)
        low, high = low - OVERSHOOT, high + OVERSHOOT
    else:
        length, middle = r.positive("length"), u if f.along == "u" else v
        if length <= CONTACT:
            return None
        low, high = middle - length / 2, middle + length / 2
    if f.along == "u":
        return rectangle(low, v - width / 2, high, v + width / 2, r.owner)
    return rectangle(u - width / 2, low, u + width / 2, high, r.owner)


def edge_of(r: Reader) -> tuple[str, str] | None:
    """The axis ('u' or 'v') that an edge lies across, and its side; None with a fault where the board has no such edge."""
    frame = r.blank.frame
    for name in ("u", "v"):
        for side, word in zip(("low", "high"), FACES[getattr(frame, name)], strict=True):
            if r.feature.edge == word:
                return name, side
    allowed = ", ".join((*FACES[frame.u], *FACES[frame.v]))
    r.fault("edge", f"it has no edge at its {r.feature.edge}", f"one of {allowed}", r.feature.edge)
    return None


def rebate_outline(r: Reader) -> Contour | None:
    """A step along an edge, out past the edge."""
    found, width = edge_of(r), r.positive("width")
    if found is None or width <= CONTACT:
        return None
    across, side = found
    low, high = extents_of(r, across)
    if width >= high - low:
        shown = format_length(width, r.values.document.display)
        r.fault(
            "width",
            f"a rebate {shown} wide takes the whole board",
            f"less than {format_length(high - low, r.values.document.display)}",
            shown,
        )
        return None
    inner = (low - OVERSHOOT, low + width) if side == "low" else (high - width, high + OVERSHOOT)
    start, end = extents_of(r, "v" if across == "u" else "u")
    stops = r.read("stop_low"), r.read("stop_high")
    run = (start + stops[0] if stops[0] > CONTACT else start - OVERSHOOT, end - stops[1] if stops[1] > CONTACT else end + OVERSHOOT)
    if min(stops) < -CONTACT or run[1] - run[0] <= CONTACT:
        shown = format_length(min(stops) if min(stops) < 0 else max(stops), r.values.document.display)
        r.fault(
            "stop_low" if min(stops) == stops[0] else "stop_high",
            "nothing is left of it between its stops",
            "at least 0, together less than the edge",
            shown,
        )
        return None
    if across == "u":
        return rectangle(inner[0], run[0], inner[1], run[1], r.owner)
    return rectangle(run[0], inner[0], run[1], inner[1], r.owner)


def edge_hole(r: Reader, u: float, v: float) -> list[Operation]:
    """A blind hole into an edge."""
    found = edge_of(r)
    diameter, depth = r.positive("diameter"), r.positive("depth")
    if found is None or min(diameter, depth) <= CONTACT:
        return []
    across, side = found
    low, high = extents_of(r, across)
    t = r.blank.thickness
    height = t / 2 if r.feature.height is None else r.read("height")
    display = r.values.document.display
    if depth >= high - low:
        shown = format_length(depth, display)
        r.fault("depth", f"{shown} deep comes out at the far edge", f"less than {format_length(high - low, display)}", shown, "too_deep")
        return []
    beside = min(height, t - height) - diameter / 2
    if beside < CONTACT:
        shown = format_length(diameter, display)
        r.fault(
            "diameter",
            f"a hole of {shown} breaks out of an edge {format_length(t, display)} thick",
            f"less than {format_length(max(2 * min(height, t - height), 0), display)} at this height",
            shown,
            "too_deep",
        )
        return []
    w = height if r.blank.record.up == "a" else t - height
    return [EdgeBore(r.feature.edge, across, side, low if side == "low" else high, v if across == "u" else u, w, diameter, depth, r.owner)]  # type: ignore[arg-type]
