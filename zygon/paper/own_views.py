"""Views that a maker put on a sheet: what is looked at for each, and the views made of what is seen."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from zygon.design.papers import LOOK_WORDS, ViewSaid
from zygon.exchange.cutlist import CutRow, cut_list
from zygon.making.assembly.plan import Assembly, assembly
from zygon.making.result.built import Built, MadePart
from zygon.owner import is_of, part_id, read_owner
from zygon.paper.hidden import Asked, Seen
from zygon.paper.looks import LOOKS, is_corner
from zygon.paper.scales import said_scale, scale_words
from zygon.paper.solid_views import alone, box_view, middle_of_longest, part_spots
from zygon.paper.subjects import Subject, said_of
from zygon.paper.things import arriving, in_group, pulled_apart, things_of
from zygon.paper.threads import with_threads
from zygon.paper.view import Ring, View

__all__ = ["asked_by_hand", "balloons_in", "with_own_views"]


def _in_order(built: Built, subject: Subject) -> list[tuple[str, ViewSaid]]:
    return sorted(said_of(built, subject).views.items(), key=lambda kv: (kv[1].order, kv[0]))


def asked_by_hand(built: Built, subject: Subject) -> dict[str, Asked]:
    """What is looked at for each view put on a sheet, by its name; those of what is not there any more are left out."""
    found = {}
    plan: Assembly | None = None
    for key, said in _in_order(built, subject):
        if said.step and plan is None:
            plan = assembly(built)
        asked = _asked(built, subject, said, plan)
        if asked is not None:
            found[f"view/{key}"] = asked
    return found


def _asked(built: Built, subject: Subject, said: ViewSaid, plan: Assembly | None) -> Asked | None:
    of = _subject_of(subject, said)
    hidden = said.hidden and not is_corner(said.look)
    if is_of(of, "part"):
        part = _alone(built, subject, said)
        return alone(part, [said.look], hidden=hidden)[said.look] if part else None
    keys = in_group(built, of.partition(":")[2]) if of else None
    if said.step and plan is not None:
        there, coming = arriving(plan, said.step)
        keys = there if keys is None else keys & there
        things = things_of(built, keys, coming)
    else:
        things = things_of(built, keys, pulled_apart(built, keys, said.apart))
    return Asked(things, LOOKS[said.look], hidden) if things else None


def _subject_of(subject: Subject, said: ViewSaid) -> str:
    """What a view shows: what is said, else the part that its sheet is of; '' for the whole."""
    return said.of or (part_id(subject.key) if subject.kind in ("part", "flat", "template") else "")


def _alone(built: Built, subject: Subject, said: ViewSaid) -> MadePart | None:
    """The part of a view that shows one by itself, where it is still there."""
    of = _subject_of(subject, said)
    part = built.made.get(read_owner(of).key) if is_of(of, "part") else None
    return None if part is None or part.body.empty else part


def with_own_views(built: Built, subject: Subject, views: Sequence[View], seen: Mapping[str, Seen]) -> tuple[tuple[View, ...], list[str]]:
    """The views of a sheet and those put on it by hand, and sentences on those that have nothing to show."""
    own: list[View] = []
    faults: list[str] = []
    rows = cut_list(built) if any(v.balloons for _, v in _in_order(built, subject)) else []
    for n, (key, said) in enumerate(_in_order(built, subject), 1):
        name = f"view/{key}"
        if name not in seen:
            faults.append(f"View {n} waits: what it shows is not there any more")
            continue
        scale, wrong = said_scale(said.scale)
        if wrong:
            faults.append(f"View {n}: {wrong}")
        made = _view(built, name, said, seen[name], rows, scale)
        part = _alone(built, subject, said)
        own.append(with_threads(part, made, None if is_corner(said.look) else LOOKS[said.look]) if part else made)
    return (*views, *own), faults


def _view(built: Built, name: str, said: ViewSaid, seen: Seen, rows: Sequence[CutRow], scale: float | None) -> View:
    words = said.called or _words(built, said)
    label = f"{words} ({scale_words(scale)})" if scale else words
    straight = not is_corner(said.look)
    whole = not said.of and not said.apart and not said.step
    spots = part_spots(built, said.look) if whole else {}
    made = box_view(said.look, seen, "first", label=label, sizes="xy" if straight else "", spots=spots)
    look = LOOKS[said.look] if straight and whole else None
    return replace(made, name=name, scale=scale, rings=balloons_in(built, seen, rows) if said.balloons else (), look=look)


def _words(built: Built, said: ViewSaid) -> str:
    """What a view is called by itself."""
    kind, _, key = said.of.partition(":")
    of = ""
    if kind == "part" and key in built.parts:
        of = built.parts[key].path
    elif kind == "group" and key in built.document.groups:
        of = built.document.groups[key].name
    more = f"step {said.step}" if said.step else "pulled apart" if said.apart else ""
    found = ", ".join(t for t in (of.replace("_", " "), more, LOOK_WORDS[said.look].lower()) if t)
    return found[:1].upper() + found[1:]


def balloons_in(built: Built, seen: Seen, rows: Sequence[CutRow]) -> tuple[Ring, ...]:
    """The numbers of the cut list, each once at a part that is seen."""
    rings = []
    for row in rows:
        of = next(((k, places) for k in row.keys if (places := middle_of_longest(seen, k))), None)
        if of:
            rings.append(Ring(f"balloon/{row.key}", str(row.number), tuple(of[1]), part_id(built.parts[row.key].of)))
    return tuple(rings)
