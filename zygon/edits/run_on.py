"""One member is put first where several end: it is cut by none of them there, and they lie on it."""

from __future__ import annotations

from itertools import combinations

from zygon.design.joints import MEMBER_HOLES, MEMBER_JOINTS
from zygon.design.parts.kinds import is_member
from zygon.design.patch import Patch, patched
from zygon.design.pointer import pointer
from zygon.edits.frames import join_members
from zygon.errors import DocumentError
from zygon.making.asked.questions import Meeting
from zygon.making.pipeline import build
from zygon.making.result.built import Built
from zygon.making.tube.cuts import AtEnd

__all__ = ["run_on"]


def run_on(built: Built, member: str, end: AtEnd) -> tuple[str, Patch]:
    """Label and patch by which a member runs on to the far side of what ends with it at its end A or B; the others are joined anew to it and to one another.

    Raises DocumentError where there is no such member, or nothing ends there with it.
    """
    document = built.document
    part = document.parts.get(member)
    if part is None or not is_member(part):
        raise DocumentError(f"There is no member {member}", entry="member", value=member, rule="a member of the design")
    asked = Meeting(document)
    at: dict[str, str] = {member: end}
    for other in (k for k, p in document.placed().items() if is_member(p) and k != member):
        meeting = asked.of_members(member, other)
        if meeting and meeting.kind == "corner" and meeting.at_one == end:
            at[other] = meeting.at_other
    if len(at) == 1:
        said = f"Nothing ends where {part.name} does at {end.upper()}"
        raise DocumentError(said, entry="end", value=end, rule="an end at which another member ends")
    pairs = set()
    for one, other in combinations(at, 2):
        meeting = asked.of_members(one, other)
        if meeting and meeting.kind == "corner" and (meeting.at_one, meeting.at_other) == (at[one], at[other]):
            pairs.add(frozenset((one, other)))
    kinds = MEMBER_JOINTS - MEMBER_HOLES
    gone: Patch = [
        {"op": "remove", "path": pointer("joints", key)}
        for key, j in document.joints.items()
        if j.kind in kinds and frozenset((j.a.partition("@")[0], j.b.partition("@")[0])) in pairs
    ]
    _, joined = join_members(build(patched(document.dump(), gone)), of=list(at), corner="butt", first=member, pairs=pairs)
    return f"{part.name} runs on at {end.upper()}", [*gone, *joined]
