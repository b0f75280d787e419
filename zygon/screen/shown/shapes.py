"""Flats and solids as a screen draws them; lengths in mm."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, NotRequired

from typing_extensions import TypedDict

from zygon.making.metal.bend_table import BendRow

ShownOperation = Literal["mark", "inside", "outside", "depth", "drill", "note", "bend-up", "bend-down"]


class ShownSkinBend(TypedDict):
    """A bend of a skin, in mm and radians on the flat; angle over 0 towards face A. ``gussets`` are four (along, across) places each."""

    owner: str
    parent: int
    start: Sequence[float]
    end: Sequence[float]
    angle: float
    radius: float
    k: float
    gussets: list[Sequence[float]]


class ShownSkinFace(TypedDict):
    """A flat face of a folded part, the plate ('') or a leg."""

    key: str
    owner: str


class ShownSkin(TypedDict):
    """A folded part's net on the flat (u, v runs), the face (i) or bend (-1 - i) that lays each corner, and its bends."""

    flat: Sequence[float]
    zone: list[int]
    edges: list[int]
    lines: list[int]
    thickness: float
    faces: list[ShownSkinFace]
    bends: list[ShownSkinBend]


class ShownSolid(TypedDict):
    """A solid in (u, v, w): positions and edges as runs of x, y, z; owners with how many triangles each run has.

    ``leaf`` is how many triangles, and ends of edges, are of the first of two leaves that move against one another; it is there only then.
    """

    skin: ShownSkin | None
    positions: Sequence[float]
    triangles: list[int]
    owners: list[str]
    counts: list[int]
    edges: Sequence[float]
    leaf: NotRequired[Sequence[int]]


class ShownContour(TypedDict):
    """A contour: its path nominal and as cut, and what comes out if it is cut on the line."""

    operation: ShownOperation
    depth: float
    d: str
    cut: str
    bounds: Sequence[float]
    circle: Sequence[float] | None
    owners: list[list[str]]
    on_line: Sequence[float]
    length: float
    spot: Sequence[float]


class ShownBore(TypedDict):
    """A bore in an edge: its height above face B and its axis on the flat as it lies (x0, y0, x1, y1)."""

    edge: str
    along: float
    w: float
    diameter: float
    depth: float
    owner: str
    line: Sequence[float]


class ShownSkew(TypedDict):
    """A hole drilled askew, on the flat as it lies: its axis (x0, y0 on the face that lies up, x1, y1 on the other), and how far off square.

    ``lean`` is in degrees, None where it runs from edge to edge; ``under`` the mouth that it leaves on the face that lies down, as a path.
    """

    line: Sequence[float]
    diameter: float
    lean: float | None
    under: str
    owner: str


class ShownWorkedEdge(TypedDict):
    """A run of an edge that is worked to a profile: its path with y turned down, the face, and how far it reaches onto it and down the edge (mm).

    ``spot`` is the middle of its longest piece, and which way the board is from there (x, y, and a unit vector).
    """

    path: str
    face: Literal["a", "b"]
    shape: Literal["round", "chamfer", "cove"]
    width: float
    height: float
    owner: str
    spot: Sequence[float]


class ShownBand(TypedDict):
    """A run of an edge that a band is glued to, as it is finished; its path with y turned down."""

    path: str
    thickness: float
    of: str
    owner: str
    spot: Sequence[float]


class ShownFlat(TypedDict):
    """A flat as paths with y turned down about 0; ``under`` is the work on the face that lies down, seen once it is turned over."""

    bounds: Sequence[float]
    kerf: float
    thickness: float
    contours: list[ShownContour]
    under: list[ShownContour]
    seen: Literal["a", "b"]
    bores: list[ShownBore]
    skew_bores: list[ShownSkew]
    edges: list[ShownWorkedEdge]
    bands: list[ShownBand]
    narrow: list[Sequence[float]]
    bends: list[BendRow]
    under_bends: list[BendRow]
