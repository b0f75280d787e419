"""Questions about a document that are asked before an edit is made: possible joints, parts along an axis."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

from zygon.design.document import Document, scope_of
from zygon.design.features import Bore
from zygon.design.parts.kinds import is_member, is_placed
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, FACES
from zygon.making.blanks.instances import instances_of
from zygon.making.blanks.originals import originals
from zygon.making.datums.solving import solve
from zygon.making.features.bore_lines import line_of
from zygon.making.features.bores import parts_on_line
from zygon.making.joints.ends import contact_of, end_blank
from zygon.making.joints.registry import REGISTRY, possible_joints
from zygon.making.metal.folding import fold_blanks
from zygon.making.metal.leg_places import leg_face
from zygon.making.pipeline import blanks_of
from zygon.making.result.built import Built
from zygon.making.tube.drilled import meets
from zygon.making.tube.ends import Refused, offers_of
from zygon.making.tube.joining import on_board
from zygon.making.tube.meeting import MemberMeeting
from zygon.making.tube.on_board import board_at
from zygon.making.tube.pieces import Pieces, meeting_of, part_of, pieces_of, straights_at

__all__ = ["Meeting", "middle_of", "offers_between", "parts_along"]


def offers_between(document: Document, a: str, b: str, instead_of: str = "") -> list[dict[str, str]]:
    """Each kind of joint and way round for boards a and b: the reason where it is refused, and a note where the cutter cannot make it.

    ``instead_of`` is the key of a joint of theirs that it would replace. Raises DocumentError for unknown keys.
    """
    return Meeting(document).offers(a, b, instead_of)


class Meeting:
    """A document's boards as they meet, worked out once for any number of pairs; on the last ``good`` values where something is broken."""

    def __init__(self, document: Document, good: dict[str, float] | None = None) -> None:
        self.document = document
        self.values = solve(document, good, leg_face)
        self.instances = instances_of(self.values)
        self.blanks = blanks_of(self.values, self.instances)

    def offers(self, a: str, b: str, instead_of: str = "") -> list[dict[str, str]]:
        """As ``offers_between``."""
        document = self.document
        members = [is_member(document.parts.get(key.partition("@")[0])) for key in (a, b)]
        if all(members):
            return self._between_members(a, b, instead_of)
        if any(members):
            return self._on_board(a, b, instead_of, order="ab" if members[0] else "ba")
        ends = [end_blank(key, self.blanks, self.instances) for key in (a, b)]
        for key, blank in zip((a, b), ends, strict=True):
            part = document.parts.get(key.partition("@")[0])
            if is_placed(part) and "joint" in part.declines:
                rule = part.declines["joint"]
                raise DocumentError(f"{part.name} is a {part.kind}: {rule}", entry=key, value=key, rule=rule)
            if blank is None:
                raise DocumentError(f"{key!r} is no board with a place", entry=key, value=key, rule="a board of the design")
        names = [self.instances[key].name for key in (a, b)]
        contact = contact_of(self.values, ends[0], ends[1])  # type: ignore[arg-type]
        offers = possible_joints(contact, names[0], names[1])
        cutter = document.cutters.get(document.cutter)
        note = f"needs depth, and {cutter.name} cuts straight through" if cutter and not cutter.can.depth else ""
        offers = [{**o, "note": note if getattr(REGISTRY[o["kind"]], "DEPTH", False) else "", "contact": contact.kind} for o in offers]
        if any({j.a, j.b} == {a, b} and k != instead_of for k, j in document.joints.items()):
            return [{**o, "refused": o["refused"] or "these two boards are joined already"} for o in offers]
        return offers

    def _on_board(self, a: str, b: str, instead_of: str, *, order: str) -> list[dict[str, str]]:
        """The one joint that a member and a board may have."""
        member, other = (a, b) if order == "ab" else (b, a)
        ones, board = straights_at(member, self.pieces, self.instances), board_at(self.values, other, self.instances)
        if not ones or board is None:
            name = next((p.name for p in (self.document.parts.get(other.partition("@")[0]),) if p), other)
            rule = "a member is joined to members, and to boards that it comes to"
            raise DocumentError(f"{member} lies on a line of a frame, and {name} is no board: {rule}", entry=b, value=b, rule=rule)
        refused = ""
        try:
            on_board(ones, board, self.pieces, 0.0, "", self.document.display)
        except Refused as error:
            refused = str(error)
        if any({j.a, j.b} == {a, b} and k != instead_of for k, j in self.document.joints.items()):
            refused = refused or "these two are joined already"
        title = f"{ones[0][1].name} ends on {board.name}"
        return [{"kind": "member_on_board", "order": order, "title": title, "refused": refused, "note": "", "contact": "tee"}]

    @cached_property
    def pieces(self) -> Pieces:
        """The straight pieces of the members that have a place."""
        return pieces_of(self.values)

    def of_members(self, a: str, b: str) -> MemberMeeting | None:
        """How two members meet; None where one has no place."""
        one, other = (straights_at(key, self.pieces, self.instances) for key in (a, b))
        return meeting_of(one, other, self.pieces, self.document.display)[2] if one and other else None

    def _between_members(self, a: str, b: str, instead_of: str) -> list[dict[str, str]]:
        there, back = self.of_members(a, b), self.of_members(b, a)
        if there is None or back is None:
            lost = next(k for k in (a, b) if not straights_at(k, self.pieces, self.instances))
            raise DocumentError(f"{lost!r} is no member with a place", entry=lost, value=lost, rule="a member of the design")
        offers = [{**o, "note": "", "contact": there.kind} for o in offers_of(there, back)]
        if any({j.a, j.b} == {a, b} and k != instead_of for k, j in self.document.joints.items()):
            return [{**o, "refused": o["refused"] or "these two are joined already"} for o in offers]
        return offers


def middle_of(built: Built, of: list[str], axis: str) -> str:
    """An entry for the design's middle along an axis: between the outermost faces of all boards that ``of`` does not name.

    Where it names all, their own high end: the plane that they are mirrored to the other side of. Raises DocumentError where no board has
    a place.
    """
    document = built.document
    own = set(originals(document, of))
    low_word, high_word = FACES[axis]
    group = scope_of(document, of[0]) if of else ""
    # as seen from within the group that they lie in, which is where the entry will be read
    placed = {k: p for k, p in built.made.items() if not p.made_by and not p.record.turns and p.record.group == group}
    others = {k: p for k, p in placed.items() if k not in own and not p.record.aside}
    if not others:
        inside = {k: p for k, p in placed.items() if k in own}
        if not inside:
            raise DocumentError(
                "There is no board to take the middle from", entry="of", value=of, rule="a board along the axes, outside groups"
            )
        last = max(inside.values(), key=lambda p: p.span_box.span(axis)[1])
        return f"{last.record.name}.{high_word}"
    low = min(others.values(), key=lambda p: p.span_box.span(axis)[0])
    high = max(others.values(), key=lambda p: (p.span_box.span(axis)[1], p.key == low.key))
    return f"mid({low.record.name}.{low_word}, {high.record.name}.{high_word})"


def parts_along(
    document: Document,
    axis: str,
    at: dict[str, dict[str, str]],
    *,
    of: str = "",
    lean: dict[str, str] | None = None,
    toward: dict[str, str] | None = None,
    parts: Sequence[str] = (),
) -> list[dict[str, str]]:
    """The parts that a bore's axis passes through, and how: square, at an angle or by the edge.

    ``at``, ``lean`` and ``toward`` are entries, as a bore has them; ``parts`` are those that it has already, in whose group its places are
    read. Raises DocumentError for an entry that cannot be worked out, or where the axes do not fit.
    """
    if set(at) - {axis} != set(AXES) - {axis}:
        raise DocumentError(
            f"A bore along {axis} has a place along each of the two other axes", entry="at", value=sorted(at), rule="two places"
        )
    if of and of not in document.placed():
        raise DocumentError(f"There is no part with the key {of!r}", entry="of", value=of, rule="a part with a place")
    record = {"name": "bore", "axis": axis, "at": at, "of": of, "lean": lean, "toward": toward, "diameter": {"text": "1 mm", "unit": "mm"}}
    bore = Bore.model_validate({**record, "parts": {p: {} for p in parts if p in document.parts}})
    values = solve(document, leg_faces=leg_face)
    before = len(values.faults)
    line = line_of(values, "", bore)
    for fault in values.faults[before:]:
        raise DocumentError(fault.message, entry=fault.entry.removeprefix("/bores//"), value=fault.value, rule=fault.rule, code=fault.code)
    blanks = blanks_of(values)
    fold_blanks(values, blanks)
    if not line:
        return []
    met = [(along, key, how) for along, key, how in parts_on_line(blanks, line)]
    instances = instances_of(values)
    pieces = pieces_of(values)
    for piece, (body, rest) in pieces.bodies.items():
        key = part_of(piece)
        along = meets(body, (instances[key].motion @ rest).inverse, line)
        if along is not None and all(k != key for _, k, _ in met):
            met.append((along, key, "square"))
    return [{"part": key, "how": how} for _, key, how in sorted(met)]
