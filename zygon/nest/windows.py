"""A full sheet filled further from the last one: first its gaps and the holes of its parts, then windows of some forty of its parts that make room for one more, or
for a larger one, while the rest stays still.

A sheet of a hundred parts is too much to move at once, and an overlap is settled by its neighbours: large neighbourhoods searched one by one, as in
Shaw's large neighbourhood search ("Using constraint programming and local search methods to solve vehicle routing problems", 1998; from memory).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import Polygon, box

from zygon.nest.field import Field
from zygon.nest.strip import separated
from zygon.nest.task import Placement
from zygon.tolerance import EPS

__all__ = ["Filling", "Place"]

#: Parts that move in a window, about, and how many windows are looked at for the one with most room.
PARTS, LOOKED = 40, 6
#: Of the kinds that a window may take the largest so many are drawn from.
AMONG = 4
#: The share of a window's room that what is added may have: at first, at least and at most; it grows where parts go in and shrinks where they do not.
SHARE, SHARE_LEAST, SHARE_MOST, LARGER, SMALLER = 0.25, 0.05, 1.0, 1.3, 0.85
#: Share of attempts that exchange a part for a larger one.
EXCHANGES = 0.2
#: Passes without less loss that end an attempt, and attempts.
PATIENCE, STRIKES = 20, 2
#: Attempts without anything put that end a sheet's turn, and what one counts for where there was nothing to try.
VAIN, IDLE = 8, 0.2
#: Gaps that a kind of part is tried in, the largest ones, and passes of such a try.
GAPS, TRIES = 24, 4


@dataclass
class Place:
    """A sheet and what lies on it: ``bounds`` (low x, low y, high x, high y) for whatever moves, and what makes a field of placements there.

    ``field(placements, fixed, seed)`` has the placements in their order, then whatever never moves; ``outline`` is what a part takes there.
    """

    bounds: np.ndarray
    own: list[Placement]
    field: Callable[[Sequence[Placement], Sequence[bool], int], Field]
    outline: Callable[[Placement], Polygon]

    def boxes(self) -> np.ndarray:
        """Boxes (n, 4) of what lies there."""
        return self.field(self.own, [True] * len(self.own), 0).box[: len(self.own)].copy()


class Filling:
    """``full`` is filled with what ``giver`` has: of its placements those that are ``offered``, as (shape, copy). Both change.

    ``area`` is what a part takes (mm²); ``still`` are the (shape, copy) that do not move.
    """

    def __init__(
        self,
        full: Place,
        giver: Place,
        offered: Sequence[tuple[int, int]],
        area: Callable[[Placement], float],
        still: frozenset[tuple[int, int]],
        seed: int,
    ) -> None:
        self.full, self.giver, self.area, self.still, self.seed = full, giver, area, still, seed
        self.offered = set(offered)
        self.random = np.random.default_rng(seed)
        self.tries, self.share = 0.0, SHARE
        self.box = full.boxes()
        self.areas = np.array([area(p) for p in full.own])
        low, high = full.bounds[:2], full.bounds[2:]
        side = np.sqrt(min(1.0, PARTS / max(len(full.own), 1)) * np.prod(high - low))
        self.size = np.minimum(np.array([side, side]), high - low)
        self.size = np.minimum(side**2 / self.size[::-1], high - low)

    def work(self, on: Callable[[float], bool]) -> bool:
        """Fills until nothing goes in any more, or ``on(tries)`` says no; whether anything went in."""
        any_, vain = self._gaps(on), 0.0
        while self.offered and vain < VAIN and on(self.tries):
            done = self._attempt(on)
            any_, vain = any_ or bool(done), 0.0 if done else vain + (IDLE if done is None else 1.0)
            # what went in, or found nothing that small, is followed by something larger
            self.share = max(self.share * SMALLER, SHARE_LEAST) if done is False else min(self.share * LARGER, SHARE_MOST)
        return any_

    def _attempt(self, on: Callable[[float], bool]) -> bool | None:
        """Whether something went in; None where there was nothing to try."""
        window, inside, room = self._window()
        most = max(room, 0.0) * self.share
        movable = [k for k in inside if (self.full.own[k].shape, self.full.own[k].copy) not in self.still]
        taken, given = self._drawn(0.0, most), None
        if movable and (taken is None or self.random.random() < EXCHANGES):
            given = int(self.random.choice(movable))
            taken = self._drawn(self.areas[given], self.areas[given] + most)
        if taken is None:
            return None
        back = self._back(taken, self.full.own[given], on) if given is not None else None
        if given is not None and back is None:
            return None
        return self._put(window, inside, given, taken, back, on)

    def _gaps(self, on: Callable[[float], bool]) -> bool:
        """Parts put into gaps and holes where nothing has to move, large ones first; whether any were."""
        free, any_ = shapely.difference(box(*self.full.bounds), shapely.union_all([self.full.outline(p) for p in self.full.own])), False
        kinds = {p.shape: p for p in self.giver.own if (p.shape, p.copy) in self.offered}
        for kind in sorted(kinds.values(), key=lambda p: (-self.area(p), p.shape)):
            radius = shapely.maximum_inscribed_circle(self.full.outline(kind)).length
            # the middle of its largest circle lies in what is left of the gaps, taken in by that
            left = [g for g in shapely.get_parts(free.buffer(-radius * (1 - EPS))) if not g.is_empty]
            for gap in sorted(left, key=lambda g: -g.area)[:GAPS]:
                taken = next((p for p in self.giver.own if p.shape == kind.shape and (p.shape, p.copy) in self.offered), None)
                if taken is None or not on(self.tries):
                    break
                if self._laid(taken, np.array(gap.representative_point().coords[0]), radius, on):
                    free, any_ = shapely.difference(free, self.full.outline(self.full.own[-1])), True
        return any_

    def _laid(self, taken: Placement, middle: np.ndarray, radius: float, on: Callable[[float], bool]) -> bool:
        """Whether a part lies at a gap now, with nothing else moved."""
        across = np.ptp(np.asarray(self.full.outline(taken).exterior.coords), axis=0).max()
        window = np.array([*np.maximum(middle - across, self.full.bounds[:2]), *np.minimum(middle + across, self.full.bounds[2:])])
        near = ((self.box[:, :2] < window[2:]) & (self.box[:, 2:] > window[:2])).all(axis=1)
        self.seed += 1
        field = self.full.field(
            [taken, *(self.full.own[k] for k in np.flatnonzero(near).tolist())], [False, *([True] * int(near.sum()))], self.seed
        )
        if not field.fits(window):
            return False
        field.pose[0, :2] += middle - field.poles[0, :2, 0]
        field.lay()
        field.within(window)
        done = separated(field, window, lambda: on(self.tries + field.tries), patience=TRIES, strikes=1)
        self.tries += field.tries
        if done:
            self._added(taken, field)
        return done

    def _added(self, taken: Placement, field: Field) -> None:
        """The first of a field's items comes from the giver to the sheet."""
        self.giver.own.remove(taken)
        self.offered.discard((taken.shape, taken.copy))
        self.full.own.append(_at(taken, field, 0))
        self.box = np.vstack((self.box, field.box[0]))
        self.areas = np.append(self.areas, self.area(taken))

    def _window(self) -> tuple[np.ndarray, list[int], float]:
        """The one with most room of some windows drawn by lot, the parts whose middles lie in it, and how much of it is empty (mm²)."""
        low, high = self.full.bounds[:2], self.full.bounds[2:]
        middles = (self.box[:, :2] + self.box[:, 2:]) / 2
        best: tuple[np.ndarray, list[int], float] | None = None
        for _ in range(LOOKED):
            corner = low + self.random.random(2) * (high - low - self.size)
            inside = np.flatnonzero(((middles >= corner) & (middles <= corner + self.size)).all(axis=1)).tolist()
            window = np.array([*corner, *(corner + self.size)])
            if inside:  # parts that stand over its edge come whole
                window[:2] = np.minimum(window[:2], self.box[inside, :2].min(axis=0))
                window[2:] = np.maximum(window[2:], self.box[inside, 2:].max(axis=0))
            window[:2], window[2:] = np.maximum(window[:2], low), np.minimum(window[2:], high)
            room = float(np.prod(self.size) - self.areas[inside].sum())
            if best is None or room > best[2]:
                best = window, inside, room
        assert best is not None
        return best

    def _drawn(self, least: float, most: float) -> Placement | None:
        """One of the largest that are offered with an area between."""
        kinds: dict[int, Placement] = {}
        for p in self.giver.own:
            if (p.shape, p.copy) in self.offered and least + EPS < self.area(p) <= most:
                kinds.setdefault(p.shape, p)
        largest = sorted(kinds.values(), key=lambda p: (-self.area(p), p.shape))[:AMONG]
        return largest[int(self.random.integers(len(largest)))] if largest else None

    def _back(self, taken: Placement, given: Placement, on: Callable[[float], bool]) -> Placement | None:
        """Where the part that is given away can lie on the giver once the other is gone, as far as that is used."""
        rest = [p for p in self.giver.own if p is not taken]
        self.seed += 1
        field = self.giver.field([given, taken, *rest], [False, *(True for _ in range(len(rest) + 1))], self.seed)
        bounds = self.giver.bounds.copy()
        bounds[2] = float(field.box[1 : len(rest) + 2, 2].max())
        if not field.fits(bounds):
            return None
        middle = (field.box[1, :2] + field.box[1, 2:]) / 2
        near = ((field.box[2 : len(rest) + 2, :2] < middle + self.size) & (field.box[2 : len(rest) + 2, 2:] > middle - self.size)).all(
            axis=1
        )
        held = [rest[k] for k in np.flatnonzero(near).tolist()]
        around = np.array([*np.maximum(bounds[:2], middle - self.size), *np.minimum(bounds[2:], middle + self.size)])
        field = self.giver.field([given, *held], [False, *(True for _ in held)], self.seed)
        if not field.fits(around):
            return None
        field.pose[0, :2] += middle - (field.box[0, :2] + field.box[0, 2:]) / 2
        field.lay()
        field.within(around)
        done = separated(field, around, lambda: on(self.tries + field.tries), patience=4, strikes=1)
        self.tries += field.tries
        return _at(given, field, 0) if done else None

    def _put(
        self,
        window: np.ndarray,
        inside: list[int],
        given: int | None,
        taken: Placement,
        back: Placement | None,
        on: Callable[[float], bool],
    ) -> bool:
        """Whether ``taken`` found a place in the window, instead of the part that is given away."""
        own = self.full.own
        moving = [k for k in inside if k != given]
        near = ((self.box[:, :2] < window[2:]) & (self.box[:, 2:] > window[:2])).all(axis=1)
        held = [k for k in np.flatnonzero(near).tolist() if k not in inside]
        items = [taken, *(own[k] for k in moving), *(own[k] for k in held)]
        fixed = [False, *((own[k].shape, own[k].copy) in self.still for k in moving), *(True for _ in held)]
        self.seed += 1
        field = self.full.field(items, fixed, self.seed)
        if not field.fits(window):
            return False
        middle = (self.box[given, :2] + self.box[given, 2:]) / 2 if given is not None else (window[:2] + window[2:]) / 2
        field.pose[0, :2] += middle - (field.box[0, :2] + field.box[0, 2:]) / 2
        field.lay()
        field.within(window)
        done = separated(field, window, lambda: on(self.tries + field.tries), patience=PATIENCE, strikes=STRIKES)
        self.tries += field.tries
        if not done:
            return False
        for n, k in enumerate(moving, 1):
            own[k], self.box[k] = _at(own[k], field, n), field.box[n]
        if given is None or back is None:
            self._added(taken, field)
            return True
        self.giver.own.remove(taken)
        self.offered.discard((taken.shape, taken.copy))
        self.offered.add((back.shape, back.copy))
        self.giver.own.append(back)
        own[given], self.box[given], self.areas[given] = _at(taken, field, 0), field.box[0], self.area(taken)
        return True


def _at(part: Placement, field: Field, n: int) -> Placement:
    x, y, angle, mirrored = field.pose[n].tolist()
    return Placement(part.shape, part.copy, x, y, angle, mirrored > 0.5)
