"""Lines and arcs of a drawing once more: mirrored about a line, in rows, or beside themselves; the copies follow."""

from __future__ import annotations

import math

from zygon.design.patch import Patch
from zygon.drawn.drawing import Curve, DrawnArc, DrawnCircle, DrawnLine
from zygon.edits.drawings.draft import Draft, refused
from zygon.limits import MAX_REPEATED
from zygon.making.datums.scope import EntryScope
from zygon.making.result.built import Built
from zygon.measure.entry import Entry
from zygon.measure.evaluate import evaluate
from zygon.tolerance import CONTACT, SEEN

__all__ = ["beside", "in_row", "mirror_drawn"]


def _chosen(draft: Draft, curves: list[str]) -> list[str]:
    lost = next((k for k in curves if k not in draft.curves), None)
    if lost is not None or not curves:
        raise refused(f"There is no line or arc {lost}", "curves", lost, "lines and arcs of the drawing")
    kept = draft.kept(draft.drawn())
    draft.points, draft.curves = dict(kept.points), dict(kept.curves)
    return curves


def _again(draft: Draft, curve: Curve, image: dict[str, str], *, turned: bool) -> str:
    """A curve through the images of its points; one that is mirrored runs the other way round."""
    fields = {f: image[getattr(curve, f)] for f in ("a", "b", "centre", "at") if hasattr(curve, f)}
    if turned and isinstance(curve, DrawnArc):
        fields["a"], fields["b"] = fields["b"], fields["a"]
    if curve.kind == "spline":
        fields["through"] = [image[p] for p in curve.through]  # type: ignore[assignment]
    return draft.curve(curve.model_copy(update={**fields, "name": "", "edge": ""}))


def mirror_drawn(built: Built, part: str, feature: str, curves: list[str], about: str) -> tuple[str, Patch]:
    """Label and patch of the mirror images of curves about a line; what lies on it is shared."""
    draft = Draft(built, part, feature)
    about = draft.named(about)
    chosen = [k for k in _chosen(draft, curves) if k != about]
    if draft.made().thing(about) != "l":
        raise refused("It is mirrored about a straight line", "about", about, "a straight line with a length")
    (ax, ay), (bx, by) = draft.at(f"{about}.a"), draft.at(f"{about}.b")
    long = math.hypot(bx - ax, by - ay)
    if long <= CONTACT or not chosen:
        raise refused("It is mirrored about a straight line", "about", about, "a straight line with a length")
    ex, ey = (bx - ax) / long, (by - ay) / long
    image: dict[str, str] = {}
    for key in dict.fromkeys(p for k in chosen for p in draft.curves[k].points()):
        x, y = draft.at(key)
        off = ex * (y - ay) - ey * (x - ax)
        if abs(off) <= SEEN:
            image[key] = key
            said = any(r.kind == "on" and r.of == [key, about] for r in draft.relations.values())
            line = draft.curves.get(about)
            if not said and not (line is not None and key in line.points()):
                draft.relate("on", [key, about])
            continue
        image[key] = draft.point(x + 2 * off * ey, y - 2 * off * ex)
        draft.relate("mirrored", [key, image[key], about])
    for k in chosen:
        curve = draft.curves[k]
        if all(image[p] == p for p in curve.points()) and not isinstance(curve, DrawnArc):
            continue
        made = _again(draft, curve, image, turned=True)
        if isinstance(curve, DrawnCircle):
            draft.relate("equal", [k, made])
    return f"Mirror {_counted(chosen)}", draft.patch()


def _counted(chosen: list[str]) -> str:
    return "a line" if len(chosen) == 1 else f"{len(chosen)} lines"


def in_row(built: Built, part: str, feature: str, curves: list[str], number: int, across: Entry, up: Entry) -> tuple[str, Patch]:
    """Label and patch of curves in a row: ``number`` in all, each so far across and up from the one before."""
    draft = Draft(built, part, feature)
    chosen = _chosen(draft, curves)
    if not 2 <= number <= MAX_REPEATED // 10:
        raise refused(f"A row of {number}", "number", number, f"from 2 to {MAX_REPEATED // 10}")
    step = [evaluate(e.text, e.unit, "length", EntryScope(draft.place.values)).value for e in (across, up)]
    if math.hypot(*step) <= CONTACT:
        raise refused("A row goes somewhere", "across", across.text, "a step across or up")
    before = {p: p for k in chosen for p in draft.curves[k].points()}
    for _ in range(number - 1):
        image = {first: draft.point(draft.at(key)[0] + step[0], draft.at(key)[1] + step[1]) for first, key in before.items()}
        for first, key in image.items():
            for kind, level, entry, value in (("across", "upright", across, step[0]), ("up", "level", up, step[1])):
                if abs(value) <= CONTACT:
                    draft.relate(level, [before[first], key])
                else:
                    text = f"abs({entry.text})" if value < 0 else entry.text
                    draft.relate(kind, [before[first], key], entry.model_copy(update={"text": text}))
        for k in chosen:
            made = _again(draft, draft.curves[k], image, turned=False)
            if isinstance(draft.curves[k], DrawnCircle):
                draft.relate("equal", [k, made])
        before = image
    return f"A row of {number}", draft.patch()


def beside(built: Built, part: str, feature: str, curves: list[str], by: Entry, side: str) -> tuple[str, Patch]:
    """Label and patch of lines and arcs at a distance beside others, joined where those are; to the 'left' or 'right' of the way in which the first is drawn."""
    draft = Draft(built, part, feature)
    chosen = _chosen(draft, curves)
    value = evaluate(by.text, by.unit, "length", EntryScope(draft.place.values)).value
    if value <= CONTACT:
        raise refused(f"Beside by {by.text}", "by", by.text, "greater than 0")
    odd = next((k for k in chosen if not isinstance(draft.curves[k], DrawnLine | DrawnArc | DrawnCircle)), None)
    if odd is not None:
        raise refused("Only lines, arcs and circles are drawn beside themselves", "curves", odd, "no smooth curve, and no text")
    runs = _run_of(draft, chosen)
    off = value if side == "left" else -value
    image: dict[str, str] = {}
    made: list[tuple[str, str, bool]] = []
    for k, forward in runs:
        curve = draft.curves[k]
        if isinstance(curve, DrawnCircle):
            new = draft.circle(curve.centre, _at_least(curve.radius + (value if side == "right" else -value)), helping=curve.helping)
            made.append((k, new, True))
            continue
        assert isinstance(curve, DrawnLine | DrawnArc)
        for end in (curve.a, curve.b):
            if end not in image:
                nx, ny = _normal(draft, runs, end)
                x, y = draft.at(end)
                image[end] = draft.point(x + off * nx, y + off * ny)
        fields = {"a": image[curve.a], "b": image[curve.b]}
        new = draft.curve(curve.model_copy(update={**fields, "name": "", "edge": ""}))
        made.append((k, new, forward))
    for k, new, forward in made:
        curve = draft.curves[k]
        if isinstance(curve, DrawnLine):
            draft.relate("parallel", [k, new])
            draft.relate("distance", [k, new], by)
            continue
        radius = curve.radius if isinstance(curve, DrawnCircle) else math.dist(draft.at(f"{k}.a"), draft.at(f"{k}.centre"))
        outward = (side == "right") == forward
        entry = _radius(draft, k, by, outward, radius, value)
        draft.relate("radius", [new], entry)
    return f"Beside by {by.text}", draft.patch()


def _at_least(radius: float) -> float:
    if radius <= CONTACT:
        raise refused("Nothing is left of a circle so far within it", "by", radius, "less than its radius")
    return radius


def _radius(draft: Draft, curve: str, by: Entry, outward: bool, radius: float, value: float) -> Entry:
    """The radius of an arc beside another: by what says that one's, else by its figure."""
    _at_least(radius + (value if outward else -value))
    sign = "+" if outward else "-"
    for r in draft.relations.values():
        if r.of == [curve] and r.kind in ("radius", "diameter") and r.entry and not r.measured and not r.out and r.entry.unit == by.unit:
            half = f"({r.entry.text})" + ("/2" if r.kind == "diameter" else "")
            return Entry(text=f"{half} {sign} ({by.text})", unit=by.unit)
    draft.relate("radius", [curve], Entry(text=f"{radius:.6g} mm", unit=by.unit))
    return Entry(text=f"{radius:.6g} mm {sign} ({by.text})", unit=by.unit)


def _run_of(draft: Draft, chosen: list[str]) -> list[tuple[str, bool]]:
    """Curves in the order in which they go on from the first, and whether each is drawn that way."""
    left = [k for k in chosen if not isinstance(draft.curves[k], DrawnCircle)]
    runs: list[tuple[str, bool]] = [(k, True) for k in chosen if isinstance(draft.curves[k], DrawnCircle)]
    while left:
        first = left.pop(0)
        runs.append((first, True))
        for toward in (True, False):
            end, forward = _end(draft, first, last=toward), True
            while (k := next((k for k in left if end in _ends(draft, k)), None)) is not None:
                left.remove(k)
                forward = (_end(draft, k, last=not toward) == end) if toward else (_end(draft, k, last=True) == end)
                runs.append((k, forward))
                end = next((p for p in _ends(draft, k) if p != end), end)
    return runs


def _ends(draft: Draft, key: str) -> tuple[str, ...]:
    c = draft.curves[key]
    return (c.a, c.b) if isinstance(c, DrawnLine | DrawnArc) else (c.through[0], c.through[-1]) if c.kind == "spline" else ()


def _end(draft: Draft, key: str, *, last: bool) -> str:
    return _ends(draft, key)[1 if last else 0]


def _normal(draft: Draft, runs: list[tuple[str, bool]], point: str) -> tuple[float, float]:
    """Where a corner goes that is moved one to the left: along the middle of its lines' normals, so far that both move by one."""
    normals = []
    for k, forward in runs:
        c = draft.curves[k]
        if not isinstance(c, DrawnLine | DrawnArc) or point not in (c.a, c.b):
            continue
        if isinstance(c, DrawnLine):
            (ax, ay), (bx, by) = draft.at(c.a), draft.at(c.b)
            long = math.hypot(bx - ax, by - ay) or 1.0
            n = (-(by - ay) / long, (bx - ax) / long)
        else:
            (px, py), (cx, cy) = draft.at(point), draft.at(c.centre)
            r = math.hypot(px - cx, py - cy) or 1.0
            n = ((cx - px) / r, (cy - py) / r)  # the left of a way counter-clockwise is inward
        normals.append(n if forward else (-n[0], -n[1]))
    x, y = sum(n[0] for n in normals), sum(n[1] for n in normals)
    dot = x * normals[0][0] + y * normals[0][1]
    return (x / dot, y / dot) if abs(dot) > 0.1 else normals[0]
