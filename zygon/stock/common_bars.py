"""Common sizes of tube and bar, to begin a stock with; from memory, by the standards named with each."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

__all__ = ["COMMON_BARS", "CommonBar"]

STEEL, ALUMINIUM, STAINLESS, BEECH = (
    ("steel", 7.85, "#9FA8B0"),
    ("aluminium", 2.7, "#C9CFD4"),
    ("stainless", 7.9, "#B4BCC4"),
    ("beech", 0.72, "#D9B98C"),
)
Material = tuple[str, float, str]


@dataclass(frozen=True)
class CommonBar:
    """A size: its name, where its measures come from, and the record that a stock begins with."""

    name: str
    source: str
    start: dict[str, Any]


def _bar(name: str, source: str, material: Material, length: str, *, metre: float | None = None, **said: Any) -> CommonBar:
    what, density, tint = material
    entries = {k: {"text": v} for k, v in said.items() if k != "shape"} | ({"metre": metre} if metre else {})
    start = {
        "kind": "bar", "name": name, "material": what, "density": density, "tint": tint, "shape": said.get("shape", "round"), **entries,
        "lengths": {"one": {"length": {"text": length}, "price": 0}}, "kerf": {"text": "2 mm"},
    }  # a row a line  # fmt: skip
    return CommonBar(name, source, start)


def _mm(x: float) -> str:
    return f"{x:g} mm"


def _found() -> Iterator[CommonBar]:
    pipe = "EN 10255, medium; from memory"
    for across, wall in ((21.3, 2.6), (26.9, 2.6), (33.7, 3.2), (42.4, 3.2), (48.3, 3.2), (60.3, 3.6)):
        yield _bar(f"Steel pipe {across:g} × {wall:g}", pipe, STEEL, "6 m", nominal=_mm(across), wall=_mm(wall))
    precise = "EN 10305-3; from memory"
    for across, wall in ((16, 1.5), (20, 1.5), (25, 1.5), (25, 2), (30, 2), (35, 2), (40, 2)):
        yield _bar(f"Steel tube {across:g} × {wall:g}", precise, STEEL, "6 m", nominal=_mm(across), wall=_mm(wall))
    # corners of twice the wall outside, as the standard's sections are reckoned
    hollow = "EN 10219-2; from memory"
    for across, wall in ((20, 2), (25, 2), (30, 2), (40, 3), (50, 3), (60, 3), (80, 4)):
        yield _bar(
            f"Steel square tube {across:g} × {wall:g}",
            hollow,
            STEEL,
            "6 m",
            shape="square",
            nominal=_mm(across),
            wall=_mm(wall),
            corner=_mm(2 * wall),
        )
    for wide, high, wall in ((30, 20, 2), (40, 20, 2), (50, 30, 3), (60, 40, 3), (80, 40, 3)):
        yield _bar(f"Steel rectangular tube {wide:g} × {high:g} × {wall:g}", hollow, STEEL, "6 m", shape="rectangle", width=_mm(wide),
                   nominal=_mm(high), wall=_mm(wall), corner=_mm(2 * wall))  # a row a line  # fmt: skip
    for across in (6, 8, 10, 12, 16, 20):
        yield _bar(f"Steel round bar {across}", "EN 10060; from memory", STEEL, "6 m", nominal=_mm(across))
    for across in (10, 12, 16, 20):
        yield _bar(f"Steel square bar {across}", "EN 10059; from memory", STEEL, "6 m", shape="square", nominal=_mm(across))
    for wide, thick in ((20, 5), (25, 5), (30, 5), (40, 5), (40, 8), (50, 5), (60, 8)):
        yield _bar(
            f"Steel flat bar {wide} × {thick}",
            "EN 10058; from memory",
            STEEL,
            "6 m",
            shape="rectangle",
            width=_mm(wide),
            nominal=_mm(thick),
        )
    for across in (13, 17, 19, 24):
        yield _bar(f"Steel hexagon bar {across}", "EN 10061; from memory", STEEL, "3 m", shape="hexagon", nominal=_mm(across))
    # rounded at their toes too, or thinner there: the mass is the table's
    for high, wide, wall, root, metre in ((20, 20, 3, 3.5, 0.882), (25, 25, 3, 3.5, 1.12), (30, 30, 3, 5, 1.36), (40, 40, 4, 6, 2.42),
                                          (50, 50, 5, 7, 3.77), (20, 40, 4, 4, 1.77), (30, 60, 5, 5, 3.36)):  # a row a line  # fmt: skip
        yield _bar(f"Steel angle {max(high, wide)} × {min(high, wide)} × {wall}", "EN 10056-1; from memory", STEEL, "6 m", shape="angle",
                   nominal=_mm(high), width=_mm(wide), wall=_mm(wall), corner=_mm(root), metre=metre)  # a row a line  # fmt: skip
    for across, wall, root, metre in ((30, 4, 4, 1.77), (40, 5, 5, 2.96)):
        yield _bar(f"Steel tee {across} × {across} × {wall}", "EN 10055; from memory", STEEL, "6 m", shape="tee", nominal=_mm(across),
                   wall=_mm(wall), corner=_mm(root), metre=metre)  # a row a line  # fmt: skip
    yield _bar("Steel channel 40 × 20 × 5", "EN 10279; from memory", STEEL, "6 m", shape="channel", nominal="40 mm", width="20 mm", wall="5 mm",
               corner="5 mm", metre=2.87)  # a row a line  # fmt: skip
    drawn = "EN 755; from memory"
    for high, wide, wall in ((20, 20, 2), (30, 30, 3), (40, 40, 4), (20, 40, 2)):
        yield _bar(f"Aluminium angle {max(high, wide)} × {min(high, wide)} × {wall}", drawn, ALUMINIUM, "6 m", shape="angle", nominal=_mm(high),
                   width=_mm(wide), wall=_mm(wall))  # a row a line  # fmt: skip
    for high, wide, wall in ((20, 20, 2), (30, 20, 2), (40, 20, 2)):
        yield _bar(f"Aluminium channel {high} × {wide} × {wall}", drawn, ALUMINIUM, "6 m", shape="channel", nominal=_mm(high), width=_mm(wide),
                   wall=_mm(wall))  # a row a line  # fmt: skip
    yield _bar("Aluminium tee 30 × 30 × 2", drawn, ALUMINIUM, "6 m", shape="tee", nominal="30 mm", wall="2 mm")
    for across, wall in ((16, 1.5), (20, 2), (25, 2), (30, 2), (40, 2)):
        yield _bar(f"Aluminium tube {across:g} × {wall:g}", drawn, ALUMINIUM, "6 m", nominal=_mm(across), wall=_mm(wall))
    for across, wall in ((20, 2), (25, 2), (30, 2), (40, 3)):
        yield _bar(
            f"Aluminium square tube {across:g} × {wall:g}", drawn, ALUMINIUM, "6 m", shape="square", nominal=_mm(across), wall=_mm(wall)
        )
    for across, wall in ((33.7, 2), (42.4, 2), (48.3, 2)):
        yield _bar(
            f"Stainless tube {across:g} × {wall:g}", "EN 10217-7; from memory", STAINLESS, "6 m", nominal=_mm(across), wall=_mm(wall)
        )
    inch = "ASTM A513; from memory"
    for wide_in, thick_in in (("3/4", "0.065"), ("1", "0.065"), ("1 1/4", "0.065"), ("1 1/2", "0.083"), ("2", "0.083")):
        yield _bar(f"Steel tube {wide_in} × {thick_in} in", inch, STEEL, "20 ft", nominal=f"{wide_in} in", wall=f"{thick_in} in")
    for wide_in, thick_in in (("3/4", "0.065"), ("1", "0.065"), ("1 1/2", "0.083"), ("2", "0.083")):
        yield _bar(f"Steel square tube {wide_in} × {thick_in} in", inch, STEEL, "20 ft", shape="square", nominal=f"{wide_in} in", wall=f"{thick_in} in",
                   corner=f"{2 * float(thick_in):g} in")  # a row a line  # fmt: skip
    for across in (8, 10, 12, 16, 20, 25):
        yield _bar(f"Beech dowel {across}", "common practice", BEECH, "1 m", nominal=_mm(across))


#: In the order in which they are offered.
COMMON_BARS: tuple[CommonBar, ...] = tuple(_found())
