"""The path of a frame as it is drawn: its points as they are, each where its entries have it."""

from __future__ import annotations

from typing import Literal

from zygon.design.frames import FramePoint, LineFrame
from zygon.design.layout_operations import fresh_key
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.drawn.drawing import Curve, Drawing, DrawnLine, DrawnPoint, Reference, Relation
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, Plane, frame_of
from zygon.making.asked.drawings.followed import frame_records
from zygon.making.asked.drawings.on_frame import OnFrame
from zygon.making.asked.questions import Meeting
from zygon.making.datums.members import point_of
from zygon.making.result.built import Built
from zygon.measure.entry import Entry
from zygon.owner import read_owner
from zygon.tolerance import SEEN

__all__ = ["begin_path"]

#: The planes in the order in which a path is looked at, where it lies in several.
PLANES: tuple[Plane, ...] = ("facing_front", "lying", "facing_side")


def begin_path(built: Built, part: str) -> tuple[str, Patch]:
    """Label and patch that draw the path of a frame, as it is. Raises DocumentError where its points do not lie in one plane along the axes."""
    key = read_owner(part).key
    frame = built.document.frames.get(key)
    if frame is None:
        raise DocumentError(f"There is no frame {key}", entry="part", value=part, rule="a frame of the design")
    if frame.drawing is not None:
        raise DocumentError(f"{frame.name} is drawn freely already", entry="part", value=part, rule="a path that is not drawn yet")
    own = {k: p for k, p in frame.points.items() if not p.on}
    values = Meeting(built.document).values
    try:
        places = {k: point_of(values, key, k).tolist() for k in own}
    except KeyError:
        raise DocumentError(f"{frame.name} has a point without a place", entry="part", value=part, rule="points that have places") from None
    lies = [p for p in PLANES if _spread(places, AXES.index(frame_of(p).normal)) <= SEEN]
    if not lies or not frame.lines:
        rule = "points that lie in one plane along the axes, with a line between two of them"
        raise DocumentError(f"{frame.name} lies in no such plane", entry="part", value=part, rule=rule)
    across = next(iter(own.values())).at[frame_of(lies[0]).normal]  # type: ignore[index]
    drawn = _drawn(frame, own, places, lies[0], built.document.unit)
    made = frame.model_copy(update={"drawing": drawn, "plane": lies[0], "across": across})
    OnFrame(built, part, "", made)  # it can be drawn on
    points, lines = frame_records(drawn, _named(frame, drawn))
    kept = {k: p.model_dump(mode="json", exclude_none=True) for k, p in frame.points.items() if p.on}
    where = pointer("frames", key)
    written = {"drawing": drawn.model_dump(mode="json", exclude_none=True), "plane": lies[0], "across": across.model_dump(mode="json")}
    patch: Patch = [{"op": "add", "path": f"{where}/{field}", "value": value} for field, value in written.items()]
    patch += [{"op": "replace", "path": f"{where}/points", "value": {**kept, **points}}]
    patch += [{"op": "replace", "path": f"{where}/lines", "value": lines}]
    return f"Draw the path of {frame.name}", patch


def _named(frame: LineFrame, drawn: Drawing) -> LineFrame:
    """The frame with each of its points as the one that is drawn for it."""
    ends = [(line.a, end.a, line.b, end.b) for k, line in frame.lines.items() if isinstance(end := drawn.curves.get(k), DrawnLine)]
    of = {k: d for a, da, b, db in ends for k, d in ((a, da), (b, db))}
    return frame.model_copy(update={"points": {k: FramePoint(drawn=d) for k, d in of.items()}})


def _spread(places: dict[str, list[float]], k: int) -> float:
    along = [p[k] for p in places.values()]
    return max(along) - min(along)


def _drawn(
    frame: LineFrame, own: dict[str, FramePoint], places: dict[str, list[float]], plane: Plane, unit: Literal["mm", "in"]
) -> Drawing:
    """The points of a frame under their keys, each on a place that its own entries say, and its lines."""
    axes = frame_of(plane)
    u, v = AXES.index(axes.u), AXES.index(axes.v)
    used = {end for line in frame.lines.values() for end in (line.a, line.b)}
    # a line may have the key of a point in a frame, and no two things of a drawing may
    key = {k: k if k not in frame.lines else fresh_key({**frame.points, **frame.lines}, f"{k}_p") for k in own}
    points = {key[k]: DrawnPoint(x=round(p[u], 6) + 0.0, y=round(p[v], 6) + 0.0) for k, p in places.items() if k in used}
    references: dict[str, Reference] = {}
    relations: dict[str, Relation] = {}
    for n, k in enumerate(k for k in own if k in used):
        x, y = (own[k].at.get(a, Entry(text="0", unit=unit)) for a in (axes.u, axes.v))  # type: ignore[call-overload]
        of, name = points[key[k]], fresh_key({**points, **frame.lines, **references}, f"at_{k}")
        references[name] = Reference(kind="point", x=x, y=y, seen=[of.x, of.y], order=n)
        relations[f"r{n + 1}"] = Relation(kind="same_place", of=[key[k], name], order=n)
    said = sorted(frame.lines.items(), key=lambda kl: (kl[1].order, kl[0]))
    curves: dict[str, Curve] = {
        k: DrawnLine(a=key[line.a], b=key[line.b], order=n) for n, (k, line) in enumerate(said) if line.a in own and line.b in own
    }
    return Drawing(points=points, curves=curves, references=references, relations=relations)
