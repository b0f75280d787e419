"""The sheet of a part: its views with their dimensions, by what kind of part it is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from zygon.exchange.tubes import cut_words, drilled_words
from zygon.making.result.built import Built, FlatPart, MadePart
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.making.turned.body import TurnedBody
from zygon.owner import part_id
from zygon.paper.figures import PaperFigures
from zygon.paper.hidden import Seen
from zygon.paper.kinds.common import FINISHED, block_of, shows_hidden, style_of
from zygon.paper.looks import LookName
from zygon.paper.of_flat import flat_view, lying_up
from zygon.paper.of_folded import legs_on
from zygon.paper.of_member import member_places
from zygon.paper.of_turned import turned_words_on
from zygon.paper.sheet import Plan
from zygon.paper.solid_views import box_view
from zygon.paper.subjects import Subject
from zygon.paper.threads import with_threads
from zygon.paper.view import View

__all__ = ["part_sheet"]


def part_sheet(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    """What stands on it."""
    part, row = built.made[subject.key], subject.row
    assert row is not None
    if isinstance(part, FlatPart) and not part.flat.fold:
        views = _board(built, subject, part, seen)
    elif isinstance(part.body, TurnedBody):
        views = _turned(built, part, seen)
    elif isinstance(part.body, MemberBody):
        views = _member(built, part, seen)
    else:
        views = _others(built, part, seen)
    views = tuple(with_threads(part, v, v.look) for v in views)
    title = subject.title[:1].upper() + subject.title[1:]
    subject = replace(subject, title=title)
    kind = {"board": "Board", "folded": "Folded part", "turned": "Turned part"}.get(part.record.kind, "Bar")
    notes = [FINISHED]
    if row.note:
        notes.append(row.note.replace("_", " "))
    if row.said:
        notes.append(row.said)
    notes += _end_notes(built, part)
    return Plan(
        subject.id, subject.title, block_of(built, subject, kind, sheet, row), views, style_of(built, subject), (), tuple(notes), most=2.0
    )


def _end_notes(built: Built, part: MadePart) -> list[str]:
    if not isinstance(part.body, MemberBody | BentBody):
        return []
    drilled = drilled_words(built, part)
    found = [f"End A: {cut_words(built, part, 'a')}", f"End B: {cut_words(built, part, 'b')}"]
    return [*found, *([f"Holes from end A: {'; '.join(drilled)}"] if drilled else [])]


def _board(built: Built, subject: Subject, part: FlatPart, seen: Mapping[LookName, Seen]) -> tuple[View, ...]:
    angle, figures = built.document.papers.angle, PaperFigures(built.document)
    flat = lying_up(part)
    face = flat_view(built, part, flat, name="front")
    if not shows_hidden(built, subject):
        face = replace(face, strokes=tuple(s for s in face.strokes if s.pen != "hidden"))
    if part.flat.plain:
        thick = f"{face.label}; {figures.length(flat.thickness)} {figures.unit} thick"
        return (replace(face, label=thick),)
    views = [face]
    sides: tuple[tuple[LookName, str], ...] = (("left", "x"), ("top", ""))
    for name, sizes in sides:
        views.append(box_view(name, seen[name], angle, of=part_id(part.of), sizes=sizes, label=""))
    return tuple(views)


def _turned(built: Built, part: MadePart, seen: Mapping[LookName, Seen]) -> tuple[View, ...]:
    angle = built.document.papers.angle
    front = box_view("front", seen["front"], angle, of=part_id(part.of), sizes="x", label="")
    end = box_view("left", seen["left"], angle, of=part_id(part.of), sizes="", label="")
    return turned_words_on(built, part, front), end


def _member(built: Built, part: MadePart, seen: Mapping[LookName, Seen]) -> tuple[View, ...]:
    angle = built.document.papers.angle
    front = box_view("front", seen["front"], angle, of=part_id(part.of), label="")
    end = box_view("left", seen["left"], angle, of=part_id(part.of), sizes="x", label="")
    top = box_view("top", seen["top"], angle, of=part_id(part.of), sizes="", label="")
    return member_places(built, part, front), end, top


def _others(built: Built, part: MadePart, seen: Mapping[LookName, Seen]) -> tuple[View, ...]:
    angle = built.document.papers.angle
    found: list[View] = []
    looks: tuple[tuple[LookName, str], ...] = (("front", "xy"), ("left", "x"), ("top", ""))
    for name, sizes in looks:
        found.append(box_view(name, seen[name], angle, of=part_id(part.of), sizes=sizes))
    if isinstance(part, FlatPart) and part.flat.fold:
        found = legs_on(part, found)
    corner = box_view("corner", seen["corner"], angle, sizes="", label="")
    return (*found, replace(corner, column=found[1].column, row=found[2].row))
