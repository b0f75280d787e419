"""Sections of a sheet: where each is cut, what is looked at, and the views made of it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from zygon.design.papers import SectionSaid
from zygon.making.result.built import Built, FlatPart
from zygon.paper.hidden import Asked, Seen
from zygon.paper.ink import Box
from zygon.paper.looks import LOOKS, Look
from zygon.paper.of_flat import flat_view, lying_up
from zygon.paper.solid_views import alone, everything, part_spots
from zygon.paper.subjects import Subject, said_of
from zygon.paper.view import CutFace, CutLine, Spot, View
from zygon.stock.kinds import is_sheet

__all__ = ["letters_of", "section_asked", "with_sections"]


def letters_of(built: Built, subject: Subject) -> dict[str, tuple[str, SectionSaid]]:
    """The sections of a sheet by key, each with its letter; I and O are not used (ISO 128-3)."""
    said = sorted(said_of(built, subject).sections.items(), key=lambda ks: (ks[1].order, ks[0]))
    return {key: (letter, one) for letter, (key, one) in zip("ABCDEFGH", said, strict=False)}


def section_asked(built: Built, subject: Subject) -> dict[str, Asked]:
    """What is looked at for each section of a sheet, by its view's name; those that have lost their place are not there."""
    found = {}
    for key, (_, said) in letters_of(built, subject).items():
        at = _place(built, subject, said)
        if at is None:
            continue
        whole = _whole(built, subject)
        look = _look(said)
        sign = 1.0 if said.flipped != (said.way == "y") else -1.0
        turns = _turns(built, subject, said) or ()
        found[f"section/{key}"] = replace(
            whole,
            look=look,
            hidden=False,
            cut=sign * at,
            steps=tuple((after, sign * through) for after, through in turns),
            steps_along="y" if said.way == "x" else "x",
        )
    return found


def _whole(built: Built, subject: Subject) -> Asked:
    if subject.kind == "whole":
        return everything(built, ["front"], hidden=False)["front"]
    return alone(built.made[subject.key], ["front"], hidden=False)["front"]


def _look(said: SectionSaid) -> Look:
    """From where a section is seen: an upright cut from the left of its view, a level one from above; flipped from the other side."""
    from_ = LOOKS[said.view]
    right, up, toward = from_.right, from_.up, from_.toward

    def back(v: tuple[float, float, float]) -> tuple[float, float, float]:
        return -v[0] + 0.0, -v[1] + 0.0, -v[2] + 0.0

    if said.way == "x":
        return Look(back(toward), up) if said.flipped else Look(toward, up)
    return Look(right, toward) if said.flipped else Look(right, back(toward))


def _place(built: Built, subject: Subject, said: SectionSaid) -> float | None:
    """Where a section is cut along its way of the view (mm); None where its place is not there any more."""
    k = "xy".index(said.way)
    if not said.through:
        box = _reach(built, subject, said)
        return (box[k] + box[k + 2]) / 2
    spot = _spots(built, subject, said).get(said.through)
    return None if spot is None else spot.at[k]


def _turns(built: Built, subject: Subject, said: SectionSaid) -> tuple[tuple[float, float], ...] | None:
    """After which place along its line a stepped section goes on through which, from low to high (mm); None where one is not there any more."""
    k = "xy".index(said.way)
    spots = _spots(built, subject, said)
    if any(n not in spots for t in said.turns for n in (t.after, t.through)):
        return None
    return tuple(sorted((spots[t.after].at[1 - k], spots[t.through].at[k]) for t in said.turns))


def _spots(built: Built, subject: Subject, said: SectionSaid) -> Mapping[str, Spot]:
    if subject.kind == "whole":
        return part_spots(built, said.view)
    part = built.made[subject.key]
    if isinstance(part, FlatPart) and not part.flat.fold and said.view == "front":
        return flat_view(built, part, lying_up(part), name="front").spots
    return {}


def _reach(built: Built, subject: Subject, said: SectionSaid) -> Box:
    """The box round what is looked at, in the view."""
    look, xs, ys = LOOKS[said.view], [], []
    for thing in _whole(built, subject).things:
        if thing.kind == "set":
            continue
        low, high = thing.body.reach(thing.rows)
        for x, y in (look.seen(tuple(low)), look.seen(tuple(high))):
            xs.append(x)
            ys.append(y)
    return min(xs), min(ys), max(xs), max(ys)


def with_sections(built: Built, subject: Subject, views: Sequence[View], seen: Mapping[str, Seen]) -> tuple[tuple[View, ...], list[str]]:
    """The views of a sheet with the lines where sections are taken, the sections to their right, and sentences on those that have lost their place."""
    found = {v.name: v for v in views}
    faults: list[str] = []
    column = max((v.column for v in views), default=0)
    sections: list[View] = []
    for key, (letter, said) in letters_of(built, subject).items():
        at, parent, turns = _place(built, subject, said), found.get(said.view), _turns(built, subject, said)
        if turns is None:
            faults.append(f"Section {letter} runs straight: a place where it goes over is not there any more")
        if at is None or parent is None:
            faults.append(f"Section {letter} waits: {said.through or said.view} is not there any more")
            continue
        up = not said.flipped if said.way == "x" else said.flipped
        found[said.view] = replace(parent, cuts=(*parent.cuts, CutLine(letter, said.way, at, up, turns or ())))
        own = seen[f"section/{key}"]
        column += 1
        sections.append(
            View(
                f"section/{key}",
                f"Section {letter}–{letter}",
                own.strokes,
                own.bounds,
                faces=_faces(built, own),
                look=_look(said),
                column=column,
            )
        )
    return (*found.values(), *sections), faults


def _faces(built: Built, seen: Seen) -> tuple[CutFace, ...]:
    keys = list(dict.fromkeys(key for key, _ in seen.faces))
    found = []
    for key, rings in seen.faces:
        part = built.made.get(key)
        stock = built.document.stocks.get(part.record.stock) if part else None
        hatch = stock.hatch if stock is not None and is_sheet(stock) else "metal"
        found.append(CutFace(key, hatch, keys.index(key), rings))
    return tuple(found)
