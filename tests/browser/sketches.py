"""A sheet of paper with a stool's leg sketched on it, as a scanner sees it: a little askew, with two crosses that are 200 mm apart."""

import io
import math

from PIL import Image, ImageDraw, ImageFilter

#: Where the crosses are on the paper, and the leg's outer edge, in mm from the paper's lower left corner.
CROSSES = ((40.0, 30.0), (240.0, 30.0))
EDGE = [(60.0 + 190.0 * t, 70.0 + 34.0 * math.sin(math.pi * t) + 12.0 * t) for t in (0, 0.2, 0.4, 0.6, 0.8, 1)]


class Sketch:
    """A sheet of 297 by 210 mm, scanned so many pixels a mm, and turned by some degrees."""

    def __init__(self, per_mm: float = 3.7, turned: float = 2.3) -> None:
        self.per_mm, self.turned = per_mm, math.radians(turned)
        self.wide, self.high = round(320 * per_mm), round(240 * per_mm)

    def pixel(self, x: float, y: float) -> tuple[float, float]:
        """Where a place on the paper is seen, to the right and down."""
        dx, dy = x - 148.5, y - 105
        cos, sin = math.cos(self.turned), math.sin(self.turned)
        return (self.wide / 2 + self.per_mm * (dx * cos - dy * sin), self.high / 2 - self.per_mm * (dx * sin + dy * cos))

    def png(self) -> bytes:
        """The scan, without a word of how large its pixels are."""
        page = Image.new("L", (self.wide, self.high), 214)
        draw = ImageDraw.Draw(page)
        draw.polygon([self.pixel(*p) for p in ((0, 0), (297, 0), (297, 210), (0, 210))], fill=246)
        for x, y in CROSSES:
            draw.line([self.pixel(x - 4, y), self.pixel(x + 4, y)], fill=40, width=2)
            draw.line([self.pixel(x, y - 4), self.pixel(x, y + 4)], fill=40, width=2)
        draw.line([self.pixel(*CROSSES[0]), self.pixel(*CROSSES[1])], fill=150, width=1)
        n = 80
        outer = [(60 + 190 * t / n, 70 + 34 * math.sin(math.pi * t / n) + 12 * t / n) for t in range(n + 1)]
        inner = [(x + 4, y - 26 - 5 * math.sin(math.pi * i / n)) for i, (x, y) in enumerate(outer)]
        for run in (outer, inner):
            draw.line([self.pixel(*p) for p in run], fill=70, width=3, joint="curve")
        draw.line([self.pixel(*outer[0]), self.pixel(*inner[0])], fill=70, width=3)
        draw.line([self.pixel(*outer[-1]), self.pixel(*inner[-1])], fill=70, width=3)
        to = io.BytesIO()
        page.filter(ImageFilter.GaussianBlur(0.8)).save(to, "PNG")
        return to.getvalue()
