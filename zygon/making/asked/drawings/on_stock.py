"""The section of a bar, in a plane that lies nowhere in the design: it is shown upright about its origin."""

from __future__ import annotations

from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.geometry.motion import of_rows
from zygon.making.asked.drawings.place import Place
from zygon.making.datums.sections import plane_of_stock
from zygon.making.result.built import Built
from zygon.owner import read_owner
from zygon.stock.kinds import is_bar

__all__ = ["OnStock"]

#: So much is seen at least, each way (mm).
LEAST = 40.0


class OnStock(Place):
    """The section of a bar, by its stock's id."""

    title = "its section"
    adrift = ("x", "y")

    def __init__(self, built: Built, part: str, feature: str = "") -> None:
        super().__init__(built, part, feature)
        document = built.document
        key = read_owner(part).key
        stock = document.stocks.get(key)
        if not is_bar(stock) or feature:
            raise DocumentError(f"There is no bar {key}", entry="part", value=part, rule="a bar or tube of the design")
        self.stock, self.name, self.owner = stock, stock.name, part
        self.drawing = stock.drawing if stock.shape == "drawn" else None
        self.where = pointer("stocks", key, "drawing")
        self.plane = plane_of_stock(stock, key)
        self.motion = of_rows([[1.0, 0.0, 0.0, 0.0], [0.0, 0.0, -1.0, 0.0], [0.0, 1.0, 0.0, 0.0]])
        section = self.values.sections[key]
        reach = max(LEAST, 0.8 * max(section.extents))
        points = [(p.x, p.y) for p in self.drawing.points.values()] if self.drawing else []
        x, y = ((min(p[k] for p in points) + max(p[k] for p in points)) / 2 if points else 0.0 for k in (0, 1))
        self.low, self.size = (x - reach, y - reach), (2 * reach, 2 * reach)
