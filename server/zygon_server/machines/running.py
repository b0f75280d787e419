"""A sheet on its machine: started once, held, broken off and gone on with; what the machine says is what holds."""

from __future__ import annotations

import logging
from datetime import timedelta
from typing import Any

from django.db import IntegrityError, transaction
from django.utils import timezone

from zygon.program.read import read_program
from zygon.program.resumed import resumed, whole_place
from zygon_server.errors import Refused
from zygon_server.machines.known import link_to
from zygon_server.machines.link import Link, LinkRefused, NoWord, Status
from zygon_server.machines.models import Job, JobRun, JobSide

__all__ = ["claim", "give_up", "go_on", "hold", "home", "place_of", "resume", "start", "stop", "sync", "take_over_end"]

#: A program that was given out so long ago either came through, or never will.
GIVEN_OUT = timedelta(seconds=10)
State = Job.State
log = logging.getLogger(__name__)


def start(job: Job, author: str) -> None:
    """Begins the next side of a sheet. Refused where another one lies on the bed, or somebody else was first; what was begun is never begun again."""
    sync(job.machine)
    side = job.sides.get(number=job.side)
    _begin(job, (State.QUEUED, State.TURN), side.text, side, author)


def go_on(job: Job, author: str) -> None:
    """Goes on with what was broken off, a little before where the machine last was."""
    sync(job.machine)
    side = job.sides.get(number=job.side)
    last = job.runs.filter(side=job.side, begun=True).last()
    text = side.text if last is None else resumed(last.text, last.move, last.share, side.overlap, "ms" if side.waits == "ms" else "s")
    _begin(job, (State.INTERRUPTED,), text, side, author)


def _begin(job: Job, states: tuple[str, ...], text: str, side: JobSide, author: str) -> None:
    before, run = claim(job, states, text, side, author)
    link = link_to(job.machine)
    try:
        link.load(run.name, run.text, side.waits)
        link.start(run.name)
    except LinkRefused as error:
        if error.code != "known_run":  # it has it already: an answer was lost
            Job.objects.filter(pk=job.pk, state=State.STARTING).update(state=before)
            raise Refused(
                f"{_called(job)}: {error.message}.", entry="machine", value=job.machine, rule=error.message, code=error.code
            ) from error
    except NoWord as error:
        _no_word(job, error)
    sync(job.machine)


def claim(job: Job, states: tuple[str, ...], text: str, side: JobSide, author: str) -> tuple[str, JobRun]:
    """What the job was before, and the run that this caller alone may give to the machine."""
    try:
        with transaction.atomic():
            now = Job.objects.select_for_update().get(pk=job.pk)
            if now.state not in states:
                said = f"Sheet {now.number} of {now.stock_name} has been started already."
                if now.state in (State.DONE, State.REMOVED):
                    said = f"Sheet {now.number} of {now.stock_name} is not in the queue any more."
                raise Refused(said, entry="job", value=now.state, rule="a sheet that waits", code="not_now")
            Job.objects.filter(pk=now.pk).update(state=State.STARTING, began=now.began or timezone.now())
            # one that never reached the machine keeps its name: should it come through after all, the machine refuses the other
            run = now.runs.filter(side=side.number, begun=False).last()
            if run is None or run.text != text:
                n = now.runs.count()
                run = now.runs.create(
                    side=side.number,
                    number=n,
                    name=f"{now.pk.hex[:12]}-{n}",
                    text=text,
                    moves=len(read_program(text, wait_in="ms" if side.waits == "ms" else "s").moves),
                    author=author,
                )
            JobRun.objects.filter(pk=run.pk).update(made=timezone.now(), author=author)
    except IntegrityError:
        other = Job.objects.filter(machine=job.machine, state__in=Job.ON_BED).exclude(pk=job.pk).first()
        mine = other is not None and other.owner_id == job.owner_id
        said = f"Sheet {other.number} of {other.name}, {other.stock_name}," if mine and other else "Another maker's sheet"
        raise Refused(
            f"{said} lies on the bed still.", entry="job", value=job.machine, rule="one sheet on a bed", code="bed_taken"
        ) from None
    return now.state, run


def _called(job: Job) -> str:
    return f"Sheet {job.number} of {job.stock_name}"


def _no_word(job: Job, error: NoWord) -> None:
    raise Refused(
        f"{job.machine.capitalize()} does not answer. Whether it has begun shows as soon as it does; it is not begun twice.",
        entry="machine",
        value=job.machine,
        rule="a machine that answers",
        code="no_word",
    ) from error


def hold(job: Job) -> None:
    """Stands still where it is."""
    _told(job, "hold")


def resume(job: Job) -> None:
    """Goes on from a hold."""
    _told(job, "resume")


def stop(job: Job) -> None:
    """Ends where it is; it can be gone on with."""
    _told(job, "stop")


def home(machine: str, owner_id: int) -> None:
    """The machine finds its zero. Refused while another maker's sheet lies on it."""
    if Job.objects.filter(machine=machine, state__in=Job.ON_BED).exclude(owner_id=owner_id).exists():
        raise Refused(
            "Another maker's sheet lies on the bed still.", entry="machine", value=machine, rule="one sheet on a bed", code="bed_taken"
        )
    try:
        link_to(machine).home()
    except LinkRefused as error:
        raise Refused(
            f"{machine.capitalize()}: {error.message}.", entry="machine", value=machine, rule=error.message, code=error.code
        ) from error
    except NoWord as error:
        raise Refused(
            f"{machine.capitalize()} does not answer.", entry="machine", value=machine, rule="a machine that answers", code="no_word"
        ) from error
    sync(machine)


def _told(job: Job, what: str) -> None:
    sync(job.machine)
    job.refresh_from_db()
    if job.state not in (State.RUNNING, State.HELD):
        raise Refused(
            f"{_called(job)} is not being cut now.", entry="job", value=job.state, rule="a sheet that is being cut", code="not_now"
        )
    try:
        getattr(link_to(job.machine), what)()
    except LinkRefused as error:
        raise Refused(
            f"{job.machine.capitalize()}: {error.message}.", entry="machine", value=job.machine, rule=error.message, code=error.code
        ) from error
    except NoWord as error:
        _no_word(job, error)
    sync(job.machine)


def give_up(job: Job) -> None:
    """What was broken off is not gone on with: what is not cut out by now is spoiled."""
    sync(job.machine)
    with transaction.atomic():
        now = Job.objects.select_for_update().get(pk=job.pk)
        if now.state not in (State.INTERRUPTED, State.TURN):
            raise Refused(
                f"{_called(now)} is not broken off.", entry="job", value=now.state, rule="a sheet that is broken off", code="not_now"
            )
        side = now.sides.get(number=now.side)
        free = (
            set(_free(side, place_of(now, side)[0])) if now.state == State.INTERRUPTED and side.number == now.sides.count() - 1 else set()
        )
        for p in now.pieces:
            name = f"{p['key']}#{p['number']}"
            if name not in free:
                now.marks[name] = "spoiled"
        now.state = State.CUT
        now.save(update_fields=["marks", "state"])


def _free(side: JobSide, move: int) -> list[str]:
    """The pieces that are cut out once the moves before ``move`` are done."""
    last = {f"{c['key']}#{c['copy']}": c["last"] for c in side.shown["cuts"] if c["operation"] == "outside"}
    return [name for name, end in last.items() if end <= move]


def place_of(job: Job, side: JobSide) -> tuple[int, float]:
    """How far a side is cut: its move, and the share of it."""
    run = job.runs.filter(side=side.number, begun=True).last()
    if run is None:
        return 0, 0.0
    at = whole_place(side.moves, run.moves, run.move, run.share)
    return (at[0] + 1, 0.0) if at[1] >= 1.0 else at


def sync(machine: str) -> Status | None:
    """Takes over what the machine says of the sheet that lies on it; None where it does not answer. Whoever asks, the outcome is the same."""
    link = link_to(machine)
    try:
        status = link.status()
        _take_over(machine, link, status)
        return status
    except NoWord:
        return None
    except LinkRefused as error:
        log.warning("%s does not say how it stands: %s", machine, error.message)
        return None


def _take_over(machine: str, link: Link, status: Status) -> None:
    # what it works on is on it, whatever was believed here
    if status.run and (run := JobRun.objects.filter(name=status.run, job__machine=machine).select_related("job").first()):
        _came_so_far(run, status)
        state = State.HELD if status.state == "held" else State.RUNNING
        if run.job.state != state and run.job.state in (*Job.ON_BED, State.QUEUED):
            Job.objects.filter(pk=run.job.pk, state=run.job.state).update(state=state, said="")
        return
    job = Job.objects.filter(machine=machine, state__in=(State.STARTING, State.RUNNING, State.HELD)).first()
    last = job.runs.last() if job else None
    if job is None or last is None:
        return
    known = link.known(last.name)
    if known == "no" and job.state == State.STARTING:
        if last.made < timezone.now() - GIVEN_OUT:
            _back(job, last)
        return
    if known == "ended":
        take_over_end(job, last)
        return
    _came_so_far(last, status)
    reason = status.reason if status.state in ("alarm", "idle") and status.reason else "The machine was switched off, or lost its power"
    Job.objects.filter(pk=job.pk, state=job.state).update(state=State.INTERRUPTED, said=f"{reason}.")


def _back(job: Job, run: JobRun) -> None:
    """The program never reached the machine: the sheet waits as before."""
    before = State.INTERRUPTED if job.runs.filter(side=run.side, begun=True).exists() else State.TURN if run.side else State.QUEUED
    Job.objects.filter(pk=job.pk, state=State.STARTING).update(state=before, said="The program did not reach the machine; start it again.")


def _came_so_far(run: JobRun, status: Status) -> None:
    told: dict[str, Any] = {"begun": True}
    if status.last == run.name:
        told |= {"move": status.move, "share": status.share}
    if status.run == run.name:
        told |= {"seconds": status.seconds, "of": status.of}
    JobRun.objects.filter(pk=run.pk).update(**told)


def take_over_end(job: Job, run: JobRun) -> None:
    """A side is cut."""
    with transaction.atomic():
        JobRun.objects.filter(pk=run.pk).update(begun=True, move=max(run.moves - 1, 0), share=1.0, seconds=run.of)
        more = run.side + 1 < job.sides.count()
        changed = {"state": State.TURN, "side": run.side + 1} if more else {"state": State.CUT}
        Job.objects.filter(pk=job.pk, state=job.state, side=run.side).update(said="", **changed)
