"""What is said of papers, each as one edit: how a sheet is set, what on it is moved, left out or worded, and what is put in by hand."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import ValidationError

from zygon.design.document import Document
from zygon.design.layout_operations import fresh_key
from zygon.design.papers import (
    AddedDimension,
    DetailSaid,
    DimensionSaid,
    OwnSheet,
    PaperLook,
    PaperNote,
    SectionSaid,
    SheetSaid,
    Shift,
    ViewSaid,
)
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.measure.entry import Record

__all__ = [
    "SheetField",
    "add_detail",
    "add_dimension",
    "add_note",
    "add_section",
    "add_sheet",
    "add_view",
    "choose_columns",
    "clear_sheet",
    "move_on_paper",
    "remove_from_paper",
    "remove_sheet",
    "say_dimension",
    "say_sheet",
    "show_dimension",
    "show_view",
    "take_look",
]

SheetField = Literal["out", "size", "scale", "called", "hidden", "places", "datum", "bare", "broken"]
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
    "broken": "broken where it is long",
}
#: What is put on a sheet by hand: under which kind of name, in which field, and what it is called.
PUT: dict[str, tuple[Literal["added", "notes", "sections", "views", "details"], str]] = {
    "note": ("notes", "a note"),
    "section": ("sections", "a section"),
    "added": ("added", "a dimension"),
    "view": ("views", "a view"),
    "detail": ("details", "a detail"),
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


def _put_in(document: Document, subject: str, kind: str, wish: str, record: Record) -> Patch:
    """The patch that puts a record behind the others of its kind on a sheet, under a key near to a wish. Raises DocumentError where there are too many."""
    said, patch = _sheet(document, subject)
    field, what = PUT[kind]
    others = getattr(said, field)
    most = next((m.max_length for m in SheetSaid.model_fields[field].metadata if hasattr(m, "max_length")), None)
    if most is not None and len(others) >= most:
        rule = f"at most {most} on a sheet"
        raise DocumentError(f"There is no room for {what} more: {rule}", entry=field, value=len(others) + 1, rule=rule)
    made = record.model_copy(update={"order": 1 + max((o.order for o in others.values()), default=0)})
    path = pointer("papers", "sheets", subject, field, fresh_key(others, wish))
    return [*patch, {"op": "add", "path": path, "value": made.model_dump(mode="json")}]


def add_dimension(document: Document, subject: str, dimension: AddedDimension) -> Worked:
    """Label and patch that put a dimension in. Raises DocumentError where two of its places are one."""
    places = [dimension.a, dimension.b, *([dimension.c] if dimension.way == "angle" else [])]
    if len(set(places)) < len(places) or "" in places:
        rule = "three different places" if dimension.way == "angle" else "two different places"
        raise DocumentError(f"A dimension is between {rule}", entry="b", value=dimension.b, rule=rule)
    return f"{_name(subject)}: a dimension put in", _put_in(document, subject, "added", "dimension", dimension)


def add_note(document: Document, subject: str, note: PaperNote) -> Worked:
    """Label and patch that put a note on a sheet. Raises DocumentError where nothing is written and no symbol chosen."""
    if not note.note.strip() and not note.symbol:
        rule = "at least a letter or a symbol"
        raise DocumentError(f"A note has {rule}", entry="note", value=note.note, rule=rule)
    return f"{_name(subject)}: a note", _put_in(document, subject, "note", "note", note)


def add_section(document: Document, subject: str, section: SectionSaid) -> Worked:
    """Label and patch that put a section on a sheet."""
    return f"{_name(subject)}: a section", _put_in(document, subject, "section", "section", section)


def add_view(document: Document, subject: str, view: ViewSaid) -> Worked:
    """Label and patch that put a view on a sheet. Raises DocumentError where it is of what is not there."""
    kind, _, key = view.of.partition(":")
    there = {"": True, "part": bool(key), "group": key in document.groups}.get(kind, False)
    if not there:
        rule = "what the sheet is of, 'part:KEY' or 'group:KEY'"
        raise DocumentError(f"There is nothing called {view.of} to show: {rule}", entry="of", value=view.of, rule=rule)
    return f"{_name(subject)}: a view", _put_in(document, subject, "view", "view", view)


def add_detail(document: Document, subject: str, detail: DetailSaid) -> Worked:
    """Label and patch that put a detail on a sheet."""
    return f"{_name(subject)}: a detail", _put_in(document, subject, "detail", "detail", detail)


def show_view(document: Document, subject: str, name: str, *, shown: bool) -> Worked:
    """Label and patch that leave one of a sheet's own views out, or put it in again."""
    said, patch = _sheet(document, subject)
    rest = [n for n in said.without if n != name]
    path = pointer("papers", "sheets", subject, "without")
    return f"{_name(subject)}: a view {'put in' if shown else 'left out'}", [
        *patch,
        {"op": "add", "path": path, "value": rest if shown else [*rest, name]},
    ]


def choose_columns(document: Document, subject: str, table: str, columns: list[str]) -> Worked:
    """Label and patch that say which columns a table has, in order; none for its own."""
    _, patch = _sheet(document, subject)
    path = pointer("papers", "sheets", subject, "columns", table)
    known = table in document.papers.sheets.get(subject, SheetSaid()).columns
    if columns:
        patch.append({"op": "add", "path": path, "value": columns})
    elif known:
        patch.append({"op": "remove", "path": path})
    return f"{_name(subject)}: columns of a table", patch


def add_sheet(document: Document, called: str, views: list[ViewSaid]) -> Worked:
    """Label and patch that put a sheet into the set, with views on it. Raises DocumentError where it has no name."""
    called = called.strip()
    if not called:
        rule = "at least a letter"
        raise DocumentError(f"A sheet's title has {rule}", entry="called", value=called, rule=rule)
    own = document.papers.own
    key = fresh_key(own, "sheet")
    sheet = OwnSheet(called=called, order=1 + max((o.order for o in own.values()), default=0))
    keyed = {f"view{n}": v.model_copy(update={"order": n}) for n, v in enumerate(views, 1)}
    said = SheetSaid(views=keyed)
    return f"Sheet {called}", [
        {"op": "add", "path": pointer("papers", "own", key), "value": sheet.model_dump(mode="json")},
        {"op": "add", "path": pointer("papers", "sheets", f"own:{key}"), "value": said.model_dump(mode="json", exclude_none=True)},
    ]


def remove_sheet(document: Document, key: str) -> Worked:
    """Label and patch that take a sheet that was put in by hand out of the set. Raises DocumentError where there is no such sheet."""
    own = document.papers.own.get(key)
    if own is None:
        rule = "a sheet that was put in by hand"
        raise DocumentError(f"There is no sheet {key}", entry="key", value=key, rule=rule)
    patch: Patch = [{"op": "remove", "path": pointer("papers", "own", key)}]
    if f"own:{key}" in document.papers.sheets:
        patch.append({"op": "remove", "path": pointer("papers", "sheets", f"own:{key}")})
    return f"Sheet {own.called} taken away", patch


def take_look(document: Document, look: PaperLook, name: str) -> Worked:
    """Label and patch that let a design's papers look as those of a workshop's template."""
    now, wanted = document.papers.model_dump(mode="json"), look.model_dump(mode="json")
    patch: Patch = [
        {"op": "add", "path": pointer("papers", field), "value": wanted[field]}
        for field in PaperLook.model_fields
        if wanted[field] != now[field]
    ]
    return f"Papers as {name}", patch


def remove_from_paper(document: Document, subject: str, name: str) -> Worked:
    """Label and patch that take away what was put in by hand ('note/KEY', 'added/KEY', 'section/KEY', 'view/KEY', 'detail/KEY'). Raises DocumentError where there is no such thing."""
    said = document.papers.sheets.get(subject, SheetSaid())
    kind, _, key = name.partition("/")
    field, what = PUT.get(kind, ("added", ""))
    if not what or key not in getattr(said, field):
        rule = "a note, a view, a section, a detail or a dimension that was put in by hand"
        raise DocumentError(f"There is no {name} on this sheet", entry="name", value=name, rule=rule)
    patch: Patch = [{"op": "remove", "path": pointer("papers", "sheets", subject, field, key)}]
    if name in said.dimensions:
        patch.append({"op": "remove", "path": pointer("papers", "sheets", subject, "dimensions", name)})
    if f"view/{name}" in said.moved:
        patch.append({"op": "remove", "path": pointer("papers", "sheets", subject, "moved", f"view/{name}")})
    return f"{_name(subject)}: {what} taken away", patch


def clear_sheet(document: Document, subject: str) -> Worked:
    """Label and patch that forget all that is said of a sheet. Raises DocumentError where nothing is."""
    if subject not in document.papers.sheets:
        rule = "a sheet of which something is said"
        raise DocumentError(f"Nothing is said of {_name(subject).lower()}", entry="subject", value=subject, rule=rule)
    return f"{_name(subject)}: as by itself", [{"op": "remove", "path": pointer("papers", "sheets", subject)}]
