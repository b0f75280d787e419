"""A text of a drawing said otherwise: its letters, how high, how it is turned, in which font."""

from __future__ import annotations

import math

from zygon.design.patch import Patch
from zygon.drawn.drawing import DrawnText
from zygon.edits.drawings.draft import Draft, refused
from zygon.edits.drawings.draw import lettered, tall
from zygon.geometry.lettering import Font
from zygon.making.datums.scope import EntryScope
from zygon.making.result.built import Built
from zygon.measure.entry import Entry
from zygon.measure.evaluate import evaluate

__all__ = ["letter_drawn"]


def letter_drawn(
    built: Built, part: str, feature: str, curve: str, text: str | None, height: Entry | None, turned: Entry | None, font: Font | None
) -> tuple[str, Patch]:
    """Label and patch that change a text; what is not said stays. Raises DocumentError where it cannot be."""
    draft = Draft(built, part, feature)
    record = draft.curves.get(curve)
    if not isinstance(record, DrawnText):
        raise refused(f"{curve} is no text of the drawing", "curve", curve, "a text")
    scope = EntryScope(draft.place.values)
    found: dict[str, object] = {"font": font or record.font}
    found["text"] = lettered((text if text is not None else record.text).strip(), font or record.font)
    if height is not None:
        found["height"] = tall(evaluate(height.text, height.unit, "length", scope).value)
    if turned is not None:
        found["turned"] = round(math.degrees(math.remainder(evaluate(turned.text, turned.unit, "angle", scope).value, math.tau)), 9)
    draft.curves[curve] = record.model_copy(update=found)
    return f"Text: {found['text']}", draft.patch()
