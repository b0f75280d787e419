"""The batches' resource: several designs cut together."""

from __future__ import annotations

from typing import Literal

from django.http import HttpRequest
from ninja import Router, Schema, Status

from zygon.exchange.bundle import sheet_files
from zygon.exchange.named import safe
from zygon_server.accounts.schemas import Fault
from zygon_server.designs.export_api import Kerf, download
from zygon_server.errors import NotFound
from zygon_server.machines.sending import program_together
from zygon_server.nesting import batches, runs, state, times
from zygon_server.nesting.api import NestIn, NestState
from zygon_server.nesting.models import Batch
from zygon_server.quotas import Rate, may_search

router = Router(tags=["batches"])
FAULTS = {404: Fault, 422: Fault}


class BatchItemIn(Schema):
    """A design's id, and how often it is made."""

    design: str
    quantity: int


class BatchIn(Schema):
    name: str
    items: list[BatchItemIn]


class BatchItemOut(BatchItemIn):
    name: str


class BatchOut(Schema):
    id: str
    name: str
    items: list[BatchItemOut]


class BatchState(NestState):
    """``names`` are the parts' by key, with their designs'; ``waiting`` and ``cut`` count pieces that are at a machine and that have been cut there."""

    names: dict[str, str]
    waiting: int
    cut: int


def _state(batch: Batch) -> dict:
    return {**state.state(batch), "names": batches.part_names(batch), **batches.at_machines(batch)}


@router.get("", response=list[BatchOut], operation_id="batches")
def get_batches(request: HttpRequest):
    """The signed-in maker's batches."""
    return batches.batches(request.user)


@router.post("", response={200: BatchOut, **FAULTS}, operation_id="new_batch")
def post_batch(request: HttpRequest, body: BatchIn):
    """Begins a batch."""
    return batches.batch_data(batches.store(request.user, None, body.name, [(i.design, i.quantity) for i in body.items]))


@router.put("/{batch_id}", response={200: BatchOut, **FAULTS}, operation_id="change_batch")
def put_batch(request: HttpRequest, batch_id: str, body: BatchIn):
    """Gives a batch another name, other designs, other quantities."""
    batch = batches.find_batch(request.user, batch_id)
    return batches.batch_data(batches.store(request.user, batch, body.name, [(i.design, i.quantity) for i in body.items]))


@router.delete("/{batch_id}", response={204: None, **FAULTS}, operation_id="delete_batch")
def delete_batch(request: HttpRequest, batch_id: str):
    """Deletes a batch; its designs stay."""
    batches.find_batch(request.user, batch_id).delete()
    return Status(204, None)


@router.get("/{batch_id}/nest", response={200: BatchState, **FAULTS}, operation_id="batch_nest_state")
def get_nest(request: HttpRequest, batch_id: str):
    """The batch's layouts and the run that is on."""
    return _state(batches.find_batch(request.user, batch_id))


@router.post("/{batch_id}/nest", response={200: BatchState, **FAULTS}, operation_id="ask_batch_nest", throttle=[Rate("searches")])
def post_nest(request: HttpRequest, batch_id: str, body: NestIn):
    """Asks for a run."""
    batch = batches.find_batch(request.user, batch_id)
    if not body.quick:
        may_search(request.user, batch)
    runs.ask(batch, quick=body.quick, seconds=runs.bounded(body.seconds), stock=body.stock)
    return _state(batch)


@router.post("/{batch_id}/nest-times", response={200: BatchState, **FAULTS}, operation_id="batch_nest_times")
def post_times(request: HttpRequest, batch_id: str):
    """Works out what sheets take at the machine, from their programs; asked again until all are ``timed``."""
    batch = batches.find_batch(request.user, batch_id)
    times.take_times(batch)
    return _state(batch)


@router.delete("/{batch_id}/nest/{run_id}", response={200: BatchState, **FAULTS}, operation_id="cancel_batch_nest")
def delete_nest(request: HttpRequest, batch_id: str, run_id: str):
    """Stops a run; the best found so far stays."""
    batch = batches.find_batch(request.user, batch_id)
    runs.cancel(batch, run_id)
    return _state(batch)


@router.get("/{batch_id}/files/sheets/{digest}/{number}", operation_id="batch_sheet_file", throttle=[Rate("exports")])
def get_sheet(request: HttpRequest, batch_id: str, digest: str, number: int, to: Literal["dxf", "svg"] = "dxf", kerf: Kerf = "compensated"):
    """One sheet as DXF or SVG."""
    batch = batches.find_batch(request.user, batch_id)
    built, found = batches.standing_sheets(batch, digest)
    if not 1 <= number <= len(found.layout.sheets):
        raise NotFound("There is no such sheet.")
    return download(*list(sheet_files(built, found, to, kerf, batch.name).items())[number - 1])


@router.get("/{batch_id}/files/programs/{digest}/{number}", operation_id="batch_program_file", throttle=[Rate("exports")])
def get_program(request: HttpRequest, batch_id: str, digest: str, number: int, under: bool = False):
    """One sheet's program; refused while something is wrong with it."""
    batch = batches.find_batch(request.user, batch_id)
    text = program_together(batch, digest, number, under)
    return download(f"{safe(batch.name)}_{number:02d}{'_under' if under else ''}.nc", text)
