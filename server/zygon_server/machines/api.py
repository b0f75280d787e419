"""The machines' resource: what lies on their beds, what waits, and what is done with it."""

from __future__ import annotations

from datetime import date
from typing import Any, Literal

from django.http import HttpRequest
from ninja import Router, Schema

from zygon.screen.shown.programs import ShownProgram
from zygon.screen.shown.sheets import ShownSheet
from zygon_server.accounts.schemas import Fault
from zygon_server.designs.service import find
from zygon_server.errors import NotFound
from zygon_server.machines import finishing, floor, running, sending
from zygon_server.machines.known import link_to
from zygon_server.nesting.batches import find_batch
from zygon_server.quotas import Rate

router = Router(tags=["machines"])
FAULTS = {401: Fault, 404: Fault, 422: Fault}


class PieceOut(Schema):
    """A piece, which copy of its part it is, in the order in which it comes off; ``mark``: '' on the sheet, 'off', 'spoiled'."""

    key: str
    number: int
    part: str
    code: str
    mark: str


class JobOut(Schema):
    """A sheet that was sent to a machine, as it was then: mm, ``offcut`` its label where it is one, ``count`` of pieces.

    ``turned`` where it is cut from both faces, ``bits`` are what a router needs; of designs cut together (``batch``) there is no one ``design``, and ``revision`` is 0.
    """

    id: str
    state: str
    design: str
    batch: str
    name: str
    revision: int
    stock: str
    stock_name: str
    tint: str
    thickness: float
    display: str
    number: int
    of: int
    length: float
    width: float
    offcut: str
    count: int
    turned: bool
    seconds: float
    bits: list[str]
    due: str
    late: bool
    said: str
    author: str
    made: str
    ended: str


class OnBedOut(JobOut):
    """What lies on a bed: which of its ``sides`` is cut now, how far that is (``move``, ``share`` of it, ``percent``), and seconds ``left`` of it as the machine goes."""

    pieces: list[PieceOut]
    side: int
    sides: int
    under: bool
    move: int
    share: float
    percent: float
    left: float


class JobSheetOut(Schema):
    """How a sheet lies, and its pieces."""

    sheet: ShownSheet
    pieces: list[PieceOut]


class StatusOut(Schema):
    """How a machine stands: place in mm, feed in mm/s."""

    state: str
    reason: str
    x: float
    y: float
    z: float
    feed: float
    tool: int
    on: bool


class MachineOut(Schema):
    """A machine; ``taken`` where another maker's sheet lies on it, ``answers`` False while its line is dead."""

    name: str
    called: str
    kind: str
    bed: list[float]
    speed: float
    answers: bool
    status: StatusOut | None
    taken: bool
    on_bed: OnBedOut | None
    queue: list[JobOut]
    done: list[JobOut]


class SendIn(Schema):
    """Sheets of a stock, from 1; none for all that are not cut."""

    stock: str
    numbers: list[int] = []
    machine: str
    due: date | None = None


class SendTogetherIn(Schema):
    """Sheets of a layout of designs cut together, from 1; none for all of it."""

    digest: str
    numbers: list[int] = []
    machine: str
    due: date | None = None


class ActIn(Schema):
    """What is done with a sheet."""

    act: Literal["start", "hold", "resume", "stop", "go_on", "give_up"]


class MarkIn(Schema):
    """What became of a piece."""

    key: str
    number: int
    mark: Literal["", "off", "spoiled"]


class MarksIn(Schema):
    marks: list[MarkIn]


class FinishIn(Schema):
    """Where what is left is put."""

    place: str = ""


class QueueIn(Schema):
    """Where a sheet stands: before another one that waits ('' for last), or when it is due ('' for no day)."""

    before: str | None = None
    due: str | None = None


@router.get("/machines", response={200: list[MachineOut], 401: Fault}, operation_id="machines")
def get_machines(request: HttpRequest):
    """Every machine as it stands now, with the signed-in maker's sheets."""
    return floor.floor(request.user)


@router.post("/designs/{design_id}/jobs", response={200: list[str], **FAULTS}, operation_id="send_sheets", throttle=[Rate("exports")])
def post_jobs(request: HttpRequest, design_id: str, body: SendIn):
    """Sends sheets to a machine; their ids in its queue."""
    design = find(request.user, design_id)
    link_to(body.machine)
    return [str(j.pk) for j in sending.send(request.user, design, body.stock, body.numbers, body.machine, body.due)]


@router.post("/batches/{batch_id}/jobs", response={200: list[str], **FAULTS}, operation_id="send_batch_sheets", throttle=[Rate("exports")])
def post_batch_jobs(request: HttpRequest, batch_id: str, body: SendTogetherIn):
    """Sends sheets of designs that are cut together to a machine; their ids in its queue."""
    batch = find_batch(request.user, batch_id)
    link_to(body.machine)
    return [str(j.pk) for j in sending.send_together(request.user, batch, body.digest, body.numbers, body.machine, body.due)]


@router.get("/jobs/{job_id}", response={200: JobSheetOut, **FAULTS}, operation_id="job_sheet")
def get_job(request: HttpRequest, job_id: str):
    """How a sheet lies, as it was sent."""
    job = floor.find_job(request.user, job_id)
    return {"sheet": job.sheet, "pieces": floor.pieces_data(job)}


@router.get("/jobs/{job_id}/program", response={200: ShownProgram, **FAULTS}, operation_id="job_program")
def get_program(request: HttpRequest, job_id: str, side: int = 0):
    """What plays a side of a sheet, as it was sent."""
    found = floor.find_job(request.user, job_id).sides.filter(number=side).first()
    if found is None or not found.shown:
        raise NotFound("There is nothing to be played of this sheet any more.")
    return found.shown


@router.post("/jobs/{job_id}/acts", response={200: list[MachineOut], **FAULTS}, operation_id="act_on_job")
def post_act(request: HttpRequest, job_id: str, body: ActIn):
    """Starts, holds, resumes, stops, goes on with a sheet, or gives it up; the machines as they stand then."""
    job = floor.find_job(request.user, job_id)
    name = request.user.get_username()
    acts: dict[str, Any] = {
        "start": lambda: running.start(job, name),
        "go_on": lambda: running.go_on(job, name),
        "hold": lambda: running.hold(job),
        "resume": lambda: running.resume(job),
        "stop": lambda: running.stop(job),
        "give_up": lambda: running.give_up(job),
    }
    acts[body.act]()
    return floor.floor(request.user)


@router.post("/jobs/{job_id}/pieces", response={200: list[MachineOut], **FAULTS}, operation_id="mark_pieces")
def post_pieces(request: HttpRequest, job_id: str, body: MarksIn):
    """Says what became of pieces."""
    job = floor.find_job(request.user, job_id)
    for m in body.marks:
        finishing.mark(job, m.key, m.number, m.mark)
    return floor.floor(request.user)


@router.post("/jobs/{job_id}/finish", response={200: list[str], **FAULTS}, operation_id="finish_job")
def post_finish(request: HttpRequest, job_id: str, body: FinishIn):
    """All is off the bed: the sheet counts as cut, what is left goes on the shelf; what is to be said of that."""
    return finishing.finish(floor.find_job(request.user, job_id), request.user.get_username(), body.place)


@router.patch("/jobs/{job_id}", response={200: list[MachineOut], **FAULTS}, operation_id="change_job")
def patch_job(request: HttpRequest, job_id: str, body: QueueIn):
    """Puts a sheet elsewhere in its queue, or says when it is due."""
    job = floor.find_job(request.user, job_id)
    if body.due is not None:
        floor.say_due(job, body.due)
    if body.before is not None:
        floor.move(job, body.before)
    return floor.floor(request.user)


@router.delete("/jobs/{job_id}", response={200: list[MachineOut], **FAULTS}, operation_id="remove_job")
def delete_job(request: HttpRequest, job_id: str):
    """Takes a sheet out of the queue."""
    finishing.remove(floor.find_job(request.user, job_id), request.user.get_username())
    return floor.floor(request.user)


@router.post("/machines/{machine}/home", response={200: list[MachineOut], **FAULTS}, operation_id="home_machine")
def post_home(request: HttpRequest, machine: str):
    """Lets a machine find its zero."""
    link_to(machine)
    running.home(machine, request.user.pk)
    return floor.floor(request.user)


@router.post("/machines/{machine}/by-due", response={200: list[MachineOut], **FAULTS}, operation_id="order_by_due")
def post_by_due(request: HttpRequest, machine: str):
    """Orders what waits for a machine by the day on which it is due."""
    link_to(machine)
    floor.by_due(request.user, machine)
    return floor.floor(request.user)
