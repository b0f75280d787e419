"""Stacks of boards that a set is put through, along any axis and in any order."""

from zygon.design.draft import Draft

PLANES = {"x": "facing_side", "y": "facing_front", "z": "lying"}


def stack(*stocks: str, axis: str = "z", gap: str = "0 mm", thick: dict[str, str] | None = None, **said) -> Draft:
    """Boards of 200 x 160 one behind the other along an axis, with a bore through all of them 60 and 50 from their low corners, and a set along it."""
    d = Draft("stack", *dict.fromkeys(stocks))
    for name, size in (thick or {}).items():
        d.data["stocks"][name] |= {"nominal": d.entry(size)}
        d.data["stocks"][name].pop("measured", None)
    others = [a for a in "xyz" if a != axis]
    at = "0 mm"
    words = {"x": "right", "y": "back", "z": "top"}[axis]
    low = {"x": "left", "y": "front", "z": "bottom"}[axis]
    for n, stock in enumerate(stocks):
        d.board(f"b{n}", stock, PLANES[axis], at, ("0 mm", "200 mm"), ("0 mm", "160 mm"), face=low)
        at = f"b{n}.{words} + {gap}"
    d.bore("hole", axis, {others[0]: "60 mm", others[1]: "50 mm"}, "8 mm", **{f"b{n}": ("cut", "0") for n in range(len(stocks))})
    d.hardware("hole", **said)
    return d
