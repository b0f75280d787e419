"""Rules of what is too thin: fingers, the web beside slots, the wood between cuts and to the edge (common practice)."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np
import shapely

from zygon.check.called import called
from zygon.design.document import Document
from zygon.design.joints import FingerJoint, TabSlotJoint
from zygon.design.pointer import pointer
from zygon.geometry.contour import Contour
from zygon.making.joints.base import clean_runs
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.fault import Fault, Mend
from zygon.measure.display import format_length, in_thicknesses
from zygon.owner import is_of, joint_id
from zygon.tolerance import SLACK

__all__ = ["finger_faults", "thin_faults", "web_faults"]

SOURCE = "common practice"
#: Joints whose stretches of wood have to have a width, and what they are called.
FINGERED = {"finger": "finger", "tab_slot": "tab", "mortise_tenon": "tenon"}
#: Distances between contours are measured on chords this near the arcs (mm).
SAGITTA = 0.01
#: What comes near the rule is measured again on chords this near (mm), so that 2 mm is not told as 2.01.
FINE = 1e-4


def finger_faults(built: Built) -> list[Fault]:
    """Every finger and every tab is at least so many thicknesses wide."""
    faults = []
    document = built.document
    for joint in built.joints.values():
        limit = document.rules.finger * max(joint.details.get("thickness_a", 0.0), joint.details.get("thickness_b", 0.0))
        runs = clean_runs(joint.fingers)
        if not runs or joint.refused or joint.kind not in FINGERED:
            continue
        thin = min(runs, key=lambda f: f.high - f.low)
        width = thin.high - thin.low
        if width >= limit - SLACK:
            continue
        shown, rule = (
            format_length(width, document.display),
            f"at least {format_length(limit, document.display)} ({in_thicknesses(document.rules.finger)})",
        )
        path = pointer("joints", joint.key)
        what = FINGERED[joint.kind]
        names = f"{built.parts[joint.a].path}–{built.parts[joint.b].path}"
        mends: tuple[Mend, ...] = ()
        record = document.joints[joint.key]
        if isinstance(record, TabSlotJoint) and record.length is not None and not record.tabs:
            mends = (Mend("Let the thickness set the tabs", [{"op": "remove", "path": f"{path}/length"}]),)
        elif isinstance(record, FingerJoint):
            ops = [{"op": "remove", "path": f"{path}/{f}"} for f in ("count", "pitch") if getattr(record, f) is not None]
            mends = (Mend("Let the thickness set the fingers", ops),) if ops else ()
        faults.append(
            Fault(
                "thin_finger",
                f"{names}: a {what} is {shown} wide",
                rule,
                shown,
                SOURCE,
                part=joint.a,
                other=joint.b,
                owner=joint_id(joint.key),
                mends=mends,
            )
        )
    return faults


def web_faults(built: Built) -> list[Fault]:
    """Where a slotted board runs on past the tabbed one, what remains beyond the slots is thick enough."""
    faults = []
    document = built.document
    for joint in built.joints.values():
        web, t = joint.details.get("web"), joint.details.get("thickness_b", 0.0)
        limit = document.rules.web * t
        if web is None or web >= limit - SLACK:
            continue
        shown, rule = (
            format_length(web, document.display),
            f"at least {format_length(limit, document.display)} ({in_thicknesses(document.rules.web)})",
        )
        message = f"{built.parts[joint.b].path}: {shown} of material is left beyond the slots for {built.parts[joint.a].path}"
        faults.append(Fault("thin_web", message, rule, shown, SOURCE, part=joint.b, other=joint.a, owner=joint_id(joint.key)))
    return faults


def thin_faults(document: Document, part: FlatPart) -> list[Fault]:
    """The wood between two cut-outs, and between a cut-out and the edge, is thick enough. Slots of joints have a rule of their own."""
    faults = []
    rules, t = document.rules, part.flat.thickness
    web_limit, edge_limit = rules.web * t, rules.edge * t
    for piece in part.flat.pieces:
        if not piece.inner:
            continue
        fine = _Fine([*piece.inner, piece.outer])
        rough = np.array([_ring(c, SAGITTA) for c in piece.inner])
        near_edge = shapely.distance(rough, _ring(piece.outer, SAGITTA)) < edge_limit + 2 * SAGITTA
        for i in np.flatnonzero(near_edge).tolist():
            owner = piece.inner[i].owners[0]
            if is_of(owner, "joint"):
                continue
            gap, at = fine.nearest(i, -1)
            if gap < edge_limit - SLACK:
                where = f"from the {called(document, owner)} to the edge"
                faults.append(_fault(document, part, owner, "near_edge", gap, at, edge_limit, rules.edge, where))
        tree = shapely.STRtree(rough)
        pairs = tree.query(rough, predicate="dwithin", distance=web_limit + 2 * SAGITTA) if web_limit > SLACK else np.empty((2, 0), int)
        for i, j in zip(*pairs.tolist(), strict=True):
            one, other = piece.inner[i].owners[0], piece.inner[j].owners[0]
            if i >= j or (is_of(one, "joint") and one == other):
                continue
            gap, at = fine.nearest(i, j)
            if gap < web_limit - SLACK:
                where = _between(document, one, other)
                faults.append(_fault(document, part, one, "thin_web", gap, at, web_limit, rules.web, where))
    return faults


def _ring(contour: Contour, sagitta: float) -> shapely.LinearRing:
    return shapely.LinearRing(contour.flatten(sagitta))


class _Fine:
    """Distances between contours measured finely; each is made into chords once, and only where it comes near another."""

    def __init__(self, contours: list[Contour]) -> None:
        self._contours = contours
        self._rings: dict[int, shapely.LinearRing] = {}

    def nearest(self, i: int, j: int) -> tuple[float, tuple[float, float]]:
        """The distance of two contours by their places in the list (mm), and the point half way from one to the other."""
        one, other = self._contours[i].as_circle, self._contours[j].as_circle
        if one and other and (apart := math.dist(one[:2], other[:2])) > one[2] + other[2]:
            gap = apart - one[2] - other[2]
            along = (one[2] + gap / 2) / apart
            return gap, (one[0] + (other[0] - one[0]) * along, one[1] + (other[1] - one[1]) * along)
        line = shapely.shortest_line(self._ring(i), self._ring(j))
        (x0, y0), (x1, y1) = line.coords
        return line.length, ((x0 + x1) / 2, (y0 + y1) / 2)

    def _ring(self, i: int) -> shapely.LinearRing:
        if i not in self._rings:
            self._rings[i] = _ring(self._contours[i], FINE)
        return self._rings[i]


def _between(document: Document, owner: str, neighbour: str) -> str:
    one, other = called(document, owner), called(document, neighbour)
    if owner == neighbour:
        return f"between two {'openings' if owner == 'outline' else 'cuts'} of the {one}"
    return f"between the {one} and {'another' if one == other else 'the'} {other}"


def _fault(
    document: Document,
    part: FlatPart,
    owner: str,
    code: str,
    gap: float,
    at: tuple[float, float],
    limit: float,
    factor: float,
    where: str,
) -> Fault:
    shown = format_length(round(gap, 3), document.display)
    rule = f"at least {format_length(limit, document.display)} ({in_thicknesses(factor)})"
    # rounded, so that of equal ones the first is told, whatever the noise; a ring or a link may be meant to be slender
    severity: Literal["error", "warning"] = "warning" if owner == "outline" else "error"
    return Fault(
        code,
        f"{part.path}: {shown} of material {where}",
        rule,
        shown,
        SOURCE,
        severity,
        part=part.key,
        owner=owner,
        at=at,
        measure=round(gap, 6),
    )
