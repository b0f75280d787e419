"""Details of a sheet: what lies in a circle round a named place of a view, drawn larger beside it (ISO 128-3)."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace

from zygon.design.papers import DetailSaid, SheetSaid
from zygon.paper.clipped import faces_within, within_circle
from zygon.paper.ink import Arc, Ink, Point, Words
from zygon.paper.scales import SCALES, said_scale, scale_words
from zygon.paper.view import Loupe, Spot, View

__all__ = ["detail_letters", "loupe_ink", "with_details"]

#: Details are lettered from the end of the alphabet, sections from its beginning; I, O and Q are left out (ISO 128-3).
LETTERS = "ZYXWVUTS"
#: Where its own scale is not said a detail is drawn about so wide, mm of paper.
WIDE = 60.0


def detail_letters(said: SheetSaid) -> dict[str, tuple[str, DetailSaid]]:
    """The details of a sheet by key, each with its letter."""
    own = sorted(said.details.items(), key=lambda kd: (kd[1].order, kd[0]))
    return {key: (letter, one) for letter, (key, one) in zip(LETTERS, own, strict=False)}


def with_details(said: SheetSaid, views: Sequence[View]) -> tuple[tuple[View, ...], list[str]]:
    """The views with circles round what is drawn larger, the details behind them, and sentences on those that have lost their place."""
    found = {v.name: v for v in views}
    details: list[View] = []
    faults: list[str] = []
    for key, (letter, one) in detail_letters(said).items():
        parent = found.get(one.view)
        spot = parent.spots.get(one.at) if parent else None
        if parent is None or spot is None:
            faults.append(f"Detail {letter} waits: {one.at if parent else one.view} is not there any more")
            continue
        loupe = Loupe(letter, spot.at, one.across / 2)
        found[one.view] = replace(parent, loupes=(*parent.loupes, loupe))
        scale, wrong = _scale(one)
        if wrong:
            faults.append(f"Detail {letter}: {wrong}")
        details.append(_detail(f"detail/{key}", letter, parent, loupe, scale))
    return (*found.values(), *details), faults


def _scale(one: DetailSaid) -> tuple[float, str]:
    """At which scale it is drawn, and what is wrong with the one that is said."""
    said, wrong = said_scale(one.scale)
    return said or next((s for s in SCALES if s * one.across <= WIDE), SCALES[-1]), wrong


def _detail(name: str, letter: str, parent: View, loupe: Loupe, scale: float) -> View:
    """The view of what lies in the circle, with the places that lie there; places along a line alone are those of points."""
    (x, y), r = loupe.centre, loupe.radius
    strokes = within_circle(parent.strokes, loupe.centre, r)
    rim = Arc("thin", loupe.centre, r, 0.0, 2 * math.pi)
    spots: dict[str, Spot] = {n: s for n, s in parent.spots.items() if math.dist(s.at, loupe.centre) <= r and not n.startswith("box/")}
    return View(
        name,
        f"Detail {letter} ({scale_words(scale)})",
        (*strokes, rim),
        (x - r, y - r, x + r, y + r),
        spots,
        faces=faces_within(parent.faces, loupe.centre, r),
        scale=scale,
    )


def loupe_ink(view: View, height: float, scale: float, to: Callable[[Point], Point]) -> list[Ink]:
    """The circles on a view with their letters."""
    ink: list[Ink] = []
    for one in view.loupes:
        x, y = to(one.centre)
        r = one.radius * scale
        tall = height * 1.2
        ink.append(Arc("thin", (x, y), r, 0.0, 2 * math.pi))
        ink.append(Words(one.letter, (x + r * math.sqrt(0.5) + 1.2, y + r * math.sqrt(0.5) + 0.6), tall, bold=True))
    return ink
