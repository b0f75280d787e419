"""A drawing on its own, as a file has it: the document's records of a drawing as JSON, with entries that name nothing."""

from __future__ import annotations

import json
from pathlib import Path

from pydantic import ValidationError

from zygon.drawing.figures import figure_fault
from zygon.drawn.drawing import DIMENSIONS, Drawing
from zygon.errors import DocumentError, ExpressionError, ImportFileError
from zygon.limits import MAX_UPLOAD_BYTES
from zygon.measure.evaluate import NoScope, evaluate

__all__ = ["figures_alone", "read_drawing"]


def read_drawing(path: Path) -> Drawing:
    """The drawing in a file. Raises ImportFileError or DocumentError naming the file, the entry, its value and the rule."""
    try:
        if path.stat().st_size > MAX_UPLOAD_BYTES:
            raise ImportFileError(f"{path.name}: larger than {MAX_UPLOAD_BYTES // 1_000_000} MB", entry=path.name, rule="file size")
        data = json.loads(path.read_text("utf-8"))
    except (ValueError, RecursionError) as error:
        raise ImportFileError(f"{path.name}: not JSON that can be read ({error})", entry=path.name, rule="JSON in UTF-8") from None
    try:
        drawing = Drawing.model_validate(data)
    except ValidationError as error:
        fault = error.errors(include_url=False)[0]
        at = "/" + "/".join(str(s) for s in fault["loc"])
        value = fault.get("input")
        shown = value if isinstance(value, str | int | float | bool) or value is None else type(value).__name__
        raise DocumentError(f"{path.name}{at}: {fault['msg']} (given: {shown!r})", entry=at, value=shown, rule=fault["msg"]) from None
    found = drawing.fault()
    if found:
        field, value, rule = found
        raise DocumentError(f"{path.name}/{field}: {rule}", entry=f"/{field}", value=value, rule=rule, code="bad_reference")
    return drawing


def figures_alone(drawing: Drawing) -> dict[str, float]:
    """What the dimensions of a drawing say that names nothing, in mm or radians. Raises DocumentError naming the entry."""
    found = {}
    for key, relation in drawing.relations.items():
        if relation.entry is None or relation.measured or relation.out:
            continue
        at = f"/relations/{key}/entry"
        try:
            value = evaluate(relation.entry.text, relation.entry.unit, DIMENSIONS[relation.kind], NoScope()).value
        except ExpressionError as error:
            rule = error.reason
            raise DocumentError(
                f"{at}: {error.message}", entry=at, value=relation.entry.text, rule=rule, code="broken_expression"
            ) from error
        rule = figure_fault(relation.kind, value)
        if rule:
            raise DocumentError(f"{at}: {rule}", entry=at, value=relation.entry.text, rule=rule, code="bad_value")
        found[key] = value
    return found
