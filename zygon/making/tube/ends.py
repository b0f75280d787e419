"""The ways in which members are cut where they meet, one function a kind: a meeting in, the cuts of both out."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from zygon.geometry.motion import Motion
from zygon.making.tube.body import fine_ring
from zygon.making.tube.cuts import MIRROR, AtEnd, PlaneCut, SideCut, flat_sides
from zygon.making.tube.meeting import MemberMeeting, carried, reach_of
from zygon.stock.section import Section
from zygon.tolerance import CONTACT, EPS

__all__ = ["KINDS_OF_ENDS", "EndCuts", "Refused", "normals_of", "offers_of", "refusal_of"]

_STILL = Motion(((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))


#: What comes between legs comes no farther off square to the one behind than this (as a cosine, of 30 degrees).
STEEP = math.cos(math.radians(30))


class Refused(ValueError):
    """Why members cannot be joined so; the sentence."""


@dataclass(frozen=True)
class EndCuts:
    """What a joint does to each member, in its own coordinates: a cut of its end, a hole, or ``runs_on``: the plane that it reaches at least."""

    cut_one: PlaneCut | SideCut | None = None
    cut_other: PlaneCut | SideCut | None = None
    runs_on: PlaneCut | None = None
    hole: SideCut | None = None
    #: of the first one, beside its end's plane, what the second takes up
    notch_one: SideCut | None = None


def mitre(meeting: MemberMeeting, gap: float, owner: str) -> EndCuts:
    """Both ends in the plane through the corners where their inner and their outer sides meet."""
    if meeting.kind != "corner":
        raise Refused(f"a mitre is where two ends meet, and here {_how(meeting)}")
    assert meeting.at is not None and meeting.into_one is not None and meeting.into_other is not None and meeting.normal is not None
    e1, other = meeting.into_one, meeting.into_other
    cosine = float(e1 @ other)
    e2 = other - e1 * cosine
    sine = float(np.linalg.norm(e2))
    e2 = e2 / sine
    beside = e1 * sine - e2 * cosine
    corners = []
    for way in (1, -1):  # the inner corner, and the outer one; what is open reaches farther to one side
        half_one = reach_of(meeting.one.section, _STILL, way * e2)
        half_other = reach_of(meeting.other.section, meeting.motion, way * beside)
        corners.append(way * ((half_other + half_one * cosine) / sine * e1 + half_one * e2))
    along = corners[0] - corners[1]
    out = -(along @ e2) * e1 + (along @ e1) * e2
    out = out / np.linalg.norm(out)
    if out @ e1 > -EPS:
        raise Refused("the one is so much thicker than the other that no plane cuts both ends; let one run through")
    at = meeting.at + (corners[0] + corners[1]) / 2
    cut = PlaneCut(_tuple(at - out * gap / 2), _tuple(out), owner)
    back = PlaneCut(_tuple(at + out * gap / 2), _tuple(-out), owner)
    return EndCuts(cut, carried(back, meeting.motion.inverse))


def butt(meeting: MemberMeeting, gap: float, owner: str) -> EndCuts:
    """The first one's end on the flat side of the second that its middle comes to."""
    _end_on(meeting)
    if meeting.other.section.shape == "round":
        raise Refused(f"{meeting.other.name} is round: an end that lies on it is coped")
    back = meeting.motion.inverse
    assert meeting.into_one is not None
    start, way = back.shift, back.vector(_tuple(-meeting.into_one))
    sides = [
        (nx * way[0] + ny * way[1], at - nx * start[0] - ny * start[1], (nx, ny, at)) for nx, ny, at in flat_sides(meeting.other.section)
    ]
    facing = [(slope, room, side) for slope, room, side in sides if slope < -EPS]
    leaves = min((room / slope for slope, room, _ in sides if slope > EPS), default=np.inf)
    passes = all(room >= -EPS for slope, room, _ in sides if abs(slope) <= EPS)
    slope, room, (nx, ny, at) = max(facing, key=lambda f: f[1] / f[0])
    if not passes or room / slope > leaves + EPS:  # its middle passes beside: the side that faces it most
        slope, room, (nx, ny, at) = min(facing, key=lambda f: f[0])
    notch_one = None
    if meeting.other.section.open and not _is_real(meeting.other.section, nx, ny):
        nx, ny, at = _first_face(meeting, start, way)
        notch_one = _taken_up(meeting, gap, owner)
    if not _touches(meeting):
        raise Refused(f"{meeting.one.name} passes beside {meeting.other.name}")
    plane = PlaneCut((nx * (at + gap), ny * (at + gap), 0.0), (-nx, -ny, 0.0), owner)
    return EndCuts(cut_one=_checked(carried(plane, meeting.motion), meeting), runs_on=_runs_on(meeting, owner), notch_one=notch_one)


def _first_face(meeting: MemberMeeting, start: tuple[float, float, float], way: tuple[float, float, float]) -> tuple[float, float, float]:
    """On the open side of the second: the face between its legs that the middle of the first comes to, as (nx, ny, how far along them)."""
    found = []
    for s in meeting.other.section.region.outer.wound(ccw=True).segments():
        dx, dy = s.q[0] - s.p[0], s.q[1] - s.p[1]
        nx, ny = dy / s.length, -dx / s.length
        slope = nx * way[0] + ny * way[1]
        if s.bulge or slope >= -EPS:
            continue
        far = (nx * (s.p[0] - start[0]) + ny * (s.p[1] - start[1])) / slope
        along = (start[0] + way[0] * far - s.p[0]) * dx + (start[1] + way[1] * far - s.p[1]) * dy
        if -CONTACT <= along / s.length <= s.length + CONTACT:
            found.append((far, (nx, ny, nx * s.p[0] + ny * s.p[1])))
    if not found:
        raise Refused(f"{meeting.one.name} comes to the open side of {meeting.other.name}, and to no leg of it")
    nx, ny, at = min(found)[1]
    if abs(nx * way[0] + ny * way[1]) < STEEP * math.hypot(way[0], way[1]):
        raise Refused(f"{meeting.one.name} comes aslant between the legs of {meeting.other.name}, and would be cut in two there")
    return nx, ny, at


def _taken_up(meeting: MemberMeeting, gap: float, owner: str) -> SideCut:
    """All of the second, a gap round it, as what the first gives way to."""
    motion, section = meeting.motion, meeting.other.section
    if motion.handed < 0:
        motion, section = motion @ MIRROR, section.mirrored
    return SideCut(motion.rounded(), section, gap, owner)


def cope(meeting: MemberMeeting, gap: float, owner: str) -> EndCuts:
    """The first one's end all round on the outside of the second."""
    _end_on(meeting)
    for one, does in ((meeting.one, "its end is sawn in a plane"), (meeting.other, "what lies on it is cut in a plane")):
        if one.section.open:
            raise Refused(f"{one.name} is no tube or solid bar: {does}")
    motion = meeting.motion
    if motion.handed < 0:
        motion = motion @ MIRROR  # a section is its own mirror image
    cut = SideCut(motion.rounded(), meeting.other.section.grown(0.0), gap, owner)
    return EndCuts(cut_one=_checked(cut, meeting), runs_on=_runs_on(meeting, owner))


def passage(meeting: MemberMeeting, fit: float, owner: str) -> EndCuts:
    """A hole in the second, of the first one's outside and a fit."""
    if meeting.kind != "cross":
        raise Refused(f"what passes through runs on at both sides, and here {_how(meeting)}")
    if _opens(meeting, fit):
        raise Refused(f"{meeting.one.name} is too wide for a hole in {meeting.other.name}, which it would cut open")
    return EndCuts(hole=_room_of(meeting, fit, owner))


def notch(meeting: MemberMeeting, fit: float, owner: str) -> EndCuts:
    """A notch in one side of the second, of the first one's outside and a fit."""
    one, other = meeting.one, meeting.other
    if meeting.kind != "cross":
        raise Refused(f"what lies in a notch runs on at both sides, and here {_how(meeting)}")
    if not _opens(meeting, fit):
        raise Refused(f"{one.name} lies within {other.name}: it passes through a hole")
    cut = _room_of(meeting, fit, owner)
    # what it crosses it takes from side to side, so that something is left only beside it
    if not np.isnan(cut.inside(fine_ring(other.section))[0]).any():
        raise Refused(f"a notch for {one.name} would cut {other.name} in two")
    return EndCuts(hole=cut)


def _room_of(meeting: MemberMeeting, fit: float, owner: str) -> SideCut:
    """What the second loses where the first one passes."""
    back, section = meeting.motion.inverse, meeting.one.section
    if back.handed < 0:
        back, section = back @ MIRROR, section.mirrored
    return SideCut(back.rounded(), section if section.open else section.grown(0.0), fit / 2, owner)


def _opens(meeting: MemberMeeting, fit: float) -> bool:
    """Whether what the first one needs reaches to the second one's outside or beyond it."""
    assert meeting.normal is not None
    normal = np.array(meeting.motion.inverse.vector(_tuple(meeting.normal)))
    own = min(reach_of(meeting.other.section, _STILL, way * normal) for way in (1, -1))
    return meeting.apart + reach_of(meeting.one.section, _STILL, meeting.normal) + fit / 2 > own - EPS


#: What each kind of joint between members does, from the meeting, its gap or fit in mm, and the owner of its cuts.
KINDS_OF_ENDS: dict[str, Callable[[MemberMeeting, float, str], EndCuts]] = {
    "member_mitre": mitre,
    "member_butt": butt,
    "member_cope": cope,
    "member_passage": passage,
    "member_notch": notch,
}


def refusal_of(kind: str, meeting: MemberMeeting) -> str:
    """Why two members cannot be joined so; '' where they can."""
    if meeting.kind == "none":
        return meeting.reason
    try:
        KINDS_OF_ENDS[kind](meeting, 0.0, "")
    except Refused as error:
        return str(error)
    return ""


def offers_of(there: MemberMeeting, back: MemberMeeting) -> list[dict[str, str]]:
    """For each kind and each way round: whether the two can be joined so, and the reason why not. ``back`` is the same meeting the other way round."""
    one, other = there.one.name, there.other.name
    found = [{"kind": "member_mitre", "order": "ab", "title": f"Mitre {one} and {other}", "refused": refusal_of("member_mitre", there)}]
    for kind, said in (
        ("member_cope", "Cope {} onto {}"),
        ("member_butt", "Butt {} on {}"),
        ("member_passage", "{} passes through {}"),
        ("member_notch", "{} lies in a notch of {}"),
    ):
        for order, meeting in (("ab", there), ("ba", back)):
            title = said.format(meeting.one.name, meeting.other.name)
            found.append({"kind": kind, "order": order, "title": title, "refused": refusal_of(kind, meeting)})
    return found


def normals_of(meeting: MemberMeeting, done: EndCuts) -> tuple[tuple[float, float, float], ...]:
    """The directions in the room in which the second one's surface looks where the first one's end lies on it, or its hole where that passes."""
    place, cut = meeting.one.place, done.cut_one
    if isinstance(cut, PlaneCut):
        return (_rounded(place.vector(_tuple(-np.array(cut.normal)))),)
    if cut is None:
        return ()
    ring = fine_ring(meeting.one.section)
    heights = cut.heights(ring, _end(meeting))
    there = cut.motion.inverse.points(np.column_stack((ring, heights)))[:, :2]
    if cut.section.shape == "round":
        looks = there / np.linalg.norm(there, axis=1)[:, None]
    else:
        sides = np.array(flat_sides(cut.section))
        looks = sides[(there @ sides[:, :2].T - sides[:, 2]).argmax(axis=1), :2]
    found = (place.vector(cut.motion.vector((float(x), float(y), 0.0))) for x, y in looks)
    return tuple(dict.fromkeys(_rounded(n) for n in found))


def _rounded(n: tuple[float, float, float]) -> tuple[float, float, float]:
    return round(n[0], 4) + 0.0, round(n[1], 4) + 0.0, round(n[2], 4) + 0.0


def _end_on(meeting: MemberMeeting) -> None:
    if meeting.at_one == "inside":
        raise Refused(f"{meeting.one.name} has no end there: {_how(meeting)}")


def _how(meeting: MemberMeeting) -> str:
    return {"corner": "two ends meet", "tee": "an end meets a side", "cross": "the two cross", "none": "they do not meet"}[meeting.kind]


def _touches(meeting: MemberMeeting) -> bool:
    """Whether some of the first one's fibres come to the second."""
    section = meeting.one.section
    uv = np.vstack((fine_ring(section, max(section.extents) / 16), [(0.0, 0.0)]))
    other = meeting.other.section
    sharp = other.grown(0.0) if other.open else replace(other, corner=0.0, wall=0.0)
    return bool(np.isfinite(SideCut(meeting.motion, sharp, 0.0, "").inside(uv)[0]).any())


def _is_real(section: Section, nx: float, ny: float) -> bool:
    """Whether a side of the box round what is open is a leg's, and no gap between legs."""
    across = 0 if abs(nx) > abs(ny) else 1
    sign, far = (1 if (nx, ny)[across] > 0 else -1), section.extents[across] / 2
    there = [p for p in section.region.outer.points if abs(p[across] * sign - far) <= CONTACT]
    if len(there) < 2:  # a round or a point stands out there
        return False
    reach = max(p[1 - across] for p in there) - min(p[1 - across] for p in there)
    # a web, flange or leg takes all of the side and has no corner between; the tips of two flanges have
    return reach > section.extents[1 - across] - CONTACT and len(there) == 2


def _end(meeting: MemberMeeting) -> AtEnd:
    return "a" if meeting.at_one == "a" else "b"


def _checked(cut: PlaneCut | SideCut, meeting: MemberMeeting) -> PlaneCut | SideCut:
    """A cut that every fibre of the first one's end comes to."""
    heights = cut.heights(fine_ring(meeting.one.section), _end(meeting))
    if np.isnan(heights).any():
        if isinstance(cut, PlaneCut):
            raise Refused(f"{meeting.one.name} runs along that side of {meeting.other.name}")
        raise Refused(f"{meeting.one.name} overhangs {meeting.other.name}: only part of its end would lie on it")
    return cut


def _runs_on(meeting: MemberMeeting, owner: str) -> PlaneCut | None:
    """In the second one's coordinates: the plane of the first one's far side, to which the second runs on where it ends there."""
    if meeting.kind != "corner":
        return None
    assert meeting.at is not None and meeting.into_one is not None and meeting.into_other is not None
    way = meeting.into_other - meeting.into_one * float(meeting.into_other @ meeting.into_one)
    way = -way / np.linalg.norm(way)
    far = meeting.at + way * reach_of(meeting.one.section, _STILL, way)
    return carried(PlaneCut(_tuple(far), _tuple(way), owner), meeting.motion.inverse)


def _tuple(v: np.ndarray) -> tuple[float, float, float]:
    return float(v[0]), float(v[1]), float(v[2])
