"""Drawings on parts, with their figures read and what they refer to in place: solved, and their outlines."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING

from zygon.design.drawn_in import drawing_at, drawn_on_what, own_path
from zygon.design.outlines import drawing_of
from zygon.design.parts.kinds import PlacedKind, is_plate
from zygon.design.pointer import pointer
from zygon.drawing.figures import figure_fault
from zygon.drawing.loops import Loops, loops_of
from zygon.drawing.measured import measured
from zygon.drawing.solver import Clash, Solved, solve_drawing
from zygon.drawing.words import relation_words, thing_words
from zygon.drawn.drawing import DIMENSIONS, Drawing, DrawnLine, DrawnSpline, DrawnText, Reference
from zygon.errors import ExpressionError
from zygon.geometry.frame import AXES
from zygon.geometry.motion import three
from zygon.making.datums.on_plane import OnPlane, plane_of, plane_of_profile
from zygon.making.datums.rounds import round_in
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.value import Value
from zygon.measure.display import format_angle, format_length
from zygon.measure.quantity import Kind
from zygon.measure.syntax import Name, parse, references
from zygon.memo import Memo, digest
from zygon.owner import feature_id, is_of, read_owner
from zygon.tolerance import CONTACT, SEEN

if TYPE_CHECKING:
    from zygon.making.datums.values import Values

__all__ = [
    "DRAWN",
    "Drawn",
    "Holes",
    "adrift",
    "drawn_along",
    "drawn_on",
    "drawn_place",
    "fast_words",
    "says_how_far",
    "shift_of",
    "solved_again",
]

#: What lies in a part's plane, in mm, by what ``Reference.followed`` calls it: the middle (u, v) and the radius of what is round, both ends of a line;
#: None where there is none.
Holes = Callable[[str], tuple[float, ...] | None]
#: What stands in the entry of a span's end for how far its part is drawn.
DRAWN = "drawn"
#: How far a part reaches on which nothing is drawn yet, so that there is something to draw on (mm).
BEGUN = 100.0
#: Of the relations that contradict so many are told.
MOST_TOLD = 12
#: What a drawing follows, by the field of its reference, and where that can be.
LOST = {
    "hole": ("hole", "a round hole that is there, across the same plane"),
    "line": ("line of another part", "a line of a parallel part's outline that is not drawn by this one"),
    "body": ("round part", "a round rod, tube or turned part that goes square through the plane"),
}
_SOLVED = Memo(400)


@dataclass(frozen=True)
class Drawn:
    """A drawing where it lies: solved, its outlines, and what it refers to by key (mm, in the part's u and v)."""

    drawing: Drawing
    solved: Solved
    loops: Loops
    fast: dict[str, tuple[float, ...]]
    figures: dict[str, float]

    def along(self, way: str) -> tuple[float, float]:
        """From where to where its outermost outline reaches along 'x' or 'y' of the drawing, in mm; what is drawn of it, where it is not closed yet."""
        runs = self.loops.closed[:1] or self.loops.open
        reach = [r.bounds for r in runs]
        k = 0 if way == "x" else 1
        return min((b[k] for b in reach), default=0.0), max((b[k + 2] for b in reach), default=0.0)


def says_how_far(record: PlacedKind, axis: str) -> bool:
    """Whether a part is as long along an axis as what is drawn."""
    return drawing_of(record) is not None and any(_names_drawn(e.entry.text) for e in record.ends() if e.axis == axis)


@lru_cache(maxsize=4096)
def _names_drawn(text: str) -> bool:
    try:
        return any(isinstance(r, Name) and r.name == DRAWN for r in references(parse(text)))
    except ExpressionError:
        return False


def shift_of(drawn: Drawn) -> tuple[float, float]:
    """By how much a part's outline is moved so that it begins at its spans' low ends, along the ways in which it refers to nothing."""

    loose = adrift(drawn.drawing)
    return -drawn.along("x")[0] if "x" in loose else 0.0, -drawn.along("y")[0] if "y" in loose else 0.0


def adrift(drawing: Drawing) -> tuple[str, ...]:
    """The ways, 'x' and 'y', along which an outline refers to nothing, so that where it lies is where its part begins."""

    def tied(way: str) -> bool:
        return any(getattr(r, way) is not None or r.followed or r.stays for r in drawing.references.values())

    return tuple(way for way in "xy" if not tied(way))


def _shown(values: Values, value: float, kind: Kind) -> str:
    return format_angle(value) if kind == "angle" else format_length(value, values.document.display)


def drawn_on(values: Values, plane: OnPlane, drawing: Drawing, where: str, owner: str, *, holes: Holes | None = None) -> Drawn:
    """A drawing on a plane, at a pointer. What cannot be read or does not hold is a fault there, and the last good value or the rest stands."""
    fast = _fast(values, plane, drawing, where, owner, holes)
    figures: dict[str, float] = {}
    key, scope = plane.part, plane.scope(values)
    for name, relation in drawing.relations.items():
        if relation.entry is None or relation.measured or relation.out:
            continue
        at = f"{where}{pointer('relations', name, 'entry')}"
        kind = DIMENSIONS[relation.kind]
        known = len(values.faults)
        value = values.read(relation.entry, at, kind, scope, part=key, owner=owner, fallback=-1.0)
        if len(values.faults) > known:
            if value >= 0:
                figures[name] = value
            continue
        rule = figure_fault(relation.kind, value)
        if rule:
            shown = _shown(values, value, kind)
            said = relation_words(drawing, relation, shown, fast_words(values, plane, drawing))
            values.fault_entry(at, "bad_value", f"{plane.name}: {said}", rule, shown, key, owner)
            if values.stand(at) and not figure_fault(relation.kind, values.values[at].value):
                figures[name] = values.values[at].value
            continue
        figures[name] = value
    found: Drawn
    found, _ = _SOLVED.get(
        digest("drawing", drawing.model_dump_json(), tuple(sorted(figures.items())), tuple(sorted(fast.items()))),
        lambda: _solved(drawing, figures, fast),
    )
    for name, relation in drawing.relations.items():
        if relation.measured and relation.kind in DIMENSIONS:
            values.values[f"{where}{pointer('relations', name)}"] = Value(measured(found.solved, relation), DIMENSIONS[relation.kind])
    values.faults += [_contradicts(values, plane, drawing, where, owner, clash, found) for clash in found.solved.clashes]
    return found


def _solved(drawing: Drawing, figures: dict[str, float], fast: dict[str, tuple[float, ...]]) -> Drawn:
    solved = solve_drawing(drawing, figures, fast)
    return Drawn(drawing, solved, loops_of(solved), fast, figures)


def _fast(values: Values, plane: OnPlane, drawing: Drawing, where: str, owner: str, holes: Holes | None) -> dict[str, tuple[float, ...]]:
    """Where what is referred to lies, in the plane's x and y; where that is not known, where it was seen."""
    found: dict[str, tuple[float, ...]] = {}
    for name, reference in drawing.references.items():
        at = f"{where}{pointer('references', name)}"
        seen = tuple(reference.seen)
        if reference.followed:
            lies = _body(values, plane, reference.body) if reference.body else holes(reference.followed) if holes else None
            known = holes is not None or reference.body != ""
            if known and (lies is None or len(lies) != len(seen)):
                field = "hole" if reference.hole else "line" if reference.line else "body"
                what, rule = LOST[field]
                mend = Mend("Let it stay where it was", [{"op": "remove", "path": f"{at}/{field}"}])
                message = f"{plane.name}: a {what} that its drawing refers to is lost"
                values.faults.append(
                    Fault("lost_reference", message, rule, part=plane.part, owner=owner, entry=f"{at}/{field}", mends=(mend,))
                )
                lies = None
            found[name] = lies or seen
        elif not reference.stays:
            found[name] = _placed(values, plane, reference, at, owner)
    return found


def _body(values: Values, plane: OnPlane, key: str) -> tuple[float, float, float] | None:
    try:
        return round_in(values, plane, key)
    except KeyError:
        return None


def _placed(values: Values, plane: OnPlane, reference: Reference, at: str, owner: str) -> tuple[float, ...]:
    """A line or a point whose places in the room are entries, as the plane's own x and y have it."""
    seen = list(reference.seen)
    for k, (way, axis, entry) in enumerate((("x", plane.ways[0], reference.x), ("y", plane.ways[1], reference.y))):
        if entry is None:
            continue
        known = len(values.faults)
        value = values.read(entry, f"{at}/{way}", "length", plane.scope(values, axis), part=plane.part, owner=owner)
        if len(values.faults) > known and f"{at}/{way}" not in values.good:
            continue
        shift = value - plane.low(values, k) - seen[k]
        for n in range(k, len(seen), 2):
            seen[n] += shift
    return tuple(seen)


def fast_words(values: Values, plane: OnPlane, drawing: Drawing) -> dict[str, str]:
    """What things are called that a drawing refers to: by their entries, without the part's own name."""
    own = f"{values.boards[plane.part].name}." if plane.part in values.boards else f"{plane.name}."
    found = {}
    for name, reference in drawing.references.items():
        said = [e.text.removeprefix(own) for e in (reference.x, reference.y) if e is not None]
        if reference.line:
            part, _, curve = reference.line.partition("/")
            other = values.boards.get(part)
            named = drawing_of(other) if other else None
            found[name] = f"{other.name}'s {thing_words(named, curve)}" if other and named and curve in named.curves else "the line"
        elif reference.hole:
            found[name] = "the hole"
        elif reference.body:
            found[name] = values.boards[reference.body].name if reference.body in values.boards else "the round part"
        elif reference.kind == "line" and (zero := _at_zero(reference, plane)):
            found[name] = zero
        elif reference.kind == "point" and said:
            places = [k for k, r in drawing.references.items() if r.kind == "point"]
            found[name] = f"place {places.index(name) + 1}"
        elif said:
            found[name] = said[0]
    return found


def _at_zero(reference: Reference, plane: OnPlane) -> str:
    """What a line is called that stays where x or y of its plane is 0; '' for another one."""
    x0, y0, x1, y1 = reference.seen
    return plane.zeros[0] if x0 == x1 == 0 else plane.zeros[1] if y0 == y1 == 0 else ""


def _contradicts(values: Values, plane: OnPlane, drawing: Drawing, where: str, owner: str, clash: Clash, found: Drawn) -> Fault:
    """The fewest that contradict, in words, each to be left out or only measured."""
    called = fast_words(values, plane, drawing)
    mends: list[Mend] = []
    said: list[str] = []
    for name in clash.relations[:MOST_TOLD]:
        relation = drawing.relations[name]
        shown = ""
        if name in found.figures:
            shown = _shown(values, found.figures[name], DIMENSIONS[relation.kind])
        words = relation_words(drawing, relation, shown, called)
        said.append(words)
        at = f"{where}{pointer('relations', name)}"
        mends.append(Mend(f"Leave out: {words}", [{"op": "add", "path": f"{at}/out", "value": True}]))
        if name in found.figures:
            mends.append(Mend(f"Only measure: {words}", [{"op": "add", "path": f"{at}/measured", "value": True}]))
    more = len(clash.relations) - MOST_TOLD
    beside = f"; and {more} more" if more > 0 else ""
    message = f"{plane.name}: these cannot all hold: {'; '.join(said)}{beside}"
    entry = f"{where}{pointer('relations', clash.left_out)}"
    return Fault(
        "contradicts", message, "relations that can hold together", part=plane.part, owner=owner, entry=entry, mends=tuple(reversed(mends))
    )


def solved_again(values: Values, key: str) -> bool:
    """Whether a part's own drawing is solved, and told of, once the parts have their places: it refers to holes, or says nothing of where the part ends."""
    drawing = drawing_of(values.boards[key])
    refers = drawing is not None and any(r.followed for r in drawing.references.values())
    return refers or not any(says_how_far(values.boards[key], a) for a in plane_of(values, key).ways)


def _solved_early(values: Values, key: str, drawing: Drawing) -> Drawn:
    """A part's own drawing before anything is made, so that spans and entries can read it. KeyError where it is drawn against itself."""
    if key not in values.drawings:
        values.drawings[key] = None
        said = len(values.faults)
        values.drawings[key] = drawn_on(
            values, plane_of(values, key), drawing, pointer("parts", key, *own_path(values.boards[key])), "outline"
        )
        if solved_again(values, key):
            del values.faults[said:]
    found = values.drawings[key]
    if found is None:
        raise KeyError(f"{values.boards[key].name} is drawn against itself")
    return found


def drawn_place(values: Values, key: str, name: str) -> tuple[str, list[tuple[float, float, float]]]:
    """Where a named line of a part's drawing lies, as ``Values.drawn_place`` has it."""
    drawing, plane = drawing_of(values.boards[key]), plane_of(values, key)
    curve = drawing.named(name) if drawing else None
    assert drawing is not None and curve is not None
    (u, v), across = plane.ways, next(a for a in AXES if a not in plane.ways)
    low = [plane.low(values, k) for k in (0, 1)]
    heights = [values.datum(key, across, side) for side in ("low", "high")]
    found = _solved_early(values, key, drawing)
    shift = shift_of(found) if is_plate(values.boards[key]) else (0.0, 0.0)

    def place(p: tuple[float, float], w: float) -> tuple[float, float, float]:
        at = {u: low[0] + p[0] + shift[0], v: low[1] + p[1] + shift[1], across: w}
        return three(at[a] for a in AXES)

    record_of = drawing.curves[curve]
    if not isinstance(record_of, DrawnLine | DrawnSpline):
        middle = record_of.at if isinstance(record_of, DrawnText) else record_of.centre
        return "", [place(found.solved.point(middle), sum(heights) / len(heights))]
    ends = [found.solved.point(k) for k in record_of.points()[:: max(len(record_of.points()) - 1, 1)]]
    du, dv = (abs(ends[1][k] - ends[0][k]) for k in (0, 1))
    axis = "" if isinstance(record_of, DrawnSpline) else u if du < SEEN else v if dv < SEEN else ""
    return axis, [place(p, w) for p in ends for w in heights]


def drawn_dimension(values: Values, key: str, feature: str, relation: str) -> float:
    """What a dimension of a drawing measures, by what that is drawn on and which of it; in mm or radians. KeyError with a sentence's end where it is gone."""
    from zygon.making.datums.paths import drawn_path

    record, _ = drawn_on_what(values.document, key)
    at = drawing_at(values.document, key, feature)
    said = at.drawing.relations.get(relation) if at else None
    if at is None or said is None or said.kind not in DIMENSIONS or (key not in values.boards and not is_of(key, "stock", "frame")):
        raise KeyError("the dimension that it follows is gone")
    if is_of(key, "stock"):
        solved = values.drawn_sections.get(read_owner(key).key)
        if solved is None:
            raise KeyError("the section that it follows is not drawn")
        return measured(solved.solved, said)
    if is_of(key, "frame"):
        return measured(drawn_path(values, read_owner(key).key).solved, said)
    if not feature:
        return measured(_solved_early(values, key, at.drawing).solved, said)
    plane = plane_of(values, key)
    if is_of(feature, "flange"):
        flange = record.folding.flanges[read_owner(feature).key]
        plane = plane_of_profile(values, key, flange.edge, flange.lies)
    known = len(values.faults)
    found = drawn_on(values, plane, at.drawing, at.where, feature if is_of(feature, "flange") else feature_id(key, feature))
    del values.faults[known:]
    return measured(found.solved, said)


def drawn_along(values: Values, key: str, axis: str) -> float:
    """How far a part's own drawing reaches along an axis, in mm; ``BEGUN`` where nothing is drawn yet. KeyError, with a sentence, where it has none."""
    record = values.boards[key]
    drawing = drawing_of(record)
    if drawing is None:
        raise KeyError(f"{record.name} is not drawn freely, so nothing says how far it is drawn")
    found = _solved_early(values, key, drawing)
    low, high = found.along("x" if axis == plane_of(values, key).ways[0] else "y")
    return high - low if high - low > CONTACT else BEGUN
