"""Sending sheets to a machine: as they lie now they wait in its queue, whatever becomes of the design."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from django.contrib.auth import get_user_model
from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Max

from zygon.check.problem import Problem
from zygon.design.document import Document
from zygon.measure.evaluate import plain_length
from zygon.nest.design import StockNest
from zygon.nest.remainder import rest_region, rests_of
from zygon.nest.task import SheetLayout
from zygon.program.of_design import program_of
from zygon.screen.design import nest_data
from zygon.screen.programs import called_in, played
from zygon.screen.shown.sheets import ShownSheet
from zygon.toolpath.chosen import words
from zygon.toolpath.router import worked_under
from zygon_server.designs import service
from zygon_server.designs.models import Design
from zygon_server.errors import NotFound, Refused
from zygon_server.machines.known import link_to
from zygon_server.machines.link import LinkRefused, NoWord
from zygon_server.machines.models import Job, JobSide
from zygon_server.machines.on_sheets import hold_pieces
from zygon_server.nesting.batches import standing_sheets
from zygon_server.nesting.by_hand import MOST_RESTS
from zygon_server.nesting.layouts import standing
from zygon_server.nesting.models import Batch
from zygon_server.quotas import may_keep

__all__ = ["MOST_WAITING", "program_together", "send", "send_together"]

#: Sheets of one maker's that wait or lie on beds.
MOST_WAITING = 200
#: A bit begins again so far (mm) before where it was.
BIT_OVERLAP = 2.0


@dataclass(frozen=True)
class _Laid:
    """Sheets as they lie now: of a design, or of designs cut together. ``called`` are the parts' words and codes by key, ``of`` what a program's head says of a sheet.

    ``still`` raises where pieces have been sent meanwhile; ``wrong`` where a sheet holds what this cutter must not cut.
    """

    document: Document
    nest: StockNest
    problems: Sequence[Problem]
    name: str
    called: Mapping[str, tuple[str, str]]
    of: Callable[[SheetLayout], str]
    still: Callable[[], None]
    wrong: Callable[[SheetLayout], None] = lambda _: None
    design: Design | None = None
    batch: Batch | None = None


def send(user: AbstractBaseUser, design: Design, stock: str, numbers: Sequence[int], machine: str, due: date | None) -> list[Job]:
    """Puts sheets (from 1; none for all of the stock that are not cut) into a machine's queue, all of them or none.

    Refused where one is cut, or a piece of it waits already, or the machine is no machine for it; NestError with the rule while something is wrong with a program.
    """
    now = service.head(design)
    nest = next((n for n in standing(design, now) if n.plan.stock == stock), None)
    if nest is None or any(not 1 <= n <= len(nest.layout.sheets) for n in numbers):
        raise NotFound("This sheet is not laid out yet; nest first.")
    shown = nest_data(now.document, nest)["sheets"]
    wanted = list(dict.fromkeys(numbers)) or [n for n, s in enumerate(shown, 1) if not s["cut"]]
    if not wanted:
        raise Refused("All sheets of this stock have been cut.", entry="stock", value=stock, rule="a sheet that is not cut yet")
    for n in wanted:
        if shown[n - 1]["cut"]:
            raise Refused(f"Sheet {n} has been cut already.", entry="number", value=n, rule="a sheet that is not cut yet")

    def still() -> None:
        _not_waiting(design, stock, shown, wanted)

    still()
    head = f"{now.document.name}, revision {design.revision}"
    laid = _Laid(now.document, nest, now.problems, now.document.name, called_in(now.built), lambda _: head, still, design=design)
    jobs = _queued(user, laid, shown, wanted, machine, due)
    hold_pieces(design, jobs, user.get_username())
    return jobs


def send_together(user: AbstractBaseUser, batch: Batch, digest: str, numbers: Sequence[int], machine: str, due: date | None) -> list[Job]:
    """The same for sheets of designs that are cut together (none for all of the stock); their pieces are not laid out there any more while they wait."""
    laid = _laid_together(batch, digest)
    sheets = laid.nest.layout.sheets
    if any(not 1 <= n <= len(sheets) for n in numbers):
        raise NotFound("This sheet is not laid out yet; nest first.")
    wanted = list(dict.fromkeys(numbers)) or list(range(1, len(sheets) + 1))
    return _queued(user, laid, nest_data(laid.document, laid.nest)["sheets"], wanted, machine, due)


def program_together(batch: Batch, digest: str, number: int, under: bool) -> str:
    """The program of a sheet of designs that are cut together; ``under`` that of the face that lies down. Raises as ``program_of``, and while something is wrong with it."""
    laid = _laid_together(batch, digest)
    if not 1 <= number <= len(laid.nest.layout.sheets):
        raise NotFound("There is no such sheet.")
    laid.wrong(laid.nest.layout.sheets[number - 1])
    of = laid.of(laid.nest.layout.sheets[number - 1])
    return program_of(laid.document, laid.nest, number, laid.problems, under=under, of=of).leave()


def _laid_together(batch: Batch, digest: str) -> _Laid:
    built, nest = standing_sheets(batch, digest)
    problems: list[Problem] = []
    called: dict[str, tuple[str, str]] = {}
    heads: dict[str, str] = {}
    others: dict[str, str] = {}
    cutter = built.document.cutters[built.document.cutter] if built.document.cutter else None
    for item in batch.items.select_related("design"):
        now, key = service.head(item.design), item.design.pk.hex
        own = now.built.document is built.document
        problems += [_moved(p, f"{key}/", own) for p in now.problems]
        called |= called_in(now.built, f"{key}/", f"{now.document.name}: ")
        heads[key] = f"{now.document.name} revision {item.design.revision}"
        made_for = now.document.cutters.get(now.document.cutter)
        if cutter and made_for and made_for.can != cutter.can:  # its joints, reliefs and pockets are those of another kind
            others[key] = f"{now.document.name} is made for {made_for.name}, and this sheet is cut on {cutter.name}"

    def on(sheet: SheetLayout) -> set[str]:
        return {nest.plan.parts[p.shape].partition("/")[0] for p in sheet.placements}

    def of(sheet: SheetLayout) -> str:
        return f"{batch.name}: {', '.join(text for key, text in heads.items() if key in on(sheet))}"

    def wrong(sheet: SheetLayout) -> None:
        for key in sorted(on(sheet) & set(others)):
            rule = "designs with cutters of one kind on a sheet"
            said = f"{others[key]}: choose one cutter for both in Sizes, or cut them apart."
            raise Refused(said, entry="cutter", value=others[key], rule=rule, code="other_cutter")

    def still() -> None:
        standing_sheets(batch, digest)  # what was sent is not in the layout any more

    return _Laid(built.document, nest, problems, batch.name, called, of, still, wrong, batch=batch)


def _moved(problem: Problem, before: str, own: bool) -> Problem:
    """A design's problem among those of designs cut together: keys as they are there; only of the one whose cutter cuts its entries count."""
    f = problem.fault
    fault = replace(
        f, part=f"{before}{f.part}" if f.part else "", other=f"{before}{f.other}" if f.other else "", entry=f.entry if own else ""
    )
    return replace(problem, fault=fault)


def _queued(
    user: AbstractBaseUser, laid: _Laid, shown: Sequence[ShownSheet], wanted: Sequence[int], machine: str, due: date | None
) -> list[Job]:
    if Job.objects.filter(owner=user, state__in=Job.OPEN).count() + len(wanted) > MOST_WAITING:
        raise Refused(f"More than {MOST_WAITING} sheets would wait.", entry="sheets", value=len(wanted), rule=f"at most {MOST_WAITING}")
    may_keep(user)
    _right_machine(laid.document, machine)
    made = [_frozen(user, laid, shown[n - 1], n, machine) for n in wanted]
    with transaction.atomic():
        get_user_model().objects.select_for_update().get(pk=user.pk)  # one after the other: two tabs send a piece once
        laid.still()
        last = Job.objects.filter(machine=machine, state__in=Job.OPEN).aggregate(last=Max("order"))["last"] or 0.0
        for k, (job, sides) in enumerate(made, 1):
            job.order, job.due = last + k, due
            job.save(force_insert=True)
            JobSide.objects.bulk_create(sides)
    return [job for job, _ in made]


def _not_waiting(design: Design, stock: str, shown: Sequence[ShownSheet], wanted: Iterable[int]) -> None:
    """Raises Refused where a piece waits already, on whichever sheet it was sent."""
    waiting = {
        (p["key"], p["number"]): job
        for job in Job.objects.filter(design=design, stock=stock, state__in=Job.OPEN).only("pieces", "number", "machine", "stock_name")
        for p in job.pieces
    }
    for n in wanted:
        for p in shown[n - 1]["parts"]:
            if job := waiting.get((p["part"], p["number"])):
                said = (
                    f"Sheet {n}: {words(p['part'])} waits at {job.machine} already, as a piece of sheet {job.number} of {job.stock_name}."
                )
                raise Refused(said, entry="number", value=n, rule="each piece is cut once", code="waits_already")


def _right_machine(document: Document, machine: str) -> None:
    """Raises Refused where the machine cuts with something else than the design's cutter; one that does not answer now is asked when it starts."""
    cutter = document.cutters.get(document.cutter)
    try:
        about = link_to(machine).about()
    except (NoWord, LinkRefused):
        return
    if cutter and about.kind != ("bit" if cutter.can.bit else "beam"):
        has = {"bit": "a bit", "beam": "a beam"}
        said = f"{about.name} cuts with {has[about.kind]}, {cutter.name} with {has['bit' if cutter.can.bit else 'beam']}. Choose the cutter in Sizes, or another machine."
        raise Refused(said, entry="machine", value=machine, rule=f"a machine that cuts with {has[about.kind]}", code="wrong_machine")


def _frozen(user: AbstractBaseUser, laid: _Laid, shown: ShownSheet, number: int, machine: str) -> tuple[Job, list[JobSide]]:
    """A sheet as it is now: its programs, pieces, and what it gives back."""
    document, nest = laid.document, laid.nest
    record = document.sheets[nest.plan.stock]
    sheet = nest.layout.sheets[number - 1]
    laid.wrong(sheet)
    assert nest.plan.task
    job = Job(
        owner=user,
        machine=machine,
        design=laid.design,
        batch=laid.batch,
        name=laid.name,
        revision=laid.design.revision if laid.design else 0,
        stock=nest.plan.stock,
        stock_name=record.name,
        tint=record.tint or "",
        thickness=nest.plan.flats[0].thickness,
        display=document.display,
        number=number,
        of=len(nest.layout.sheets),
        sheet=shown,
        rests=[_rings(p) for p in rests_of(nest.plan.task, sheet)[:MOST_RESTS]] if not sheet.sheet.roll else [],
        author=user.get_username(),
    )
    sides = []
    for k, under in enumerate([True, False] if worked_under(document, nest, number) else [False]):
        made = program_of(document, nest, number, laid.problems, under=under, of=laid.of(sheet))
        text, data = made.leave(), played(document, nest, number, made, laid.called)
        sides.append(
            JobSide(
                job=job,
                number=k,
                under=under,
                text=text,
                shown=data,
                moves=len(data["x"]),
                waits=document.cutters[document.cutter].controller.dwell,
                overlap=_overlap(document),
            )
        )
    flats = dict(zip(nest.plan.parts, nest.plan.flats, strict=True))
    pieces = [(key, copy, *laid.called.get(key, (words(key), ""))) for key, copy in _coming_off(sides[-1].shown, shown)]
    job.pieces = [{"key": k, "number": n, "part": part, "code": code, "flat": flats[k].digest} for k, n, part, code in pieces]
    return job, sides


def _coming_off(program: Any, shown: Any) -> list[tuple[str, int]]:
    """The pieces in the order in which they are cut out."""
    last = {(c["key"], c["copy"]): k for k, c in enumerate(program["cuts"]) if c["operation"] == "outside"}
    on = [(p["part"], p["number"]) for p in shown["parts"]]
    return sorted(on, key=lambda p: last.get(p, len(program["cuts"])))


def _overlap(document: Document) -> float:
    cutter = document.cutters[document.cutter]
    return BIT_OVERLAP if cutter.can.bit else plain_length(cutter.lead_length)


def _rings(piece: Any) -> list[list[list[float]]]:
    region = rest_region(piece)
    return [[list(p) for p in c.points] for c in (region.outer, *region.inner)]
