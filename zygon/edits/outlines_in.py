"""Outlines of a file taken over by parts: one, or as many as there are, laid out as they lie in the file."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from zygon.design.document import Document
from zygon.design.layout_operations import fresh_key, fresh_name, next_order
from zygon.design.outlines import Drawn
from zygon.design.parts.kinds import PlateKind, is_plate
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.geometry.frame import frame_of
from zygon.limits import FARTHEST
from zygon.measure.display import exact_length
from zygon.tolerance import EPS

__all__ = ["FileShape", "take_outlines"]

Long = Annotated[float, Field(gt=0, le=FARTHEST, allow_inf_nan=False)]
Place = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]


class FileShape(BaseModel):
    """An outline of a file: its record, how wide and high it is, and where its low corner lies in the file (mm)."""

    outline: Drawn
    width: Long
    height: Long
    at: tuple[Place, Place] = (0.0, 0.0)


def take_outlines(document: Document, part: str, shapes: list[FileShape]) -> tuple[str, Patch]:
    """Label and patch that give a part the first outline and make parts like it of the others. Raises DocumentError where the part is none."""
    record = document.parts.get(part)
    if not is_plate(record):
        raise DocumentError(f"{part} is no board", entry="part", value=part, rule="a part in a plane")
    first, *rest = shapes
    patch: Patch = [
        {"op": "add", "path": pointer("parts", part, "outline"), "value": first.outline.model_dump(mode="json", exclude_none=True)},
        *(
            {"op": "replace", "path": pointer("parts", part, "spans", axis, "high"), "value": span["high"]}
            for axis, span in _spans(record, first, first).items()
        ),
    ]
    keys, names = dict(document.parts), set[str]()
    order = next_order(document.parts)
    for n, shape in enumerate(rest):
        name = fresh_name(document, record.name, names)
        key = fresh_key(keys, name)
        keys[key], names = record, names | {name}
        like = record.model_dump(mode="json", by_alias=True, exclude_none=True)
        # what is worked into the one belongs to its shape
        like.update(
            {
                "name": name,
                "order": order + n,
                "features": {},
                "quantity": 1,
                "outline": shape.outline.model_dump(mode="json", exclude_none=True),
            }
        )
        like["spans"] = {**like["spans"], **_spans(record, shape, first)}
        patch.append({"op": "add", "path": pointer("parts", key), "value": like})
    source = first.outline.source or "a file"
    return (f"{len(shapes)} outlines from {source}" if rest else f"{record.name}: outline from {source}"), patch


def _spans(record: PlateKind, shape: FileShape, first: FileShape) -> dict[str, dict[str, dict[str, str]]]:
    """The spans of an outline in the part's plane, as far beside the first one as they lie apart in the file."""
    frame = frame_of(record.plane)
    found = {}
    for k, (axis, size) in enumerate(((frame.u, shape.width), (frame.v, shape.height))):
        low = record.spans[axis].low  # type: ignore[index]
        off = shape.at[k] - first.at[k]
        begin, end = _beyond(low.text, off, low.unit), _beyond(low.text, off + size, low.unit)
        found[axis] = {"low": {"text": begin, "unit": low.unit}, "high": {"text": end, "unit": low.unit}}
    return found


def _beyond(text: str, off: float, unit: str) -> str:
    if abs(off) < EPS:
        return text
    sign = "-" if off < 0 else "+"
    return f"({text}) {sign} {exact_length(abs(off), unit)}"
