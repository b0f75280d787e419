"""Records of the layout: turns, groups, copies that stay in step (mirrors and repeats), and clearances under watch."""

from __future__ import annotations

from collections.abc import Collection
from typing import Annotated, ClassVar, Literal, get_args

from pydantic import Field

from zygon.geometry.frame import across
from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record
from zygon.owner import read_owner

__all__ = [
    "AXIS_WORDS",
    "COPY_RECORDS",
    "Clearance",
    "Copy",
    "Group",
    "GridCopy",
    "MirrorCopy",
    "Place",
    "RingCopy",
    "RowCopy",
    "Turn",
    "origin_of",
]

Axis = Literal["x", "y", "z"]
#: How something runs along an axis.
AXIS_WORDS = {"x": "left to right", "y": "front to back", "z": "bottom to top"}
Key = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,40}$")]


class Turn(Record):
    """A turn about a line along ``axis`` that passes ``at`` the two other axes; by the right-hand rule."""

    title: ClassVar[str] = "Turned"

    order: int = 0
    axis: Axis
    at: dict[Axis, Entry]
    angle: Entry = asked("By", kind="angle", begin="10 deg")


class Group(Record):
    """Parts that are moved, turned, copied and counted as a whole. ``parent`` is the key of the group that it lies in."""

    name: str
    order: int = 0
    parent: str = ""
    move: dict[Axis, Entry] = Field(default_factory=dict)
    turns: dict[Key, Turn] = Field(default_factory=dict, max_length=4)
    out: bool = Field(default=False, description="left out, with all that lies in it")


class _Copy(Record):
    title: ClassVar[str] = ""

    name: str = Field(min_length=1, max_length=40)
    order: int = 0
    of: list[str] = Field(min_length=1, max_length=200, description="what is copied: 'part:KEY', 'group:KEY' or 'copy:KEY'")
    out: bool = False
    spared: dict[str, list[str]] = Field(
        default_factory=dict,
        max_length=200,
        description="by feature, joint or bore ('feature:PART:KEY'): the instance keys that do without it",
    )


class MirrorCopy(_Copy):
    """Handed copies on the other side of a plane."""

    title: ClassVar[str] = "Mirror, handed"

    kind: Literal["mirror"] = "mirror"
    axis: Axis = asked("Across", note="the plane lies square to it", begin="x", words=AXIS_WORDS)
    at: Entry
    names: dict[str, str] = Field(default_factory=dict, description="the handed copies' own names by part key")


class RowCopy(_Copy):
    """A row: so many at a spacing, or as many as fill a length with no spacing larger than said."""

    title: ClassVar[str] = "Repeat in a row"

    kind: Literal["row"] = "row"
    axis: Axis = asked("Along", begin="x", words=AXIS_WORDS)
    number: Entry | None = asked("How many in all", None, note="the original included", kind="count", section="number", begin="3")
    spacing: Entry | None = asked(
        "Spacing", None, note="from one to the next; negative runs the other way", section="number", begin="100 mm"
    )
    length: Entry | None = asked("Fill a length of", None, note="from the first to the last", section="fill", begin="500 mm")
    largest: Entry | None = asked("Spacing at most", None, note="where a length is filled", section="fill", begin="150 mm")


class GridCopy(_Copy):
    """Rows of rows along two axes."""

    title: ClassVar[str] = "Repeat in a grid"

    kind: Literal["grid"] = "grid"
    axis: Axis = asked("Along", begin="x", words=AXIS_WORDS)
    number: Entry = asked("How many in all", kind="count", begin="3")
    spacing: Entry = asked("Spacing", begin="100 mm")
    axis_2: Axis = asked("Rows along", begin="y", words=AXIS_WORDS)
    number_2: Entry = asked("Rows", kind="count", begin="2")
    spacing_2: Entry = asked("From row to row", begin="100 mm")


class RingCopy(_Copy):
    """Copies round a line along ``axis`` that passes ``at`` the two other axes."""

    title: ClassVar[str] = "Repeat round a ring"

    kind: Literal["ring"] = "ring"
    axis: Axis = asked("Round a line", begin="x", words=AXIS_WORDS)
    at: dict[Axis, Entry]
    number: Entry = asked("How many in all", kind="count", begin="6")
    angle: Entry = asked(
        "Over an angle of", Entry(text="360 deg"), note="from the first to where the next round begins, or to the last", kind="angle"
    )
    upright: bool = asked("Copies keep their direction", False, note="instead of turning along")


Copy = Annotated[MirrorCopy | RowCopy | GridCopy | RingCopy, Field(discriminator="kind")]
#: The record of each kind, in the order in which they are offered.
COPY_RECORDS: dict[str, type[_Copy]] = {r.model_fields["kind"].default: r for r in get_args(get_args(Copy)[0])}


class Place(Record):
    """Something to measure from or to: a part, a face of it, an edge where two of its faces meet, its centre, or a hole's centre."""

    part: str = Field(description="part key, or that of one of its copies")
    what: Literal["part", "face", "edge", "centre", "feature"] = "part"
    name: str = Field(
        default="",
        description="face word, two face words with a hyphen, a feature's key, or of a folded part a leg's key with .inner or .outer",
    )

    def across(self, axes: Collection[str]) -> Place:
        """The place of the original that lies where this one of a mirror image does; its faces are named as they stand."""
        if self.what not in ("face", "edge") or not axes or "." in self.name:
            return self
        return self.model_copy(update={"name": "-".join(across(w, axes) for w in self.name.split("-"))})


class Clearance(Record):
    """Room that has to stay between two places: at least, at most, or both; along an axis, or the shortest way."""

    name: str = Field(min_length=1, max_length=60)
    order: int = 0
    a: Place
    b: Place
    along: Literal["shortest", "x", "y", "z"] = "shortest"
    least: Entry | None = None
    most: Entry | None = None
    out: bool = False


def origin_of(reference: str) -> tuple[str, str]:
    """Kind and key of what a copy is of; ('', '') where the text says neither."""
    kind, key, *_ = read_owner(reference)
    return (kind, key) if kind in ("part", "group", "copy") and key else ("", "")
