"""Limits of size of ISO 286-2 for the common tolerance classes up to 500 mm: 'H7' at 25 mm is +0.021/0 (tables from memory; checked against the formulas of ISO 286-1)."""

from __future__ import annotations

import re
from bisect import bisect_left

__all__ = ["GRADES", "SHAFTS", "limits_of"]

#: Upper ends of the ranges of nominal sizes, mm.
RANGES = (3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500)
#: Standard tolerances by grade in each range, in thousandths of a millimetre.
GRADES: dict[int, tuple[int, ...]] = {
    4: (3, 4, 4, 5, 6, 7, 8, 10, 12, 14, 16, 18, 20),
    5: (4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27),
    6: (6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40),
    7: (10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63),
    8: (14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97),
    9: (25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155),
    10: (40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250),
    11: (60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400),
    12: (100, 120, 150, 180, 210, 250, 300, 350, 400, 460, 520, 570, 630),
    13: (140, 180, 220, 270, 330, 390, 460, 540, 630, 720, 810, 890, 970),
}  # fmt: skip
#: The deviation of a shaft that is nearest to the nominal size, by its letter: the upper of d to h, the lower of k to p.
SHAFTS: dict[str, tuple[int, ...]] = {
    "d": (-20, -30, -40, -50, -65, -80, -100, -120, -145, -170, -190, -210, -230),
    "e": (-14, -20, -25, -32, -40, -50, -60, -72, -85, -100, -110, -125, -135),
    "f": (-6, -10, -13, -16, -20, -25, -30, -36, -43, -50, -56, -62, -68),
    "g": (-2, -4, -5, -6, -7, -9, -10, -12, -14, -15, -17, -18, -20),
    "h": (0,) * 13,
    "k": (0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 4, 4, 5),
    "m": (2, 4, 6, 7, 8, 9, 11, 13, 15, 17, 20, 21, 23),
    "n": (4, 8, 10, 12, 15, 17, 20, 23, 27, 31, 34, 37, 40),
    "p": (6, 12, 15, 18, 22, 26, 32, 37, 43, 50, 56, 62, 68),
}  # fmt: skip


def limits_of(tolerance: str, nominal: float) -> tuple[float, float] | None:
    """The upper and the lower deviation (mm) of a class such as H7 or g6 at a nominal size in mm; None of what is no class here, or is out of its range."""
    found = re.fullmatch(r"\s*(js|JS|[d-hkmnpD-HKMNP])\s*(\d{1,2})\s*", tolerance)
    if not found or not 0 < nominal <= RANGES[-1]:
        return None
    letter, grade = found[1], int(found[2])
    n = bisect_left(RANGES, nominal)
    if grade not in GRADES:
        return None
    width = GRADES[grade][n]
    if letter.lower() == "js":
        return width / 2000, -width / 2000
    near = SHAFTS[letter.lower()][n]
    if letter == "k" and not 4 <= grade <= 7:
        near = 0
    if letter in "defgh":
        return near / 1000, (near - width) / 1000
    if letter in "kmnp":
        return (near + width) / 1000, near / 1000
    if letter in "DEFGH":
        return (width - near) / 1000, -near / 1000
    upper = _hole(letter, grade, near, n)
    return None if upper is None else (upper / 1000, (upper - width) / 1000)


def _hole(letter: str, grade: int, near: int, n: int) -> int | None:
    """The upper deviation of holes K to P: the shaft's turned round, with the difference of two grades added in the fine ones (ISO 286-1)."""
    fine = grade <= (7 if letter == "P" else 8)
    if fine:
        more = GRADES[grade][n] - GRADES[grade - 1][n] if n and grade - 1 in GRADES else 0
        return -near + more
    if letter == "K":
        return 0 if n == 0 else None
    return 0 if letter == "N" and n else -near
