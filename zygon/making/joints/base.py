"""What every joint works with: the contact, both blanks, a reader for its entries, and the figures in effect.

A joint's module offers ``refusal(contact)`` and ``offers(contact, name_a, name_b)``; ``layout(context)`` and ``cuts(context, fingers,
fit)``; and, where it has to, ``lengthen`` (before runs are taken), ``grow`` (blanks that reach into the other board) and ``holds``
(the axis along which alone the pair comes apart though no wood says so). ``DEPTH`` says that its cuts stop inside a board, ``FASTENED``
what keeps the boards together once it is made.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from zygon.design.pointer import pointer
from zygon.making.blanks.blank import Blank
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.joints.angle import Meeting, meeting_of
from zygon.making.joints.contact import Contact, turned_round
from zygon.making.result.built import Finger
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.operations import Side
from zygon.measure.display import exact_length, format_angle, format_length
from zygon.measure.entry import Entry
from zygon.measure.quantity import Kind
from zygon.owner import joint_id
from zygon.tolerance import CONTACT

__all__ = ["OVERSHOOT", "JointContext", "both_ways", "clean_runs", "edge_into_face", "edge_on_face", "how_they_meet", "half_mm", "slope_of"]

#: Cuts that leave a board at its edge reach this far past it (mm), so that no film stays.
OVERSHOOT = 0.01


@dataclass(frozen=True)
class JointContext:
    """One joint being built. ``figures`` gathers the values in effect by entry name, in mm, radians or plain."""

    key: str
    #: of the kind's own record type; each joint's module reads its own
    record: Any
    contact: Contact
    a: Blank
    b: Blank
    values: Values
    figures: dict[str, float] = field(default_factory=dict)

    @property
    def owner(self) -> str:
        """The id that its cuts carry."""
        return joint_id(self.key)

    @property
    def title(self) -> str:
        """The joint in words."""
        return f"{self.a.record.name}–{self.b.record.name}"

    def read(self, entry: Entry | None, *path: str, kind: Kind = "length", fallback: float = 0.0) -> float | None:
        """A joint's entry worked out with the stock of part a; None where it is not given or not known."""
        if entry is None:
            return None
        scope = EntryScope(self.values, stock=self.a.record.stock)
        where = pointer("joints", self.key, *path)
        value = self.values.read(entry, where, kind, scope, fallback=fallback, part=self.a.record_key, owner=self.owner)
        # a broken entry without a last good value counts as not given; that it is broken is said already
        return None if self.values.values[where].stale and where not in self.values.good else value

    def figure(self, name: str, default: float = 0.0, kind: Kind = "length") -> float:
        """The value of the record's entry ``name``, or the default; it is noted among the figures."""
        value = self.read(getattr(self.record, name), name, kind=kind)
        self.figures[name] = default if value is None else value
        return self.figures[name]

    def shown(self, value: float) -> str:
        """A length as the design displays it."""
        return format_length(value, self.values.document.display)

    def fault(
        self,
        field: str,
        message: str,
        rule: str,
        value: str = "",
        code: str = "joint_value",
        would_do: float | None = None,
        count: int = 0,
        part: str = "",
    ) -> None:
        """Records a fault of one of the joint's entries, at the joint's middle on a part; ``would_do`` (mm) or ``count`` becomes its mend."""
        where = pointer("joints", self.key, field)
        mends: tuple[Mend, ...] = ()
        if would_do is not None or count:
            unit = self.values.document.unit
            text, said = (str(count), str(count)) if would_do is None else (exact_length(would_do, unit).strip("()"), self.shown(would_do))
            entry = {"text": text, "unit": unit}
            mends = (Mend(f"Set {field.replace('_', ' ')} to {said}", [{"op": "add", "path": where, "value": entry}]),)
        blank = self.b if part == self.b.key else self.a
        self.values.faults.append(
            Fault(
                code,
                f"{self.title}: {message}",
                rule,
                value,
                part=blank.record_key,
                owner=self.owner,
                entry=where,
                mends=mends,
                at=self._middle(blank),
            )
        )

    def _middle(self, blank: Blank) -> tuple[float, float]:
        """The middle of the joint on a board, in its (u, v)."""
        c, other = self.contact, self.b if blank is self.a else self.a
        if c.kind.startswith("angle"):
            u, v, _ = (meeting_of(blank, other)).middle_of_b()
            u0, v0, u1, v1 = blank.bounds()
            return min(max(u, u0), u1), min(max(v, v0), v1)
        if c.region:
            return blank.point({axis: (low + high) / 2 for axis, low, high in c.region})
        return blank.point({c.axis: sum(c.run) / 2, other.frame.normal: sum(other.span.span(other.frame.normal)) / 2})

    def depth_in(self, field: str, blank: Blank, default: float, what: str) -> float:
        """A depth into a board that has to leave something of it; 0 with a fault where it does not."""
        depth, t = self.figure(field, default), blank.thickness
        name = blank.record.name
        if depth <= CONTACT:
            self.fault(
                field,
                f"{what} {self.shown(depth)} deep",
                "a depth is greater than 0",
                self.shown(depth),
                would_do=default,
                part=blank.record_key,
            )
            return 0.0
        if depth >= t - CONTACT:
            self.fault(
                field,
                f"{what} {self.shown(depth)} deep comes out on the other side of {name}, which is {self.shown(t)} thick",
                f"less than {self.shown(t)}",
                self.shown(depth),
                "too_deep",
                would_do=half_down(t * 2 / 3),
                part=blank.record_key,
            )
            return 0.0
        return depth

    @property
    def meeting(self) -> Meeting:
        """How the boards lie to each other, at whatever angle."""
        return meeting_of(self.a, self.b)

    def into_b(self, depth: float) -> float:
        """The place along b's normal ``depth`` mm beyond its near face, seen from a."""
        low, high = self.b.span.span(self.b.frame.normal)
        return low + depth if self.contact.reach_a.side == "high" else high - depth

    @property
    def face_b(self) -> Side:
        """The face of b that a's edge meets."""
        return self.b.face_toward("low" if self.contact.reach_a.side == "high" else "high")

    @property
    def far_b(self) -> Side:
        """The face of b on its other side."""
        return "b" if self.face_b == "a" else "a"


def half_mm(value: float) -> float:
    """A default rounded to half millimetres, at least half of one."""
    return max(0.5, round(value * 2) / 2)


def half_down(value: float) -> float:
    """Rounded down to half millimetres where that leaves something."""
    return math.floor(value * 2) / 2 or value


def slope_of(context: JointContext) -> float:
    """The tangent of a dovetail's flank; 0 with a fault where the angle makes no dovetail."""
    if context.record.slope != "angle":
        tangent = 1 / float(context.record.slope.partition(":")[2])
    else:
        angle = context.figure("angle", kind="angle")
        if not math.radians(1) <= angle <= math.radians(45):
            shown = format_angle(angle)
            context.fault("angle", f"flanks at {shown}", "from 1° to 45°; 7° to 10° are usual", shown)
            return 0.0
        tangent = math.tan(angle)
    context.figures["angle"] = math.atan(tangent)
    return tangent


def both_ways(
    kind: str, contact: Contact, title: Callable[[str, str], str], refusal: Callable[[Contact], str], name_a: str, name_b: str
) -> list[dict[str, str]]:
    """The offers of a joint whose boards have different parts in it: once each way round."""
    return [
        {"kind": kind, "order": "ab", "title": title(name_a, name_b), "refused": refusal(contact)},
        {"kind": kind, "order": "ba", "title": title(name_b, name_a), "refused": refusal(turned_round(contact))},
    ]


def how_they_meet(contact: Contact) -> str:
    """What boards do at a contact, to follow 'these boards'."""
    return {
        "corner": "meet in a corner",
        "tee": "meet in a tee",
        "cross": "cross",
        "edge": "meet edge to edge",
        "lap": "lap in one plane",
        "faces": "lie face on face",
        "none": "do not meet",
        "angle": "meet at an angle",
        "angle_lap": "cross at an angle in one plane",
    }[contact.kind]


def edge_into_face(contact: Contact, what: str) -> str:
    """Why the edge of a cannot stand against the face of b; '' where it does."""
    if contact.kind == "none":
        return contact.reason
    if contact.kind.startswith("angle"):
        return f"{what} needs boards that stand square to each other, and these {how_they_meet(contact)}"
    if contact.kind not in ("corner", "tee"):
        return f"{what} needs an edge against a face, and these boards {how_they_meet(contact)}"
    if contact.reach_a.how == "near":
        return ""
    if contact.reach_a.how == "far":
        return f"{what} needs the edge to end at the near face, and here it runs through to the far one"
    return f"{what} needs the edge of the first board, and here it is the other board whose edge meets a face"


def edge_on_face(contact: Contact, what: str) -> str:
    """Why the edge of a cannot stand on a face of b that is there; '' where it does."""
    refused = edge_into_face(contact, what)
    if not refused and contact.kind == "corner" and contact.reach_b.how == "near":
        return "here the boards touch in a line only; run one on to the other's far face"
    return refused


def clean_runs(fingers: tuple[Finger, ...]) -> tuple[Finger, ...]:
    """Stretches of one owner that touch as one; tabs with gaps between them stay apart."""
    merged: list[Finger] = []
    for f in fingers:
        if merged and merged[-1].owner == f.owner and f.low - merged[-1].high <= CONTACT:
            merged[-1] = Finger(merged[-1].low, f.high, f.owner)
        else:
            merged.append(f)
    return tuple(merged)
