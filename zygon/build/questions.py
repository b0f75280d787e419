"""Questions about a document that are asked before an edit is made: possible joints, parts along an axis."""

from __future__ import annotations

from zygon.build.bores import parts_on_axis
from zygon.build.joints import REGISTRY, possible_joints
from zygon.build.pipeline import blanks_of, contact_of
from zygon.build.values import EntryScope, solve
from zygon.design.document import Document
from zygon.errors import DocumentError
from zygon.measure.entry import Entry
from zygon.measure.evaluate import evaluate

__all__ = ["offers_between", "parts_along"]


def offers_between(document: Document, a: str, b: str, instead_of: str = "") -> list[dict[str, str]]:
    """Each kind of joint and way round for boards a and b: the reason where it is refused, and a note where the cutter cannot make it.

    ``instead_of`` is the key of a joint of theirs that it would replace. Raises DocumentError for unknown keys.
    """
    values = solve(document)
    blanks = blanks_of(values)
    for key in (a, b):
        if key not in blanks:
            raise DocumentError(f"{key!r} is no board with a place", entry=key, value=key, rule="a board of the design")
    contact = contact_of(values, blanks[a], blanks[b])
    offers = possible_joints(contact, blanks[a].record.name, blanks[b].record.name)
    cutter = document.cutters.get(document.cutter)
    note = f"needs depth, and {cutter.name} cuts straight through" if cutter and cutter.kind == "laser" else ""
    offers = [{**o, "note": note if getattr(REGISTRY[o["kind"]], "DEPTH", False) else "", "contact": contact.kind} for o in offers]
    if any({j.a, j.b} == {a, b} and k != instead_of for k, j in document.joints.items()):
        return [{**o, "refused": o["refused"] or "these two boards are joined already"} for o in offers]
    return offers


def parts_along(document: Document, axis: str, at: dict[str, dict[str, str]]) -> list[str]:
    """Keys of the boards that a line along ``axis`` passes through; ``at`` are entries along the two other axes.

    Raises ExpressionError for an entry that cannot be worked out, DocumentError where the axes do not fit.
    """
    if set(at) != set("xyz") - {axis}:
        raise DocumentError(
            f"A bore along {axis} has a place along each of the two other axes", entry="at", value=sorted(at), rule="two places"
        )
    values = solve(document)
    places = {}
    for other, raw in at.items():
        entry = Entry.model_validate(raw)
        places[other] = evaluate(entry.text, entry.unit, "length", EntryScope(values, other)).value
    return parts_on_axis(blanks_of(values), axis, places)
