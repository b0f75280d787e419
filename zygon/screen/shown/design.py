"""A built design as a screen is told of it: values, parts, rows, joints, problems, sums. Lengths in mm, angles in radians, mass in g."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Literal, NotRequired

from typing_extensions import TypedDict

from zygon.screen.shown.hardware import ShownBuy, ShownFitted, ShownSet


class ShownValue(TypedDict):
    """What an entry gives: mm, radians or a plain value."""

    value: float
    kind: str
    stale: bool
    reading: str


class ShownPlate(TypedDict):
    """What lies in a plane, as its faces, edges and bends are called, and what it has; ``origin`` is its low corner along u and v in mm."""

    has: list[list[str | float]]
    flat: str
    face_a: str
    face_b: str
    words: dict[str, str]
    bend_words: dict[str, list[str]]
    ends: list[list[str]]
    u: str
    v: str
    origin: Sequence[float]
    turns: bool
    folded: bool
    sharp: int
    corners: list[list[str]]
    cut_back: dict[str, Sequence[float]]


class ShownPart(ShownPlate):
    """One instance in its place. Lengths in mm, area in mm², mass in g."""

    key: str
    of: str
    path: str
    number: int
    code: str
    made_by: list[Sequence[str | int]]
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
    matrix: list[Sequence[float]]
    handed: int
    low: Sequence[float] | None
    high: Sequence[float] | None
    nominal: float | None
    measured: float | None
    note: str
    member: NotRequired[ShownMember]
    connector: NotRequired[ShownConnector]
    hardware: NotRequired[ShownLying]


class ShownEnd(TypedDict):
    """How an end of a member is cut: off square in radians where one plane does it, toward which side of it, in words; whether it has a template, and
    whether it gives way to another that ends there too."""

    off: float | None
    toward: float
    words: str
    template: bool
    gives_way: bool


class ShownRodBend(TypedDict):
    """One step of the bender: fed since the last bend (mm), turned and bent (radians), bent over to so much where it springs back, and where it begins (mm)."""

    feed: float
    turn: float
    bend: float
    over: float
    at: float


class ShownMember(TypedDict):
    """A member of a frame: its length between the short points in mm, its ends A and B, and how far it is turned between their cuts, in radians."""

    short: float
    ends: list[ShownEnd]
    turn: float | None
    laid_flat: bool
    bends: NotRequired[list[ShownRodBend]]
    then: NotRequired[float]


class ShownSocket(TypedDict):
    """A socket of a connector by its number: which member lies in it, at which end or 'through', how far it goes in and how much wider it is (mm)."""

    key: str
    number: int
    member: str
    at: str
    deep: float
    stand_off: float
    gap: float | None


class ShownConnector(TypedDict):
    """A connector: its sockets, and in how many ways it could stand on its lines."""

    sockets: list[ShownSocket]
    ways: int


class ShownFramePoint(TypedDict):
    """A point of a frame, by its number, in the room (mm)."""

    key: str
    number: int
    at: Sequence[float]


class ShownFrame(TypedDict):
    """A frame: its points that have a place, and its lines from point to point with the members on them."""

    key: str
    name: str
    points: list[ShownFramePoint]
    lines: list[ShownFrameLine]


class ShownFrameLine(TypedDict):
    """A line of a frame."""

    key: str
    a: str
    b: str
    members: list[str]


class ShownHole(TypedDict):
    """A hole of hardware: its leaf, how wide it is (mm), and the bore that has taken it over, '' where none has."""

    name: str
    leaf: str
    across: float
    bore: str


class ShownLying(TypedDict):
    """Hardware that lies by itself: what it is called, how it moves and is moved, in words; its holes, and the names of its places."""

    name: str
    source: str
    moves: str
    moved: str
    turns: bool
    round: bool
    solids: int
    holes: list[ShownHole]
    places: list[str]


class ShownFinger(TypedDict):
    """A stretch of a joint's run and the part that owns it."""

    low: float
    high: float
    owner: str


class ShownJoint(TypedDict):
    """A joint as built."""

    key: str
    kind: str
    a: str
    b: str
    title: str
    contact: str
    axis: str
    run: Sequence[float]
    fingers: list[ShownFinger]
    fit: float
    refused: str
    details: dict[str, float]
    across: str
    form: str
    fastened: str
    ends: list[str]
    sides: list[str]
    copies: list[list[str]]


class ShownMend(TypedDict):
    """The obvious way out, as an edit."""

    label: str
    patch: list[dict[str, Any]]


class ShownKept(TypedDict):
    """Who keeps a problem knowingly, and why."""

    reason: str
    by: str


class ShownProblem(TypedDict):
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
    at: Sequence[float] | None
    reopened: bool
    lost: str
    kept: ShownKept | None
    mends: list[ShownMend]


class ShownTotals(TypedDict):
    """Sums over all copies: mass in g, prices, and cutting without the travel on sheets. ``order`` is what of ``bought`` is on the order,
    ``unpriced`` how many of its lines have no price."""

    mass: float
    bought: float
    order: float
    unpriced: int
    cut_seconds: float
    cut_cost: float
    known: bool


class ShownBarCut(TypedDict):
    """A length in mm, cut so often from one bar."""

    name: str
    length: float
    count: int


class ShownBarPattern(TypedDict):
    """How a bar of a length is cut, so many times; what is left of each; how many cuts two slanting ends may share, and what that saves of it (mm);
    and the remainder that it is, '' for a new bar; the key of a new bar's length."""

    remainder: str
    size: str
    bar: float
    times: int
    rest: float
    shared: int
    saved: float
    cuts: list[ShownBarCut]


class ShownBarPlan(TypedDict):
    """The bars of one stock: how they are cut, what they cost, the bound and whether it is met, what no bar was left for, and how many
    saw cuts they take, in how many seconds."""

    bars: int
    cost: float
    bound: float
    proven: bool
    patterns: list[ShownBarPattern]
    missing: list[ShownBarCut]
    saw_cuts: int
    seconds: float


class ShownBars(TypedDict):
    """What is cut of a bar stock, and the hash of the plan; or why it cannot be planned."""

    stock: str
    plan: ShownBarPlan | None
    refused: str
    digest: str


class ShownPlan(TypedDict):
    """What is to be nested of a stock; its thickness in mm."""

    stock: str
    thickness: float
    digest: str
    copies: int
    area: float
    expected_sheets: int


class ShownFit(TypedDict):
    """Whether the fits of a stock on the chosen cutter were tried, and the kerf that they were tried with and the one now, in mm."""

    stock: str
    state: Literal["tested", "untested", "outdated", "edited"]
    tested_kerf: float | None
    kerf: float


class ShownRow(TypedDict):
    """A row of the cut list: equal parts by their instance keys; ``handed_of`` is the number of the row whose mirror image it is."""

    number: int
    code: str
    keys: list[str]
    name: str
    quantity: int
    handed_of: int
    group: str


class ShownClearance(TypedDict):
    """The room in mm that a stated clearance has; null where one of its places is gone."""

    key: str
    room: float | None


class ShownBuilt(TypedDict):
    """A built design but for flats and solids, which are resources."""

    values: dict[str, ShownValue]
    parts: list[ShownPart]
    rows: list[ShownRow]
    clearances: list[ShownClearance]
    joints: list[ShownJoint]
    problems: list[ShownProblem]
    totals: ShownTotals
    plans: list[ShownPlan]
    bars: list[ShownBars]
    fits: list[ShownFit]
    to_buy: list[ShownBuy]
    sets: NotRequired[list[ShownSet]]
    fitted: NotRequired[list[ShownFitted]]
    frames: NotRequired[list[ShownFrame]]
