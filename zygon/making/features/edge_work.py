"""Features along the edge as it is cut: profiles of a bit that runs along it, and bands that are glued on."""

from __future__ import annotations

from zygon.design.outlines import drawing_of
from zygon.geometry.frame import FACES
from zygon.making.features.reader import Reader
from zygon.making.result.operations import Band, EdgeWork, Operation, Side
from zygon.measure.display import format_length
from zygon.owner import edge_id
from zygon.tolerance import CONTACT

__all__ = ["edge_band", "edge_profile"]


def edge_profile(r: Reader, face: Side) -> list[Operation]:
    """What a bit that runs along an edge makes of it, on one face or on both."""
    edges, width = _edges(r), r.positive("size")
    f, t = r.feature, r.blank.thickness
    field = "height" if f.profile == "chamfer" and f.height is not None else "size"
    height = r.positive("height") if field == "height" else width
    if edges is None or min(width, height) <= CONTACT:
        return []
    most = t / 2 if f.both else t
    if height > most + CONTACT:
        shown, rule = (format_length(x, r.values.document.display) for x in (height, most))
        board = "half the board's" if f.both else "the board's"
        r.fault(field, f"{shown} down the edge is more than there is of it", f"at most {board} {rule}", shown, "too_deep")
        return []
    faces: tuple[Side, ...] = ("a", "b") if f.both else (face,)
    return [EdgeWork(edges, side, f.profile, width, min(height, most), r.owner, _in_joints(r)) for side in faces]


def edge_band(r: Reader) -> list[Operation]:
    """A band glued to an edge."""
    edges, thickness = _edges(r), r.positive("thickness")
    if edges is None or thickness <= CONTACT:
        return []
    low, high = zip(*(r.blank.span.span(a) for a in (r.blank.frame.u, r.blank.frame.v)), strict=True)
    most = min(b - a for a, b in zip(low, high, strict=True)) / 2
    if thickness >= most:
        shown, rule = (format_length(x, r.values.document.display) for x in (thickness, most))
        r.fault("thickness", f"a band of {shown} leaves nothing of the board", f"less than {rule} here", shown)
        return []
    return [Band(edges, thickness, r.feature.band, r.owner, _in_joints(r))]


def _in_joints(r: Reader) -> tuple[str, ...]:
    """The edges that joints have made longer: they end in other boards."""
    return tuple(edge_id(FACES[c.axis][0 if c.side == "low" else 1]) for c in r.blank.log if c.what in ("lengthen", "grow"))


def _edges(r: Reader) -> tuple[str, ...] | None:
    """Owners of the outline's lines that are meant; none of them for all. None with a fault where there is no such edge."""
    record, frame, wish = r.blank.record, r.blank.frame, r.feature.edge
    if getattr(record, "folding", None) is not None:
        r.fault("edge", "the edges of a folded part are left as they are cut", "a part that lies in one plane", wish)
        return None
    if wish == "all":
        return ()
    drawing = drawing_of(record)
    if drawing is not None:
        named = next((k for k, c in drawing.curves.items() if wish in (k, c.name, c.edge) and not c.helping), None)
        if named is not None:
            return (edge_id(drawing.edge_of(named)),)
        allowed = "all, or a line of its drawing"
    elif record.outline is None:
        words = (*FACES[frame.u], *FACES[frame.v])
        if wish in words:
            return (edge_id(wish),)
        allowed = f"all, or one of {', '.join(words)}"
    else:
        allowed = "all of this outline"
    r.fault("edge", f"it has no edge {wish}", allowed, wish)
    return None
