"""The lettering of papers: how much room words take, which letters there are, and words broken into lines (fonts under the SIL Open Font License, beside them)."""

from __future__ import annotations

from functools import lru_cache
from importlib.resources import files
from importlib.resources.abc import Traversable
from typing import Any

from fontTools.ttLib import TTFont

from zygon.design.papers import LetterFace

__all__ = ["SLOPE", "em_of", "font_bytes", "missing", "width_of", "wrapped"]

#: By how many degrees sloping letters lean to the right (ISO 3098-1).
SLOPE = 15.0


def font_bytes(bold: bool = False, face: LetterFace = "") -> bytes:
    """The font file. The narrow one is the same design at three quarters of its width: capitals are as high, and no letter is wider."""
    return _file(bold, face).read_bytes()


def _file(bold: bool, face: LetterFace) -> Traversable:
    weight = "bold" if bold else "regular"
    return files("zygon.paper").joinpath("fonts", f"{face}-{weight}.ttf" if face else f"{weight}.ttf")


@lru_cache(maxsize=4)
def _font(bold: bool, face: LetterFace = "") -> tuple[dict[int, float], float]:
    """Widths of letters and the height of capitals, as shares of the em."""
    with _file(bold, face).open("rb") as stream:
        font: Any = TTFont(stream)
        em = font["head"].unitsPerEm
        return {c: font["hmtx"][g][0] / em for c, g in font.getBestCmap().items()}, font["OS/2"].sCapHeight / em


def em_of(height: float, *, bold: bool = False) -> float:
    """The size of the font, in mm, whose capitals are ``height`` mm tall."""
    return height / _font(bold)[1]


def width_of(text: str, height: float, *, bold: bool = False, face: LetterFace = "") -> float:
    """How long a line of text is, mm; letters that the font lacks count as wide as a capital."""
    widths, capital = _font(bold, face)
    return sum(widths.get(ord(c), 0.7) for c in text) * height / capital


def missing(text: str) -> str | None:
    """The first letter that cannot be written; None where all can."""
    return next((c for c in text if ord(c) not in _font(False)[0] and c != "\n"), None)


def wrapped(text: str, height: float, room: float, *, bold: bool = False) -> list[str]:
    """Text in lines that are at most ``room`` mm long; a word that is longer is broken where it has to be."""
    lines: list[str] = []
    for paragraph in text.split("\n"):
        line = ""
        for word in paragraph.split(" "):
            longer = f"{line} {word}" if line else word
            if width_of(longer, height, bold=bold) <= room:
                line = longer
                continue
            if line:
                lines.append(line)
            while width_of(word, height, bold=bold) > room and len(word) > 1:
                n = next((k for k in range(len(word) - 1, 1, -1) if width_of(word[:k], height, bold=bold) <= room), 1)
                lines.append(word[:n])
                word = word[n:]
            line = word
        lines.append(line)
    return lines
