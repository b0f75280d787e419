"""Working by hand: the rooms before a face, what a board touches, what of a part can be pulled."""

from __future__ import annotations

from typing import Literal

from django.http import HttpRequest
from ninja import Router, Schema

from zygon.geometry.frame import Plane
from zygon.making.rooms.hanging import that_fit
from zygon.screen.rooms import edges_data, feature_pulls_data, pulls_data, rooms_data, size_lines_data, touches_data
from zygon.screen.shown.rooms import ShownEdge, ShownFeaturePulls, ShownPull, ShownRooms, ShownSizeLines, ShownTouch
from zygon.stock.hardware.catalogue import FAMILIES
from zygon_server.accounts.schemas import Fault
from zygon_server.designs import service
from zygon_server.quotas import Rate

router = Router(tags=["placing"])
FAULTS = {401: Fault, 404: Fault, 422: Fault, 429: Fault}


class RoomsIn(Schema):
    """A face that is pointed at (a word as ``left``, or ``flange.inner``), and the board that would stand before it."""

    part: str
    face: str
    plane: Literal["facing_front", "facing_side", "lying"]
    stock: str


class PartIn(Schema):
    part: str


class HangingIn(Schema):
    """What would move, and what it would hang on, by part key."""

    part: str
    on: str


class FitsOut(Schema):
    """A hinge or a slide that fits between two parts; mass in g, ``moves`` in words, and the words of its ways, the usual one first."""

    designation: str
    name: str
    source: str
    mass: float
    moves: str
    hinge: bool
    ways: list[str]


class PullsIn(Schema):
    """A part, or a group in its place."""

    part: str = ""
    group: str = ""


class FeatureIn(Schema):
    part: str
    feature: str


@router.post("/{design_id}/rooms", response={200: ShownRooms, **FAULTS}, operation_id="rooms", throttle=[Rate("tries")])
def post_rooms(request: HttpRequest, design_id: str, body: RoomsIn):
    """The rooms before a face, and where a board catches in each."""
    plane: Plane = body.plane
    return rooms_data(service.head(service.find(request.user, design_id)).built, body.part, body.face, plane, body.stock)


@router.post("/{design_id}/touches", response={200: list[ShownTouch], **FAULTS}, operation_id="touches", throttle=[Rate("tries")])
def post_touches(request: HttpRequest, design_id: str, body: PartIn):
    """What a board touches and is not joined to yet, with the joints that are possible there, best first."""
    return touches_data(service.head(service.find(request.user, design_id)).built, body.part)


@router.post("/{design_id}/hangings", response={200: list[FitsOut], **FAULTS}, operation_id="hangings", throttle=[Rate("tries")])
def post_hangings(request: HttpRequest, design_id: str, body: HangingIn):
    """The hinges and slides of the catalogue that fit between two parts as they stand."""
    found = that_fit(service.head(service.find(request.user, design_id)).built, body.part, body.on)
    return [
        FitsOut(
            designation=f.piece.designation,
            name=f.piece.name,
            source=f.piece.standard or f.piece.source,
            mass=f.piece.mass,
            moves=f.piece.freedom.words if f.piece.freedom else "",
            hinge=FAMILIES[f.piece.family].role == "hinge",
            ways=list(f.ways),
        )
        for f in found
    ]


@router.post("/{design_id}/pulls", response={200: list[ShownPull], **FAULTS}, operation_id="pulls", throttle=[Rate("tries")])
def post_pulls(request: HttpRequest, design_id: str, body: PullsIn):
    """What can be pulled of a part or a group, and what it catches on."""
    return pulls_data(service.head(service.find(request.user, design_id)).built, body.part, body.group)


@router.post(
    "/{design_id}/feature-pulls", response={200: ShownFeaturePulls, **FAULTS}, operation_id="feature_pulls", throttle=[Rate("tries")]
)
def post_feature_pulls(request: HttpRequest, design_id: str, body: FeatureIn):
    """How a feature is dragged on its face: its offsets, and what lies about it there."""
    return feature_pulls_data(service.head(service.find(request.user, design_id)).built, body.part, body.feature)


@router.get("/{design_id}/size-lines", response={200: list[ShownSizeLines], **FAULTS}, operation_id="size_lines", throttle=[Rate("tries")])
def get_size_lines(request: HttpRequest, design_id: str):
    """Where each size governs, as lines in the room."""
    return size_lines_data(service.head(service.find(request.user, design_id)).built)


@router.post("/{design_id}/edges", response={200: list[ShownEdge], **FAULTS}, operation_id="edges", throttle=[Rate("tries")])
def post_edges(request: HttpRequest, design_id: str, body: PartIn):
    """The straight edges of a board, on which flanges may stand."""
    return edges_data(service.head(service.find(request.user, design_id)).built, body.part)
