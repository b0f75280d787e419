"""What jobs mean for the sheets of their design: pieces that wait are held where they lie, what is cut stays cut, what was spoiled is laid out again."""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from typing import Any

from zygon.design.pointer import pointer
from zygon.nest.design import plans
from zygon_server.designs import service
from zygon_server.designs.models import Design
from zygon_server.errors import Stale
from zygon_server.machines.models import Job
from zygon_server.nesting.layouts import row_of
from zygon_server.nesting.models import Batch
from zygon_server.nesting.runs import ask
from zygon_server.nesting.work import together
from zygon_server.workshop.on_hand import take_off

__all__ = ["cut_on_sheets", "free_pieces", "hold_pieces"]

#: Another edit may come between a look and an edit so often.
TRIES = 5
Piece = tuple[str, int]
#: An arrangement by hand as plain data, and the digests of the flats as they are now.
Change = Callable[[dict[str, Any], dict[str, str]], None]


def hold_pieces(design: Design, jobs: Sequence[Job], author: str) -> None:
    """The pieces of sheets that were sent stay where they lie; which were not held before is kept with each job."""
    mine = {(p["key"], p["number"]): job for job in jobs for p in job.pieces}

    def lock(arranged: dict[str, Any], _: dict[str, str]) -> None:
        for job in jobs:
            job.locked = []
        for placed in _placed(arranged, mine):
            if not placed.get("locked"):
                mine[placed["part"], placed["number"]].locked.append([placed["part"], placed["number"]])
            placed["locked"] = True

    of = f"Sheet {jobs[0].number}" if len(jobs) == 1 else f"{len(jobs)} sheets"
    _arrange(design, jobs[0].stock, f"{of} of {jobs[0].stock_name} to {jobs[0].machine}", author, lock)
    for job in jobs:
        job.save(update_fields=["locked"])


def free_pieces(job: Job, author: str) -> None:
    """A sheet was taken out of the queue: what was held for it may be laid elsewhere again."""
    mine = {(key, copy) for key, copy in job.locked}

    def unlock(arranged: dict[str, Any], _: dict[str, str]) -> None:
        for placed in _placed(arranged, mine):
            placed["locked"] = False

    if job.design and mine:
        _arrange(job.design, job.stock, f"Sheet {job.number} of {job.stock_name} out of the queue", author, unlock)


def cut_on_sheets(job: Job, author: str) -> list[str]:
    """The sheet counts as cut in its design: its good pieces lie there for good, spoiled ones are laid out again.

    Gives the pieces in words that were cut as they are no more: they have changed since, and are laid out again too.
    """
    if job.batch:
        return _cut_together(job, job.batch)
    if job.design is None or job.design.deleted:
        return []
    outdated: list[str] = []
    mine = {(p["key"], p["number"]) for p in job.pieces}

    def cut(arranged: dict[str, Any], flats: dict[str, str]) -> None:
        outdated.clear()
        good = set()
        for p in job.pieces:
            if job.marks.get(f"{p['key']}#{p['number']}") == "spoiled" or p["key"] not in flats:
                continue
            if flats[p["key"]] == p["flat"]:
                good.add((p["key"], p["number"]))
            else:
                outdated.append(p["part"])
        for key, sheet in list(arranged["sheets"].items()):
            sheet["placed"] = {k: p for k, p in sheet["placed"].items() if (p["part"], p["number"]) not in mine or sheet.get("cut")}
            if not sheet["placed"]:
                del arranged["sheets"][key]
        there = {(p["part"], p["number"]) for s in arranged["sheets"].values() for p in s["placed"].values()}
        laid = [p for p in job.sheet["parts"] if (p["part"], p["number"]) in good - there]
        if laid:
            first = min((s.get("order", 0) for s in arranged["sheets"].values()), default=0)
            arranged["sheets"][f"cut_{job.pk.hex[:8]}"] = {
                "size": job.sheet["size"],
                "order": first - 1,
                "cut": True,
                "placed": {f"{p['part']}#{p['number']}": _as_placed(p) for p in laid},
            }
        arranged["flats"] = {**arranged.get("flats", {}), **{key: flats[key] for key, _ in good}}

    _arrange(job.design, job.stock, f"Sheet {job.number} of {job.stock_name} cut", author, cut, token=f"cut{job.pk.hex[:24]}")
    ask(Design.objects.get(pk=job.design.pk))
    return list(dict.fromkeys(outdated))


def _cut_together(job: Job, batch: Batch) -> list[str]:
    """The same for designs cut together, whose layout leaves out what is cut; a sheet of a size that is counted is taken off."""
    now = {part: flat.digest for t in together(batch) for part, flat in zip(t.plan.parts, t.plan.flats, strict=True)}
    outdated = [p["part"] for p in job.pieces if now.get(p["key"], p["flat"]) != p["flat"]]
    if not job.sheet["is_offcut"]:
        take_off(job.owner_id, {}, {job.stock: {job.sheet["size"]: 1}})
    return list(dict.fromkeys(outdated))


def _arrange(design: Design, stock: str, label: str, author: str, change: Change, token: str = "") -> None:
    """An edit of a stock's layout by hand; nothing where the design has no such sheets any more."""
    for _ in range(TRIES):
        design = Design.objects.get(pk=design.pk)
        now = service.head(design)
        plan = next((p for p in plans(now.built) if p.stock == stock), None)
        if plan is None:
            return
        row = row_of(design, now.document, plan)
        if plan.hand is not None and (row is None or not row.hand):
            arranged = plan.hand.model_dump(mode="json")
        else:
            arranged = _arrangement(row.data) if row else {"sheets": {}, "flats": {}}
        change(arranged, {part: flat.digest for part, flat in zip(plan.parts, plan.flats, strict=True)})
        if not arranged["sheets"]:
            return
        try:
            patch = [{"op": "add", "path": pointer("nest", "arranged", stock), "value": arranged}]
            service.commit(design, design.revision, label, patch, author, token)
            return
        except Stale:  # somebody edits it at this moment
            continue
    raise Stale("The design is being edited; try again.")


def _arrangement(layout: dict[str, Any]) -> dict[str, Any]:
    """A layout as an arrangement by hand."""
    return {
        "sheets": {
            f"s{n}": {
                "size": s["size"],
                "order": n - 1,
                "cut": s["cut"],
                "placed": {f"{p['part']}#{p['number']}": _as_placed(p) for p in s["parts"]},
            }
            for n, s in enumerate(layout["sheets"], 1)
        },
        "flats": layout["flats"],
    }


def _as_placed(p: dict[str, Any]) -> dict[str, Any]:
    return {
        "part": p["part"],
        "number": p["number"],
        "x": p["x"],
        "y": p["y"],
        "angle": p["angle"] % 360,
        "mirrored": p.get("mirrored", False),
        "locked": p.get("locked", False),
    }


def _placed(arranged: dict[str, Any], wanted: Collection[Piece]) -> list[dict[str, Any]]:
    return [p for s in arranged["sheets"].values() for p in s["placed"].values() if (p["part"], p["number"]) in wanted]
