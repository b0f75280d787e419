"""Sheet-metal gauges: number to thickness, each system by itself; one is never read from another's table."""

from __future__ import annotations

from typing import Literal

from zygon.measure.units import INCH

__all__ = ["GAUGE_WORDS", "GaugeSystem", "gauge_thickness"]

GaugeSystem = Literal["steel", "galvanised", "stainless", "nonferrous"]
GAUGE_WORDS = {"steel": "sheet steel", "galvanised": "galvanised sheet", "stainless": "stainless sheet", "nonferrous": "non-ferrous"}

#: Manufacturers' Standard Gauge: pounds per square foot of the numbers in use. Thickness is weight / 41.82 lb per inch
#: (values from memory; the formula gives the printed four-place inches).
_STEEL_POUNDS = {
    7: 7.5, 8: 6.875, 9: 6.25, 10: 5.625, 11: 5.0, 12: 4.375, 13: 3.75, 14: 3.125, 15: 2.8125, 16: 2.5, 17: 2.25, 18: 2.0,
    19: 1.75, 20: 1.5, 21: 1.375, 22: 1.25, 23: 1.125, 24: 1.0, 25: 0.875, 26: 0.75,
}  # a row a line  # fmt: skip
#: Galvanised sheet gauge, inches, zinc included (from memory).
_GALVANISED = {
    10: 0.1382, 11: 0.1233, 12: 0.1084, 13: 0.0934, 14: 0.0785, 16: 0.0635, 18: 0.0516, 20: 0.0396, 22: 0.0336, 24: 0.0276,
    26: 0.0217, 28: 0.0187,
}  # a row a line  # fmt: skip
#: Stainless sheet gauge, inches: the U.S. Standard Gauge of 1893 by fractions of an inch, as the stainless trade kept it (from memory).
_STAINLESS = {
    7: 0.1875, 8: 0.1719, 9: 0.1563, 10: 0.1406, 11: 0.1250, 12: 0.1094, 13: 0.0938, 14: 0.0781, 15: 0.0703, 16: 0.0625, 17: 0.0563, 18: 0.0500,
    19: 0.0438, 20: 0.0375, 21: 0.0344, 22: 0.0313, 23: 0.0281, 24: 0.0250, 25: 0.0219, 26: 0.0188, 28: 0.0156, 30: 0.0125,
}  # a row a line  # fmt: skip


def gauge_thickness(system: GaugeSystem | None, number: float, stock: str = "this stock") -> float:
    """Thickness in mm of a gauge number. Raises KeyError with a sentence's end where the system has no such number.

    steel: Manufacturers' Standard Gauge; galvanised: galvanised sheet gauge; stainless: stainless sheet gauge; nonferrous: AWG (Brown & Sharpe), ASTM B258.
    """
    if system is None:
        raise KeyError(f"{stock} has no gauge table; give its thickness in mm or in")
    if number != int(number):
        raise KeyError("a gauge is a whole number")
    n = int(number)
    if system == "nonferrous":
        if not 0 <= n <= 40:
            raise KeyError(f"the nonferrous gauges run from 0 to 40, not {n}")
        return round(0.005 * 92 ** ((36 - n) / 39), 4) * INCH
    tables = {"steel": {k: round(v / 41.82, 4) for k, v in _STEEL_POUNDS.items()}, "galvanised": _GALVANISED, "stainless": _STAINLESS}
    table = tables[system]
    if n not in table:
        raise KeyError(f"the {system} gauge table has no number {n}")
    return table[n] * INCH
