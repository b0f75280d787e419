"""Legs: what flanges, hems and offset bends come to, each one bend and the flat face behind it, with every entry read."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from zygon.design.flange_words import flange_words
from zygon.design.folding import DrawnProfile, Flange, FlangeKind, Folding, Hem, LineBend, OffsetBend, Profile
from zygon.design.parts.kinds import PlateKind
from zygon.design.pointer import pointer
from zygon.geometry.frame import FACES
from zygon.making.blanks.blank import Blank
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.metal.drawn_profile import NotBent, ProfileBend, drawn_bends
from zygon.making.metal.edges import Edge, side_of
from zygon.making.result.fault import Fault, Mend
from zygon.measure.display import format_angle, format_length
from zygon.measure.entry import Entry
from zygon.measure.quantity import Kind
from zygon.owner import flange_id
from zygon.stock.allowance import bend_by, inner_setback, outer_setback
from zygon.stock.bending import Bending
from zygon.stock.tooling import default_radius
from zygon.tolerance import CONTACT, EPS, SEEN, WITHIN

__all__ = ["IMAGE", "Leg", "leg_words", "legs_of", "record_of", "roots_of"]

#: A flat face behind a bend is at least this long (mm); a shorter one is no face.
LEAST = 0.01
#: A bend's neutral line lies at least this far (mm) from the inner sharp; nearer, its strip on the flat would be a line.
LEAST_NEUTRAL = 0.01
#: An offset tool bends through at least this (degrees).
FLATTEST = 5.0
#: K of a sheet folded flat on itself: it takes 0.43 of the thickness off both legs together (common practice).
HEM_K = 0.5
#: Ends the key of a flange's mirror image within its part.
IMAGE = "~"
Extent = tuple[str, float, float]


@dataclass(frozen=True)
class Leg:
    """One bend and the flat behind it: ``on`` an ``edge`` of the leg of that key, or of the plate (''); mm and radians.

    ``angle`` is over 0 towards face A. The bend starts ``inset`` inside the edge, and ``straight`` mm of flat follow it. ``extent`` is how far along the
    edge it goes, as said. ``relief`` is (style, width, depth past the start of the bend). ``record`` is the flange's key.
    ``line`` where it is a flat region bent later, ``inset`` then lying behind the strip; ``image`` where it is a mirror image on the other half. ``gussets`` are
    (number, width, reach from the inner sharp).
    """

    key: str
    record: str
    owner: str
    on: str
    edge: str
    angle: float
    radius: float
    k: float
    inset: float
    straight: float
    extent: Extent
    relief: tuple[str, float, float]
    line: bool = False
    image: bool = False
    gussets: tuple[int, float, float] | None = None
    pressed: bool = False


def record_of(leg: str) -> str:
    """The key of the record that a leg's key comes from: without the count of its legs and the sign of a mirror image."""
    return leg.partition(".")[0].removesuffix(IMAGE)


def leg_words(leg: str, flanges: Mapping[str, FlangeKind]) -> str:
    """What a maker calls a leg: its flange's name or key, and of its mirror image that it is one."""
    record = record_of(leg)
    name = flange_words(record, flanges)
    return f"mirrored {name}" if leg.partition(".")[0] != record else name


def legs_of(values: Values, blank: Blank, edges: Mapping[str, Edge]) -> list[Leg]:
    """The legs of a folded part with these edges, each behind what it stands on; what cannot be is a fault and stands on its last good value."""
    record = blank.record
    folding = record.folding
    if folding is None:
        return []
    reader = _LegReader(values, blank, edges)
    found: list[Leg] = []
    gone: set[str] = set()
    waiting = sorted(folding.flanges.items(), key=lambda kf: (kf[1].order, kf[0]))
    last: dict[str, str] = {"": ""}  # the leg that others on a flange stand on
    while waiting:
        ready = [(k, f) for k, f in waiting if f.on in last or f.on in gone]
        if not ready:
            break
        for key, flange in ready:
            legs = [] if flange.out or flange.on in gone else reader.legs(key, flange, last[flange.on])
            if legs:
                found += legs
                last[key] = legs[-1].key
            else:
                gone.add(key)
        waiting = [(k, f) for k, f in waiting if k not in last and k not in gone]
    return found + _images(found, folding, blank, reader.say_no_mirror)


def _images(legs: list[Leg], folding: Folding, blank: Blank, say: Callable[[Leg, str], None]) -> list[Leg]:
    """The mirror images of flanges that stand on both halves, each with all that stands on it.

    ``say`` is told of a leg whose image would stand on what is not there, and of the face where that would be.
    """
    found: list[Leg] = []
    ways: dict[str, str] = {}  # of the leg's key: across which of u and v its image lies
    by_key = {leg.key: leg for leg in legs}
    paths = {leg.key: _path(leg, by_key) for leg in legs}
    for leg in legs:
        own = folding.flanges[leg.record].mirrored
        way = ways.get(leg.on, "") or ("" if own == "none" else own)
        if not way:
            continue
        frame = blank.frame
        low, high = FACES[frame.u if way == "u" else frame.v]
        swap = {low: high, high: low, "low": "high", "high": "low"}
        on = leg.on
        if leg.on in ways:
            on = _image_key(leg.on)
        elif leg.on:
            there = tuple(_swapped(e, swap) for e in paths[leg.on])
            standing = [k for k, path in paths.items() if path == there] + [x.key for x in found if _path(x, by_key) == there]
            if not standing:
                say(leg, there[0])
                continue
            on = leg.on if leg.on in standing else standing[0]
        ways[leg.key] = way
        # an edge is walked the other way round on the other half
        kind, first, second = leg.extent
        extent = {"inset": ("inset", second, first), "centred": ("centred", first, -second), "between": ("from_high", first, second)}.get(
            kind, leg.extent
        )
        image = replace(leg, key=_image_key(leg.key), on=on, edge=_swapped(leg.edge, swap), extent=extent, image=True)
        found.append(image)
        by_key[image.key] = image
    return found


def _swapped(edge: str, swap: Mapping[str, str]) -> str:
    """An edge's name on the other half: each of its side's words."""
    side = side_of(edge)
    return "-".join(swap.get(w, w) for w in side.split("-")) + edge[len(side) :]


def roots_of(legs: list[Leg]) -> dict[str, str]:
    """The edge of the plate from which each leg comes, by its key."""
    by_key = {leg.key: leg for leg in legs}
    return {leg.key: _path(leg, by_key)[0] for leg in legs}


def _path(leg: Leg, by_key: dict[str, Leg]) -> tuple[str, ...]:
    """The edges from the plate outward to a leg, each of what the last one stands on."""
    edges = [leg.edge]
    while leg.on:
        leg = by_key[leg.on]
        edges.append(leg.edge)
    return tuple(reversed(edges))


def _image_key(key: str) -> str:
    record, dot, rest = key.partition(".")
    return f"{record}{IMAGE}{dot}{rest}"


class _LegReader:
    """Reads the entries of one part's flanges."""

    def __init__(self, values: Values, blank: Blank, edges: Mapping[str, Edge]) -> None:
        self.values, self.blank, self.board, self.edges = values, blank, blank.record, edges
        self.folding = blank.record.folding or Folding()
        self.thickness = blank.thickness
        stock = values.document.stocks.get(self.board.stock)
        self.bending = (stock.bending if stock else None) or Bending()
        self.radius = self._part_radius(self.board)
        for name in ("least_radius", "hole_distance"):
            limit = getattr(self.bending, name)
            if limit is not None:
                values.read(limit, pointer("stocks", self.board.stock, "bending", name), "length", self.scope())

    def _part_radius(self, board: PlateKind) -> float:
        own = board.folding.radius if board.folding else None
        where = pointer("parts", self.blank.key, "folding", "radius")
        if own is None and self.bending.radius is not None:
            own, where = self.bending.radius, pointer("stocks", board.stock, "bending", "radius")
        if own is None:
            brake = self.values.document.brakes.get(self.values.document.brake)
            return (default_radius(brake, self.bending, self.thickness) if brake else None) or self.thickness
        return self.checked(own, where, "an inside radius", 0.0, inclusive=True, default=self.thickness, owner="folding")

    def say_no_mirror(self, leg: Leg, face: str) -> None:
        """A flange whose mirror image has nothing to stand on."""
        name = self.folding.flanges[leg.record].name or leg.record
        where = pointer("parts", self.blank.key, "folding", "flanges", leg.record, "mirrored")
        said = f"{self.board.name}, {name}: its mirror image has nothing to stand on at the {face}"
        rule = "what it stands on has its like on the other half"
        self.values.fault_entry(where, "no_mirror", said, rule, face, self.blank.key, leg.owner)

    def scope(self, axis: str = "") -> EntryScope:
        frame = None if self.values.still else self.blank.place
        return EntryScope(self.values, axis, self.board.stock, frame=frame)

    def shown(self, value: float, kind: Kind) -> str:
        return format_angle(value) if kind == "angle" else format_length(value, self.values.document.display)

    def checked(
        self,
        entry: Entry,
        where: str,
        what: str,
        least: float,
        most: float = math.inf,
        *,
        kind: Kind = "length",
        inclusive: bool = False,
        default: float = 0.0,
        owner: str = "",
        why: str = "",
        more: Callable[[float], tuple[Mend, ...]] | None = None,
    ) -> float:
        """A value between two limits; beyond them a fault is said and the last good value stands, or ``default``.

        ``why`` says what sets the least one; where it is given, the least is a mend, before those that ``more`` finds for the value.
        """
        value = self.values.read(entry, where, kind, self.scope(), part=self.blank.key, owner=owner, fallback=default)
        if (value >= least if inclusive else value > least + CONTACT / 10) and value < most:
            return value
        if not self.values.values[where].stale:
            limits = f"{'at least' if inclusive else 'over'} {self.shown(least, kind)}" + (
                f" and under {self.shown(most, kind)}" if most < math.inf else ""
            )
            mends: tuple[Mend, ...] = ()
            if why and value < least:
                enough = math.ceil(least * 100 - WITHIN) / 100
                limits = f"at least {self.shown(enough, kind)}, which {why}"
                value_of = {"text": f"{enough:g} mm", "unit": "mm"}
                mends = (
                    Mend(f"Make it {self.shown(enough, kind)}", [{"op": "add", "path": where, "value": value_of}]),
                    *(more(value) if more else ()),
                )
            self.values.fault_entry(
                where,
                "bad_value",
                f"{self.board.name}: {what} of {self.shown(value, kind)}",
                limits,
                self.shown(value, kind),
                self.blank.key,
                owner,
                mends,
            )
        good = self.values.values[where].value if self.values.stand(where) else default
        return good if (good >= least if inclusive else good > least) and good < most else default

    def legs(self, key: str, flange: FlangeKind, on: str) -> list[Leg]:
        """One leg, two for an offset bend; none where they cannot be."""
        self.key, self.owner = key, flange_id(self.blank.record_key, key)
        where = pointer("parts", self.blank.key, "folding", "flanges", key)
        self.where = where
        self.title = f"{self.board.name}, {flange_words(key, self.board.folding.flanges) if self.board.folding else key}"
        radius = self.radius
        if flange.radius is not None:
            radius = self.checked(
                flange.radius, f"{where}/radius", "an inside radius", 0.0, inclusive=True, default=radius, owner=self.owner
            )
        sign = 1.0 if flange.toward == "a" else -1.0
        extent = self._extent(flange)
        relief = self._relief(flange)
        match flange:
            case Hem():
                return self._hem(flange, on, sign, extent, relief)
            case OffsetBend():
                return self._offset(flange, on, sign, radius, extent, relief)
            case Profile():
                return self._profile(flange, on, sign, radius, extent, relief)
            case DrawnProfile():
                return self._drawn(key, flange, on, radius, extent, relief)
            case LineBend():
                return self._line(flange, on, sign, radius)
            case _:
                return self._flange(flange, on, sign, radius, extent, relief)

    def _bendable(self, f: FlangeKind, radius: float, angle: float, said_at: str = "") -> float:
        """The radius (said at ``said_at``, or the flange's or the part's), or where K and radius are so small that the bend would take no length of sheet, one that can be bent (which is said)."""
        t = self.thickness
        k = bend_by(self.bending, t, radius, min(angle, math.pi * 0.999)).k
        if radius + k * t >= LEAST_NEUTRAL:
            return radius
        of_part = pointer("parts", self.blank.key, "folding", "radius")
        where = said_at or (f"{self.where}/radius" if f.radius is not None else of_part)
        shown = self.shown(radius, "length")
        rule = f"a radius of at least {self.shown(LEAST_NEUTRAL, 'length')}, or another rule for its bends"
        said = f"{self.title}: with an inside radius of {shown} and K {k:.3g} its bend takes no length of sheet"
        self.values.fault_entry(where, "no_allowance", said, rule, shown, self.blank.key, self.owner)
        return t

    def _leg(
        self,
        key: str,
        on: str,
        edge: str,
        angle: float,
        radius: float,
        inset: float,
        straight: float,
        extent: Extent,
        relief: tuple[str, float, float],
    ) -> Leg:
        k = bend_by(self.bending, self.thickness, radius, min(abs(angle), math.pi * 0.999)).k
        return Leg(key, self.key, self.owner, on, edge, angle, radius, k, inset, straight, extent, relief)

    def _flange(self, f: Flange, on: str, sign: float, radius: float, extent: Extent, relief: tuple[str, float, float]) -> list[Leg]:
        angle = self.checked(
            f.angle, f"{self.where}/angle", "an angle of bend", 0.0, math.pi, kind="angle", default=math.pi / 2, owner=self.owner
        )
        t, radius = self.thickness, self._bendable(f, radius, angle)
        outer, inner = outer_setback(t, radius, angle), inner_setback(radius, angle)
        off = {"outer": outer, "inner": inner, "tangent": 0.0}[self.folding.measured(f)]
        length = self.checked(
            f.length,
            f"{self.where}/length",
            "a flange",
            off + LEAST,
            inclusive=True,
            default=off + 10.0,
            owner=self.owner,
            why=f"its bend of {self.shown(radius, 'length')} inside radius takes" if off else "",
        )
        inset = {"outside": outer, "inside": inner, "edge": 0.0}[self.folding.stands(f)] + self._back(f)
        leg = self._leg(self.key, on, f.edge, sign * angle, radius, inset, length - off, extent, relief)
        if f.gussets is None:
            return [leg]
        least, where = inner + LEAST, f"{self.where}/gussets"
        width = self.checked(f.gussets.width, f"{where}/width", "a gusset's width", 0.0, default=t, owner=self.owner)
        depth = self.checked(
            f.gussets.depth,
            f"{where}/depth",
            "a gusset's reach",
            least,
            length - off + inner + CONTACT,
            inclusive=True,
            default=least,
            owner=self.owner,
        )
        return [replace(leg, gussets=(f.gussets.number, width, depth))]

    def _back(self, f: Flange | Profile) -> float:
        """How much farther inside its edge a leg bends than it stands by."""
        return self.checked(f.back, f"{self.where}/back", "a bend pushed back", 0.0, inclusive=True, owner=self.owner)

    def _profile(self, f: Profile, on: str, sign: float, radius: float, extent: Extent, relief: tuple[str, float, float]) -> list[Leg]:
        """The lengths of a profile, one leg on the far edge of the other."""
        t, turns = self.thickness, []
        for i, leg in enumerate(f.legs):
            turn = self.checked(
                leg.angle,
                f"{self.where}/legs/{i}/angle",
                "an angle of bend",
                -math.pi,
                math.pi,
                kind="angle",
                default=math.pi / 2,
                owner=self.owner,
            )
            if abs(turn) < math.radians(0.1):
                self.values.fault_entry(
                    f"{self.where}/legs/{i}/angle",
                    "bad_value",
                    f"{self.title}: its bend {i + 1} does not bend",
                    "any angle but 0",
                    self.shown(turn, "angle"),
                    self.blank.key,
                    self.owner,
                )
                turn = math.pi / 2
            turns.append(sign * turn)

        for leg, turn in zip(f.legs, turns, strict=True):
            radius = self._bendable(f, radius, abs(turn)) if leg.radius is None else radius
        radii = []
        for i, (leg, turn) in enumerate(zip(f.legs, turns, strict=True)):
            if leg.radius is None:
                radii.append(radius)
                continue
            where, said = f"{self.where}/legs/{i}/radius", f"the inside radius of bend {i + 1}"
            inside = self.checked(leg.radius, where, said, 0.0, inclusive=True, default=radius, owner=self.owner)
            radii.append(self._bendable(f, inside, abs(turn), where))

        def off(i: int) -> float:
            turn, outer, inner = turns[i], outer_setback(t, radii[i], abs(turns[i])), inner_setback(radii[i], abs(turns[i]))
            along = {"face_a": inner if turn > 0 else outer, "face_b": outer if turn > 0 else inner}
            return {"outer": outer, "inner": inner, "tangent": 0.0, **along}[self.folding.measured(f)]

        found: list[Leg] = []
        for i, (leg, turn) in enumerate(zip(f.legs, turns, strict=True)):
            less = off(i) + (off(i + 1) if i + 1 < len(turns) else 0.0)
            bends = radii[i : i + 2]
            length = self.checked(
                leg.length,
                f"{self.where}/legs/{i}/length",
                "a length of the profile",
                less + LEAST,
                inclusive=True,
                default=less + 10.0,
                owner=self.owner,
                why=f"its bends of {' and '.join(dict.fromkeys(self.shown(r, 'length') for r in bends))} inside radius take"
                if less
                else "",
            )
            last = i + 1 == len(turns)
            key = self.key if last else f"{self.key}.{i + 1}"
            inset = 0.0
            if not i:
                by = {"outside": outer_setback(t, radii[0], abs(turn)), "inside": inner_setback(radii[0], abs(turn)), "edge": 0.0}
                inset = by[self.folding.stands(f)] + self._back(f)
            own = (extent, relief) if not i else (("whole", 0.0, 0.0), ("none", 0.0, 0.0))
            found.append(
                self._leg(key, on if not i else found[-1].key, f.edge if not i else "end", turn, radii[i], inset, length - less, *own)
            )
        return found

    def _drawn(self, key: str, f: DrawnProfile, on: str, radius: float, extent: Extent, relief: tuple[str, float, float]) -> list[Leg]:
        """The straights of a line that is drawn, one leg on the far edge of the other; none where it cannot be bent, which is said."""
        edge = self.edges.get(f.edge)
        if on or edge is None:
            if on:
                self._not_bent(key, NotBent("it is drawn on another flange", "a drawn profile stands on an edge of the plate"))
                return []
            # that there is no such edge is said there
            return [self._leg(self.key, on, f.edge, math.pi / 2, radius, 0.0, LEAST, extent, relief)]
        try:
            return self._bent_as_drawn(f, on, radius, drawn_bends(self.values, self.blank, edge, key, f), extent, relief)
        except NotBent as error:
            self._not_bent(key, error)
            return []

    def _not_bent(self, key: str, error: NotBent) -> None:
        where = pointer("parts", self.blank.key, "folding", "flanges", key, "drawing")
        entry = where + (pointer("curves", error.curve) if error.curve else "")
        said = f"{self.title}: {error.message}"
        self.values.faults.append(Fault("bad_profile", said, error.rule, part=self.blank.key, owner=self.owner, entry=entry))

    def _bent_as_drawn(
        self, f: DrawnProfile, on: str, usual: float, bends: list[ProfileBend], extent: Extent, relief: tuple[str, float, float]
    ) -> list[Leg]:
        t, radii, setbacks = self.thickness, list[float](), list[float]()
        for b in bends:
            inside = usual if b.radius is None else b.radius - (0.0 if b.inner else t)
            if inside < -CONTACT:
                rule = f"at least {self.shown(t, 'length')}, the thickness, round the outside of a bend"
                raise NotBent(f"an arc of radius {self.shown(b.radius or 0.0, 'length')} round the outside of a bend", rule, b.curve)
            radii.append(self._bendable(f, max(inside, 0.0), abs(b.turn)))
            setbacks.append((radii[-1] + (0.0 if b.inner else t)) * math.tan(abs(b.turn) / 2))
        inset = setbacks[0] - bends[0].sharp[0]
        if inset < -CONTACT:
            rule = f"a bend that begins on the plate: its corner at most {self.shown(setbacks[0], 'length')} beyond the edge"
            raise NotBent(f"its first bend begins {self.shown(-inset, 'length')} beyond the edge", rule, bends[0].curve)
        found: list[Leg] = []
        for i, b in enumerate(bends):
            taken = setbacks[i] + (setbacks[i + 1] if i + 1 < len(bends) else 0.0)
            before = bends[i + 1].sharp if i + 1 < len(bends) else b.end
            straight = math.dist(b.sharp, before) - taken
            if straight < LEAST - CONTACT or b.goes_back:
                rule = f"at least {self.shown(math.ceil((taken + LEAST) * 100 - WITHIN) / 100, 'length')}, which its bends take"
                raise NotBent(f"a length of {self.shown(math.dist(b.sharp, before), 'length')} between its corners", rule, b.curve)
            last = i + 1 == len(bends)
            own = (extent, relief) if not i else (("whole", 0.0, 0.0), ("none", 0.0, 0.0))
            at = (on, f.edge, max(inset, 0.0)) if not i else (found[-1].key, "end", 0.0)
            key = self.key if last else f"{self.key}.{i + 1}"
            found.append(self._leg(key, at[0], at[1], b.turn, radii[i], at[2], max(straight, LEAST), *own))
        return found

    def _line(self, f: LineBend, on: str, sign: float, radius: float) -> list[Leg]:
        """A line across what is flat: its strip lies half on each side of it."""
        angle = self.checked(
            f.angle, f"{self.where}/angle", "an angle of bend", 0.0, math.pi, kind="angle", default=math.pi / 2, owner=self.owner
        )
        radius = self._bendable(f, radius, angle)
        k = bend_by(self.bending, self.thickness, radius, angle).k
        half = angle * (radius + k * self.thickness) / 2
        at = self.checked(
            f.at,
            f"{self.where}/at",
            "a bend line's distance from its edge",
            half + LEAST,
            inclusive=True,
            default=half + 10.0,
            owner=self.owner,
        )
        leg = self._leg(self.key, on, f.edge, sign * angle, radius, at + half, at - half, ("whole", 0.0, 0.0), ("none", 0.0, 0.0))
        return [replace(leg, line=True)]

    def _hem(self, f: Hem, on: str, sign: float, extent: Extent, relief: tuple[str, float, float]) -> list[Leg]:
        t = self.thickness
        gap = self.checked(f.gap, f"{self.where}/gap", "a hem's gap", 0.0, inclusive=True, default=0.1, owner=self.owner)
        radius = max(gap / 2, SEEN)
        if f.style == "teardrop":
            radius = self.radius if f.radius is None else self.values.values[f"{self.where}/radius"].value
        if f.style == "teardrop":
            radius = max(self._bendable(f, radius, math.pi), SEEN)
        length = self.checked(
            f.length,
            f"{self.where}/length",
            "a hem",
            radius + t + LEAST,
            inclusive=True,
            default=radius + t + 5.0,
            owner=self.owner,
            why=f"its bend of {self.shown(radius, 'length')} inside radius takes",
        )
        straight, angle = length - radius - t, math.pi
        if f.style == "teardrop":
            # the tip comes down on the sheet: R (1 + cos φ) - l sin φ = gap, φ past the half turn
            lean = math.atan2(radius, straight)
            angle += lean + math.asin(min(max((radius - gap) / math.hypot(straight, radius), -1.0), 1.0))
        leg = self._leg(self.key, on, f.edge, sign * angle, radius, radius + t, straight, extent, relief)
        return [leg if f.style == "teardrop" else replace(leg, k=HEM_K)]

    def _offset(self, f: OffsetBend, on: str, sign: float, radius: float, extent: Extent, relief: tuple[str, float, float]) -> list[Leg]:
        if f.made == "tool" and self._has_offset_tool(f):
            return self._pressed(f, on, sign, extent, relief)
        angle = self.checked(
            f.angle, f"{self.where}/angle", "an angle of bend", 0.0, math.pi / 2 + EPS, kind="angle", default=math.pi / 2, owner=self.owner
        )
        t, radius = self.thickness, self._bendable(f, radius, angle)
        both = (2 * radius + t) * (1 - math.cos(angle))  # what the two bends alone step aside
        height = self.checked(
            f.height,
            f"{self.where}/height",
            "an offset",
            both + LEAST * math.sin(angle),
            inclusive=True,
            default=both + 1.0,
            owner=self.owner,
            why=f"its two bends through {self.shown(angle, 'angle')} of {self.shown(radius, 'length')} inside radius take",
            more=lambda low: (*self._by_tool(low), *self._shallower(low, radius)),
        )
        return self._stepped(f, on, sign, (angle, radius, height), extent, relief)

    def _stepped(
        self, f: OffsetBend, on: str, sign: float, step: tuple[float, float, float], extent: Extent, relief: tuple[str, float, float]
    ) -> list[Leg]:
        """Both legs of an offset, by its angle, radius and height."""
        angle, radius, height = step
        t, pressed = self.thickness, f.made == "tool"
        both = (2 * radius + t) * (1 - math.cos(angle))
        off = {"outer": outer_setback(t, radius, angle), "inner": inner_setback(radius, angle), "tangent": 0.0}[f.measured]
        length = self.checked(
            f.length,
            f"{self.where}/length",
            "the leg after an offset",
            off + LEAST,
            inclusive=True,
            default=off + 10.0,
            owner=self.owner,
            why=f"its bend of {self.shown(radius, 'length')} inside radius takes" if off else "",
        )
        inset = self.checked(f.inset, f"{self.where}/inset", "an inset", 0.0, inclusive=True, default=0.0, owner=self.owner)
        first = self._leg(f"{self.key}.1", on, f.edge, sign * angle, radius, inset, (height - both) / math.sin(angle), extent, relief)
        second = self._leg(self.key, first.key, "end", -sign * angle, radius, 0.0, length - off, ("whole", 0.0, 0.0), ("none", 0.0, 0.0))
        return [replace(first, pressed=pressed), replace(second, pressed=pressed)]

    def _has_offset_tool(self, f: OffsetBend) -> bool:
        """Whether the chosen brake has an offset tool; said where it has none, and then it is made bend by bend."""
        brake = self.values.document.brakes.get(self.values.document.brake)
        if brake is not None and brake.joggle > 0:
            return True
        name = brake.name if brake else "no press brake"
        said = (
            f"{self.title}: {brake.name} has no offset tool" if brake else f"{self.title}: no press brake is chosen, and so no offset tool"
        )
        mends = (Mend("Make it bend by bend", [{"op": "add", "path": f"{self.where}/made", "value": "bends"}]),)
        self.values.fault_entry(
            f"{self.where}/made", "offset_tool", said, "an offset tool on the brake's list", name, self.blank.key, self.owner, mends
        )
        return False

    def _pressed(self, f: OffsetBend, on: str, sign: float, extent: Extent, relief: tuple[str, float, float]) -> list[Leg]:
        """An offset by the brake's offset tool: with its radius, as steep as the tool is or as the height leaves room for."""
        brake = self.values.document.brakes[self.values.document.brake]
        radius, angle = self._bendable(f, brake.joggle_radius, math.radians(brake.joggle_angle)), math.radians(brake.joggle_angle)
        low = self._height(math.radians(FLATTEST), radius)
        height = self.checked(
            f.height,
            f"{self.where}/height",
            "an offset",
            low,
            inclusive=True,
            default=max(low, min(brake.joggle, self.thickness)),
            owner=self.owner,
            why="the offset tool needs",
        )
        if height > brake.joggle + CONTACT:
            shown, limit = self.shown(height, "length"), self.shown(brake.joggle, "length")
            mends = (
                Mend("Make it bend by bend", [{"op": "add", "path": f"{self.where}/made", "value": "bends"}]),
                Mend(
                    f"Make it {limit}",
                    [{"op": "add", "path": f"{self.where}/height", "value": {"text": f"{brake.joggle:g} mm", "unit": "mm"}}],
                ),
            )
            said = f"{self.title}: an offset of {shown} is more than the offset tool makes"
            self.values.fault_entry(
                f"{self.where}/height", "offset_tool", said, f"at most {limit}, by {brake.name}", shown, self.blank.key, self.owner, mends
            )
        if self._height(angle, radius) > height:
            steep, flat = angle, math.radians(FLATTEST)
            for _ in range(50):
                middle = (steep + flat) / 2
                steep, flat = (middle, flat) if self._height(middle, radius) > height else (steep, middle)
            angle = flat
        return self._stepped(f, on, sign, (angle, radius, height), extent, relief)

    def _height(self, angle: float, radius: float) -> float:
        """The least height of an offset through an angle, with a film of straight sheet between its bends."""
        return (2 * radius + self.thickness) * (1 - math.cos(angle)) + LEAST * math.sin(angle)

    def _by_tool(self, height: float) -> tuple[Mend, ...]:
        """The mend of a low offset where the brake has an offset tool that makes it."""
        brake = self.values.document.brakes.get(self.values.document.brake)
        if brake is None or not self._height(math.radians(FLATTEST), brake.joggle_radius) <= height <= brake.joggle:
            return ()
        return (Mend("Make it with the offset tool", [{"op": "add", "path": f"{self.where}/made", "value": "tool"}]),)

    def _shallower(self, height: float, radius: float) -> tuple[Mend, ...]:
        """The mend of a low offset: bends through the most whole degrees that its height leaves room for."""
        for degrees in range(89, 0, -1):
            angle = math.radians(degrees)
            if self._height(angle, radius) <= height:
                patch = [{"op": "add", "path": f"{self.where}/angle", "value": {"text": f"{degrees} deg"}}]
                return (Mend(f"Bend it through {degrees}°", patch),)
        return ()

    def _extent(self, f: FlangeKind) -> Extent:
        if f.extent == "whole":
            return ("whole", 0.0, 0.0)
        axis = ""
        if f.extent == "room" and not f.on:
            frame = self.blank.frame
            axis = frame.v if side_of(f.edge) in FACES[frame.u] else frame.u
        read = [
            self.values.read(getattr(f, n), f"{self.where}/{n}", "length", self.scope(axis), part=self.blank.key, owner=self.owner)
            for n in ("first", "second")
        ]
        if axis:
            low = self.blank.span.span(axis)[0]
            return ("room", read[0] - low, read[1] - low)
        return ("between" if f.extent == "room" else f.extent, read[0], read[1])

    def _relief(self, f: FlangeKind) -> tuple[str, float, float]:
        r, t = f.relief, self.thickness
        width = depth = 0.0
        if r.style in ("rectangular", "round"):
            width = (
                t
                if r.width is None
                else self.checked(r.width, f"{self.where}/relief/width", "a relief's width", 0.0, default=t, owner=self.owner)
            )
            depth = (
                t / 2
                if r.depth is None
                else self.checked(
                    r.depth, f"{self.where}/relief/depth", "a relief's depth", 0.0, inclusive=True, default=t / 2, owner=self.owner
                )
            )
        return (r.style, width, depth)
