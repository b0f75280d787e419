"""What the designs' API takes, and what it puts round the records that the core tells a screen; the interface's types come from both."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from ninja import Field, Schema

from zygon.making.asked.measured import About
from zygon.screen.shown.bending import ShownBendStep
from zygon.screen.shown.design import ShownBuilt, ShownProblem
from zygon.screen.shown.joints import ShownOnAxis
from zygon.screen.shown.moves import ShownTravel
from zygon.screen.shown.shapes import ShownFlat, ShownSolid

Patch = list[dict[str, Any]]


class PlaceIn(Schema):
    """Something to measure: a part (or one of its copies), a face, an edge, its centre, or a feature's middle."""

    part: str
    what: Literal["part", "face", "edge", "centre", "feature"] = "part"
    name: str = ""


class MeasureIn(Schema):
    """One place, or two to measure between."""

    a: PlaceIn
    b: PlaceIn | None = None


class WeighIn(Schema):
    """Parts to weigh together."""

    parts: list[str]


class FileLayer(Schema):
    """A layer of a drawing: how many curves are on it, and whether it was read."""

    name: str
    curves: int
    read: bool


class FileMended(Schema):
    """What was mended in a drawing, how often, where the first is, and how large it was at most (mm; 0 where that says nothing)."""

    what: str
    count: int
    at: tuple[float, float]
    most: float


class FileShapeOut(Schema):
    """An outline of a drawing, as a board's record has it, with its size and where its low corner lies in mm."""

    outline: dict[str, Any]
    width: float
    height: float
    at: tuple[float, float]


class OutlineOut(Schema):
    """A drawing's largest outline, as a board's record has it, with its size in mm; all of them in ``shapes`` (of ``count`` at most 200)."""

    outline: dict[str, Any]
    width: float
    height: float
    shapes: list[FileShapeOut]
    count: int
    layers: list[FileLayer]
    mended: list[FileMended]


class MeasureOut(Schema):
    """Distances in mm and the angle in radians; ``points`` are the ends of the shortest way. ``about`` tells of the first place alone."""

    about: About
    along: list[float] | None
    straight: float | None
    gap: float | None
    angle: float | None
    points: list[list[float]]


class BendRowsOut(Schema):
    """A bend table as read from a file; each row as in a stock's bending."""

    rows: list[dict[str, float]]


class BendPlanOut(Schema):
    """How a folded part is bent on its brake; no steps where none is chosen, or while they are being found."""

    brake: str
    by_hand: bool
    steps: list[ShownBendStep]
    finding: bool


class TravelOut(Schema):
    """How far a movement goes; None while it is looked for, with the share of the search that is done."""

    travel: ShownTravel | None
    share: float


class LedIn(Schema):
    """A drawing that is led by hand: what it told for it, where points are pulled (mm), circles' radii, and where points were led before."""

    solving: dict[str, Any]
    to: dict[str, tuple[float, float]] = Field(default_factory=dict, max_length=1000)
    radii: dict[str, float] = Field(default_factory=dict, max_length=100)
    start: dict[str, tuple[float, float]] = Field(default_factory=dict, max_length=1000)


class OrderingOut(Schema):
    """What is still being looked for, in words; once there is nothing, all problems of the head, and its tag with them."""

    revision: int
    ordering: list[str]
    problems: list[ShownProblem]
    tag: str


class HeadOut(Schema):
    """Of a design's head whatever it holds; ``tag`` names just this head, see ``Reader``."""

    id: str
    revision: int
    tag: str
    undo: str
    redo: str
    ordering: list[str]


class ShownOut(Schema):
    """Document, result, and the flats and solids that the reader did not have."""

    document: dict[str, Any]
    built: ShownBuilt
    resources: dict[str, ShownSolid | ShownFlat]


class ChangesOut(Schema):
    """What has changed since the head whose tag is ``over``: an RFC 6902 patch of ``{document, built}``, and the flats and solids that it had not."""

    over: str
    changes: Patch
    resources: dict[str, ShownSolid | ShownFlat]


class DesignOut(HeadOut, ShownOut):
    """A design at its head."""


class ChangedOut(HeadOut, ChangesOut):
    """What has changed in a design."""


class PreviewOut(ShownOut):
    """What an edit would give."""


class PreviewChangesOut(ChangesOut):
    """What an edit would change."""


class DesignRow(Schema):
    """A design in the list of a maker's designs."""

    id: str
    name: str
    revision: int
    updated: datetime
    parts: int
    problems: int


class EditOut(Schema):
    """One line of the history."""

    revision: int
    kind: str
    state: str
    label: str
    author: str
    at: datetime
    paths: list[str]


class DeletedRow(Schema):
    """A design that can be brought back ``until``."""

    id: str
    name: str
    deleted: datetime
    until: datetime


class StarterAsk(Schema):
    """One question of a starter: what is usual in mm and in inches, from ``low`` to ``high`` (mm, or how many), the sheets that may be chosen."""

    name: str
    words: str
    kind: Literal["length", "count", "stock"]
    mm: str
    inch: str
    low: float
    high: float
    choices: list[dict[str, str]]


class StarterForm(Schema):
    key: str
    title: str
    words: str
    asks: list[StarterAsk]


class StarterIn(Schema):
    starter: str
    unit: Literal["mm", "in"] = "mm"
    values: dict[str, str] = Field(default_factory=dict, max_length=20)


class StarterShown(Schema):
    """A starter as it would begin: its picture (SVG), how many parts it has, and its size over all in mm."""

    picture: str
    parts: int
    size: list[float]


class NewDesign(Schema):
    name: str
    starter: str = "nothing"
    unit: Literal["mm", "in"] = "mm"
    values: dict[str, str] = Field(
        default_factory=dict, max_length=20, description="answers to what the starter asks; what is not said is as usual"
    )


class DesignName(Schema):
    name: str


class Reader(Schema):
    """What whoever asks holds already and need not be sent: the head with the tag ``holds``, whole with its flats and solids, and the flats and solids in ``have``."""

    holds: str = Field("", max_length=64)
    have: list[str] = []


class EditIn(Reader):
    """An edit: a label that a person would read, and an RFC 6902 patch.

    Of edits with the same ``id`` only the first is made: one that was made, but whose answer was lost, can be sent again.
    """

    id: str = Field("", pattern="^([0-9a-f]{32})?$")
    label: str
    patch: Patch


class PreviewIn(Reader):
    patch: Patch


class OperationOut(Schema):
    label: str
    patch: Patch


class PairIn(Schema):
    """Two boards, and the joint of theirs that another kind would replace."""

    a: str
    b: str
    instead_of: str | None = None


class FigureIn(Schema):
    joint: str
    patch: Patch | None = None


class AxisIn(Schema):
    """A bore's axis and its place along the two other axes, as entries; the part along whose axes it runs, and how it leans."""

    axis: Literal["x", "y", "z"]
    at: dict[str, dict[str, str]]
    of: str = ""
    lean: dict[str, str] | None = None
    toward: dict[str, str] | None = None
    parts: list[str] = []


class AxisOut(Schema):
    """The parts that the axis passes through, in order along it."""

    parts: list[ShownOnAxis]
