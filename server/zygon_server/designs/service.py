"""Designs' life: create, edit, undo, redo, preview. The core works outside transactions; writes are short."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from functools import cached_property, partial
from typing import Any
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import connection, transaction
from django.utils import timezone

from zygon.brake.bend_plan import known_plan
from zygon.check.moves import known_move_faults
from zygon.check.problem import Problem
from zygon.check.run import check
from zygon.design.document import SCHEMA, Document
from zygon.design.patch import apply_patch, patched, touched
from zygon.design.upgrade import as_schema, load, upgraded
from zygon.design.used_stock import uncut, used_stock
from zygon.limits import MAX_DOCUMENT_BYTES, MAX_PATCH_BYTES
from zygon.making.pipeline import build
from zygon.making.result.built import Built
from zygon.memo import Memo, digest
from zygon.screen.changes import changes
from zygon.screen.design import built_data, part_resources
from zygon.screen.picture import picture
from zygon_server.designs import orders, pictures
from zygon_server.designs.models import Design, Edit
from zygon_server.errors import NotFound, Refused, Stale
from zygon_server.quotas import may_keep, may_keep_another
from zygon_server.wanted import turn
from zygon_server.workshop.on_hand import on_hand_of, take_off

__all__ = [
    "Head",
    "commit",
    "copy",
    "counted",
    "create",
    "find",
    "head",
    "known_head",
    "preview",
    "rename_design",
    "small_picture",
    "step_back",
    "step_forward",
    "told",
]

_BUILT = Memo(40)
#: How much a maker keeps is summed up before every so many-th edit.
QUOTA_EVERY = 20
#: Small pictures of heads; a list shows them all at once.


@dataclass(frozen=True)
class Head:
    """A design built, with its problems. ``ordering`` is what is still being looked for, in words: orders of bending, and what moves."""

    document: Document
    built: Built
    problems: list[Problem]
    ordering: list[str] = field(default_factory=list)

    @cached_property
    def shown(self) -> dict[str, Any]:
        """What a screen is told of it, but for flats and solids."""
        return {"document": self.document.dump(), "built": built_data(self.built, self.problems)}

    @cached_property
    def tag(self) -> str:
        """Which of all heads ever shown this is; a reader says by it what is held already."""
        return digest(json.dumps(self.shown))

    @cached_property
    def resources(self) -> frozenset[str]:
        """The hashes of its flats and solids."""
        return frozenset(part_resources(self.built))


def told(head: Head, holds: str, have: Iterable[str], before: Head | None) -> dict[str, Any]:
    """What a reader is told of a head: what has changed since the one that is held, where that is ``before``, else all of it.

    Either way without the flats and solids that the reader has.
    """
    if before is None or not holds or before.tag != holds:
        return {**head.shown, "resources": part_resources(head.built, have)}
    patch = changes(before.shown, head.shown)
    return {"over": holds, "changes": patch, "resources": part_resources(head.built, before.resources.union(have))}


def known_head(design: Design, revision: int) -> Head | None:
    """A head as it was at a revision, where it is still remembered."""
    return _BUILT.known(f"{design.pk}:{revision}")


def find(user: AbstractBaseUser, design_id: str, *, deleted: bool = False) -> Design:
    """A maker's own design; NotFound also where it is another's, or deleted (with ``deleted``: where it is not)."""
    try:
        design = Design.objects.filter(owner=user, pk=UUID(design_id), deleted__isnull=not deleted).first()
    except ValueError:
        design = None
    if design is None:
        raise NotFound("There is no such design.")
    return design


def head(design: Design) -> Head:
    """The design's head, built; remembered by design and revision, and checked again once all orders of bending are known."""
    key = f"{design.pk}:{design.revision}"
    found = _BUILT.get(key, lambda: _built(design, load(design.document)))[0]
    on_hand = _on_hand(design, found.document)
    if found.built.on_hand != on_hand:  # the shelf has changed since
        found = replace(found, built=replace(found.built, on_hand=on_hand))
        _BUILT.put(key, found)
    if found.ordering and not orders.going_on(design.pk, found.built):
        found = replace(found, problems=_checked(found.built), ordering=[])
        _BUILT.put(key, found)
    return found


def _built(design: Design, document: Document) -> Head:
    """A design's document built and checked, with the orders of bending that are found in a moment."""
    on_hand = _on_hand(design, document)
    with turn():
        built = build(document, design.good, on_hand=on_hand)
    orders.begin(design.pk, built)
    ordering = orders.missing(built)
    with turn():
        return Head(document, built, _checked(built), ordering)


def _checked(built: Built) -> list[Problem]:
    """The problems of a design as far as they are known: what takes long is found beside."""
    return check(built, plan=known_plan, moves=known_move_faults)


def _on_hand(design: Design, document: Document) -> dict[str, dict[str, int]]:
    """How many there are of what a design is cut from, on its maker's shelf."""
    return {k: counted for k, counted in on_hand_of(design.owner_id).items() if k in document.stocks}


def create(user: AbstractBaseUser, document: Document) -> Design:
    """Keeps a new design. Refused where its maker has as many as one may have."""
    may_keep_another(user)
    data = document.dump()
    _small_enough(data)
    design = Design(owner=user, name=document.name, document=data)
    first = _built(design, document)
    design.good = first.built.good
    design.parts, design.problems = _counts(first).values()
    design.save(force_insert=True)
    _remember(design, first)
    return design


def small_picture(design: Design) -> str:
    """The head's small picture (SVG); kept with the design, for its revision.

    A list asks for that of every design: what is not built yet is built for it, but neither checked nor are its orders of bending looked for.
    """
    if design.drawn == design.revision and design.drawing:
        return design.drawing
    known = _BUILT.known(f"{design.pk}:{design.revision}")
    drawing = picture(known.built if known else build(load(design.document), design.good))
    Design.objects.filter(pk=design.pk, revision=design.revision).update(drawing=drawing, drawn=design.revision)
    return drawing


def _remember(design: Design, built: Head) -> None:
    """What was built to be checked is the head under its new revision: it is not built a second time to be shown."""
    _BUILT.put(f"{design.pk}:{design.revision}", built)
    if built.ordering:
        orders.when_done(design.pk, partial(_settle, design.pk, design.revision))


def _settle(design_id: UUID, revision: int) -> None:
    """Counts the problems anew once the orders of bending are found; in the thread that found them."""
    try:
        design = Design.objects.filter(pk=design_id, revision=revision).first()
        if design is not None:
            counted(design)
    finally:
        connection.close()


def _counts(head: Head) -> dict[str, int]:
    """What the list of designs tells of one."""
    return {"parts": len(head.built.parts), "problems": sum(p.open for p in head.problems)}


def counted(design: Design) -> Design:
    """The design with its counts filled in from its head."""
    counts = _counts(head(design))
    Design.objects.filter(pk=design.pk, revision=design.revision).update(**counts)
    design.parts, design.problems = counts["parts"], counts["problems"]
    return design


def copy(user: AbstractBaseUser, design: Design) -> Design:
    """A copy under a name that says so; nothing of it is cut yet."""
    may_keep_another(user)
    data = {**uncut(design.document), "name": f"{design.name} (copy)"[:80]}
    made = Design.objects.create(
        owner=user, name=data["name"], document=data, good=design.good, parts=design.parts, problems=design.problems
    )
    pictures.copy_all(design, made)
    return made


def delete(design: Design) -> None:
    """A design is out of sight, and can be brought back until it is pruned; batches are cut without it."""
    with transaction.atomic():
        design.batchitem_set.all().delete()
        Design.objects.filter(pk=design.pk).update(deleted=timezone.now())


def restore(user: AbstractBaseUser, design: Design) -> Design:
    """Brings a deleted design back. Refused where the maker has as many as one may have."""
    may_keep_another(user)
    Design.objects.filter(pk=design.pk).update(deleted=None)
    design.deleted = None
    return design


def rename_design(design: Design, name: str, author: str) -> Design:
    """Gives the design another name, as an edit like any other."""
    patch = [{"op": "replace", "path": "/name", "value": name}]
    return commit(design, design.revision, f"Name: {name}", patch, author)


def commit(design: Design, revision: int, label: str, patch: list[dict[str, Any]], author: str, token: str = "") -> Design:
    """One edit on the head; one whose ``token`` an earlier edit had was made then, and is not made again. Stale where the head has moved on, Refused where an entry that it writes cannot be worked out."""
    if _made(design, token):
        return design
    _fresh(design, revision)
    if revision % QUOTA_EVERY == 0:
        may_keep(design.owner)
    _small_enough(patch, MAX_PATCH_BYTES, "an edit")
    document, data, inverse = apply_patch(design.document, patch)
    _small_enough(data)
    after = _built(design, document)
    _refuse_broken(patch, head(design), after)
    return _store(
        design,
        data,
        after,
        Edit(kind=Edit.Kind.EDIT, label=label[:200], patch=patch, inverse=inverse, author=author, schema=SCHEMA, token=token),
    )


def preview(design: Design, patch: list[dict[str, Any]]) -> Head:
    """What an edit would give; nothing is stored."""
    _small_enough(patch, MAX_PATCH_BYTES, "an edit")
    # asked for again at once by what is drawn beside it, such as a joint's figure
    on_hand = on_hand_of(design.owner_id)
    key = f"{design.pk}:{design.revision}:{digest(json.dumps([patch, on_hand], sort_keys=True))}"
    return _BUILT.get(key, lambda: _tried(patched(design.document, patch), design.good, on_hand))[0]


def _tried(document: Document, good: dict[str, float], on_hand: dict[str, dict[str, int]]) -> Head:
    with turn():
        built = build(document, good, on_hand={k: counted for k, counted in on_hand.items() if k in document.stocks})
        return Head(document, built, check(built, assembled=False, plan=known_plan))


def step_back(design: Design, revision: int, author: str) -> Design:
    """Undoes the last edit that stands, as a new revision."""
    _fresh(design, revision)
    last = design.edits.filter(kind=Edit.Kind.EDIT, state=Edit.State.DONE).last()
    if last is None:
        raise Refused("There is nothing to undo.", entry="undo", rule="an edit that stands")
    return _replay(design, last, Edit.Kind.UNDO, last.inverse, last.patch, Edit.State.UNDONE, author)


def step_forward(design: Design, revision: int, author: str) -> Design:
    """Redoes the edit that was undone last."""
    _fresh(design, revision)
    first = design.edits.filter(kind=Edit.Kind.EDIT, state=Edit.State.UNDONE).first()
    if first is None:
        raise Refused("There is nothing to redo.", entry="redo", rule="an edit that was undone")
    return _replay(design, first, Edit.Kind.REDO, first.patch, first.inverse, Edit.State.DONE, author)


def _replay(design: Design, edit: Edit, kind: str, patch: list, inverse: list, state: str, author: str) -> Design:
    # an edit of an older schema is taken back, or made again, in the document as it would have been then
    document, data, _ = apply_patch(as_schema(upgraded(design.document), edit.schema), patch, schema=edit.schema)
    after = _built(design, document)
    made = Edit(kind=kind, label=edit.label, patch=patch, inverse=inverse, author=author, schema=edit.schema)
    return _store(design, data, after, made, edit, state)


def _store(design: Design, data: dict[str, Any], after: Head, edit: Edit, replayed: Edit | None = None, state: str = "") -> Design:
    """The short write: head, edit and states in one transaction, with what it takes off the shelf; Stale where another writer was first."""
    known = known_head(design, design.revision)
    before = used_stock(known.document if known else load(design.document))
    with transaction.atomic():
        row = Design.objects.select_for_update().get(pk=design.pk)
        if _made(row, edit.token):  # meanwhile, by the same edit sent twice at once
            return row
        _fresh(row, design.revision)
        row.document, row.good, row.name, row.revision = data, after.built.good, data["name"], row.revision + 1
        row.parts, row.problems = _counts(after).values()
        row.save()
        edit.design, edit.revision = row, row.revision
        edit.save()
        take_off(row.owner_id, before, used_stock(after.document))
        if replayed is not None:
            row.edits.filter(pk=replayed.pk).update(state=state)
        elif edit.kind == Edit.Kind.EDIT:
            row.edits.filter(state=Edit.State.UNDONE).update(state=Edit.State.DROPPED)
    _remember(row, after)
    return row


def _made(design: Design, token: str) -> bool:
    return bool(token) and design.edits.filter(token=token).exists()


def _fresh(design: Design, revision: int) -> None:
    if design.revision != revision:
        raise Stale(f"The design has moved on to revision {design.revision}; this edit was made on {revision}.", revision=design.revision)


def _small_enough(data: Any, most: int = MAX_DOCUMENT_BYTES, what: str = "a design") -> None:
    size = len(json.dumps(data))
    if size > most:
        raise Refused(
            f"This is {size:,} bytes; {what} has at most {most:,}.", code="too_large", entry=what, value=size, rule=f"at most {most} bytes"
        )


def _refuse_broken(patch: list[dict[str, Any]], before: Head, after: Head) -> None:
    """An entry that this edit writes has to be worked out; what breaks elsewhere (by removing a part) is a problem instead."""
    written = touched(patch)
    standing = {(p.fault.entry, p.fault.message) for p in before.problems}
    for problem in after.problems:
        f = problem.fault
        if f.code not in ("broken_expression", "cycle") or (f.entry, f.message) in standing:
            continue
        if any(w == f.entry or w.startswith(f.entry + "/") for w in written):
            raise Refused(f.message, code=f.code, entry=f.entry, value=f.value, rule=f.rule)
