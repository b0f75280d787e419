"""What a board touches, and the joints that it may have there: what suits the contact, the stock and the cutter best comes first."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.design.parts.kinds import is_member, is_plate
from zygon.errors import DocumentError
from zygon.making.asked.questions import Meeting
from zygon.making.result.built import Built, MadePart

__all__ = ["Touch", "touches"]

#: What is usual where two boards meet so, by how they meet, the best first; common practice. What needs depth falls behind where the cutter has none.
USUAL = {
    "corner": ("finger", "rebate", "dovetail", "dowels", "screws", "mitre", "butt", "member_mitre", "member_butt", "member_cope"),
    "tee": ("groove", "tab_slot", "mortise_tenon", "dowels", "screws", "butt", "notch", "member_butt", "member_cope", "member_on_board"),
    "cross": ("cross_lap", "notch", "member_passage", "member_notch"),
    "edge": ("edge_key", "dowels", "butt"),
    "lap": ("half_lap", "dovetail_lap", "face_glue"),
    "faces": ("face_glue", "screws"),
}
#: Boards farther apart than this (mm) do not touch.
NEAR = 0.05


@dataclass(frozen=True)
class Touch:
    """Another part (its instance key and path) that a board meets, how ('corner', 'tee', ...), and what is possible there, best first; as offers have them."""

    part: str
    path: str
    contact: str
    offers: tuple[dict[str, str], ...]


def touches(built: Built, key: str) -> list[Touch]:
    """What a board touches and is not joined to yet. Raises DocumentError where it is no board."""
    if key in built.made and is_member(built.made[key].record):
        return _members_at(built, built.made[key])
    part = built.flats.get(key)
    if part is None:
        raise DocumentError(f"There is no board {key} with a place", entry="part", value=key, rule="a board of the design")
    meeting, found, joined = Meeting(built.document), [], _joined_to(built, key)
    for other in built.flats.values():
        if other.of == part.of or other.key in joined or other.record.aside or not _near(part, other):
            continue
        try:
            offers = meeting.offers(key, other.key)
        except DocumentError:  # what is bought declines joints
            continue
        possible = [o for o in offers if not o["refused"]]
        if possible:
            found.append(Touch(other.key, other.path, offers[0]["contact"], tuple(sorted(possible, key=_rank))))
    return found


def _members_at(built: Built, part: MadePart) -> list[Touch]:
    """The members and boards that one meets and is not joined to yet."""
    meeting, found, joined = Meeting(built.document), [], _joined_to(built, part.key)
    for other in built.made.values():
        if (
            not (is_member(other.record) or is_plate(other.record))
            or other.of == part.of
            or other.key in joined
            or other.record.aside
            or not _near(part, other)
        ):
            continue
        offers = meeting.offers(part.key, other.key)
        possible = [o for o in offers if not o["refused"]]
        if possible:
            found.append(Touch(other.key, other.path, offers[0]["contact"], tuple(sorted(possible, key=_rank))))
    return found


def _joined_to(built: Built, key: str) -> set[str]:
    joined = {x for j in built.joints.values() for pair in j.pairs if key in pair for x in pair}
    return joined | {x for pair in built.in_one_connector if key in pair for x in pair}


def _near(a: MadePart, b: MadePart) -> bool:
    (low_a, high_a), (low_b, high_b) = a.reaches, b.reaches
    return all(low_a[i] <= high_b[i] + NEAR and low_b[i] <= high_a[i] + NEAR for i in range(3))


def _rank(offer: dict[str, str]) -> tuple[bool, int]:
    usual = USUAL.get(offer["contact"], ())
    return bool(offer["note"]), usual.index(offer["kind"]) if offer["kind"] in usual else len(usual)
