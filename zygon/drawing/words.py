"""What the things and relations of a drawing are called in sentences."""

from __future__ import annotations

from collections.abc import Mapping

from zygon.drawn.drawing import DIMENSIONS, Drawing, DrawnText, Relation

__all__ = ["relation_words", "thing_words"]

_ENDS = {"a": "start", "b": "end", "centre": "centre"}
_HOLDS = {
    "same_place": "lie on one place",
    "in_line": "lie in one line",
    "parallel": "are parallel",
    "square": "are square to one another",
    "tangent": "are tangent",
    "equal": "are equal",
    "same_centre": "have one centre",
}


def thing_words(drawing: Drawing, key: str, fast: Mapping[str, str] | None = None) -> str:
    """A point, a curve or what lies fast, as it is called: by its name, else by its kind and its number among them. ``fast`` calls the latter by key."""
    own, _, end = key.partition(".")
    if end:
        return f"the {_ENDS[end]} of {thing_words(drawing, own, fast)}"
    curve = drawing.curves.get(own)
    if curve is not None:
        alike = [k for k, c in sorted(drawing.curves.items(), key=lambda kc: (kc[1].order, kc[0])) if c.kind == curve.kind]
        if isinstance(curve, DrawnText) and not curve.name:
            return f"text {curve.text!r}"
        return curve.name.replace("_", " ") or f"{curve.kind} {alike.index(own) + 1}"
    if own in drawing.references:
        return (fast or {}).get(own) or f"reference {list(drawing.references).index(own) + 1}"
    return f"point {list(drawing.points).index(own) + 1}"


def relation_words(drawing: Drawing, relation: Relation, figure: str = "", fast: Mapping[str, str] | None = None) -> str:
    """What a relation says, as a phrase; ``figure`` is what a dimension measures, as it is shown."""
    names = [thing_words(drawing, k, fast) for k in relation.of]
    named = " and ".join((", ".join(names[:-1]), names[-1]) if len(names) > 1 else names)
    kind = relation.kind
    if kind in DIMENSIONS:
        what = {
            "distance": "length of" if len(names) == 1 else "distance between",
            "across": "width of" if len(names) == 1 else "distance across between",
            "up": "height of" if len(names) == 1 else "distance up between",
            "angle": "angle between",
        }.get(kind, f"{kind} of")
        return f"{what} {named}" + (f", {figure}" if figure else "")
    if kind in ("level", "upright"):
        return f"{named} {'is' if len(names) == 1 else 'are'} {kind}" if len(names) == 1 else f"{named} lie {kind} with one another"
    if kind == "on":
        return f"{names[0]} lies on {names[1]}"
    if kind == "middle":
        return f"{names[0]} lies in the middle of {' and '.join(names[1:])}"
    if kind == "mirrored":
        return f"{names[0]} and {names[1]} are mirrored about {names[2]}"
    if kind == "held":
        return f"{names[0]} is held where it is"
    return f"{named} {_HOLDS[kind]}"
