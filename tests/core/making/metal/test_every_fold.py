"""Every kind of flange on every edge, toward both faces, with every one of its entries at values from nothing to far too much.

On a square plate the edges are alike: what is bent there has the same area, volume and bends. Where it lies, and what is said of a value, is kept as
figures.
"""

import itertools
import typing

import pytest

from tests.core.figures import compared, condensed, said, without_digests
from tests.core.making.metal.trays import SIDES, entry, flange, folded
from zygon.check.run import check
from zygon.design.folding import Flange, Folding, Hem, LineBend, OffsetBend, Profile
from zygon.design.patch import patched
from zygon.edits.split import split_part
from zygon.errors import ZygonError
from zygon.making.flats.layers import volume_of
from zygon.making.pipeline import build
from zygon.measure.entry import Entry
from zygon.screen.design import built_data, part_resources

NEXT = {"left": "front", "front": "right", "right": "back", "back": "left"}
LENGTHS = ["0", "-3", "0.3", "1.9", "7", "23", "61", "170"]
ANGLES = ["0 deg", "12 deg", "67 deg", "90 deg", "133 deg", "180 deg", "-30 deg"]
LEGS = [
    {"length": entry("21"), "angle": entry("60 deg")},
    {"length": entry("18"), "angle": entry("-35 deg")},
    {"length": entry("13"), "angle": entry("20 deg")},
]
KINDS = {
    "flange": (Flange, {"length": 31}),
    "hem": (Hem, {"length": 12, "gap": "0.4"}),
    "offset": (OffsetBend, {"length": 29, "height": 11}),
    "profile": (Profile, {"legs": LEGS}),
    "line": (LineBend, {"at": 14, "angle": "40 deg"}),
}


def made(kind, edge, **more):
    """A flange of a kind, its entries written as a maker would."""
    record, usual = KINDS[kind]
    plain = {**usual, **more}
    whole = {"kind": kind, "edge": edge}
    for key, value in plain.items():
        info = record.model_fields[key]
        whole[key] = entry(value) if info.annotation is Entry or Entry in typing.get_args(info.annotation) else value
    return whole


def told(built):
    return [[said(f) for f in built.faults], built_data(built, []), list(part_resources(built).values())]


def bent(built, way=1):
    """What does not hang on the edge: area, volume, widths, angles and radii of the bends, and what is said; ``way`` is -1 for what is bent to face b."""
    part = built.flats.get("p")
    words, figures = sorted(f.code for f in built.faults), []
    if part and part.flat.pieces:
        figures = [sum(p.area for p in part.flat.pieces), volume_of(part.flat)]
        fold = part.flat.fold
        for b in sorted(fold.bends if fold else [], key=lambda b: (round(b.width, 4), round(abs(b.angle), 4), b.angle * way)):
            figures += [b.width, b.angle * way, b.radius]
    return words, figures


def square(flanges, **more):
    return folded(flanges, width=150, depth=150, thickness=1.5, **more)


def fields(record):
    """Names of a record's own entries and choices, with values for each."""
    for name, info in record.model_fields.items():
        options = typing.get_args(info.annotation)
        if name in (
            "kind",
            "edge",
            "on",
            "name",
            "order",
            "out",
            "relief",
            "features",
            "legs",
            "gussets",
            "split",
            "sequence",
            "flanges",
            "corners",
        ):
            continue
        if info.annotation is Entry or Entry in options:
            yield name, ANGLES if name == "angle" else LENGTHS
        else:
            flat = [o for option in options for o in (typing.get_args(option) or (option,)) if isinstance(o, str)]
            yield name, flat


#: How else a flange can be made, by kind.
VARIANTS = {
    "plain": [(k, {}) for k in KINDS],
    "within": [
        (k, {"extent": e, "first": a, "second": b, "relief": {"style": s}})
        for k, (e, a, b), s in zip(
            itertools.cycle(KINDS),
            [("inset", "17", "31"), ("centred", "50", "9"), ("between", "21", "88"), ("inset", "0", "40"), ("inset", "33", "0")] * 2,
            ["rectangular", "round", "tear", "none"] * 3,
            strict=False,
        )
    ],
    "measured": [
        ("flange", {"measured": m, "angle": a, "where": w})
        for m, a, w in itertools.product(("outer", "inner", "tangent"), ("50 deg", "115 deg"), ("outside", "inside", "edge"))
    ],
    "profile": [
        ("profile", {"measured": m, "where": w})
        for m, w in itertools.product(("outer", "inner", "tangent", "face_a", "face_b"), ("outside", "inside", "edge"))
    ],
    "others": [("hem", {"style": s}) for s in ("closed", "open", "teardrop")]
    + [("offset", {"measured": m, "inset": "6", "angle": "70 deg"}) for m in ("outer", "inner", "tangent")]
    + [
        ("flange", {"gussets": {"number": 2, "width": entry("7"), "depth": entry("6")}}),
        ("flange", {"radius": "4", "rounding": "6"}),
        ("flange", {"rounding": "6", "corner_shape": "chamfer"}),
    ],
}


@pytest.mark.parametrize("variant", VARIANTS)
def test_what_is_bent_is_the_same_on_every_edge_and_toward_both_faces(variant):
    for kind, more in VARIANTS[variant]:
        # the faces of a profile's line are the plate's own, whichever way it is bent
        other = {"face_a": "face_b", "face_b": "face_a"}.get(more.get("measured", ""))
        ways = {"a": more, "b": {**more, "measured": other} if other else more}
        both = [
            bent(square({"f": made(kind, edge, toward=toward, **ways[toward])}), 1 if toward == "a" else -1)
            for edge in SIDES
            for toward in "ab"
        ]
        # a place along the edge runs from its low end, so that of left and right, front and back the area is the same
        for words, figures in both[1:]:
            assert words == both[0][0] and figures == pytest.approx(both[0][1], rel=1e-9), (kind, more)


def stood_on(n, kind, more, toward):
    """A bend with a neighbour, a lip and a flange on its side."""
    edge = SIDES[n % 4]
    flanges = {"f": made(kind, edge, toward=toward, **more), "g": made("flange", NEXT[edge], length=19, angle="77 deg", order=1)}
    if kind != "line":
        flanges["lip"] = flange("end", 9, on="f", angle="70 deg", order=2)
        flanges["side"] = flange("low" if n % 2 else "high", 11, on="f", order=3, extent="inset", first="4", second="5")
    return flanges


@pytest.mark.parametrize("variant", VARIANTS)
@pytest.mark.parametrize("toward", ["a", "b"])
def test_whatever_is_bent_can_be_checked(variant, toward):
    """Also a face that is folded into itself, whose outline crosses itself."""
    for n, (kind, more) in enumerate(VARIANTS[variant]):
        assert isinstance(check(square(stood_on(n, kind, more, toward), rounding="3" if n % 3 == 0 else "0.01")), list)


@pytest.mark.parametrize("variant", VARIANTS)
@pytest.mark.parametrize("toward", ["a", "b"])
def test_where_what_is_bent_lies_is_what_it_was(variant, toward):
    found = []
    for n, (kind, more) in enumerate(VARIANTS[variant]):
        flanges = stood_on(n, kind, more, toward)
        holes = {
            "h": {
                "kind": "hole",
                "name": "h",
                "u": {"origin": "low", "offset": entry(12)},
                "v": {"origin": "root", "offset": entry(13)},
                "diameter": entry("4"),
                "order": 0,
            }
        }
        if kind in ("flange", "offset", "profile"):
            flanges["f"]["features"] = holes
        found.append(told(square(flanges, rounding="3" if n % 3 == 0 else "0.01", crossing=("none", "round", "square")[n % 3])))
    compared(f"bent so {variant} {toward}", {"bent": condensed(without_digests(found))})


@pytest.mark.parametrize("kind", KINDS)
def test_every_entry_of_a_flange_from_nothing_to_too_much_is_told_what_it_was_told(kind):
    found = {}
    for n, (name, values) in enumerate(fields(KINDS[kind][0])):
        for value in values:
            if name in ("first", "second"):
                ways = [{"extent": e, "first": "25", "second": "60"} for e in ("inset", "centred", "between")]
            else:
                ways = [{"extent": "inset", "first": "11", "second": "17"} if n % 2 else {}]
            for way in ways:
                built = square({"f": made(kind, SIDES[n % 4], **{**way, name: value})})
                found.setdefault(name, []).append([str(value), bent(built), [said(f) for f in built.faults]])
    compared(f"folds {kind}", {name: condensed(rows) for name, rows in found.items()})


@pytest.mark.parametrize("style", ["rectangular", "round", "tear", "none"])
def test_every_relief_from_nothing_to_too_much_is_told_what_it_was_told(style):
    found = []
    for width, depth, edge in itertools.product([None, "0", "0.1", "1.2", "9"], [None, "0", "-1", "0.3", "14"], ("left", "back")):
        relief = {"style": style} | {k: entry(v) for k, v in (("width", width), ("depth", depth)) if v is not None}
        built = square({"f": made("flange", edge, extent="inset", first="21", second="8", relief=relief)})
        found.append([[width, depth, edge], bent(built), [said(f) for f in built.faults]])
    compared(f"reliefs {style}", {"reliefs": condensed(found)})


@pytest.mark.parametrize("style", ["open", "closed", "a_covers", "b_covers"])
def test_every_corner_is_what_it_was_whichever_of_its_flanges_is_named_first(style):
    found = []
    for edge, (one, other), toward in itertools.product(
        SIDES, (("90 deg", "90 deg"), ("70 deg", "90 deg"), ("100 deg", "115 deg"), ("45 deg", "45 deg")), "ab"
    ):
        flanges = {
            "x": made("flange", edge, length=33, angle=one, toward=toward),
            "y": made("flange", NEXT[edge], length=27, angle=other, toward=toward, order=1),
        }
        corner = {"a": "x", "b": "y", "style": style, "gap": entry("0.6")}
        turned = {"a": "y", "b": "x", "style": {"a_covers": "b_covers", "b_covers": "a_covers"}.get(style, style), "gap": entry("0.6")}
        built = square(flanges, corners={"c": corner})
        words, figures = bent(square(flanges, corners={"c": turned}))
        assert bent(built)[0] == words and bent(built)[1] == pytest.approx(figures)
        found.append([bent(built), list(part_resources(built).values())[:1], [said(f) for f in built.faults]])
    compared(f"corners {style}", {"corners": condensed(without_digests(found))})


def test_a_corner_of_flanges_toward_unlike_faces_or_none_is_what_it_was():
    found = []
    flanges = {
        "x": made("flange", "left", length=33),
        "y": made("flange", "front", length=27, toward="b", order=1),
        "z": made("flange", "right", length=20, order=2),
    }
    for a, b, gap in (("x", "y", "0.5"), ("x", "z", "0.5"), ("x", "x", "0.5"), ("y", "z", "-1"), ("y", "z", "40")):
        built = square(flanges, corners={"c": {"a": a, "b": b, "style": "closed", "gap": entry(gap)}})
        found.append([[a, b, gap], bent(built), [said(f) for f in built.faults]])
    compared("corners unlike", {"corners": condensed(found)})


def test_what_is_said_for_the_whole_part_from_nothing_to_too_much_is_told_what_it_was_told():
    found = {}
    flanges = {"x": made("flange", "left", length=33), "y": made("flange", "front", length=27, order=1), "h": made("hem", "right", order=2)}
    for name, values in fields(Folding):
        for value in values:
            more = {"crossing": "round"} if name == "crossing_size" else {"rounding": "5"} if name == "corner_shape" else {}
            built = square(flanges, **{**more, name: value})
            found.setdefault(name, []).append([str(value), bent(built), [said(f) for f in built.faults]])
    compared("folds part", {name: condensed(rows) for name, rows in found.items()})


@pytest.mark.parametrize("plane", ["lying", "facing_front", "facing_side"])
@pytest.mark.parametrize("up", ["a", "b"])
def test_a_folded_part_is_the_same_in_every_plane(plane, up):
    spans = {
        "lying": ("x", "y", ("left", "front", "bottom")),
        "facing_front": ("x", "z", ("left", "bottom", "front")),
        "facing_side": ("y", "z", ("front", "bottom", "left")),
    }
    words = {"lying": SIDES, "facing_front": ("left", "right", "bottom", "top"), "facing_side": ("front", "back", "bottom", "top")}
    kinds = [("flange", {"angle": "75 deg"}), ("hem", {}), ("offset", {}), ("flange", {"extent": "inset", "first": "11", "second": "30"})]

    def standing(where, face):
        built = square({})
        data = built.document.dump()
        part = data["parts"]["p"]
        one, other, faces = spans[where]
        part |= {
            "plane": where,
            "up": face,
            "position": {"face": faces[2], "at": entry(0)},
            "spans": {a: {"low": entry(0), "high": entry(150)} for a in (one, other)},
        }
        part["folding"]["flanges"] = {
            f"f{n}": made(k, e, order=n, **more) for n, ((k, more), e) in enumerate(zip(kinds, words[where], strict=True))
        }
        return build(patched(data, []))

    plain, built = standing("lying", "a"), standing(plane, up)
    assert bent(built)[0] == bent(plain)[0] == [] and bent(built)[1] == pytest.approx(bent(plain)[1])
    compared(f"stands {plane} {up}", {"stands": condensed(without_digests(told(built)))})


@pytest.mark.parametrize("hold", ["rivets", "tabs", "none"])
@pytest.mark.parametrize("axis", ["x", "y"])
def test_halves_are_what_they_were(hold, axis):
    flanges = {
        "l": made("flange", "left", length=33),
        "f": made("flange", "front", length=27, order=1, extent="inset", first="12", second="20", angle="80 deg"),
        "h": made("hem", "back", order=2),
        "r": made("offset", "right", order=3),
        "lip": flange("end", 12, on="f", order=4),
    }
    for key in ("l", "f"):
        flanges[key]["features"] = {
            "h": {
                "kind": "slot",
                "name": "s",
                "u": {"origin": "low", "offset": entry(41)},
                "v": {"origin": "root", "offset": entry(13)},
                "length": entry(22),
                "width": entry("4"),
                "order": 0,
            }
        }
    holes = {
        "p": {
            "kind": "hole",
            "name": "p",
            "u": {"origin": "left", "offset": entry(70)},
            "v": {"origin": "front", "offset": entry(78)},
            "diameter": entry("18"),
            "order": 0,
        }
    }
    built = square(flanges, features=holes)
    found = []
    for at in (20.0, 70.5, 131.0, 0.5, 200.0):
        try:
            label, patch = split_part(built, "p", axis, at, hold=hold, overlap=13.0, diameter=3.0, number=3)
        except ZygonError as error:
            found.append([at, error.message, error.entry, error.rule])
            continue
        halves = build(patched(built.document.dump(), patch))
        found.append([at, label, told(halves)])
    compared(f"halves {hold} {axis}", {"halves": condensed(without_digests(found))})
