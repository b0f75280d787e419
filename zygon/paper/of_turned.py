"""What of a turned part is to be said: where its steps begin along it, and how thick each is."""

from __future__ import annotations

from dataclasses import replace

from zygon.geometry.arc import arc_from_bulge
from zygon.making.result.built import Built, MadePart
from zygon.making.turned.body import TurnedBody
from zygon.owner import part_id
from zygon.paper.figures import PaperFigures, degrees, times
from zygon.paper.ink import Line
from zygon.paper.view import Callout, Spot, View
from zygon.tolerance import SEEN

__all__ = ["turned_words_on"]

#: Of a profile with more corners than this the steps are drawn, not said: it follows from its drawing.
MOST = 24
#: The centre line stands out so far, as a share of the length.
OUT = 0.04


def turned_words_on(built: Built, part: MadePart, view: View) -> View:
    """The view along a turned part with the places of its steps, its diameters, rounds and tapers. It lies with A to the left."""
    body = part.body
    assert isinstance(body, TurnedBody)
    figures, of = PaperFigures(built.document), part_id(part.of)
    spots = dict(view.spots)
    across: list[str] = []
    callouts: list[Callout] = []
    segments = [s for s in body.profile.segments() if max(s.p[0], s.q[0]) > SEEN]
    few = len(segments) <= MOST
    places: dict[int, tuple[float, float]] = {}
    for s in segments:
        for r, w in (s.p, s.q):
            if r > SEEN:
                places.setdefault(round(w / SEEN), (w, -r))
    for n, (w, low) in enumerate(sorted(places.values())):
        name = f"{of}/step {n}"
        spots[name] = Spot(name, (w, low), "x", f"step {n}", of)
        if few:
            across.append(name)
    thick: dict[float, list[tuple[float, float, float]]] = {}
    rounds: dict[float, list[tuple[float, float, float]]] = {}
    for s in segments:
        middle = ((s.p[1] + s.q[1]) / 2, (s.p[0] + s.q[0]) / 2, 0.0)
        if s.bulge:
            rounds.setdefault(round(arc_from_bulge(s.p, s.q, s.bulge)[2], 3), []).append(middle)
        elif abs(s.p[0] - s.q[0]) < SEEN and abs(s.p[1] - s.q[1]) > SEEN:
            thick.setdefault(round(2 * s.p[0], 4), []).append(middle)
    if few:
        for n, (across_, at) in enumerate(thick.items(), 1):
            callouts.append(Callout(f"{of}/thick {n}", f"⌀ {figures.length(across_)}", tuple(at), "diameter", across_, of))
        for n, (r, at) in enumerate(rounds.items(), 1):
            many = times(len(at))
            callouts.append(Callout(f"{of}/round {n}", f"{many}R {figures.length(r)}", tuple(at), "radius", r, of))
    else:
        widest = max(s.p[0] for s in segments)
        where = next((s.p[1], s.p[0], 0.0) for s in segments if s.p[0] == widest)
        callouts.append(
            Callout(f"{of}/widest", f"⌀ {figures.length(2 * widest)} at its widest, as drawn", (where,), "diameter", 2 * widest, of)
        )
    for n, b in enumerate(body.bores, 1):
        deep = "through" if b.high - b.low >= body.length - SEEN else f"{figures.length(b.high - b.low)} deep"
        shape = "⌀" if b.shape == "round" else b.shape
        callouts.append(
            Callout(
                f"{of}/bore {n}",
                f"{shape} {figures.length(b.across)}, {deep}",
                (((b.low + b.high) / 2, 0.0, 0.0),),
                "diameter",
                b.across,
                of,
            )
        )
    for n, c in enumerate(body.cross, 1):
        walls = "through" if c.both else "one side"
        text = f"⌀ {figures.length(c.across)} across, {walls}, at {degrees(c.around)}"
        callouts.append(Callout(f"{of}/cross {n}", text, ((c.at, 0.0, 0.0),), "diameter", c.across, of))
        name = f"{of}/cross {n}/at"
        spots[name] = Spot(name, (c.at, 0.0), "x", "a hole across", of)
        across.append(name)
    for n, f in enumerate(body.flats, 1):
        many = times(f.number)
        text = f"{many}flat {figures.length(f.off)} from the middle, {figures.length(f.high - f.low)} long"
        callouts.append(Callout(f"{of}/flat {n}", text, (((f.low + f.high) / 2, f.off, 0.0),), "note", f.off, of))
        for end, w in (("begin", f.low), ("end", f.high)):
            name = f"{of}/flat {n}/{end}"
            spots[name] = Spot(name, (w, 0.0), "x", f"{end} of a flat", of)
            across.append(name)
    out = OUT * body.length + 1.0
    axis = Line("centre", (-out, 0.0), (body.length + out, 0.0), of)
    return replace(view, spots=spots, across=tuple(across), callouts=tuple(callouts), strokes=(*view.strokes, axis))
