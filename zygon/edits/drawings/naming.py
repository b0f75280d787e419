"""Lines of a drawing by names of their own: entries name them as they name sides, and follow when they are called otherwise."""

from __future__ import annotations

import re

from zygon.design.document import MirrorCopy
from zygon.design.operations import entries, face_called
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.drawn.drawing import OWN_NAMES
from zygon.edits.drawings.draft import refused
from zygon.making.asked.drawings.of import place_of
from zygon.making.result.built import Built

__all__ = ["name_drawn"]

NAME = re.compile(r"[a-z][a-z0-9_]{0,39}")


def name_drawn(built: Built, part: str, feature: str, curve: str, name: str) -> tuple[str, Patch]:
    """Label and patch that call a line, an arc or a circle by a name, or by none; entries that name it follow. Raises DocumentError where the name cannot be."""
    document = built.document
    place, drawing = place_of(built, part, feature)
    record = drawing.curves.get(curve)
    if record is None:
        raise refused(f"There is no line {curve}", "curve", curve, "a line, an arc or a circle of the drawing")
    if name and not NAME.fullmatch(name):
        raise refused(f"{name} is no name for a line", "name", name, "small letters, digits and _, beginning with a letter")
    if name in OWN_NAMES or (name and drawing.named(name) not in (None, curve)):
        raise refused(f"{name} is taken already", "name", name, "a name of its own")
    old, where = record.name, f"{place.where}{pointer('curves', curve, 'name')}"
    patch: Patch = [{"op": "add", "path": where, "value": name}]
    if old and name and not feature:
        called = {document.parts[part].name}
        called |= {c.names[part] for c in document.copies.values() if isinstance(c, MirrorCopy) and part in c.names}
        for at, text in entries(document.dump()):
            changed = text
            for one in called:
                changed = face_called(changed, one, old, f"{one}.{name}")
            if changed != text:
                patch.append({"op": "replace", "path": f"{at}/text", "value": changed})
    return (f"Call {record.kind} {name}" if name else f"Call {old or record.kind} by no name"), patch
