"""The half-profile of a turned part from its steps, and what is taken out of it, as its entries say."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from zygon.design.parts.kinds import is_turned
from zygon.design.parts.turned import TurnedStep
from zygon.design.pointer import pointer
from zygon.geometry.contour import Contour
from zygon.geometry.frame import AXES
from zygon.geometry.motion import Motion
from zygon.making.datums.drawings import drawn_on, says_how_far, solved_again
from zygon.making.datums.on_plane import plane_of
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.result.fault import Fault, Mend
from zygon.making.turned.body import FINE, Along, Cross, Flats, Teeth, TurnedBody
from zygon.making.turned.drawn import NotTurned, half_profile, plane_in_room
from zygon.measure.display import exact_length, format_length
from zygon.measure.quantity import Kind
from zygon.owner import edge_id
from zygon.tolerance import CONTACT, SEEN, WITHIN

__all__ = ["profile_of_steps", "turned_bodies"]

#: A quarter round seen from inside the material, as a bulge.
QUARTER = math.tan(math.pi / 8)
#: No turned wall is thinner (mm).
LEAST = 0.1


@dataclass(frozen=True)
class _Step:
    key: str
    low: float
    high: float
    first: float
    last: float
    chamfer: float
    round: float


def turned_bodies(values: Values) -> dict[str, tuple[TurnedBody, Motion]]:
    """Every turned part that has a place and a profile, with the motion that takes it to its rest; what cannot be turned is a fault."""
    found = {}
    for key, record in values.boards.items():
        box = values.box(key) if is_turned(record) else None
        if not is_turned(record) or box is None:
            continue
        low, high = box.span(record.axis)
        body = _Turned(values, key, high - low).body()
        if body is None:
            continue
        k = AXES.index(record.axis)
        place = [(box.low[i] + box.high[i]) / 2 for i in range(3)]
        place[k] = low
        u = (k + 1) % 3
        turns = [(1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)]
        a, b, c = ((*turns[(i - u) % 3], place[i]) for i in range(3))
        found[key] = body, Motion((a, b, c))
    return found


def profile_of_steps(values: Values, key: str, length: float) -> Contour | None:
    """The half-profile of a part's steps in (r, w), closed along the axis and counter-clockwise; None where they cannot be turned."""
    known = len(values.faults)
    turned = _Turned(values, key, length)
    body = turned.body()
    del values.faults[known:]
    return body.profile if body else None


class _Turned:
    """One part at work: its entries are read, what is wrong is said at them."""

    def __init__(self, values: Values, key: str, length: float) -> None:
        record = values.boards[key]
        assert is_turned(record)
        self.values, self.key, self.name, self.length = values, key, record.name, length
        self.said, self.said_bores, self.said_flats, self.said_cross = record.steps, record.bores, record.flats, record.cross
        self.said_riveted = record.riveted
        self.scope = EntryScope(values, stock=record.stock)
        self.most = values.thickness_of(key) / 2
        self.steps: list[_Step] = []
        self.drawing = record.drawing
        self.fine = True

    def read(self, of: object, where: str, field: str, kind: Kind = "length") -> float:
        """A field's value; 0 where nothing is said."""
        entry = getattr(of, field)
        return 0.0 if entry is None else self.values.read(entry, f"{where}/{field}", kind, self.scope, part=self.key)

    def wrong(self, where: str, said: str, rule: str, value: float) -> None:
        """Says what cannot be, unless a last good value stands there already."""
        self.fine = False
        kept = self.values.values.get(where)
        if kept is None or not kept.stale:
            self.values.fault_entry(where, "bad_profile", f"{self.name}: {said}", rule, format_length(round(value, 3)), self.key)

    def body(self) -> TurnedBody | None:
        """The part; None where its profile cannot be."""
        drawn = self._drawn() if self.drawing is not None else None
        self.steps = self._steps_of(drawn) if drawn else [] if self.drawing is not None else self._steps()
        if not self.fine:
            return None
        profile, teeth = drawn or self._profile(), () if drawn else self._teeth()
        bores, flats, cross = self._bores(), self._flats(), self._cross()
        steps = tuple((s.first, None if s.first == s.last else s.last, s.low, s.high) for s in self.steps)
        riveted = self._riveted()
        return TurnedBody(profile, bores, flats, cross, teeth, steps, riveted, drawn=drawn is not None) if self.fine else None

    def _drawn(self) -> Contour | None:
        """The half-profile that is drawn, in (r, w); what is wrong with it is said."""
        assert self.drawing is not None
        v, where = self.values, pointer("parts", self.key, "drawing")
        found = v.drawings.get(self.key)
        if found is None or solved_again(v, self.key):
            found = drawn_on(v, plane_in_room(v, self.key), self.drawing, where, "outline", holes=lambda _: None)
        try:
            profile = half_profile(found.loops, along=plane_of(v, self.key).zeros.index("its end A"))
        except NotTurned as error:
            self.fine = False
            self._tell(error, where)
            return None
        try:
            self._fits(profile)
        except NotTurned as error:  # it stands as it is drawn
            self._tell(error, where)
        return profile

    def _tell(self, error: NotTurned, where: str) -> None:
        entry = where + (pointer("curves", error.curve) if error.curve else "")
        fault = Fault("bad_profile", f"{self.name}: {error.message}", error.rule, part=self.key, owner="outline", entry=entry)
        self.values.faults.append(replace(fault, mends=self._mends(error)))

    def _fits(self, profile: Contour) -> None:
        """Says where a half-profile does not reach from end to end, or is wider than what it is turned from. Raises NotTurned."""
        display, (_, low, widest, high) = self.values.document.display, profile.bounds
        if abs(low) > SEEN or abs(high - self.length) > SEEN:
            long = format_length(self.length, display)
            where = f"reaches from {format_length(low, display)} to {format_length(high, display)} along its axis"
            raise NotTurned(
                f"its profile {where}, and it is {long} long",
                "a profile that reaches from end A to end B",
                long=high if abs(low) <= SEEN else 0.0,
            )
        if widest > self.most + SEEN:
            rule = f"at most the {format_length(2 * self.most, display)} that it is turned from"
            raise NotTurned(f"its profile is {format_length(2 * widest, display)} across", rule)

    def _mends(self, error: NotTurned) -> tuple[Mend, ...]:
        record = self.values.boards[self.key]
        assert is_turned(record)
        if not error.long or says_how_far(record, record.axis):
            return ()
        low, at = record.span.low, pointer("parts", self.key, "span", "high")
        shown = format_length(error.long, self.values.document.display)
        to = {"text": f"({low.text}) + {exact_length(error.long, low.unit)}", "unit": low.unit}
        follow = {"text": f"({low.text}) + drawn", "unit": low.unit}
        return (
            Mend(f"Make it {shown} long", [{"op": "replace", "path": at, "value": to}]),
            Mend("Let it be as long as is drawn", [{"op": "replace", "path": at, "value": follow}]),
        )

    @staticmethod
    def _steps_of(profile: Contour) -> list[_Step]:
        """What a drawn half-profile comes to as lengths of one diameter and tapers; what is rounded as many short tapers."""
        ring = profile.flatten(FINE).tolist()
        found = []
        for (r, w), (to, high) in zip(ring, [*ring[1:], ring[0]], strict=True):
            if high - w > WITHIN and max(r, to) > WITHIN:  # outside it runs from A to B
                found.append(_Step("", w, high, r, to, 0.0, 0.0))
        return sorted(found, key=lambda s: (s.low, -s.first))

    def _riveted(self) -> tuple[tuple[str, float], ...]:
        """What is riveted over, of the step at that end."""
        found = []
        for end, entry in sorted(self.said_riveted.items()):
            where = pointer("parts", self.key, "riveted", end)
            over = self.values.read(entry, where, "length", self.scope, part=self.key)
            step = self.steps[0 if end == "a" else -1]
            if not CONTACT < over <= step.high - step.low + CONTACT:
                shown = format_length(round(step.high - step.low, 3))
                said = f"{format_length(round(over, 3))} of its end {end.upper()} would be riveted over"
                self.wrong(where, said, f"more than 0, and at most the step there, {shown}", over)
                continue
            found.append((end, over))
        return tuple(found)

    def _steps(self) -> list[_Step]:
        said = sorted(self.said.items(), key=lambda ks: (ks[1].order, ks[0]))
        at = {k: pointer("parts", self.key, "steps", k) for k, _ in said}
        lengths = {k: self.read(s, at[k], "length") for k, s in said if s.length is not None}
        left = self.length - sum(lengths.values())
        open_ = next((k for k, s in said if s.length is None), None)
        if open_ is not None and left <= CONTACT:
            self.wrong(
                f"{at[open_]}/across",
                f"nothing is left for its step without a length, of {format_length(round(self.length, 3))} in all",
                "the other steps leave something of its length",
                left,
            )
        elif open_ is None and abs(left) > WITHIN:
            last = said[-1][0]
            self.wrong(
                f"{at[last]}/length",
                f"its steps are {format_length(round(self.length - left, 3))} long together",
                f"as long as from end to end, {format_length(round(self.length, 3))}; or one step takes what is left",
                self.length - left,
            )
        found, low = [], 0.0
        for k, s in said:
            high = low + lengths.get(k, left)
            found.append(self._step(k, s, at[k], low, high))
            low = high
        return found

    def _step(self, key: str, s: TurnedStep, where: str, low: float, high: float) -> _Step:
        first = self.read(s, where, "across") / 2
        last = self.read(s, where, "to") / 2 if s.to is not None else first
        for field, radius in (("across", first), ("to", last)):
            least = 0.0 if field == "to" else LEAST / 2
            if not least <= radius <= self.most + WITHIN:
                self.wrong(
                    f"{where}/{field}",
                    f"a step of {format_length(round(2 * radius, 3))}",
                    f"greater than 0, and at most what it is turned from, {format_length(2 * self.most)}",
                    2 * radius,
                )
        if high - low <= CONTACT and s.length is not None:
            self.wrong(f"{where}/length", f"a step {format_length(round(high - low, 3))} long", "a step is longer than 0", high - low)
        chamfer, round_ = self.read(s, where, "chamfer"), self.read(s, where, "round")
        if chamfer and round_:
            self.wrong(f"{where}/round", "a step with a chamfer and a round", "one or the other", round_)
        if (chamfer or round_) and s.to is not None:
            self.wrong(
                f"{where}/{'round' if round_ else 'chamfer'}", "a chamfer or a round on a taper", "on a straight step", chamfer or round_
            )
        return _Step(key, low, high, first, last, max(chamfer, 0.0), max(round_, 0.0))

    def _profile(self) -> Contour:
        """From the axis at A outward, along the steps, and back to the axis at B: counter-clockwise in (r, w)."""
        points: list[tuple[float, float]] = [(0.0, 0.0)]
        bulges: list[float] = []

        def to(r: float, w: float, bulge: float = 0.0) -> None:
            if math.dist(points[-1], (r, w)) > WITHIN:
                points.append((r, w))
                bulges.append(bulge)

        for n, s in enumerate(self.steps):
            before = self.steps[n - 1].last if n else 0.0
            after = self.steps[n + 1].first if n + 1 < len(self.steps) else 0.0
            cut, bulge = (s.round, QUARTER) if s.round else (s.chamfer, 0.0)
            at_low, at_high = (cut if cut and outer < s.first - WITHIN else 0.0 for outer in (before, after))
            field = pointer("parts", self.key, "steps", s.key, "round" if s.round else "chamfer")
            for size, outer in ((at_low, before), (at_high, after)):
                if not size:
                    continue
                if size > s.first - outer + WITHIN or at_low + at_high > s.high - s.low + WITHIN:
                    room = min(s.first - outer, (s.high - s.low) / (2 if at_low and at_high else 1))
                    self.wrong(field, f"{format_length(size)} off the edges of a step", f"at most {format_length(round(room, 3))}", size)
                    break
            if at_low:
                to(s.first - at_low, s.low)
                to(s.first, s.low + at_low, bulge)
            else:
                to(s.first, s.low)
            if at_high:
                to(s.last, s.high - at_high)
                to(s.last - at_high, s.high, bulge)
            else:
                to(s.last, s.high)
        to(0.0, self.length)
        bulges.append(0.0)
        return Contour(tuple(points), tuple(bulges), (edge_id("turned"),) * len(points))

    def _least(self, low: float, high: float) -> float:
        """The smallest radius over a stretch."""
        return min((min(s.first, s.last) for s in self.steps if s.high > low + CONTACT and s.low < high - CONTACT), default=0.0)

    def _bores(self) -> tuple[Along, ...]:
        found = []
        for k, b in sorted(self.said_bores.items(), key=lambda kb: (kb[1].order, kb[0])):
            where = pointer("parts", self.key, "bores", k)
            across = self.read(b, where, "across")
            deep = self.read(b, where, "deep") if b.deep is not None else self.length
            if not CONTACT < deep <= self.length + WITHIN:
                self.wrong(
                    f"{where}/deep",
                    f"a bore {format_length(round(deep, 3))} deep",
                    f"more than 0, at most its length, {format_length(round(self.length, 3))}",
                    deep,
                )
                continue
            low, high = (0.0, deep) if b.end == "a" else (self.length - deep, self.length)
            corner = (
                across / 2 / math.cos(math.pi / {"square": 4, "hexagon": 6}.get(b.shape, math.inf)) if b.shape != "round" else across / 2
            )
            if not CONTACT < corner <= self._least(low, high) - LEAST:
                room = 2 * (self._least(low, high) - LEAST) * (across / 2 / corner if corner else 1.0)
                self.wrong(
                    f"{where}/across",
                    f"a bore of {format_length(round(across, 3))}",
                    f"greater than 0, at most {format_length(round(room, 2))} for a wall",
                    across,
                )
                continue
            found.append(Along(b.shape, across, low, high))
        return tuple(found)

    def _flats(self) -> tuple[Flats, ...]:
        found = []
        for k, f in sorted(self.said_flats.items(), key=lambda kf: (kf[1].order, kf[0])):
            where = pointer("parts", self.key, "flats", k)
            off, low, long, around = (
                self.read(f, where, "off"),
                self.read(f, where, "begins"),
                self.read(f, where, "length"),
                self.read(f, where, "around", "angle"),
            )
            if not CONTACT < off < self.most:
                self.wrong(
                    f"{where}/off",
                    f"a flat {format_length(round(off, 3))} from the axis",
                    f"more than 0, less than {format_length(self.most)}",
                    off,
                )
            elif not (low >= -WITHIN and long > CONTACT and low + long <= self.length + WITHIN):
                self.wrong(
                    f"{where}/length",
                    f"flats from {format_length(round(low, 3))} over {format_length(round(long, 3))}",
                    f"they lie on its length, {format_length(round(self.length, 3))}",
                    long,
                )
            else:
                found.append(Flats(off, low, low + long, f.number, around))
        return tuple(found)

    def _cross(self) -> tuple[Cross, ...]:
        found = []
        for k, c in sorted(self.said_cross.items(), key=lambda kc: (kc[1].order, kc[0])):
            where = pointer("parts", self.key, "cross", k)
            at, across, around = self.read(c, where, "off"), self.read(c, where, "across"), self.read(c, where, "around", "angle")
            if not (across > CONTACT and across / 2 <= at <= self.length - across / 2):
                self.wrong(
                    f"{where}/off",
                    f"a cross hole of {format_length(round(across, 3))} at {format_length(round(at, 3))}",
                    f"it lies whole on its length, {format_length(round(self.length, 3))}",
                    at,
                )
            elif across >= 2 * self._least(at - across / 2, at + across / 2):
                self.wrong(
                    f"{where}/across", f"a cross hole of {format_length(round(across, 3))}", "narrower than what it goes through", across
                )
            else:
                found.append(Cross(at, across, around, c.walls == "both"))
        return tuple(found)

    def _teeth(self) -> tuple[Teeth, ...]:
        found = []
        for s in self.steps:
            said = self.said[s.key]
            where = pointer("parts", self.key, "steps", s.key, "tooth")
            if not said.teeth:
                continue
            deep = self.read(said, where.removesuffix("/tooth"), "tooth")
            # grooves of 90 degrees are twice as wide as deep
            room = min(s.first / 2, math.pi * s.first / said.teeth)
            if s.first != s.last or not CONTACT < deep <= room:
                self.wrong(
                    where,
                    f"{said.teeth} serrations {format_length(round(deep, 3))} deep",
                    f"on a straight step, at most {format_length(round(room, 3))} deep",
                    deep,
                )
            else:
                found.append(Teeth(s.first, s.low, s.high, said.teeth, deep))
        return tuple(found)
