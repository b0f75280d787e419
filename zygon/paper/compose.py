"""Sheets put together: which views are asked for, and what is made of them once they are seen."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from types import MappingProxyType
from typing import cast

from zygon.check.problem import Problem
from zygon.making.result.built import Built, FlatPart
from zygon.making.tube.body import MemberBody
from zygon.making.turned.body import TurnedBody
from zygon.paper.arranged import arranged
from zygon.paper.breaks import broken
from zygon.paper.details import with_details
from zygon.paper.hidden import Asked, Seen
from zygon.paper.ink import Paper
from zygon.paper.kept_pictures import Pictures, readable, with_pictures
from zygon.paper.kinds.common import paper_of, shows_hidden
from zygon.paper.kinds.cover import cover_page
from zygon.paper.kinds.flat import flat_sheet
from zygon.paper.kinds.lists import list_sheet, nested_sheet
from zygon.paper.kinds.own import own_sheet
from zygon.paper.kinds.part import part_sheet
from zygon.paper.kinds.steps import steps_asked, steps_sheet
from zygon.paper.kinds.template_pages import template_pages
from zygon.paper.kinds.whole import whole_sheet
from zygon.paper.looks import LookName
from zygon.paper.own_views import asked_by_hand, with_own_views
from zygon.paper.sections import section_asked, with_sections
from zygon.paper.sheet import Plan, set_out
from zygon.paper.solid_views import alone, everything
from zygon.paper.subjects import Subject, said_of
from zygon.paper.view import View

__all__ = ["asked_for", "make"]

#: Kinds of sheets on which sections are taken, and on which views and details are put.
SECTIONED = ("whole", "part")
FREE = ("whole", "part", "flat", "own", "steps", "sheet")


def asked_for(built: Built, subject: Subject) -> dict[str, Asked]:
    """The views of solids that a sheet shows, its sections and those put on it by hand among them."""
    views: dict[str, Asked] = {str(name): asked for name, asked in _views_of(built, subject).items()}
    if subject.kind in SECTIONED:
        views |= section_asked(built, subject)
    if subject.kind == "steps":
        views |= steps_asked(built, subject)
    return views | asked_by_hand(built, subject) if subject.kind in FREE else views


def _views_of(built: Built, subject: Subject) -> dict[LookName, Asked]:
    hidden = shows_hidden(built, subject)
    if subject.kind == "whole":
        return everything(built, ("front", "left", "top", "corner"), hidden=False)
    if subject.kind != "part":
        return {}
    part = built.made[subject.key]
    if isinstance(part, FlatPart) and not part.flat.fold:
        return {} if part.flat.plain else alone(part, ("left", "top"), hidden=hidden)
    if isinstance(part.body, TurnedBody):
        return alone(part, ("front", "left"), hidden=hidden)
    if isinstance(part.body, MemberBody):
        return alone(part, ("front", "left", "top"), hidden=hidden)
    return alone(part, ("front", "left", "top", "corner"), hidden=hidden)


def make(
    built: Built,
    subject: Subject,
    look: Callable[[Asked], Seen],
    sheet: str = "",
    problems: Sequence[Problem] = (),
    pictures: Pictures = MappingProxyType({}),
) -> list[Paper]:
    """The pages of a sheet. Raises ZygonError where a solid cannot be made.

    ``look`` gives what is seen, ``sheet`` is its place in the set ('3 of 12'); of ``problems`` those that are kept stand on their part's sheet, ``pictures`` are those
    kept with the design.
    """
    drawable = readable(pictures)
    return with_pictures(_pages(built, subject, look, sheet, problems, drawable), built.document.papers, drawable)


def _pages(
    built: Built, subject: Subject, look: Callable[[Asked], Seen], sheet: str, problems: Sequence[Problem], pictures: Pictures
) -> list[Paper]:
    if subject.kind == "template":
        return template_pages(built, subject, sheet)
    if subject.kind == "cover":
        return cover_page(built, subject, sheet, pictures)
    seen = {name: look(asked) for name, asked in asked_for(built, subject).items()}
    plan = _PLANS[subject.kind](built, subject, cast(Mapping[LookName, Seen], seen), sheet)
    views, faults = _without(built, subject, plan.views), [*plan.faults]
    if subject.kind in SECTIONED:
        views, lost = with_sections(built, subject, views, seen)
        faults += lost
    if subject.kind in FREE:
        views, lost = with_own_views(built, subject, views, seen)
        faults += lost
        views, lost = with_details(said_of(built, subject), views)
        faults += lost
        views = arranged(views, built.document.papers.angle)
    said = said_of(built, subject)
    if built.document.papers.broken if said.broken is None else said.broken:
        views = broken(views)
    plan = replace(plan, views=views, faults=tuple(faults))
    if subject.row:
        plan = replace(plan, notes=(*plan.notes, *_kept(problems, subject.row.keys)))
    return set_out(plan, paper_of(built, subject))


def _without(built: Built, subject: Subject, views: Sequence[View]) -> tuple[View, ...]:
    """The sheet's own views without those that are left out."""
    gone = said_of(built, subject).without
    return tuple(v for v in views if v.name not in gone)


def _kept(problems: Sequence[Problem], keys: Sequence[str]) -> list[str]:
    """Problems of these parts that are knowingly kept, with who kept them and why."""
    found = [p for p in problems if p.kept and (p.fault.part in keys or p.fault.other in keys)]
    return [f"Kept: {p.fault.message}. {p.kept.by}: {p.kept.reason}" for p in found if p.kept]


_PLANS: dict[str, Callable[[Built, Subject, Mapping[LookName, Seen], str], Plan]] = {
    "whole": whole_sheet,
    "part": part_sheet,
    "flat": flat_sheet,
    "list": list_sheet,
    "sheet": nested_sheet,
    "own": own_sheet,
    "steps": steps_sheet,
}
