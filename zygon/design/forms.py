"""Every kind of record that a maker fills in, as a screen needs it: its words, and each field with its label, kind of value, choices, default."""

from __future__ import annotations

from functools import lru_cache
from types import NoneType
from typing import Any, Literal, get_args

from pydantic.fields import FieldInfo

from zygon.design.asked import Among, asked_for
from zygon.design.features import FEATURE_RECORDS, Placed
from zygon.design.joints import JOINT_RECORDS
from zygon.measure.entry import Entry, Record
from zygon.measure.quantity import Kind

__all__ = ["Choice", "FeatureForm", "Form", "FormField", "Forms", "forms"]

#: What comes after a joint's own fields.
_LAST = ("relief", "held")


class Choice(Record):
    """One of the values of a field, and how it is called."""

    value: str
    label: str


class FormField(Record):
    """One field of a record. LOW, HIGH, A and B in its words stand for the ends of the run at hand and the names of both boards.

    ``default`` is what the record has where nothing is said, ``begin`` what a draft starts with (``small`` on a flange); ``blank`` what stands in it while it is empty;
    ``among`` what it is chosen from that only the part at hand can say; it is shown only while the field ``only_field`` has the value
    ``only_value``, and on cutters of the kind ``only_cutter``, where those are given; ``along`` names the field that says its axis.
    """

    name: str
    label: str
    note: str
    type: Literal["entry", "choice", "flag", "text"]
    value_kind: Kind
    optional: bool
    choices: tuple[Choice, ...]
    default: str | None
    begin: str
    small: str
    blank: str
    among: Among
    only_field: str
    only_value: str
    only_cutter: str
    along: str


class Form(Record):
    """A kind of record with its fields in order."""

    kind: str
    title: str
    note: str
    fields: tuple[FormField, ...]


class FeatureForm(Form):
    """A kind of feature: where it has a place of its own, and whether it may be mirrored, lies on a face, may be cut into a flange."""

    placed: Placed
    mirrors: bool
    faced: bool
    in_metal: bool


class Forms(Record):
    """All forms, by what they make, each in the order in which its kinds are offered."""

    joints: tuple[Form, ...]
    features: tuple[FeatureForm, ...]


@lru_cache(maxsize=1)
def forms() -> Forms:
    """Every form there is."""
    joints = tuple(Form(**_form(kind, record)) for kind, record in JOINT_RECORDS.items())
    features = tuple(
        FeatureForm(**_form(kind, r), placed=r.placed, mirrors=r.mirrors, faced=r.faced, in_metal=r.in_metal)
        for kind, r in FEATURE_RECORDS.items()
    )
    return Forms(joints=joints, features=features)


def _form(kind: str, record: Any) -> dict[str, Any]:
    names = sorted((n for n, f in record.model_fields.items() if f.title), key=_LAST.__contains__)
    fields = tuple(_field(n, record.model_fields[n]) for n in names)
    return {"kind": kind, "title": record.title, "note": (record.__doc__ or "").strip(), "fields": fields}


def _field(name: str, field: FieldInfo) -> FormField:
    said = asked_for(field)
    kinds = [a for a in (get_args(field.annotation) or (field.annotation,)) if a is not NoneType]
    entry = Entry in kinds
    listed = [] if entry or field.annotation in (bool, str) else kinds
    default = None if field.is_required() or field.default is None else field.default
    told = default.text if isinstance(default, Entry) else str(default).lower() if isinstance(default, bool) else default
    kind: Any = "entry" if entry else "flag" if field.annotation is bool else "choice" if listed or said["among"] else "text"
    words = said["words"]
    return FormField(
        name=name,
        label=field.title or name,
        note=field.description or "",
        type=kind,
        value_kind=said["kind"],
        optional=entry and not field.is_required() and field.default is None,
        # what only the part at hand can say is not listed: of the six faces' words an edge has four
        choices=() if said["among"] else tuple(Choice(value=c, label=words.get(c, c)) for c in listed),
        default=told,
        begin=said["begin"] or told or "",
        small=said["small"] or told or "",
        blank=said["blank"],
        among=said["among"],
        only_field=said["only"][0],
        only_value=said["only"][1],
        only_cutter=said["cutter"],
        along=said["along"],
    )
