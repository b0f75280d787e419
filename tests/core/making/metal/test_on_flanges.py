"""What is cut and marked on flanges, how far they go where that is named in the room, and on which edge of a bent piece others stand."""

import pytest

from tests.core.making.metal.trays import entry, flange, folded, part_of
from zygon.design.draft import Draft
from zygon.making.pipeline import build
from zygon.owner import feature_id

IN_THE_MIDDLE = {"u": {"origin": "centre", "offset": entry(0)}, "v": {"origin": "centre", "offset": entry(0)}}
TAKEN = {
    "hole": {"diameter": entry(6)},
    "slot": {"length": entry(20), "width": entry(5)},
    "rectangle": {"width": entry(20), "height": entry(8)},
    "hand_hold": {"length": entry(60), "width": entry(12)},
    "fan": {"opening": entry(14), "pitch": entry(14), "diameter": entry(2)},
    "perforation": {"width": entry(30), "height": entry(16), "diameter": entry(3), "pitch": entry(6)},
    "mark_line": {"length": entry(20)},
    "mark_circle": {"diameter": entry(9)},
    "mark_text": {"text": "up", "height": entry(5)},
}
REFUSED = {
    "pocket": {"width": entry(20), "height": entry(8), "depth": entry(0.4)},
    "groove": {"width": entry(5), "depth": entry(0.4), "length": entry(20)},
    "edge_notch": {"edge": "front", "width": entry(9), "depth": entry(4)},
    "corner": {"size": entry(4)},
}


def on_a_flange(kind, more):
    own = {"kind": kind, **IN_THE_MIDDLE, **more}
    return folded({"f": {**flange("right", 30), "features": {"h": own}}})


@pytest.mark.parametrize("kind", TAKEN)
def test_each_kind_that_sheet_metal_takes_is_on_the_flange_and_nowhere_else(kind):
    part = part_of(on_a_flange(kind, TAKEN[kind]))
    owned = [c for c in (*part.flat.inside, *part.flat.marks) if c.owners[0] == feature_id("p", "h", "f")]
    assert len(owned) >= (4 if kind in ("fan", "perforation") else 1)
    # the flange goes on from the edge at 200: its middle lies half its height beyond the bend
    (face,) = part.flat.fold.faces[1].outline
    x0, y0, x1, y1 = face.bounds
    assert x0 > 200
    boxes = [c.bounds for c in owned]
    assert min(b[0] for b in boxes) > x0 and max(b[2] for b in boxes) < x1
    middle = (min(b[1] for b in boxes) + max(b[3] for b in boxes)) / 2
    if kind != "mark_text":  # letters stand on their line
        assert middle == pytest.approx((y0 + y1) / 2, abs=1.5 if kind == "perforation" else 1e-6)


@pytest.mark.parametrize("kind", REFUSED)
def test_what_sheet_metal_does_not_take_is_said_and_not_made(kind):
    built = on_a_flange(kind, REFUSED[kind])
    (fault,) = built.faults
    assert (
        fault.entry.startswith("/parts/p/folding/flanges/f/features/h")
        and f"{kind.replace('_', ' ')} is not made in sheet metal" in fault.message
    )
    assert fault.value == kind and fault.rule == "a hole, slot, cut-out or mark"
    assert list(built.parts["p"].flat.inside) == [] and list(built.parts["p"].flat.pockets) == []


@pytest.mark.parametrize(("plane", "u", "v"), [("lying", "x", "y"), ("facing_front", "x", "z"), ("facing_side", "y", "z")])
@pytest.mark.parametrize("edge", ["low u", "high u", "low v", "high v"])
def test_a_flange_between_places_in_the_room_lies_between_them(plane, u, v, edge):
    """The plate lies off the corner of the room, by another amount along each axis; a flange runs along the axis that its edge runs along."""
    ends = {"x": ("left", "right"), "y": ("front", "back"), "z": ("bottom", "top")}
    spans = {u: (310.0, 530.0), v: (140.0, 260.0)}
    d = Draft("t", "galv20")
    d.board("p", "galv20", plane, "70 mm", spans[u], spans[v], up="a")
    d.fold("p")
    high, of = edge.split()[0] == "high", u if edge.endswith("u") else v
    along = v if of == u else u
    first, second = spans[along][0] + 17.0, spans[along][1] - 41.0
    d.flange("p", "f", ends[of][high], "25 mm", extent="room", first=f"p.{ends[along][0]} + 17 mm", second=f"{second} mm")
    built = build(d.document())
    assert built.faults == (), [f.message for f in built.faults]
    part = built.parts["p"]
    (bend,) = part.flat.fold.bends
    at = [
        [sum(r[i] * c for i, c in enumerate((*p, 0.0))) + r[3] for r in part.matrix[:3]]["xyz".index(along)] for p in (bend.start, bend.end)
    ]
    assert sorted(at) == pytest.approx([first, second])


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
def test_what_stands_on_the_low_and_on_the_high_edge_of_a_bent_piece(edge):
    """Seen from outside with the sheet's root below, low is at the left hand: two flanges of unequal length tell the two apart."""
    bent = {"kind": "line", "edge": edge, "at": entry(50), "order": 0}
    flanges = {"l": bent, "a": flange("low", 12, on="l", order=1), "b": flange("high", 19, on="l", order=2)}
    part = part_of(folded(flanges, radius=1))
    fold = part.flat.fold
    assert len(fold.bends) == 3
    x0, y0, x1, y1 = part.flat.bounds
    beyond = {"low": (0 - x0, 0 - y0), "high": (x1 - 200, y1 - 120)}
    # on the left edge what is seen from outside runs from the back to the front, and so on round
    low, high = {
        "left": (("high", 1), ("low", 1)),
        "right": (("low", 1), ("high", 1)),
        "front": (("low", 0), ("high", 0)),
        "back": (("high", 0), ("low", 0)),
    }[edge]
    lengths = {k: beyond[end][i] for k, (end, i) in (("a", low), ("b", high))}
    assert lengths["b"] - lengths["a"] == pytest.approx(7.0)
    assert sum(max(x, 0.0) > 1 for pair in beyond.values() for x in pair) == 2
