"""Rules of what is too thin: fingers, the web beside slots, the wood between cuts and to the edge (common practice)."""

from __future__ import annotations

from typing import Literal

import numpy as np
import shapely

from zygon.check.called import called
from zygon.design.document import Document
from zygon.design.joints import FingerJoint, TabSlotJoint
from zygon.design.patch import pointer
from zygon.geometry.contour import Contour
from zygon.making.joints.base import clean_runs
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.fault import Fault, Mend
from zygon.measure.display import format_length, in_thicknesses
from zygon.owner import is_of, joint_id

__all__ = ["finger_faults", "thin_faults", "web_faults"]

SOURCE = "common practice"
#: Joints whose stretches of wood have to have a width, and what they are called.
FINGERED = {"finger": "finger", "tab_slot": "tab", "mortise_tenon": "tenon"}
#: Distances between contours are measured on chords this near the arcs (mm).
SAGITTA = 0.01
#: What comes near the rule is measured again on chords this near (mm), so that 2 mm is not told as 2.01.
FINE = 1e-4
#: Measured values this near the rule keep it: they differ by rounding alone.
SLACK = 1e-4


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
            Fault("thin_finger", f"{names}: a {what} is {shown} wide", rule, shown, SOURCE, part=joint.a, other=joint.b,
                  owner=joint_id(joint.key), mends=mends)
        )  # fmt: skip
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
    t = part.flat.thickness
    web_limit, edge_limit = document.rules.web * t, document.rules.edge * t
    for piece in part.flat.pieces:
        if not piece.inner:
            continue
        lines = [_ring(c) for c in piece.inner]
        outer = _ring(piece.outer)
        for contour, line in zip(piece.inner, lines, strict=True):
            if is_of(contour.owners[0], "joint"):
                continue
            gap = line.distance(outer)
            if gap < edge_limit + 2 * SAGITTA:
                gap = _ring(contour, FINE).distance(_ring(piece.outer, FINE))
            if gap < edge_limit - SLACK:
                faults.append(
                    _fault(
                        document,
                        part,
                        contour,
                        "near_edge",
                        gap,
                        edge_limit,
                        document.rules.edge,
                        f"from the {called(document, contour.owners[0])} to the edge",
                        _ring(piece.outer, FINE),
                    )
                )
        tree = shapely.STRtree(lines)
        pairs = tree.query(lines, predicate="dwithin", distance=web_limit + 2 * SAGITTA) if web_limit > SLACK else np.empty((2, 0), int)
        for i, j in zip(*pairs.tolist(), strict=True):
            a, b = piece.inner[i], piece.inner[j]
            if i < j and not (is_of(a.owners[0], "joint") and a.owners[0] == b.owners[0]):
                gap = _ring(a, FINE).distance(_ring(b, FINE))
                if gap >= web_limit - SLACK:
                    continue
                faults.append(
                    _fault(document, part, a, "thin_web", gap, web_limit, document.rules.web, _between(document, a, b), _ring(b, FINE))
                )
    return faults


def _ring(contour: Contour, sagitta: float = SAGITTA) -> shapely.LinearRing:
    return shapely.LinearRing(contour.flatten(sagitta))


def _between(document: Document, a: Contour, b: Contour) -> str:
    one, other = (called(document, c.owners[0]) for c in (a, b))
    if a.owners[0] == b.owners[0]:
        return f"between two cuts of the {one}"
    return f"between the {one} and {'another' if one == other else 'the'} {other}"


def _fault(
    document: Document,
    part: FlatPart,
    contour: Contour,
    code: str,
    gap: float,
    limit: float,
    factor: float,
    where: str,
    to: shapely.LinearRing,
) -> Fault:
    shown = format_length(round(gap, 3), document.display)
    rule = f"at least {format_length(limit, document.display)} ({in_thicknesses(factor)})"
    # where it is thin: half way from one to the other
    at = shapely.line_interpolate_point(shapely.shortest_line(_ring(contour, FINE), to), 0.5, normalized=True)
    # a ring or a link may be meant to be slender
    severity: Literal["error", "warning"] = "warning" if contour.owners[0] == "outline" else "error"
    return Fault(code, f"{part.path}: {shown} of material {where}", rule, shown, SOURCE, severity, part=part.key, owner=contour.owners[0],
                 at=(at.x, at.y), measure=gap)  # fmt: skip
