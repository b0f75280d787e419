"""What of a part can be pulled: each entry that says where it ends or lies, from where, and what it catches on."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.design.document import Document
from zygon.design.parts.kinds import is_placed
from zygon.design.pointer import pointer
from zygon.errors import DocumentError, ExpressionError
from zygon.geometry.frame import AXES
from zygon.making.datums.drawings import DRAWN
from zygon.making.datums.graph import FACE_SIDES, Datum, box_datums, datums_of, entry_references, followed_through, followers, read_by
from zygon.making.datums.ids import end_of
from zygon.making.datums.placing import motion_between, motion_between_groups
from zygon.making.datums.solving import solve
from zygon.making.metal.leg_places import leg_face
from zygon.making.result.built import Built
from zygon.making.rooms.named import NamedPlace, named_places
from zygon.measure.entry import Entry
from zygon.measure.moved import Trailing, trailing
from zygon.owner import size_id

__all__ = ["Barred", "Pull", "PullCatch", "datums_at", "group_pulls", "pulled_entry", "pulls"]


@dataclass(frozen=True)
class PullCatch:
    """A place along the axis (mm) and the entry that names it."""

    value: float
    entry: str


@dataclass(frozen=True)
class Barred:
    """A place along the axis (mm) that cannot be named, and why."""

    value: float
    why: str


@dataclass(frozen=True)
class Pull:
    """One thing to pull: the ``face`` that moves along ``axis`` from ``value`` (mm), the entry at ``pointer`` that changes, taken apart.

    Where that entry is a size's, ``size`` is its name, ``follow`` how many other entries follow it, and it catches on nothing. ``whole`` says
    whether a catch replaces the entry outright: it does unless the entry is an expression, of which only the constant changes.
    """

    face: str
    axis: str
    value: float
    pointer: str
    text: Trailing
    catches: tuple[PullCatch, ...]
    whole: bool
    size: str = ""
    follow: int = 0
    barred: tuple[Barred, ...] = ()


def pulls(built: Built, key: str) -> list[Pull]:
    """What of a part can be pulled. Raises DocumentError where it is no part with a place, or stands aslant."""
    document, part = built.document, built.made.get(key)
    record = document.parts.get(key)
    if part is None or not is_placed(record):
        rule = "an original with a place"
        raise DocumentError(f"{key} is not pulled by itself", entry="part", value=key, rule=rule)
    values = solve(document, built.good, leg_face)
    motion = motion_between(values, key, "")
    if not motion.shifts:
        raise DocumentError(f"{record.name} is turned: it is pulled by its figures", entry="part", value=key, rule="a part along the axes")
    nodes = datums_of(document)
    needs = read_by(nodes, document)
    shift = dict(zip(AXES, motion.shift, strict=True))
    found = []
    for end in record.ends():
        at = pointer("parts", key, *end.where)
        now = built.values.get(at)
        if now is None or now.stale or (DRAWN, "") in entry_references(end.entry.text):
            continue  # as far as it is drawn it is pulled in the drawing
        entry, size, follow = pulled_entry(document, end.entry, at, needs)
        if entry is None:
            continue
        where, kept = entry
        try:
            text = trailing(kept.text, kept.unit)
        except ExpressionError:
            continue
        catches: list[PullCatch] = []
        barred: list[Barred] = []
        whole = not text.base or (_bare(text) and not size)
        if not size:
            own = end_of(key, end.axis, end.side)
            hanging = followers(needs, own)
            places = named_places(values, end.axis)
            catches = [PullCatch(p.value, p.text) for p in places if _free(document, p, end.axis, hanging)]
            follow_it = [p for p in places if not _free(document, p, end.axis, hanging) and p.part != key]
            barred = [Barred(p.value, _round(nodes, needs, own, datums_at(document, p, end.axis), p.text)) for p in follow_it]
            catches += [
                PullCatch(values.solved[size_id(k)] + shift[end.axis], s.name)
                for k, s in document.sizes.items()
                if s.kind == "length" and size_id(k) in values.solved and size_id(k) not in hanging
            ]
        value = now.value + shift[end.axis]
        found.append(Pull(end.face, end.axis, value, where, text, tuple(catches), whole, size, follow, tuple(barred)))
    return found


def _round(nodes: dict[str, Datum], needs: dict[str, list[str]], own: str, to: set[str], text: str) -> str:
    """Why a place that hangs on what is pulled cannot be named, by the way it hangs on it."""
    through = [nodes[i].label for i in followed_through(needs, own, to)[:-1]] or [text]
    return f"{nodes[own].label} would follow itself through {' and '.join(dict.fromkeys(through[:2]))}"


def group_pulls(built: Built, key: str) -> list[Pull]:
    """What a group is moved by, along each axis; its middle is what moves, and its ends are what catches. Raises DocumentError where it cannot be."""
    document = built.document
    group = document.groups.get(key)
    if group is None:
        raise DocumentError(f"There is no group with the key {key!r}", entry="group", value=key, rule="a group of the design")
    own = [p for p in built.made.values() if not p.made_by and key in document.within(p.record.group)]
    values = solve(document, built.good, leg_face)
    if not own or not motion_between_groups(values, key, "").shifts:
        rule = "a group along the axes with something in it"
        raise DocumentError(f"{group.name} is turned, or holds nothing: it is moved by its figures", entry="group", value=key, rule=rule)
    within = {p.key for p in own}
    found = []
    moves = {str(a): e for a, e in group.move.items()}
    for i, axis in enumerate(AXES):
        entry = moves.get(axis) or Entry(text=f"0 {document.unit}", unit=document.unit)
        try:
            text = trailing(entry.text, entry.unit)
        except ExpressionError:
            continue
        low, high = min(p.reaches[0][i] for p in own), max(p.reaches[1][i] for p in own)
        middle = (low + high) / 2
        others = [p for p in named_places(values, axis) if p.part.partition("@")[0] not in within]
        catches = [PullCatch(middle + p.value - end, p.text) for p in others for end in (low, high)]
        found.append(Pull("centre", axis, middle, pointer("groups", key, "move", axis), text, tuple(catches), whole=False))
    return found


def pulled_entry(document: Document, entry: Entry, at: str, needs: dict[str, list[str]]) -> tuple[tuple[str, Entry] | None, str, int]:
    """The entry that a pull changes: its own, or that of the size that it is and nothing but; with the size's name and how many follow it."""
    try:
        name = trailing(entry.text, entry.unit).size
    except ExpressionError:
        return None, "", 0
    for key, size in document.sizes.items():
        if size.name == name:
            if size.measured:
                return None, "", 0
            return (pointer("sizes", key, "entry"), size.entry), name, len(followers(needs, size_id(key))) - 1
    return (at, entry), "", 0


def _bare(text: Trailing) -> bool:
    """Whether it is a face's name, or that with a constant."""
    return all(c.isalnum() or c in "_." for c in text.base)


def datums_at(document: Document, place: NamedPlace, axis: str) -> set[str]:
    """The datums that a named place hangs on."""
    key = place.part.partition("@")[0]
    face = place.text.partition(".")[2]
    if "." in face or "@" in place.part:  # on all of its part, to be safe
        return set(box_datums(document, key, "", "", every=True))
    return set(box_datums(document, key, *FACE_SIDES.get(face, (axis, ""))))


def _free(document: Document, place: NamedPlace, axis: str, hanging: set[str]) -> bool:
    """Whether a face may be named: it does not hang on what is pulled."""
    return not hanging & datums_at(document, place, axis)
