"""Records of outlines that are not rectangles; each fills the board's spans, or one that is drawn says how far they reach."""

from __future__ import annotations

from typing import Annotated, Any, ClassVar, Literal, get_args

from pydantic import Field

from zygon.drawn.drawing import Drawing
from zygon.measure.asked import asked
from zygon.measure.entry import Entry, Record
from zygon.owner import is_of, read_owner

__all__ = ["OUTLINE_RECORDS", "Disc", "Drawn", "Free", "Gear", "Link", "Outline", "Ring", "Traced", "drawing_in", "drawing_of", "gear_of"]

#: x, y and the bulge of the line or arc that starts there, in mm.
Vertex = Annotated[list[float], Field(min_length=3, max_length=3)]
Loop = Annotated[list[Vertex], Field(min_length=2, max_length=4000)]


class Disc(Record):
    """A round board as wide as its spans."""

    title: ClassVar[str] = "disc"

    kind: Literal["disc"] = "disc"


class Ring(Record):
    """A disc with a round opening about its centre."""

    title: ClassVar[str] = "ring"

    kind: Literal["ring"] = "ring"
    inner: Entry = asked("Opening, diameter", begin="40 mm")


class Link(Record):
    """Two circles joined by their tangents, one at either end of the longer span, with a bore in each."""

    title: ClassVar[str] = "link: two circles and their tangents"

    kind: Literal["link"] = "link"
    low: Entry | None = asked("Diameter, LOW end", None, blank="as wide as it is")
    high: Entry | None = asked("Diameter, HIGH end", None, blank="as wide as it is")
    bore_low: Entry | None = asked("Bore in the LOW end", None, blank="none", begin="8 mm")
    bore_high: Entry | None = asked("Bore in the HIGH end", None, blank="none", begin="8 mm")


class Gear(Record):
    """A spur gear with involute teeth, as wide and as high over its tips as its spans; two of one module run at module times the sum of their teeth by two."""

    title: ClassVar[str] = "gear"

    kind: Literal["gear"] = "gear"
    module: Entry = asked("Module", begin="2 mm", note="pitch diameter by teeth; over the tips it is module × (teeth + 2)")
    teeth: int = asked("Teeth", 24, suffix="", ge=6, le=400)
    pressure: Entry = asked("Pressure angle", Entry(text="20 deg"), kind="angle")
    backlash: Entry = asked(
        "Backlash", Entry(text="0.1 mm"), note="with another like it, on the pitch circle: half of it is left off each tooth"
    )
    bore: Entry | None = asked("Bore", None, blank="none", begin="8 mm")


def gear_of(part: Any) -> Gear | None:
    """The gear that a part is; None of another one."""
    outline = getattr(part, "outline", None)
    return outline if isinstance(outline, Gear) else None


def drawing_of(part: Any) -> Drawing | None:
    """The drawing that a part's outline is, or the half-profile of a turned one; None of another one."""
    outline = getattr(part, "outline", None)
    found = outline.drawing if isinstance(outline, Free) else getattr(part, "drawing", None)
    return found if isinstance(found, Drawing) else None


def drawing_in(part: Any, feature: str = "") -> Drawing | None:
    """The drawing that a part is itself, or of one of its shapes or flanges by its id; None where there is none."""
    if not feature:
        return drawing_of(part)
    flanges = getattr(getattr(part, "folding", None), "flanges", {})
    of = flanges.get(read_owner(feature).key) if is_of(feature, "flange") else getattr(part, "features", {}).get(feature)
    found = getattr(of, "drawing", None)
    return found if isinstance(found, Drawing) else None


class Drawn(Record):
    """An outline taken over from a drawing; its low corner lies at the spans' low ends."""

    title: ClassVar[str] = "from a drawing (DXF, SVG)"

    kind: Literal["drawn"] = "drawn"
    source: str = Field(default="", max_length=120, description="name of the file that it came from")
    outer: Loop
    inner: list[Loop] = Field(default_factory=list, max_length=500)


class Free(Record):
    """An outline drawn by lines, arcs and relations, from the spans' low corner; loops within its outermost are openings.

    A span that ends at ``drawn`` from its other end is as long as what is drawn.
    """

    title: ClassVar[str] = "drawn freely"

    kind: Literal["free"] = "free"
    drawing: Drawing = Drawing()


class Traced(Record):
    """The outer edges of a parallel board, ``offset`` outward; its own spans are not asked for."""

    title: ClassVar[str] = "traced from a neighbour"

    kind: Literal["traced"] = "traced"
    part: str = Field(description="part key")
    offset: Entry = asked("Outward by", Entry(text="0"))


Outline = Annotated[Disc | Ring | Link | Gear | Free | Traced | Drawn, Field(discriminator="kind")]
#: The record of each kind, in the order in which they are offered.
OUTLINE_RECORDS: dict[str, Any] = {r.model_fields["kind"].default: r for r in get_args(get_args(Outline)[0])}
