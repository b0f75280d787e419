"""What screens are told of programs for the cutter."""

from __future__ import annotations

from typing_extensions import TypedDict

__all__ = [
    "ShownBit",
    "ShownClamp",
    "ShownDifference",
    "ShownMaterial",
    "ShownProgram",
    "ShownProgramCut",
    "ShownProgramSheet",
    "ShownSlab",
]


class ShownProgramSheet(TypedDict):
    """A side of a sheet as nested for which there may be a program; ``why`` there is none, '' where there is. ``under``: the face that lies down, cut first."""

    stock: str
    name: str
    number: int
    of: int
    pieces: int
    under: bool
    why: str


class ShownProgramCut(TypedDict):
    """A contour of a piece: which of its moves are its own, from ``first`` to before ``last``. ``loose`` where the piece comes off with it.

    ``wide`` is how wide it is cut, ``deep`` how deep (mm), 0 straight through by a beam; ``bit`` is the number of the bit, 0 of a beam.
    """

    operation: str
    key: str
    copy: int
    part: str
    code: str
    first: int
    last: int
    loose: bool
    wide: float
    deep: float
    bit: int


class ShownBit(TypedDict):
    """A bit of a program: lengths in mm, ``spindle`` in revolutions a minute, ``feed`` and ``plunge`` in mm/s; ``chip`` is what a flute takes in a turn (mm), 0 of a drill."""

    number: int
    name: str
    diameter: float
    spindle: int
    feed: float
    plunge: float
    chip: float


class ShownClamp(TypedDict):
    """A place of a sheet that is kept clear, mm."""

    name: str
    x: float
    y: float
    length: float
    width: float


class ShownProgram(TypedDict):
    """A program to be played: of every move where it ends (``x``, ``y`` mm), its ``bulge`` (tangent of a quarter of its sweep, 0 of what is straight), when it ends
    (``t``, s), what it is (``kind``: 0 rapid, 1 cut, 2 mark, 3 wait) and its ``line``. It begins at 0, 0. ``outline`` is that of an offcut as path data, '' of a whole sheet. ``said`` is what the cutter would have otherwise, ``faults`` what keeps it here.

    Of a router ``z`` is the height over the face at the end of each move (mm), nothing of a beam; ``bits`` are in the order in which they are used, ``unreached`` is what they
    leave in pockets, as path data, and ``left`` its area (mm²). ``under``: the sheet lies turned over left to right.
    """

    stock: str
    name: str
    number: int
    length: float
    width: float
    outline: str
    kerf: float
    thickness: float
    cutter: str
    seconds: float
    cost: float
    cut: float
    rapid: float
    pierces: int
    x: list[float]
    y: list[float]
    bulge: list[float]
    t: list[float]
    kind: list[int]
    line: list[int]
    z: list[float]
    bits: list[ShownBit]
    clamps: list[ShownClamp]
    unreached: list[str]
    left: float
    under: bool
    cuts: list[ShownProgramCut]
    faults: list[str]
    said: list[str]


class ShownSlab(TypedDict):
    """What stays of a sheet between two depths under its face (mm): areas, each an outer ring and its holes, as x, y after one another."""

    top: float
    bottom: float
    areas: list[list[list[float]]]


class ShownDifference(TypedDict):
    """Where what is left is not the part: ``rest`` stands ``mm`` high, a ``gouge`` reaches so far into it; ``area`` in mm², ``x``, ``y`` on the sheet, its shape as ``areas`` are."""

    kind: str
    key: str
    copy: int
    part: str
    code: str
    where: str
    mm: float
    area: float
    x: float
    y: float
    shape: list[list[list[float]]]


class ShownMaterial(TypedDict):
    """What a router's program leaves of a sheet, in slabs from its face down, and what differs from the parts, the worst first; ``volume`` in mm³."""

    thickness: float
    volume: float
    slabs: list[ShownSlab]
    differences: list[ShownDifference]
