"""Sheets put together: which views are asked for, and what is made of them once they are seen."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import cast

from zygon.check.problem import Problem
from zygon.making.result.built import Built, FlatPart
from zygon.making.tube.body import MemberBody
from zygon.making.turned.body import TurnedBody
from zygon.paper.hidden import Asked, Seen
from zygon.paper.ink import Paper
from zygon.paper.kinds.common import paper_of, shows_hidden
from zygon.paper.kinds.flat import flat_sheet
from zygon.paper.kinds.lists import list_sheet, nested_sheet
from zygon.paper.kinds.part import part_sheet
from zygon.paper.kinds.template_pages import template_pages
from zygon.paper.kinds.whole import whole_sheet
from zygon.paper.looks import LookName
from zygon.paper.sections import section_asked, with_sections
from zygon.paper.sheet import Plan, set_out
from zygon.paper.solid_views import alone, everything
from zygon.paper.subjects import Subject

__all__ = ["asked_for", "make"]


def asked_for(built: Built, subject: Subject) -> dict[str, Asked]:
    """The views of solids that a sheet shows, its sections among them."""
    views: dict[str, Asked] = {str(name): asked for name, asked in _views_of(built, subject).items()}
    return views | section_asked(built, subject) if subject.kind in ("whole", "part") else views


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


def make(built: Built, subject: Subject, look: Callable[[Asked], Seen], sheet: str = "", problems: Sequence[Problem] = ()) -> list[Paper]:
    """The pages of a sheet; ``look`` gives what is seen, ``sheet`` is its place in the set ('3 of 12'), of ``problems`` those that are kept stand on their part's sheet. Raises ZygonError where a solid cannot be made."""
    seen = {name: look(asked) for name, asked in asked_for(built, subject).items()}
    if subject.kind == "template":
        return template_pages(built, subject, sheet)
    plan = _PLANS[subject.kind](built, subject, cast(Mapping[LookName, Seen], seen), sheet)
    if subject.kind in ("whole", "part"):
        views, lost = with_sections(built, subject, plan.views, seen)
        plan = replace(plan, views=views, faults=(*plan.faults, *lost))
    if subject.row:
        plan = replace(plan, notes=(*plan.notes, *_kept(problems, subject.row.keys)))
    return set_out(plan, paper_of(built, subject))


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
}
