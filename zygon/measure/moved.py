"""An entry moved by a distance, as a hand pulls it: its one trailing constant changes, or comes, or vanishes; what it refers to stays."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.measure.syntax import Binary, Literal, Name, Negative, Node, parse
from zygon.measure.units import LENGTH_UNITS

__all__ = ["Trailing", "moved", "trailing"]

#: Figures that a hand sets are rounded to this: a thousandth of a millimetre, a hundred-thousandth of an inch.
PLACES = {"mm": 3, "cm": 4, "m": 6, "in": 5, '"': 5, "ft": 6, "'": 6}


@dataclass(frozen=True)
class Trailing:
    """An entry as ``base`` + constant: ``constant`` in mm, written in ``word`` ('' where the figure stood bare, in ``bare``). A plain length has no base.

    ``size`` is the size that it names, where it is nothing but that.
    """

    base: str
    constant: float
    word: str
    bare: str
    size: str = ""

    @property
    def factor(self) -> float:
        """Millimetres of one of the constant's unit."""
        return LENGTH_UNITS[self.word or self.bare]

    @property
    def places(self) -> int:
        """Decimals to which the constant is rounded."""
        return PLACES[self.word or self.bare]

    def with_constant(self, mm: float) -> str:
        """The text with another constant; a 0 behind a base vanishes."""
        figure = round(mm / self.factor, self.places) + 0.0
        digits = f"{abs(figure):.{self.places}f}".rstrip("0").rstrip(".")
        text = digits + (f" {self.word}" if self.word.isalpha() else self.word)
        if not self.base:
            return f"-{text}" if figure < 0 else text
        return self.base if not figure else f"{self.base} {'-' if figure < 0 else '+'} {text}"


def trailing(text: str, unit: str) -> Trailing:
    """An entry of lengths taken apart. Raises ExpressionError where it cannot be read.

    ``4 - 1/2 in`` ends in no plain figure: what is added to it comes behind.
    """
    root = parse(text)
    plain = _figure(root, unit)
    if plain is not None:
        return Trailing("", plain[0], plain[1], unit)
    if isinstance(root, Binary) and root.op in "+-":
        found = _figure(root.right, unit) if isinstance(root.right, Literal) else None
        if found is not None:
            base = text[: root.right.start].rstrip()[:-1].rstrip()
            if base:
                return Trailing(base, found[0] if root.op == "+" else -found[0], found[1], unit)
    return Trailing(text.strip(), 0.0, "mm" if unit == "mm" else "in", unit, root.name if isinstance(root, Name) else "")


def moved(text: str, unit: str, by: float) -> str:
    """The entry moved by so many mm. Raises ExpressionError where it cannot be read."""
    found = trailing(text, unit)
    return found.with_constant(found.constant + by)


def _figure(node: Node, unit: str) -> tuple[float, str] | None:
    """Millimetres and the unit's word of a plain decimal length; None for anything else."""
    sign = 1.0
    while isinstance(node, Negative):
        sign, node = -sign, node.operand
    if not isinstance(node, Literal) or (node.unit and node.unit not in LENGTH_UNITS):
        return None
    return sign * node.value * LENGTH_UNITS[node.unit or unit], node.unit
