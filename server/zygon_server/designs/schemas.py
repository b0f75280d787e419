"""What the designs' API takes and gives; the interface's types come from here."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import Field

Patch = list[dict[str, Any]]
Finite = Annotated[float, Field(allow_inf_nan=False)]


class ValueOut(Schema):
    """What an entry gives: mm, radians or a plain value."""

    value: float
    kind: str
    stale: bool
    reading: str = ""


class PartOut(Schema):
    """One instance in its place. Lengths in mm, area in mm², mass in g."""

    key: str
    of: str
    path: str
    number: int
    code: str
    made_by: list[list[str | int]]
    has: list[list[str | float]]
    kind: str
    made: str
    quantity: int
    stale: bool
    stock: str
    thickness: float | None
    length: float | None
    width: float | None
    area: float | None
    mass: float | None
    solid: str
    flat: str
    matrix: list[list[float]]
    handed: int
    low: list[float] | None
    high: list[float] | None
    face_a: str = ""
    face_b: str = ""
    words: dict[str, str] = {}
    bend_words: dict[str, list[str]] = {}
    ends: list[list[str]] = []
    u: str = ""
    v: str = ""
    origin: list[float] = []
    nominal: float | None = None
    measured: float | None = None
    note: str = ""
    turns: bool = False
    folded: bool = False
    sharp: int = 0
    corners: list[list[str]] = []
    cut_back: dict[str, list[float]] = {}


class FingerOut(Schema):
    """A stretch of a joint's run and the part that owns it."""

    low: float
    high: float
    owner: str


class JointOut(Schema):
    """A joint as built."""

    key: str
    kind: str
    a: str
    b: str
    title: str
    contact: str
    axis: str
    run: list[float]
    fingers: list[FingerOut]
    fit: float
    refused: str
    details: dict[str, float]
    across: str = ""
    form: str = ""
    fastened: str = ""
    ends: list[str] = []
    sides: list[str] = []
    copies: list[list[str]]


class MendOut(Schema):
    """The obvious way out, as an edit."""

    label: str
    patch: Patch


class KeptOut(Schema):
    """Who keeps a problem knowingly, and why."""

    reason: str
    by: str


class ProblemOut(Schema):
    """A problem with its place, value, rule and mends."""

    id: str
    code: str
    severity: Literal["error", "warning"]
    message: str
    rule: str
    value: str
    source: str
    part: str
    other: str
    owner: str
    entry: str
    at: list[float] | None
    reopened: bool
    lost: str
    kept: KeptOut | None
    mends: list[MendOut]


class TotalsOut(Schema):
    """Sums over all copies: mass in g, prices, and cutting without the travel on sheets."""

    mass: float
    bought: float
    cut_seconds: float
    cut_cost: float
    known: bool


class PlanOut(Schema):
    """What is to be nested of a stock; its thickness in mm."""

    stock: str
    thickness: float
    digest: str
    copies: int
    area: float
    expected_sheets: int


class FitOut(Schema):
    """Whether the fits of a stock on the chosen cutter were tried, and the kerf that they were tried with and the one now, in mm."""

    stock: str
    state: Literal["tested", "untested", "outdated", "edited"]
    tested_kerf: float | None
    kerf: float


class RowOut(Schema):
    """A row of the cut list: equal parts by their instance keys; ``handed_of`` is the number of the row whose mirror image it is."""

    number: int
    code: str
    keys: list[str]
    name: str
    quantity: int
    handed_of: int
    group: str


class ClearanceOut(Schema):
    """The room in mm that a stated clearance has; null where one of its places is gone."""

    key: str
    room: float | None


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


class OutlineOut(Schema):
    """An outline read from a drawing, as a board's record has it, with its size in mm."""

    outline: dict[str, Any]
    width: float
    height: float


class AboutOut(Schema):
    """What a place, or parts together, have to tell: mm, mm², mm³, g, radians; null where it does not apply."""

    length: float | None
    area: float | None
    mass: float | None
    volume: float | None
    centre: list[float] | None
    opening: list[float] | None
    angle: float | None


class MeasureOut(Schema):
    """Distances in mm and the angle in radians; ``points`` are the ends of the shortest way. ``about`` tells of the first place alone."""

    about: AboutOut
    along: list[float] | None
    straight: float | None
    gap: float | None
    angle: float | None
    points: list[list[float]]


class BuiltOut(Schema):
    """A built design but for flats and solids, which are resources."""

    values: dict[str, ValueOut]
    parts: list[PartOut]
    rows: list[RowOut]
    clearances: list[ClearanceOut]
    joints: list[JointOut]
    problems: list[ProblemOut]
    totals: TotalsOut
    plans: list[PlanOut]
    fits: list[FitOut]


class SkinBendOut(Schema):
    """A bend of a skin, in mm and radians on the flat; angle over 0 towards face A. ``gussets`` are four (along, across) places each."""

    owner: str
    parent: int
    start: list[float]
    end: list[float]
    angle: float
    radius: float
    k: float
    gussets: list[list[float]]


class SkinFaceOut(Schema):
    """A flat face of a folded part, the plate ('') or a leg."""

    key: str
    owner: str


class SkinOut(Schema):
    """A folded part's net on the flat (u, v runs), the face (i) or bend (-1 - i) that lays each corner, and its bends."""

    flat: list[float]
    zone: list[int]
    edges: list[int]
    lines: list[int]
    thickness: float
    faces: list[SkinFaceOut]
    bends: list[SkinBendOut]


class SolidOut(Schema):
    """A solid in (u, v, w): positions and edges as runs of x, y, z; owners with how many triangles each run has."""

    skin: SkinOut | None
    positions: list[float]
    triangles: list[int]
    owners: list[str]
    counts: list[int]
    edges: list[float]


class ContourOut(Schema):
    """A contour: its path nominal and as cut, and what comes out if it is cut on the line."""

    operation: Literal["mark", "inside", "outside", "depth", "drill", "note", "bend-up", "bend-down"]
    depth: float
    d: str
    cut: str
    bounds: list[float]
    circle: list[float] | None
    owners: list[list[str]]
    on_line: list[float]
    length: float
    spot: list[float]


class BoreOut(Schema):
    """A bore in an edge: its height above face B and its axis on the flat as it lies (x0, y0, x1, y1)."""

    edge: str
    along: float
    w: float
    diameter: float
    depth: float
    owner: str
    line: list[float]


class BendOut(Schema):
    """A bend as the flat is seen: lengths in mm, the angle of bend in degrees, its middle line on the flat (x0, y0, x1, y1)."""

    number: int
    key: str
    owner: str
    direction: Literal["up", "down"]
    angle: float
    radius: float
    k: float
    allowance: float
    deduction: float
    refers_to: str
    length: float
    line: list[float]


class BendStepOut(Schema):
    """A step on the press brake: the bends that it makes, the back-gauge from the bend line in mm, tools, force in kN, what it runs into."""

    number: int
    keys: list[str]
    owners: list[str]
    gauge: float | None
    against: str
    length: float
    force: float
    tool: str
    radius: float | None
    handling: str
    collides: list[str]


class BendRowsOut(Schema):
    """A bend table as read from a file; each row as in a stock's bending."""

    rows: list[dict[str, float]]


class BendPlanOut(Schema):
    """How a folded part is bent on its brake; no steps where none is chosen, or while they are being found."""

    brake: str
    by_hand: bool
    steps: list[BendStepOut]
    finding: bool


class OrderingOut(Schema):
    """The parts whose order of bending is still being found; once there are none, all problems of the head."""

    revision: int
    ordering: list[str]
    problems: list[ProblemOut]


class FlatOut(Schema):
    """A flat as paths with y turned down about 0; ``under`` is the work on the face that lies down, seen once it is turned over."""

    bounds: list[float]
    kerf: float
    thickness: float
    contours: list[ContourOut]
    under: list[ContourOut]
    seen: Literal["a", "b"]
    bores: list[BoreOut]
    narrow: list[list[float]]
    bends: list[BendOut]
    under_bends: list[BendOut]


class DesignOut(Schema):
    """A design at its head: document, result, and the resources that the reader did not have."""

    id: str
    revision: int
    document: dict[str, Any]
    built: BuiltOut
    resources: dict[str, SolidOut | FlatOut]
    undo: str
    redo: str
    ordering: list[str]


class PreviewOut(Schema):
    """What an edit would give."""

    document: dict[str, Any]
    built: BuiltOut
    resources: dict[str, SolidOut | FlatOut]


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


class NewDesign(Schema):
    name: str
    starter: str = "nothing"


class DesignName(Schema):
    name: str


class EditIn(Schema):
    """An edit: a label that a person would read, and an RFC 6902 patch. ``have`` are hashes of resources that need not be sent."""

    label: str
    patch: Patch
    have: list[str] = []


class PreviewIn(Schema):
    patch: Patch
    have: list[str] = []


class HaveIn(Schema):
    have: list[str] = []


class OperationOut(Schema):
    label: str
    patch: Patch


class PairIn(Schema):
    """Two boards, and the joint of theirs that another kind would replace."""

    a: str
    b: str
    instead_of: str | None = None


class OfferOut(Schema):
    """A joint that two boards could have; ``refused`` says why not, ``note`` what the chosen cutter cannot do about it."""

    kind: str
    order: str
    title: str
    refused: str
    note: str
    contact: str


class FigureIn(Schema):
    joint: str
    patch: Patch | None = None


class FigureShape(Schema):
    part: Literal["a", "b"]
    d: str


class FigureView(Schema):
    """A section in mm, y down, within width and height."""

    title: str
    width: float
    height: float
    shapes: list[FigureShape]


class FigureFact(Schema):
    label: str
    value: float
    kind: str


class FigureOut(Schema):
    """A joint drawn to its real values."""

    title: str
    views: list[FigureView]
    facts: list[FigureFact]


class StepOut(Schema):
    """Parts slid home together: from ``start`` (x, y, z in mm from their place) to their place."""

    parts: list[str]
    way: str
    start: list[float]
    distance: float


class LooseOut(Schema):
    part: str
    ways: list[str]
    kept_by: str


class DropOut(Schema):
    part: str
    height: float
    onto: str


class AssemblyOut(Schema):
    """How a design is put together."""

    first: list[str]
    steps: list[StepOut]
    locked: list[list[str]]
    loose: list[LooseOut]
    drops: list[DropOut]


class DrillOut(Schema):
    """A hole that is left to a drill; mm, ``depth`` is none for one straight through."""

    part: str
    key: str
    surface: str
    side: str
    along: float
    along_from: str
    across: float
    across_from: str
    diameter: float
    depth: float | None
    countersink: float
    joint: str
    owner: str


class AxisIn(Schema):
    """A bore's axis and its place along the two other axes, as entries."""

    axis: Literal["x", "y", "z"]
    at: dict[str, dict[str, str]]


class OnAxisOut(Schema):
    """A part that an axis passes through, and how: square to it, at an angle, or by its edge."""

    part: str
    how: Literal["square", "angle", "edge"]


class AxisOut(Schema):
    """The parts that the axis passes through, in order along it."""

    parts: list[OnAxisOut]
