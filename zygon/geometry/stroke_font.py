"""Single-line lettering for engraving: each letter is a few strokes on a grid 4 wide and 6 high."""

from __future__ import annotations

from zygon.geometry.contour import Contour, polyline

__all__ = ["letter_fault", "strokes", "text_width"]

#: Strokes as runs of grid points 'xy', separated by spaces; x from 0 to 4, y from 0 (baseline) to 6.
_GLYPHS = {
    "A": "002640 1232", "B": "0006360545443403 3342413100", "C": "4536160501103041", "D": "00062644422000",
    "E": "46060040 0333", "F": "460600 0333", "G": "45361605011030414323", "H": "0006 4046 0343", "I": "1636 1030 2620",
    "J": "4641301001", "K": "0006 4603 1340", "L": "060040", "M": "0006234640", "N": "00064046",
    "O": "011030414536160501", "P": "00063645443303", "Q": "011030414536160501 2240", "R": "00063645443303 2340",
    "S": "453616050413334231300001", "T": "0646 2620", "U": "060110304146", "V": "062046", "W": "0610233046",
    "X": "0046 0640", "Y": "062346 2320", "Z": "06460040", "0": "011030414536160501 1135", "1": "152620 1030",
    "2": "051636454400 0040", "3": "05163645443313 3342413010 1001", "4": "30360242", "5": "4606033342413010 1001",
    "6": "453616050110304142331302", "7": "064610", "8": "130415051636454433 33424130100102133313",
    "9": "443313040516364541301001", "-": "1333", "+": "1333 2422", ".": "2021", ",": "2110", "/": "0046", ":": "2223 2425",
    "(": "36242230", ")": "16242210", "=": "1434 1232", "'": "2625", '"': "1615 3635", "_": "0040",
    "#": "1016 3036 0242 0444", "&": "400515263504011030", "!": "2622 2021", "?": "051636454422 2021", "%": "0046 0616 3040",
    " ": "",
}  # a row a line  # fmt: skip
ADVANCE = 5.5
HEIGHT = 6.0


def letter_fault(text: str) -> str | None:
    """The first letter that cannot be engraved, or None; small letters are cut as capitals."""
    return next((c for c in text if c.upper() not in _GLYPHS), None)


def text_width(text: str, height: float) -> float:
    """Width in mm of a line of capitals ``height`` mm high."""
    return max(0.0, (len(text) * ADVANCE - (ADVANCE - 4)) * height / HEIGHT)


def strokes(text: str, x: float, y: float, height: float, owner: str = "") -> list[Contour]:
    """Open runs for ``text`` centred on (x, y); unknown letters leave a gap."""
    scale = height / HEIGHT
    left = x - text_width(text, height) / 2
    runs = []
    for i, char in enumerate(text):
        for run in _GLYPHS.get(char.upper(), "").split():
            grid = [(int(run[k]), int(run[k + 1])) for k in range(0, len(run), 2)]
            points = [(left + (i * ADVANCE + gx) * scale, y + (gy - HEIGHT / 2) * scale) for gx, gy in grid]
            if len(points) > 1:
                runs.append(polyline(points, owner))
    return runs
