"""The drilling list: every hole that is left to a drill, in edges and faces, with the edge and the face that it is measured from.

Mating boards are measured alike: along a joint from the same end, and across it from the same side, so that both borings meet.
"""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass

from zygon.build.built import Built, BuiltJoint, BuiltPart, EdgeBore
from zygon.build.distinct import distinct
from zygon.cut.kerf import ByHand, by_hand_of
from zygon.errors import ExpressionError
from zygon.geometry.contour import Contour
from zygon.geometry.frame import FACES
from zygon.geometry.tolerance import CONTACT

__all__ = ["DrillRow", "drilling_list", "write_drilling"]


@dataclass(frozen=True)
class DrillRow:
    """One hole. ``surface`` is 'edge' or 'face' with its word; distances in mm from the ends and sides that are named.

    ``depth`` is None for a hole straight through; ``countersink`` the diameter at the face, 0 for none. ``joint`` is its title or ''.
    """

    part: str
    key: str
    surface: str
    side: str
    along: float
    along_from: str
    across: float
    across_from: str
    diameter: float
    depth: float | None
    countersink: float
    joint: str
    owner: str


def drilling_list(built: Built) -> list[DrillRow]:
    """The rows of a design by part; where a cutter bores a hole itself it is not in the list."""
    rows: list[DrillRow] = []
    for part in (d.part for d in distinct(built)):
        if part.flat and part.flat.pieces and part.frame:
            rows += _edge_rows(built, part) + _face_rows(built, part)
    return rows


def _left(built: Built, part: BuiltPart) -> ByHand:
    document = built.document
    try:
        return by_hand_of(document.cutters.get(document.cutter), part.record.stock)  # type: ignore[union-attr]
    except ExpressionError:
        return ByHand()


def _joint_of(built: Built, owner: str) -> BuiltJoint | None:
    return built.joints.get(owner.partition(":")[2]) if owner.startswith("joint:") else None


def _title(built: Built, joint: BuiltJoint | None) -> str:
    return f"{built.parts[joint.a].path}–{built.parts[joint.b].path}" if joint else ""


def _low_end(built: Built, joint: BuiltJoint | None, axis: str) -> bool:
    """Whether a joint is measured from the low end along an axis: the end at which both boards are flush, the low one of two."""
    if joint is None or joint.contact.startswith("angle") or "@" in joint.a + joint.b:
        return True
    a, b = (built.parts[k].box for k in (joint.a, joint.b))
    if a is None or b is None or abs(a.span(axis)[0] - b.span(axis)[0]) <= CONTACT:
        return True
    return abs(a.span(axis)[1] - b.span(axis)[1]) > CONTACT


def _edge_rows(built: Built, part: BuiltPart) -> list[DrillRow]:
    rows = []
    frame, box, origin = part.frame, part.box, part.span_box
    for bore in part.flat.bores:  # type: ignore[union-attr]
        joint = _joint_of(built, bore.owner)
        run_axis = frame.v if bore.across == "u" else frame.u  # type: ignore[union-attr]
        low = _low_end(built, joint, run_axis)
        at = bore.along + origin.span(run_axis)[0]  # type: ignore[union-attr]
        ends = box.span(run_axis)  # type: ignore[union-attr]
        rows.append(DrillRow(
            part.path, part.key, "edge", bore.edge, at - ends[0] if low else ends[1] - at, f"{FACES[run_axis][0 if low else 1]} end",
            *_from_face(built, part, bore, joint), bore.diameter, bore.depth, 0.0, _title(built, joint), bore.owner,
        ))  # fmt: skip
    return rows


def _from_face(built: Built, part: BuiltPart, bore: EdgeBore, joint: BuiltJoint | None) -> tuple[float, str]:
    """Height in the edge from the face on the side that the mate is measured from too."""
    normal, t = part.frame.normal, part.flat.thickness  # type: ignore[union-attr]
    low = _low_end(built, joint, normal)
    face = FACES[normal][0 if low else 1]
    return (bore.w if face == part.frame.face_b else t - bore.w), f"{face} face"  # type: ignore[union-attr]


def _face_rows(built: Built, part: BuiltPart) -> list[DrillRow]:
    left, flat = _left(built, part), part.flat
    sinks = {(round(s.u, 4), round(s.v, 4)): s for s in flat.sinks}  # type: ignore[union-attr]
    holes: list[tuple[Contour, str, float | None]] = [(c, "", None) for c in flat.inside if _round(c) <= left.through]  # type: ignore[union-attr]
    holes += [(p.contour, p.face, p.depth) for p in flat.pockets if not p.islands and _round(p.contour) <= left.blind]  # type: ignore[union-attr]
    rows = []
    for contour, side, depth in holes:
        u, v, r = contour.as_circle  # type: ignore[misc]
        sink = sinks.get((round(u, 4), round(v, 4)))
        face = side or (sink.face if sink else part.record.up)  # type: ignore[union-attr]
        rows.append(_face_row(built, part, (u, v), 2 * r, face, depth, sink.diameter if sink else 0.0, contour.owners[0]))
    # a countersink in a hole that the cutter makes is still left to the drill
    cut = {(round(h[0].as_circle[0], 4), round(h[0].as_circle[1], 4)) for h in holes}  # type: ignore[index]
    rows += [_face_row(built, part, (s.u, s.v), s.hole, s.face, None, s.diameter, s.owner) for at, s in sinks.items() if at not in cut]
    return rows


def _round(contour: Contour) -> float:
    """A circle's diameter; more than any drill's for what is no circle."""
    return 2 * contour.as_circle[2] if contour.as_circle else float("nan")


def _face_row(
    built: Built, part: BuiltPart, at: tuple[float, float], diameter: float, side: str, depth: float | None, sink: float, owner: str
) -> DrillRow:
    frame, box, origin = part.frame, part.box, part.span_box
    joint = _joint_of(built, owner)
    axes = (frame.u, frame.v)  # type: ignore[union-attr]
    run_axis = joint.axis if joint and joint.axis in axes else axes[0]
    values = {}
    for axis, local in zip(axes, at, strict=True):
        low = _low_end(built, joint, axis)
        place, ends = local + origin.span(axis)[0], box.span(axis)  # type: ignore[union-attr]
        values[axis] = (
            place - ends[0] if low else ends[1] - place,
            f"{FACES[axis][0 if low else 1]} {'end' if axis == run_axis else 'edge'}",
        )
    across_axis = next(x for x in axes if x != run_axis)
    word = frame.face_a if side == "a" else frame.face_b  # type: ignore[union-attr]
    return DrillRow(
        part.path, part.key, "face", word, *values[run_axis], *values[across_axis], diameter, depth, sink, _title(built, joint), owner
    )


def write_drilling(built: Built) -> str:
    """The drilling list as CSV (RFC 4180), UTF-8, figures in mm; '' where nothing is drilled."""
    rows = drilling_list(built)
    if not rows:
        return ""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["Part", "Surface", "Diameter mm", "Depth mm", "Along mm", "from", "Across mm", "from", "Countersink mm", "Joint"])
    for r in rows:
        writer.writerow([r.part, f"{r.side} {r.surface}", _f(r.diameter), "through" if r.depth is None else _f(r.depth), _f(r.along), r.along_from,
                         _f(r.across), r.across_from, _f(r.countersink) if r.countersink else "", r.joint])  # fmt: skip
    return out.getvalue()


def _f(value: float) -> str:
    return f"{value:.3f}".rstrip("0").rstrip(".")
