"""Rules of what kind of cutter there is: a laser cuts straight through, a router leaves corners round, a saw cuts straight lines only."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Literal

from zygon.check.called import called
from zygon.check.depth import WORDS
from zygon.cut.kerf import by_hand_of
from zygon.design.document import Document
from zygon.design.pointer import pointer
from zygon.errors import ExpressionError
from zygon.geometry.contour import Contour
from zygon.making.result.built import FlatPart
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.operations import Bevel
from zygon.measure.display import format_length
from zygon.owner import is_of, joint_id, read_owner
from zygon.stock.cutter import Ability, Cutter, cut_width
from zygon.tolerance import WITHIN

__all__ = ["process_faults"]

SOURCE = "common practice"


def process_faults(document: Document, part: FlatPart) -> list[Fault]:
    """What the chosen cutter cannot make of a part."""
    cutter = document.cutters.get(document.cutter)
    if cutter is None:
        return []
    faults = [*_bevels(document, part), *_slits(document, part, cutter)]
    if not cutter.can.inside:
        return faults + _straight(document, part, cutter)
    return (
        faults
        + (_corners(document, part, cutter) if cutter.can.bit else [])
        + ([] if cutter.can.depth else _depths(document, part, cutter))
    )


def _bevels(document: Document, part: FlatPart) -> list[Fault]:
    found: dict[str, Fault | None] = {}
    for bevel in part.flat.bevels:
        x0, y0, x1, y1 = bevel.on_a.bounds
        if bevel.edge:
            found.setdefault(bevel.owner, _bevelled_edge(document, part, bevel))
            continue
        _, key, _, _ = read_owner(bevel.owner)
        pared = key in document.joints and document.joints[key].kind == "notch"
        words = (
            "the floor of its notch slopes through the thickness; it is pared"
            if pared
            else "the flanks of its dovetail pins slope through the thickness; they are sawn"
        )
        found[bevel.owner] = Fault(
            "by_hand",
            f"{part.path}: {words} by hand to the lines on both faces",
            "a flat cutter cuts square to the face",
            "sloping flanks",
            SOURCE,
            "warning",
            part.key,
            owner=bevel.owner,
            at=((x0 + x1) / 2, (y0 + y1) / 2),
        )
    return [f for f in found.values() if f is not None]


def _slits(document: Document, part: FlatPart, cutter: Cutter) -> list[Fault]:
    """A slit beside a bend is one run of a laser; a bit or a blade is wider, and takes a relief with a width of its own."""
    fold = part.flat.fold
    if fold is None or cutter.can.slits:
        return []
    found: dict[str, Fault] = {}
    for slit in fold.slits:
        owner = slit.owners[0]
        key = read_owner(owner).key
        where = pointer("parts", part.of, "folding", "flanges", key, "relief", "style")
        mends = (Mend(f"Cut round reliefs beside {called(document, owner)}", [{"op": "add", "path": where, "value": "round"}]),)
        found[owner] = Fault(
            "slit",
            f"{part.path}, {called(document, owner)}: {cutter.name} cannot cut a slit",
            "a slit is one run of a laser; other cutters need a relief as wide as they cut",
            "slit",
            cutter.name,
            part=part.key,
            owner=owner,
            at=slit.points[1],
            mends=mends,
        )
    return list(found.values())


def _bevelled_edge(document: Document, part: FlatPart, bevel: Bevel) -> Fault | None:
    """An edge at an angle: a flat cutter cuts square, a saw tilts its blade up to 45 degrees."""
    cutter = document.cutters[document.cutter]
    (ax, ay), (bx, by) = bevel.on_a.points[0], bevel.on_b.points[0]
    (dx, dy), (ex, ey) = bevel.on_a.points[0], bevel.on_a.points[3]
    length = math.hypot(ex - dx, ey - dy) or 1.0
    lean = abs((bx - ax) * (ey - dy) - (by - ay) * (ex - dx)) / length
    angle = math.degrees(math.atan2(lean, part.flat.thickness))
    if angle <= cutter.can.tilt + WITHIN:
        return None
    shown = f"{angle:.3g}°"
    how = f"its {cutter.can.tool} tilts no farther than {cutter.can.tilt:g}°" if cutter.can.tilt else "it cuts square to the face"
    return Fault(
        "bevelled_edge",
        f"{part.path}: an edge is bevelled by {shown}, and {cutter.name} cannot cut it: {how}",
        "sawn with a tilted blade up to 45°, or planed by hand to the lines on both faces",
        shown,
        SOURCE,
        "warning",
        part.key,
        owner=bevel.owner,
        at=bevel.on_b.points[0],
        mends=() if cutter.can.tilt else _other(document, lambda can: can.tilt > 0),
    )


def _other(document: Document, able: Callable[[Ability], bool]) -> tuple[Mend, ...]:
    """The mend of taking another of the design's cutters, where there is one that is able to."""
    other = next(((k, c) for k, c in document.cutters.items() if able(c.can)), None)
    return (Mend(f"Cut it on {other[1].name}", [{"op": "replace", "path": "/cutter", "value": other[0]}]),) if other else ()


def _depths(document: Document, part: FlatPart, cutter: Cutter) -> list[Fault]:
    """A laser has no depth; blind round holes are left to a drill."""
    found: dict[str, Fault] = {}
    for pocket in part.flat.pockets:
        if pocket.as_circle or pocket.owner in found:
            continue
        shown = format_length(pocket.depth, document.display)
        x0, y0, x1, y1 = pocket.contour.bounds
        found[pocket.owner] = Fault(
            "needs_depth",
            f"{part.path}: {WORDS[pocket.what]} {shown} deep needs a cutter with depth; {cutter.name} cuts straight through",
            "a laser has no depth",
            shown,
            cutter.name,
            part=part.key,
            owner=pocket.owner,
            at=((x0 + x1) / 2, (y0 + y1) / 2),
            mends=_other(document, lambda can: can.depth and can.inside),
        )
    return list(found.values())


def _inside_corners(contour: Contour) -> list[tuple[tuple[float, float], str]]:
    """Sharp corners that have the material on the outside of the turn, and the joint they belong to; material on the left."""
    segments = contour.segments()
    found = []
    for before, after in zip((segments[-1], *segments[:-1]), segments, strict=True):
        (ax, ay), (bx, by) = before.tangents()[1], after.tangents()[0]
        if math.atan2(ax * by - ay * bx, ax * bx + ay * by) < -0.15:
            owner = before.owner if is_of(before.owner, "joint") else after.owner
            found.append((after.p, owner))
    return found


def _corners(document: Document, part: FlatPart, cutter: Cutter) -> list[Fault]:
    """Where no relief is cut, a round bit leaves inside corners round and a square mate does not seat."""
    try:
        radius = cut_width(cutter, part.record.stock) / 2
    except ExpressionError:
        return []
    shown = format_length(radius, document.display)
    relieved = {joint_id(k) for k, j in document.joints.items() if getattr(j, "relief", "none") != "none"}
    found: dict[str, Fault] = {}
    for piece in part.flat.pieces:
        for contour in (piece.outer, *piece.inner):
            for at, owner in _inside_corners(contour):
                key = read_owner(owner).key
                if not is_of(owner, "joint") or owner in relieved or owner in found or key not in document.joints:
                    continue
                mends: tuple[Mend, ...] = ()
                if hasattr(document.joints[key], "relief"):
                    mends = (
                        Mend("Relieve the corners with dog-bones", [{"op": "add", "path": f"/joints/{key}/relief", "value": "dog_bone"}]),
                    )
                found[owner] = Fault(
                    "round_corners",
                    f"{part.path}: the bit leaves inside corners round by {shown}, and the mate does not seat in them",
                    "a relief, or corners squared by hand",
                    shown,
                    cutter.name,
                    "warning",
                    part.key,
                    owner=owner,
                    at=at,
                    mends=mends,
                )
    return list(found.values())


def _straight(document: Document, part: FlatPart, cutter: Cutter) -> list[Fault]:
    """What cannot be sawn: cut-outs that are no round holes, arcs, and pockets that do not run through. Inside corners are finished by hand."""
    flat = part.flat
    found: dict[str, Fault] = {}
    mends = _other(document, lambda can: can.inside)

    def say(
        owner: str, code: str, message: str, rule: str, at: tuple[float, float], severity: Literal["error", "warning"] = "error"
    ) -> None:
        found.setdefault(
            owner + code,
            Fault(
                code,
                f"{part.path}: {message}",
                rule,
                message,
                cutter.name,
                severity,
                part.key,
                owner=owner,
                at=at,
                mends=mends if severity == "error" else (),
            ),
        )

    try:
        left = by_hand_of(cutter, part.record.stock)
    except ExpressionError:
        return []
    for piece in flat.pieces:
        for contour in piece.inner:
            if not (contour.as_circle and 2 * contour.as_circle[2] <= left.through):
                say(
                    contour.owners[0],
                    "not_sawn",
                    "a cut-out inside the board cannot be sawn",
                    "a saw cuts from edge to edge",
                    contour.points[0],
                )
        for s in piece.outer.segments():
            if s.bulge:
                say(s.owner, "not_sawn", "a curved edge cannot be sawn", "a saw cuts straight lines", s.p)
        for at, owner in _inside_corners(piece.outer):
            say(
                owner,
                "by_hand",
                "a notch is sawn at its sides and finished by hand at its bottom",
                "a saw runs past an inside corner",
                at,
                "warning",
            )
    x0, y0, x1, y1 = flat.bounds if flat.pieces else (0.0, 0.0, 0.0, 0.0)
    for pocket in flat.pockets:
        a0, b0, a1, b1 = pocket.contour.bounds
        through = (a0 <= x0 and a1 >= x1) or (b0 <= y0 and b1 >= y1)
        if pocket.as_circle or through:
            continue
        corner = (a0 <= x0 or a1 >= x1) and (b0 <= y0 or b1 >= y1)
        if not corner:
            say(
                pocket.owner,
                "not_sawn",
                f"{WORDS[pocket.what]} that stops inside the board cannot be sawn",
                "a saw cuts from edge to edge",
                ((a0 + a1) / 2, (b0 + b1) / 2),
            )
    return list(found.values())
