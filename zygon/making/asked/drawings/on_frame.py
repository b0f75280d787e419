"""The path that the members of a frame lie on, drawn in a plane along the axes."""

from __future__ import annotations

import numpy as np

from zygon.design.drawn_in import drawn_on_what
from zygon.design.frames import LineFrame
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.drawn.drawing import Drawing
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, Plane, frame_of
from zygon.geometry.motion import Motion, of_rows
from zygon.making.asked.drawings.followed import path_followed
from zygon.making.asked.drawings.place import Place
from zygon.making.datums.ids import point_at
from zygon.making.datums.paths import plane_of_frame
from zygon.making.datums.placing import frame_of_group
from zygon.making.result.built import Built
from zygon.owner import read_owner

__all__ = ["OnFrame"]

#: So much is seen at least, each way (mm), and round what is drawn, as a share of it.
LEAST, AROUND = 100.0, 0.2


class OnFrame(Place):
    """The path of a frame, by the frame's id. ``frame`` is its record where the document has none that is drawn."""

    title = "as it is drawn"

    def __init__(self, built: Built, part: str, feature: str = "", frame: LineFrame | None = None) -> None:
        super().__init__(built, part, feature)
        document = built.document
        found, _ = drawn_on_what(document, part)
        said = frame or found
        if not isinstance(said, LineFrame) or feature:
            raise DocumentError(f"There is no frame {read_owner(part).key}", entry="part", value=part, rule="a frame of the design")
        key = read_owner(part).key
        self.frame, self.key, self.name, self.owner = said, key, said.name, part
        self.drawing, self.where = said.drawing, pointer("frames", key, "drawing")
        if said.plane is None or said.drawing is None:
            raise DocumentError(f"{said.name} is not drawn freely", entry="part", value=part, rule="a path that is drawn")
        self.plane = plane_of_frame(said)
        drawn = (k for k, p in said.points.items() if p.drawn)
        across = next((v for k in drawn if (v := self.values.solved.get(point_at(key, k, "drawn"))) is not None), 0.0)
        self.motion = frame_of_group(self.values, said.group) @ _at_rest(said.plane, across)
        points = [(p.x, p.y) for p in said.drawing.points.values()] or [(0.0, 0.0)]
        low, high = ([f(p[k] for p in points) for k in (0, 1)] for f in (min, max))
        more = [max(AROUND * (b - a), (LEAST - (b - a)) / 2) for a, b in zip(low, high, strict=True)]
        self.low = low[0] - more[0], low[1] - more[1]
        self.size = high[0] - low[0] + 2 * more[0], high[1] - low[1] + 2 * more[1]

    def beside(self, drawing: Drawing) -> Patch:
        return path_followed(self.document, self.key, self.frame, drawing)


def _at_rest(plane: Plane, across: float) -> Motion:
    axes = frame_of(plane)
    x, y = (np.eye(3)[AXES.index(a)] for a in (axes.u, axes.v))
    z = np.cross(x, y)
    return of_rows([[float(x[i]), float(y[i]), float(z[i]), across if a == axes.normal else 0.0] for i, a in enumerate(AXES)])
