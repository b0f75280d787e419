"""Short ways to draft frames of tubes for tests."""

from collections.abc import Sequence
from typing import Any

from zygon.design.draft import Draft
from zygon.stock.section import Section

#: Sections of every shape that members may have: what a stock says.
SECTIONS: dict[str, dict[str, Any]] = {
    "round tube": {"nominal": "42.4", "wall": "2.6"},
    "thin round tube": {"nominal": "33.7", "wall": "1.5"},
    "round bar": {"nominal": "20"},
    "square tube": {"shape": "square", "nominal": "40", "wall": "3", "corner": "6"},
    "rectangular tube": {"shape": "rectangle", "nominal": "30", "width": "50", "wall": "2", "corner": "3"},
    "flat": {"shape": "rectangle", "nominal": "5", "width": "30"},
    "hexagon": {"shape": "hexagon", "nominal": "27"},
    "angle": {"shape": "angle", "nominal": "40", "wall": "4", "corner": "6"},
    "unequal angle": {"shape": "angle", "nominal": "30", "width": "50", "wall": "5"},
    "channel": {"shape": "channel", "nominal": "40", "width": "20", "wall": "3"},
    "tee": {"shape": "tee", "nominal": "40", "width": "35", "wall": "4", "corner": "3"},
}
#: Those of tubes and solid bars: what can be coped.
CLOSED = [s for s, said in SECTIONS.items() if said.get("shape") not in ("angle", "channel", "tee")]


def section_of(name: str) -> Section:
    """The section that the stock of a name has."""
    said = {k: v if k == "shape" else float(v) for k, v in SECTIONS[name].items()}
    shape, height = said.pop("shape", "round"), said.pop("nominal")
    return Section(shape, height, said.pop("width", height), **said)


def stocked(*sections: str) -> Draft:
    """A draft with a bar stock of each section under its name in one word."""
    d = Draft("frame", "ply18", "steel6")
    for n, name in enumerate(dict.fromkeys(sections)):
        said = {k: v if k == "shape" else {"text": v} for k, v in SECTIONS[name].items()}
        bar = {"kind": "bar", "name": name, "material": "steel", "density": 7.85, "tint": "#9FA8B0", "order": 20 + n}
        d.data["stocks"][key(name)] = {**bar, **said, "lengths": {"bar": {"length": {"text": "6 m"}, "price": 30}}}
    return d


def key(section: str) -> str:
    """The stock of a section."""
    return section.replace(" ", "_")


def two(
    one: str, other: str, ways: Sequence[Sequence[float]], joint: str = "", turns: Sequence[float] = (0, 0), at=(0, 0, 0), **more: Any
) -> Draft:
    """Members ``one`` and ``other`` of two sections: the first from the origin along ``ways[0]``, the second through ``at`` along ``ways[1]`` (mm)."""
    d = stocked(one, other)
    first, low, high = ways[0], *([[a + s * w for a, w in zip(at, ways[1], strict=True)] for s in more.pop("span", (-1, 1))])
    d.frame("f", {"p": ("0", "0", "0"), "q": mm(first), "r": mm(low), "s": mm(high)}, {"l": ("p", "q"), "m": ("r", "s")})
    for name, section, line, way, turn in (("one", one, "l", first, turns[0]), ("other", other, "m", ways[1], turns[1])):
        d.member(
            name, key(section), "f", line, against="z" if abs(way[2]) < 0.9 * sum(x * x for x in way) ** 0.5 else "y", turn=f"{turn} deg"
        )
    if joint:
        d.joint(joint, "one", "other", **more)
    return d


def mm(place: Sequence[float]) -> tuple[str, str, str]:
    """A point's entries."""
    x, y, z = (f"{v:.9f}" for v in place)
    return x, y, z
