"""What the operator sees: each machine, what lies on its bed, and what waits for it."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Any
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.utils import timezone

from zygon_server.errors import NotFound, Refused
from zygon_server.machines.known import link_to, machines
from zygon_server.machines.link import About, LinkRefused, NoWord, Status
from zygon_server.machines.models import Job
from zygon_server.machines.running import place_of, sync

__all__ = ["by_due", "find_job", "floor", "job_data", "move", "pieces_data", "say_due"]

#: Sheets that were cut are told of so far back.
TOLD = 12
State = Job.State
#: What each machine said that it is, while this process lives.
_ABOUT: dict[str, About] = {}


def find_job(user: AbstractBaseUser, job_id: str) -> Job:
    """A maker's own job; NotFound also where it is another's."""
    try:
        job = Job.objects.filter(owner=user, pk=UUID(job_id)).first()
    except ValueError:
        job = None
    if job is None:
        raise NotFound("There is no such sheet in a queue.")
    return job


def floor(user: AbstractBaseUser) -> list[dict[str, Any]]:
    """Every machine as it is now, with the maker's own sheets."""
    return [_machine(user, name) for name in machines()]


def _machine(user: AbstractBaseUser, name: str) -> dict[str, Any]:
    status = sync(name)
    about = _about(name, status)
    own = list(Job.objects.filter(owner=user, machine=name, state__in=Job.OPEN).prefetch_related("sides", "runs"))
    lying = next((j for j in own if j.state in Job.ON_BED), None)
    done = Job.objects.filter(owner=user, machine=name, state=State.DONE).order_by("-ended")[:TOLD]
    return {
        "name": name,
        "called": about.name if about else name.capitalize(),
        "kind": about.kind if about else "",
        "bed": list(about.bed) if about else [],
        "speed": about.speed if about else 1.0,
        "answers": status is not None,
        "status": _status(status) if status else None,
        "taken": lying is None and Job.objects.filter(machine=name, state__in=Job.ON_BED).exists(),
        "on_bed": _on_bed(lying, status, about) if lying else None,
        "queue": [job_data(j) for j in own if j.state == State.QUEUED],
        "done": [job_data(j) for j in done],
    }


def _about(name: str, status: Status | None) -> About | None:
    if status is None:
        _ABOUT.pop(name, None)
    elif name not in _ABOUT:
        try:
            _ABOUT[name] = link_to(name).about()
        except (NoWord, LinkRefused):
            return None
    return _ABOUT.get(name)


def _status(status: Status) -> dict[str, Any]:
    return {k: getattr(status, k) for k in ("state", "reason", "x", "y", "z", "feed", "tool", "on")}


def _on_bed(job: Job, status: Status | None, about: About | None) -> dict[str, Any]:
    """A sheet on the bed: how far it is, and what comes off."""
    sides: Sequence[Any] = job.sides.all()
    side = sides[min(job.side, len(sides) - 1)]
    cut = job.state == State.CUT
    move, share = (side.moves, 0.0) if cut else place_of(job, side)
    run = job.runs.filter(side=side.number, begun=True).last()
    whole = side.shown.get("seconds", 0.0)
    done = whole if cut else _seconds(side.shown.get("t", []), move, share)
    going = run is not None and run.of and job.state in (State.RUNNING, State.HELD)
    # what is left of a rest is all that is left of the side
    left = max(0.0, run.of - run.seconds) if run and going else whole - done
    return {
        **job_data(job),
        "pieces": pieces_data(job),
        "side": side.number,
        "sides": len(sides),
        "under": side.under,
        "move": move,
        "share": share,
        "percent": 100.0 * done / whole if whole else 0.0,
        "left": 0.0 if cut else left / (about.speed if about else 1.0),
    }


def _seconds(ends: Sequence[float], move: int, share: float) -> float:
    """When a share of a move is done, of moves that end so."""
    if not ends or move >= len(ends):
        return ends[-1] if ends else 0.0
    begun = ends[move - 1] if move else 0.0
    return begun + (ends[move] - begun) * share


def job_data(job: Job) -> dict[str, Any]:
    """A sheet in a queue; mm, ``seconds`` of all its sides."""
    sides: Sequence[Any] = job.sides.all()
    return {
        "id": str(job.pk),
        "state": job.state,
        "design": str(job.design_id or ""),
        "batch": str(job.batch_id or ""),
        "name": job.name,
        "revision": job.revision,
        "stock": job.stock,
        "stock_name": job.stock_name,
        "tint": job.tint,
        "thickness": job.thickness,
        "display": job.display,
        "number": job.number,
        "of": job.of,
        "length": job.sheet["length"],
        "width": job.sheet["width"],
        "offcut": job.sheet["size"] if job.sheet["is_offcut"] else "",
        "count": len(job.pieces),
        "turned": len(sides) > 1,
        "seconds": sum(s.shown.get("seconds", 0.0) for s in sides),
        "bits": list(dict.fromkeys(b["name"] for s in sides for b in s.shown.get("bits", []))),
        "due": job.due.isoformat() if job.due else "",
        "late": bool(job.due and job.due < timezone.localdate()),
        "said": job.said,
        "author": job.author,
        "made": job.made.isoformat(),
        "ended": job.ended.isoformat() if job.ended else "",
    }


def pieces_data(job: Job) -> list[dict[str, Any]]:
    """The pieces of a sheet with what became of each."""
    return [{**p, "mark": job.marks.get(f"{p['key']}#{p['number']}", "")} for p in job.pieces]


def move(job: Job, before: str) -> None:
    """Puts a sheet before another one that waits, or last; Refused where it does not wait."""
    with transaction.atomic():
        queue = list(Job.objects.select_for_update().filter(owner=job.owner, machine=job.machine, state=State.QUEUED))
        if all(j.pk != job.pk for j in queue):
            raise Refused(f"Sheet {job.number} does not wait.", entry="job", value=job.state, rule="a sheet that waits", code="not_now")
        others = [j for j in queue if j.pk != job.pk]
        at = next((k for k, j in enumerate(others) if str(j.pk) == before), len(others))
        orders = sorted(j.order for j in queue)
        for order, j in zip(orders, [*others[:at], job, *others[at:]], strict=True):
            Job.objects.filter(pk=j.pk).update(order=order)


def by_due(user: AbstractBaseUser, machine: str) -> None:
    """Orders what waits by the day on which it is due; what has none comes last, each as it stood."""
    with transaction.atomic():
        queue = list(Job.objects.select_for_update().filter(owner=user, machine=machine, state=State.QUEUED))
        orders = sorted(j.order for j in queue)
        wanted = sorted(queue, key=lambda j: (j.due or date.max, j.order))
        for order, j in zip(orders, wanted, strict=True):
            Job.objects.filter(pk=j.pk).update(order=order)


def say_due(job: Job, due: str) -> None:
    """The day on which a sheet is due, as 2026-03-31; '' for none. Refused where that is no day."""
    try:
        day = date.fromisoformat(due) if due else None
    except ValueError:
        raise Refused(f"“{due[:20]}” is no day.", entry="due", value=due[:20], rule="a day as 2026-03-31") from None
    Job.objects.filter(pk=job.pk).update(due=day)
