"""The drilling list: every hole that is left to a drill, in edges and faces, with the edge and the face that it is measured from.

Mating boards are measured alike: along a joint from the same end, and across it from the same side, so that both borings meet.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from zygon.cut.kerf import ByHand, by_hand_of
from zygon.errors import ExpressionError
from zygon.exchange.figures import Figures
from zygon.exchange.table import csv_text
from zygon.geometry.contour import Contour
from zygon.geometry.frame import AXES, FACES, across
from zygon.geometry.motion import Vector
from zygon.making.flats.distinct import distinct
from zygon.making.flats.face_words import at_rest, bore_word, face_word, way_at_rest, word_toward
from zygon.making.flats.flat import edge_bore_axis
from zygon.making.result.built import Built, BuiltJoint, FlatPart
from zygon.making.result.operations import Side
from zygon.owner import edge_id, is_of, read_owner
from zygon.tolerance import CONTACT

__all__ = ["DrillRow", "drill_rows", "drilling_list", "write_drilling"]


#: Less than this off square (degrees) is square: no drill press is set finer.
ASKEW = 0.01


@dataclass(frozen=True)
class DrillRow:
    """One hole. ``surface`` is 'edge' or 'face' with its word; distances in mm from the ends and sides that are named.

    ``depth`` is None for a hole straight through; ``countersink`` the diameter at the face, 0 for none. ``joint`` is its title or ''.
    ``lean`` is how many degrees off square to its surface it is drilled, ``toward`` the side to which the drill leans.
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
    lean: float = 0.0
    toward: str = ""


def drilling_list(built: Built) -> list[DrillRow]:
    """The rows of a design by part; where a cutter bores a hole itself it is not in the list."""
    return [row for d in distinct(built) if d.part.key in built.flats for row in drill_rows(built, built.flats[d.part.key])]


def drill_rows(built: Built, part: FlatPart) -> list[DrillRow]:
    """The rows of one part, original or copy."""
    return _edge_rows(built, part) + _face_rows(built, part) + _askew_rows(built, part) if part.flat.pieces else []


def _left(built: Built, part: FlatPart) -> ByHand:
    document = built.document
    try:
        return by_hand_of(document.cutters.get(document.cutter), part.record.stock)
    except ExpressionError:
        return ByHand()


def _joint_of(built: Built, owner: str) -> BuiltJoint | None:
    return built.joints.get(read_owner(owner).key) if is_of(owner, "joint") else None


def _title(built: Built, joint: BuiltJoint | None) -> str:
    return f"{built.parts[joint.a].path}–{built.parts[joint.b].path}" if joint else ""


def _low_end(built: Built, joint: BuiltJoint | None, axis: str) -> bool:
    """Whether a joint is measured from the low end along an axis: the end at which both boards are flush, the low one of two."""
    if joint is None or joint.contact.startswith("angle") or "@" in joint.a + joint.b:
        return True
    if joint.a not in built.made or joint.b not in built.made:
        return True
    a, b = (built.made[k].box for k in (joint.a, joint.b))
    if abs(a.span(axis)[0] - b.span(axis)[0]) <= CONTACT:
        return True
    return abs(a.span(axis)[1] - b.span(axis)[1]) > CONTACT


def _edge_rows(built: Built, part: FlatPart) -> list[DrillRow]:
    rows = []
    for bore in part.flat.bores:
        joint = _joint_of(built, bore.owner)
        spot = edge_bore_axis(bore)[0]
        along: Literal["u", "v"] = "v" if bore.across == "u" else "u"
        rows.append(
            DrillRow(
                part.path,
                part.key,
                "edge",
                bore_word(part, bore),
                *_from_end(built, part, joint, spot, along, "end"),
                *_from_end(built, part, joint, spot, "w", "face"),
                bore.diameter,
                bore.depth,
                0.0,
                _title(built, joint),
                bore.owner,
            )
        )
    return rows


def _from_end(
    built: Built, part: FlatPart, joint: BuiltJoint | None, spot: tuple[float, float, float], way: Literal["u", "v", "w"], what: str
) -> tuple[float, str]:
    """How far a place of the flat lies from an end of the part along a direction of the flat, and that end's name.

    Worked out where the board lies at rest, so that a mirror image, a copy that is turned and its original are measured from the same end.
    """
    i = "uvw".index(way)
    axis, _ = way_at_rest(part, (float(i == 0), float(i == 1), float(i == 2)))
    low = _low_end(built, joint, axis)
    ends = part.box.span(axis)
    at = at_rest(part, spot)[AXES.index(axis)]
    word = FACES[axis][0 if low else 1]
    # a board is drilled before its band is glued on as often as after it
    band = ", with its band" if any(not b.edges or edge_id(word) in b.edges for b in part.flat.bands) else ""
    return round(at - ends[0] if low else ends[1] - at, 7), f"{across(word, part.mirrored)} {what}{band}"


def _face_rows(built: Built, part: FlatPart) -> list[DrillRow]:
    left, flat = _left(built, part), part.flat
    sinks = {(round(s.u, 4), round(s.v, 4)): s for s in flat.sinks}
    holes: list[tuple[Contour, Side | None, float | None]] = [(c, None, None) for c in flat.inside if _round(c) <= left.through]
    holes += [(p.contour, p.face, p.depth) for p in flat.pockets if not p.islands and _round(p.contour) <= left.blind]
    rows = []
    for contour, side, depth in holes:
        u, v, r = contour.as_circle  # type: ignore[misc]
        sink = sinks.get((round(u, 4), round(v, 4)))
        face = side or (sink.face if sink else part.record.up)
        rows.append(_face_row(built, part, (u, v), 2 * r, face, depth, sink.diameter if sink else 0.0, contour.owners[0]))
    # a countersink in a hole that the cutter makes is still left to the drill
    cut = {(round(h[0].as_circle[0], 4), round(h[0].as_circle[1], 4)) for h in holes}  # type: ignore[index]
    rows += [_face_row(built, part, (s.u, s.v), s.hole, s.face, None, s.diameter, s.owner) for at, s in sinks.items() if at not in cut]
    return rows


def _askew_rows(built: Built, part: FlatPart) -> list[DrillRow]:
    """What is drilled askew: where the drill enters the face that lies up, or the edge that comes first."""
    rows = []
    for d in part.flat.skew_bores:
        up = part.flat.thickness if part.record.up == "a" else 0.0
        first = d.along or abs(d.start[2] - up) < CONTACT
        into, (x, y, w) = (d.start, d.way) if first else (d.end, d.way)
        out: Vector = (-x, -y, -w) if first else (x, y, w)  # from the hole to the drill
        if not d.along:
            rows.append(
                DrillRow(
                    part.path,
                    part.key,
                    "face",
                    face_word(part, part.record.up),
                    *_from_end(built, part, None, into, "u", "end"),
                    *_from_end(built, part, None, into, "v", "edge"),
                    d.diameter,
                    None,
                    0.0,
                    "",
                    d.owner,
                    math.degrees(math.acos(abs(w))),
                    _sight(part, out),
                )
            )
            continue
        across: Literal["u", "v"] = "u" if abs(x) > abs(y) else "v"
        k, along = (0, "v") if across == "u" else (1, "u")
        lean = math.degrees(math.acos(min(abs(out[k]), 1.0)))
        aside = word_toward(part, (0.0, out[1], 0.0) if k == 0 else (out[0], 0.0, 0.0)) if lean > ASKEW else ""
        side = word_toward(part, (out[0], 0.0, 0.0) if k == 0 else (0.0, out[1], 0.0))
        rows.append(
            DrillRow(
                part.path,
                part.key,
                "edge",
                side,
                *_from_end(built, part, None, into, along, "end"),  # type: ignore[arg-type]
                *_from_end(built, part, None, into, "w", "face"),
                d.diameter,
                None,
                0.0,
                "",
                d.owner,
                lean if lean > ASKEW else 0.0,
                aside,
            )
        )
    return rows


def _sight(part: FlatPart, out: Vector) -> str:
    """The side to which a drill leans above the face: one of the four, or how far from one to the next."""
    words = word_toward(part, (out[0], 0.0, 0.0)), word_toward(part, (0.0, out[1], 0.0))
    turn = math.degrees(math.atan2(abs(out[1]), abs(out[0])))
    if turn < ASKEW:
        return words[0]
    if turn > 90 - ASKEW:
        return words[1]
    return f"{turn:.4g}° from {words[0]} to {words[1]}"


def _round(contour: Contour) -> float:
    """A circle's diameter; more than any drill's for what is no circle."""
    return 2 * contour.as_circle[2] if contour.as_circle else float("nan")


def _face_row(
    built: Built, part: FlatPart, at: tuple[float, float], diameter: float, side: Side, depth: float | None, sink: float, owner: str
) -> DrillRow:
    joint = _joint_of(built, owner)
    ways: list[Literal["u", "v"]] = ["u", "v"]
    axes = [way_at_rest(part, (float(w == "u"), float(w == "v"), 0.0))[0] for w in ways]
    if joint and joint.axis == axes[1]:
        ways.reverse()
    spot = (*at, 0.0)
    return DrillRow(
        part.path,
        part.key,
        "face",
        face_word(part, side),
        *_from_end(built, part, joint, spot, ways[0], "end"),
        *_from_end(built, part, joint, spot, ways[1], "edge"),
        diameter,
        depth,
        sink,
        _title(built, joint),
        owner,
    )


def write_drilling(built: Built) -> str:
    """The drilling list as CSV (RFC 4180), UTF-8, lengths in the design's unit; '' where nothing is drilled."""
    rows = drilling_list(built)
    if not rows:
        return ""
    figures = Figures(built.document)
    mm = figures.length
    head = [
        "Part",
        "Surface",
        "Diameter mm",
        "Depth mm",
        "Along mm",
        "from",
        "Across mm",
        "from",
        "Countersink mm",
        "Lean deg",
        "toward",
        "Joint",
    ]
    return csv_text(
        figures.head(head),
        [
            [
                r.part,
                f"{r.side} {r.surface}",
                mm(r.diameter),
                "through" if r.depth is None else mm(r.depth),
                mm(r.along),
                r.along_from,
                mm(r.across),
                r.across_from,
                mm(r.countersink) if r.countersink else "",
                f"{r.lean:.4g}" if r.lean else "",
                r.toward,
                r.joint,
            ]
            for r in rows
        ],
    )
