"""What making a design gives: parts in their places, joints, values and faults."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from itertools import combinations

import numpy as np

from zygon.design.document import Document
from zygon.design.folding import Folding
from zygon.design.joints import BOARD_JOINTS, MEMBER_HOLES, MEMBER_JOINTS, Joint
from zygon.design.parts.kinds import Part, PlacedKind, PlateKind
from zygon.design.pointer import pointer
from zygon.geometry.frame import Frame
from zygon.geometry.motion import IDENTITY, Motion
from zygon.making.connector.seating import Seating
from zygon.making.result.body import Body, Corners, Matrix
from zygon.making.result.box import Box
from zygon.making.result.fault import Fault
from zygon.making.result.flat import Flat
from zygon.making.result.fold import Fold
from zygon.making.result.hardware import BuiltSet
from zygon.making.result.value import Value
from zygon.stock.cutter import widened_on_line
from zygon.stock.shelf import OnHand
from zygon.tolerance import CONTACT

__all__ = ["CHORDS", "Built", "BuiltJoint", "BuiltPart", "Finger", "FlatPart", "MadePart", "Seated"]


#: How far the chords of members that are cut to one another may run into one another (mm).
CHORDS = 0.1


@dataclass(frozen=True)
class Finger:
    """A stretch of a corner along the joint's run (mm in the room) and the part that owns it."""

    low: float
    high: float
    owner: str


@dataclass(frozen=True, kw_only=True)
class BuiltPart:
    """One instance: an item, or a part whose place or shape cannot be worked out; ``path`` is its instance path.

    ``key`` is its record's for an original; ``of`` is the record's key always. ``handed`` is -1 for a mirror image that is another part;
    ``made_by`` are the copies that made it.
    """

    key: str
    path: str
    record: Part
    of: str
    stale: bool = False
    handed: int = 1
    made_by: tuple[tuple[str, int], ...] = ()


@dataclass(frozen=True, kw_only=True)
class MadePart(BuiltPart):
    """A part that is made: where it lies and what it is are known, whole. ``matrix`` takes its body's (u, v, w) to the room.

    ``box`` and ``span_box`` (without what joints add) lie along the axes before ``place`` turns them. ``mirrored`` are the axes across
    which its face names are exchanged.
    """

    record: PlacedKind
    span_box: Box
    box: Box
    body: Body
    matrix: Matrix
    place: Motion = IDENTITY
    mirrored: frozenset[str] = frozenset()

    @cached_property
    def reaches(self) -> Corners:
        """Low and high corner in the room."""
        return ((0.0, 0.0, 0.0), (0.0, 0.0, 0.0)) if self.body.empty else self.body.reach(self.matrix)


@dataclass(frozen=True, kw_only=True)
class FlatPart(MadePart):
    """A part in a plane; of a mirror image the flat is mirrored."""

    record: PlateKind
    frame: Frame
    body: Flat

    @property
    def flat(self) -> Flat:
        """It, laid flat."""
        return self.body

    @property
    def fold(self) -> Fold:
        """The fold of one that is bent."""
        assert self.body.fold is not None
        return self.body.fold

    @property
    def folding(self) -> Folding:
        """What is said of the bends of one that is bent."""
        assert self.record.folding is not None
        return self.record.folding


@dataclass(frozen=True)
class BuiltJoint:
    """A joint as built: its contact's kind, the run along ``axis``, and its fingers or tabs; empty where it cut nothing.

    ``details`` are the values in effect by entry name. ``holds`` is the axis along which alone it comes apart where no wood says so;
    ``fastened`` says what keeps it once made ('glued', 'screwed', 'riveted', 'welded'); ``across`` and ``form`` are the contact's.
    ``ends`` are the words at the run's low and high end, ``sides`` those of the first board's low and high face, as it stands.
    """

    key: str
    kind: str
    a: str
    b: str
    contact: str
    axis: str = ""
    run: tuple[float, float] = (0.0, 0.0)
    fingers: tuple[Finger, ...] = ()
    fit: float = 0.0
    details: dict[str, float] = field(default_factory=dict)
    refused: str = ""
    holds: str = ""
    fastened: str = ""
    across: str = ""
    form: str = ""
    ends: tuple[str, str] = ("", "")
    sides: tuple[str, str] = ("", "")
    copies: tuple[tuple[str, str], ...] = ()
    #: of members that lie on one another: the directions in the room in which the second one's surface looks where the first lies on it
    normals: tuple[tuple[float, float, float], ...] = ()

    @property
    def bite(self) -> float:
        """How far its parts run into one another by intent (mm): a press fit, or what chords leave of curved ends that lie on one another."""
        return max(0.0, -self.fit, CHORDS if self.kind in MEMBER_JOINTS | BOARD_JOINTS else 0.0)

    @property
    def pairs(self) -> tuple[tuple[str, str], ...]:
        """The instance keys of both boards, of the joint itself and of its copies."""
        return ((self.a, self.b), *self.copies)


@dataclass(frozen=True)
class Seated:
    """A member in a socket, as instances; ``at`` the end that lies there, or 'through'. ``fastened`` says what keeps it, ``gap`` is how much wider the socket is."""

    connector: str
    socket: str
    member: str
    at: str
    fastened: str
    gap: float


@dataclass(frozen=True)
class Built:
    """A built design. ``values`` by entry pointer; ``good`` is what to hand to the next build as last good values."""

    document: Document
    values: dict[str, Value]
    parts: dict[str, BuiltPart]
    joints: dict[str, BuiltJoint]
    faults: tuple[Fault, ...]
    good: dict[str, float]
    rebuilt: tuple[str, ...] = ()
    #: the points of each frame in the room, mm; without those whose place is not known
    points: dict[str, dict[str, tuple[float, float, float]]] = field(default_factory=dict)
    #: the members that lie in the sockets of connectors
    seats: tuple[Seated, ...] = ()
    #: how each connector is turned onto the members of its point, by its part's key
    seatings: dict[str, Seating] = field(default_factory=dict)
    #: how many sheets and bars the workshop has; of what is not named as many as are needed can be had
    on_hand: OnHand = field(default_factory=dict)
    #: the hardware along bores, by the keys of those, in order
    sets: dict[str, BuiltSet] = field(default_factory=dict)

    @cached_property
    def made(self) -> dict[str, MadePart]:
        """The parts that are made, by key: not the items, nor boards whose place or shape cannot be worked out."""
        return {k: p for k, p in self.parts.items() if isinstance(p, MadePart)}

    @cached_property
    def flats(self) -> dict[str, FlatPart]:
        """Those of them that lie in a plane, by key."""
        return {k: p for k, p in self.made.items() if isinstance(p, FlatPart)}

    @cached_property
    def touching(self) -> dict[str, list[FlatPart]]:
        """Of each part that lies in a plane the others whose span boxes meet its own, in order."""
        parts = list(self.flats.values())
        if not parts:
            return {}
        lows, highs = (np.array([getattr(p.span_box, end) for p in parts]) for end in ("low", "high"))
        meets = (lows[:, None, :] - CONTACT <= highs[None, :, :]).all(axis=2)
        meets &= meets.T
        return {
            p.key: [parts[j] for j in np.flatnonzero(row).tolist() if parts[j] is not p]
            for p, row in zip(parts, np.asarray(meets), strict=True)
        }

    @cached_property
    def laid(self) -> set[frozenset[str]]:
        """Pairs of members, and of members and boards, whose ends are cut to lie on one another, exactly: they take up no common room, are held to their place and welded."""
        ends = MEMBER_JOINTS - MEMBER_HOLES | BOARD_JOINTS
        return {frozenset(p) for j in self.joints.values() if j.kind in ends and not j.refused for p in j.pairs}

    @cached_property
    def seated(self) -> dict[frozenset[str], Seated]:
        """By the keys of both, which member lies in which connector."""
        return {frozenset((s.connector, s.member)): s for s in self.seats}

    @cached_property
    def bored(self) -> dict[frozenset[str], float]:
        """How much wider the hole is than the rod or member that its bore lets through (mm), by the keys of both, of all that lie at one another."""
        found: dict[frozenset[str], float] = {}
        places: dict[str, list[MadePart]] = {}
        for part in self.made.values():
            places.setdefault(part.of, []).append(part)
        for key, bore in self.document.bores.items():
            if not bore.member or bore.out:
                continue
            for of in bore.parts:
                for part in places.get(of, []):
                    fit = self.hole_fit(key, part)
                    if fit is not None:
                        found |= {frozenset((rod.key, part.key)): fit for rod in places.get(bore.member, []) if _near(rod, part)}
        return found

    def hole_fit(self, bore: str, part: MadePart, *, drawn: bool = False) -> float | None:
        """How much wider a bore is in a part, or in a copy of one, than what goes through it (mm), as it comes out where it is cut on its line, or as it is ``drawn``; None where it cuts no hole there."""
        said = self.document.bores[bore]
        through = said.parts.get(part.of)
        if through is None or said.out:
            return None
        where = pointer("bores", bore, "parts", part.of)
        other = through.copies.get(part.key)
        fit = self.values.get(where + "/fit")
        if other is not None:
            through, fit = through.in_copy(part.key), self.values.get(f"{where}/copies/{part.key}/fit", fit)
        if fit is None or through.action not in ("cut", "drill"):
            return None
        if drawn or not through.on_line or through.action != "cut":
            return fit.value
        return fit.value + widened_on_line(self.document.cutters.get(self.document.cutter), part.record.stock)

    @cached_property
    def in_one_connector(self) -> set[frozenset[str]]:
        """Pairs of members that lie in sockets of one connector, which holds them apart."""
        of: dict[str, list[str]] = {}
        for s in self.seats:
            of.setdefault(s.connector, []).append(s.member)
        return {frozenset(pair) for members in of.values() for pair in combinations(members, 2)}

    @cached_property
    def said_joints(self) -> dict[str, list[tuple[str, Joint]]]:
        """The keys and records of the joints at each part or copy that is named by one, in the document's order."""
        found: dict[str, list[tuple[str, Joint]]] = {}
        for key, joint in self.document.joints.items():
            for end in dict.fromkeys((joint.a, joint.b)):
                found.setdefault(end, []).append((key, joint))
        return found

    @cached_property
    def joints_of(self) -> dict[str, list[BuiltJoint]]:
        """The joints at each instance, in order."""
        found: dict[str, list[BuiltJoint]] = {}
        for joint in self.joints.values():
            for key in dict.fromkeys(k for pair in joint.pairs for k in pair):
                found.setdefault(key, []).append(joint)
        return found


def _near(a: MadePart, b: MadePart) -> bool:
    """Whether the boxes of two parts in the room meet."""
    (low, high), (other_low, other_high) = a.reaches, b.reaches
    return all(p <= q + CONTACT for p, q in zip((*low, *other_low), (*other_high, *high), strict=True))
