"""What is said of papers, each as one edit: how a sheet is set, what on it is moved, left out or worded, and what is put in by hand."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Literal

from pydantic import ValidationError

from zygon.design.document import Document
from zygon.design.layout_operations import fresh_key
from zygon.design.papers import AddedDimension, DimensionSaid, PaperNote, SectionSaid, SheetSaid, Shift
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.measure.entry import Record

__all__ = [
    "SheetField",
    "add_dimension",
    "add_note",
    "add_section",
    "clear_sheet",
    "move_on_paper",
    "remove_from_paper",
    "say_dimension",
    "say_sheet",
    "show_dimension",
]

SheetField = Literal["out", "size", "scale", "called", "hidden", "places", "datum", "bare"]
#: What a field is called in the history.
WORDS: dict[str, str] = {
    "out": "left out",
    "size": "paper",
    "scale": "scale",
    "called": "title",
    "hidden": "hidden edges",
    "places": "places",
    "datum": "measured from",
    "bare": "without its own dimensions",
}
Worked = tuple[str, Patch]


def _sheet(document: Document, subject: str) -> tuple[SheetSaid, Patch]:
    """What is said of a sheet, and what makes a record of it where there is none."""
    said = document.papers.sheets.get(subject)
    if said is not None:
        return said, []
    made = SheetSaid()
    return made, [{"op": "add", "path": pointer("papers", "sheets", subject), "value": made.model_dump(mode="json", exclude_none=True)}]


def _name(subject: str) -> str:
    return f"Sheet {subject.partition(':')[2] or subject}".replace("_", " ")


def say_sheet(document: Document, subject: str, field: SheetField, value: Any) -> Worked:
    """Label and patch that set a field of a sheet; None for as the set has it. Raises DocumentError where the value is none of the field's."""
    said, patch = _sheet(document, subject)
    if value is None:
        value = SheetSaid.model_fields[field].default
    try:
        SheetSaid.model_validate({**said.model_dump(), field: value})
    except ValidationError as error:
        rule = error.errors()[0]["msg"]
        raise DocumentError(f"{WORDS[field]}: {rule}", entry=field, value=value, rule=rule) from None
    path = pointer("papers", "sheets", subject, field)
    patch += [{"op": "remove", "path": path}] if value is None else [{"op": "add", "path": path, "value": value}]
    shown = {True: "yes", False: "no", None: "as the set", "": "by itself"}.get(value, value)
    return f"{_name(subject)}: {WORDS[field]} {shown}", [p for p in patch if not (p["op"] == "remove" and getattr(said, field) is None)]


def move_on_paper(document: Document, subject: str, name: str, x: float, y: float) -> Worked:
    """Label and patch that move something on a sheet by so much more (mm on the paper): a dimension, or a balloon, table, view or note."""
    said, patch = _sheet(document, subject)
    kind, _, key = name.partition("/")
    if kind == "note" and key in said.notes:
        at = said.notes[key].at
        shift = Shift(x=at.x + x, y=at.y + y)
        path = pointer("papers", "sheets", subject, "notes", key, "at")
    elif kind in ("view", "table") or name.partition("/")[2].startswith(("balloon/", "bend/", "piece/")):
        old = said.moved.get(name, Shift())
        shift = Shift(x=old.x + x, y=old.y + y)
        path = pointer("papers", "sheets", subject, "moved", name)
    else:
        dimension, more = _dimension(said, subject, name)
        patch += more
        shift = Shift(x=dimension.shift.x + x, y=dimension.shift.y + y)
        path = pointer("papers", "sheets", subject, "dimensions", name, "shift")
    return f"{_name(subject)}: {_thing(name)} moved", [*patch, {"op": "add", "path": path, "value": shift.model_dump(mode="json")}]


def _thing(name: str) -> str:
    if name.startswith("note/"):
        return "a note"
    if name.startswith("table/"):
        return "a table"
    if name.startswith("view/"):
        return "a view"
    return "a balloon" if "balloon/" in name else "a dimension"


def _dimension(said: SheetSaid, subject: str, name: str) -> tuple[DimensionSaid, Patch]:
    found = said.dimensions.get(name)
    if found is not None:
        return found, []
    made = DimensionSaid()
    return made, [{"op": "add", "path": pointer("papers", "sheets", subject, "dimensions", name), "value": made.model_dump(mode="json")}]


def show_dimension(document: Document, subject: str, name: str, *, shown: bool) -> Worked:
    """Label and patch that leave a dimension out, or put it in again."""
    said, patch = _sheet(document, subject)
    _, more = _dimension(said, subject, name)
    path = pointer("papers", "sheets", subject, "dimensions", name, "out")
    return f"{_name(subject)}: a dimension {'put in' if shown else 'left out'}", [
        *patch,
        *more,
        {"op": "add", "path": path, "value": not shown},
    ]


def say_dimension(document: Document, subject: str, name: str, words: dict[str, Any]) -> Worked:
    """Label and patch that put words and tolerances round a dimension's figure. Raises DocumentError where one is too long."""
    said, patch = _sheet(document, subject)
    own, more = _dimension(said, subject, name)
    try:
        DimensionSaid.model_validate({**own.model_dump(), **words})
    except ValidationError as error:
        fault = error.errors()[0]
        entry = str(fault["loc"][-1])
        raise DocumentError(f"{entry}: {fault['msg']}", entry=entry, value=fault.get("input"), rule=fault["msg"]) from None
    where = ("papers", "sheets", subject, "dimensions", name)
    return f"{_name(subject)}: a dimension worded", [
        *patch,
        *more,
        *({"op": "add", "path": pointer(*where, k), "value": v} for k, v in words.items()),
    ]


def _put_in(document: Document, subject: str, field: Literal["added", "notes", "sections"], wish: str, record: Record) -> Patch:
    """The patch that puts a record behind the others of its field on a sheet, under a key near to a wish."""
    said, patch = _sheet(document, subject)
    others = getattr(said, field)
    made = record.model_copy(update={"order": 1 + max((o.order for o in others.values()), default=0)})
    path = pointer("papers", "sheets", subject, field, fresh_key(others, wish))
    return [*patch, {"op": "add", "path": path, "value": made.model_dump(mode="json")}]


def add_dimension(document: Document, subject: str, dimension: AddedDimension) -> Worked:
    """Label and patch that put a dimension in. Raises DocumentError where both ends are one."""
    if dimension.a == dimension.b:
        rule = "two different places"
        raise DocumentError(f"A dimension is between {rule}", entry="b", value=dimension.b, rule=rule)
    return f"{_name(subject)}: a dimension put in", _put_in(document, subject, "added", "dimension", dimension)


def add_note(document: Document, subject: str, note: PaperNote) -> Worked:
    """Label and patch that put a note on a sheet. Raises DocumentError where nothing is written."""
    if not note.note.strip():
        rule = "at least a letter"
        raise DocumentError(f"A note has {rule}", entry="note", value=note.note, rule=rule)
    return f"{_name(subject)}: a note", _put_in(document, subject, "notes", "note", note)


def add_section(document: Document, subject: str, section: SectionSaid) -> Worked:
    """Label and patch that put a section on a sheet."""
    return f"{_name(subject)}: a section", _put_in(document, subject, "sections", "section", section)


def remove_from_paper(document: Document, subject: str, name: str) -> Worked:
    """Label and patch that take away what was put in by hand ('note/KEY', 'added/KEY', 'section/KEY'). Raises DocumentError where there is no such thing."""
    said = document.papers.sheets.get(subject, SheetSaid())
    kind, _, key = name.partition("/")
    groups: dict[str, tuple[str, Mapping[str, object]]] = {
        "note": ("notes", said.notes),
        "added": ("added", said.added),
        "section": ("sections", said.sections),
    }
    field, group = groups.get(kind, ("", {}))
    if key not in group:
        rule = "a note, a section or a dimension that was put in by hand"
        raise DocumentError(f"There is no {name} on this sheet", entry="name", value=name, rule=rule)
    patch: Patch = [{"op": "remove", "path": pointer("papers", "sheets", subject, field, key)}]
    if kind == "added" and name in said.dimensions:
        patch.append({"op": "remove", "path": pointer("papers", "sheets", subject, "dimensions", name)})
    what = {"note": "a note", "section": "a section"}.get(kind, "a dimension")
    return f"{_name(subject)}: {what} taken away", patch


def clear_sheet(document: Document, subject: str) -> Worked:
    """Label and patch that forget all that is said of a sheet. Raises DocumentError where nothing is."""
    if subject not in document.papers.sheets:
        rule = "a sheet of which something is said"
        raise DocumentError(f"Nothing is said of {_name(subject).lower()}", entry="subject", value=subject, rule=rule)
    return f"{_name(subject)}: as by itself", [{"op": "remove", "path": pointer("papers", "sheets", subject)}]
