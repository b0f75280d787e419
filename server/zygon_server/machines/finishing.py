"""The end of a sheet: its pieces are taken off or spoiled, it counts as cut, and what is left of it goes on the shelf."""

from __future__ import annotations

from typing import Any, Literal

from django.db import transaction
from django.utils import timezone

from zygon.geometry.boolean import Region
from zygon.geometry.contour import polygon
from zygon_server.errors import NotFound, Refused
from zygon_server.machines.models import Job
from zygon_server.machines.on_sheets import cut_on_sheets, free_pieces
from zygon_server.workshop.models import Offcut
from zygon_server.workshop.offcuts import keep_offcut

__all__ = ["Mark", "finish", "mark", "remove"]

Mark = Literal["", "off", "spoiled"]
State = Job.State


def mark(job: Job, key: str, number: int, what: Mark) -> None:
    """Says what became of a piece. Refused before the sheet was begun, and after it is done."""
    with transaction.atomic():
        now = Job.objects.select_for_update().get(pk=job.pk)
        if now.state not in Job.ON_BED:
            said = f"Sheet {now.number} of {now.stock_name} does not lie on the bed."
            raise Refused(said, entry="job", value=now.state, rule="a sheet on the bed", code="not_now")
        name = f"{key}#{number}"
        if not any(p["key"] == key and p["number"] == number for p in now.pieces):
            raise NotFound("There is no such piece on this sheet.")
        now.marks.pop(name, None)
        if what:
            now.marks[name] = what
        now.save(update_fields=["marks"])


def finish(job: Job, author: str, place: str) -> list[str]:
    """All is off the bed: the sheet counts as cut. What is to be said of it, as sentences. Refused while it is cut, or a piece is not accounted for."""
    now = Job.objects.get(pk=job.pk)
    if now.state != State.CUT:
        raise Refused(f"Sheet {now.number} is not cut yet.", entry="job", value=now.state, rule="a sheet that is cut", code="not_now")
    open_ = [p for p in now.pieces if f"{p['key']}#{p['number']}" not in now.marks]
    if open_:
        names = ", ".join(f"{p['part']} no. {p['code']}" if p["code"] else p["part"] for p in open_[:3])
        said = f"{names}{' and more' if len(open_) > 3 else ''}: taken off, or spoiled?"
        raise Refused(said, entry="pieces", value=len(open_), rule="each piece is taken off or spoiled", code="pieces_left")
    # the design first: that edit is made once, however often it is asked for, and what fails in it leaves the sheet as it is
    outdated = cut_on_sheets(now, author)
    with transaction.atomic():
        if not Job.objects.filter(pk=now.pk, state=State.CUT).update(state=State.DONE, ended=timezone.now()):
            raise Refused(f"Sheet {now.number} is done already.", entry="job", value=State.DONE, rule="a sheet that is cut", code="not_now")
        labels = _shelved(now, place)
        told = _told(now, labels, outdated)
        Job.objects.filter(pk=now.pk).update(said=" ".join(told))
    _lightened(now)
    return told


def _told(job: Job, labels: list[str], outdated: list[str]) -> list[str]:
    said = [f"On the shelf: write {' and '.join(labels)} on what is left." if labels else "Nothing worth keeping is left of it."]
    spoiled = sum(v == "spoiled" for v in job.marks.values())
    if spoiled:
        said.append(f"{spoiled} spoiled {'piece goes' if spoiled == 1 else 'pieces go'} back to be nested.")
    if outdated:
        since = f"revision {job.revision}, as which it was cut" if job.revision else "it was sent"
        said.append(f"{', '.join(outdated)} changed in the design since {since}; it stays to be cut there.")
    return said


def _shelved(job: Job, place: str) -> list[str]:
    """What is left goes on the shelf; an offcut that was cut is used up."""
    origin = f"{job.name[:80]}, sheet {job.number}"
    made = []
    for outer, *inner in job.rests:
        region = Region(polygon([(x, y) for x, y in outer]), tuple(polygon([(x, y) for x, y in ring]) for ring in inner))
        made.append(keep_offcut(job.owner, job.stock, job.stock_name, job.thickness, region, origin=origin, place=place).label)
    if job.sheet["is_offcut"]:
        number = job.sheet["size"].removeprefix(Offcut.PREFIX)
        Offcut.objects.filter(owner=job.owner, number=int(number) if number.isdecimal() else -1).update(
            state=Offcut.State.USED, reserved=job.design
        )
    return made


def remove(job: Job, author: str) -> None:
    """Takes a sheet out of the queue. Refused once it lies on the bed."""
    done = Job.objects.filter(pk=job.pk, state=State.QUEUED).update(state=State.REMOVED, ended=timezone.now())
    if not done:
        raise Refused(
            f"Sheet {job.number} of {job.stock_name} does not wait.",
            entry="job",
            value=job.state,
            rule="a sheet that waits",
            code="not_now",
        )
    free_pieces(job, author)
    _lightened(job)


def _lightened(job: Job) -> None:
    """What plays a sheet, and what was given to the machine, is not needed any more; its programs stay as they were cut."""
    shown: dict[str, Any] = {}
    job.sides.update(shown=shown)
    job.runs.update(text="")
