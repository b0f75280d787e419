"""Scales of drawings (ISO 5455: 1, 2 and 5 times powers of ten)."""

from __future__ import annotations

import re

from zygon.errors import ZygonError

__all__ = ["SCALES", "read_scale", "said_scale", "scale_words"]

#: From the largest on; what is cut from sheets is drawn at no more than ten times its size.
SCALES: tuple[float, ...] = (10.0, 5.0, 2.0, 1.0, 1 / 2, 1 / 5, 1 / 10, 1 / 20, 1 / 50, 1 / 100, 1 / 200, 1 / 500, 1 / 1000)


def scale_words(scale: float) -> str:
    """As it stands on a drawing: '1 : 5', '2 : 1'."""
    return f"{scale:g} : 1" if scale > 1 else f"1 : {round(1 / scale, 6):g}"


def read_scale(text: str) -> float:
    """The scale that is said; also one of another series. Raises ZygonError."""
    found = re.fullmatch(r"\s*(\d{1,4}(?:\.\d{1,3})?)\s*[:/]\s*(\d{1,4}(?:\.\d{1,3})?)\s*", text)
    one, other = (float(found[1]), float(found[2])) if found else (0.0, 0.0)
    if not one or not other or not 0.001 <= one / other <= 100:
        rule = "a scale such as 1 : 5 or 2 : 1, from 1 : 1000 to 100 : 1"
        raise ZygonError(f"Scale {text!r} is not one", code="bad_scale", entry="scale", value=text, rule=rule)
    return one / other


def said_scale(text: str) -> tuple[float | None, str]:
    """The scale that is said, None where none is or it is not one; and what is wrong with it, in words."""
    if not text.strip():
        return None, ""
    try:
        return read_scale(text), ""
    except ZygonError as error:
        return None, f"{error.message}: {error.rule}"
