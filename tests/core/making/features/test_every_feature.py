"""Every kind of feature with every one of its entries at values from nothing to far too much, in every plane, on both faces, on every edge.

Turned over to lie otherwise, a board with what is worked into it is the same board: areas, depths and volumes do not change. Where it lies, and what is
said of a value by the build and by the checks for a laser, a router or a saw, is kept as figures.
"""

import itertools
import typing

import pytest

from tests.core.figures import compared, condensed, said, without_digests
from zygon.check.run import check
from zygon.cut.kerf import by_hand_of, compensated, kerf_of
from zygon.design.document import parse_document
from zygon.design.draft import Draft
from zygon.design.features import Feature
from zygon.errors import ZygonError
from zygon.making.flats.layers import volume_of
from zygon.making.pipeline import build
from zygon.measure.entry import Entry
from zygon.screen.design import built_data, part_resources

KINDS = {r.model_fields["kind"].default: r for r in typing.get_args(typing.get_args(Feature)[0])}
#: The low and high edges along u and v, and the lower and upper face, of each plane.
WORDS = {
    "lying": (("left", "right"), ("front", "back"), ("bottom", "top")),
    "facing_front": (("left", "right"), ("bottom", "top"), ("front", "back")),
    "facing_side": (("front", "back"), ("bottom", "top"), ("left", "right")),
}
#: What a feature is where nothing else is said.
USUAL = {
    "hole": {"diameter": "9"},
    "edge_hole": {"diameter": "4", "depth": "21"},
    "shape": {},
    "pocket": {"width": "41", "height": "23", "depth": "4"},
    "groove": {"width": "9", "depth": "4"},
    "rebate": {"width": "13", "depth": "4"},
    "slot": {"length": "33", "width": "8"},
    "rectangle": {"width": "37", "height": "22"},
    "hand_hold": {},
    "perforation": {"width": "31", "height": "23", "diameter": "4", "pitch": "9"},
    "fan": {"opening": "44", "pitch": "40", "diameter": "4"},
    "corner": {"size": "17"},
    "taper": {"low": "6", "high": "19"},
    "edge_curve": {"rise": "11"},
    "edge_notch": {"width": "31", "depth": "12"},
    "trim": {"at": "35"},
    "edge_profile": {"size": "4"},
    "edge_band": {"thickness": "3"},
    "mark_line": {"length": "31"},
    "mark_circle": {"diameter": "22"},
    "mark_text": {"text": "Ab 7", "height": "8"},
}
LENGTHS = ["0", "-3", "0.4", "2.1", "5.9", "6", "11.8", "12", "43", "99", "190", "400"]


def word(plane, spot):
    """An edge or a face said for a lying board, of a board in another plane."""
    for n, pair in enumerate(WORDS["lying"]):
        if spot in pair:
            return WORDS[plane][n][pair.index(spot)]
    if "-" in spot:
        return "-".join(word(plane, s) for s in spot.split("-"))
    return spot


def board(kind, plane="lying", up="a", cutter="laser", u=("left", "71"), v=("front", "57"), **more):
    """A board with one feature; its words are said as for a lying board."""
    d = Draft("d", "ply12", cutter=cutter)
    d.data["stocks"]["ply12"].pop("measured", None)
    d.board("p", "ply12", plane, 0, (0, 210), (0, 160), up=up)
    record = KINDS[kind]
    fields = {**USUAL[kind], **more}
    whole = {
        "kind": kind,
        "order": 0,
        "u": {"origin": word(plane, u[0]), "offset": d.entry(u[1])},
        "v": {"origin": word(plane, v[0]), "offset": d.entry(v[1])},
    }
    if "edge" in record.model_fields:
        fields.setdefault("edge", "left")
    for key, value in fields.items():
        info = record.model_fields[key]
        is_entry = info.annotation is Entry or Entry in typing.get_args(info.annotation)
        whole[key] = d.entry(value) if is_entry else word(plane, value) if key in ("edge", "face", "corner") else value
    d.data["parts"]["p"]["features"] = {"f": whole}
    return d.document()


def worked(built):
    """What does not hang on how the board lies."""
    flat = built.parts["p"].flat
    figures = [sum(p.area for p in flat.pieces), volume_of(flat) if flat.pieces else 0.0]
    figures += sorted(x for p in flat.pockets for x in (p.depth, p.region.area)) + sorted(b.depth for b in flat.bores)
    return [sorted(f.code for f in built.faults), len(flat.pieces), len(flat.pockets), len(flat.engraved)], figures


def fields(record):
    for name, info in record.model_fields.items():
        options = typing.get_args(info.annotation)
        if name in ("kind", "name", "order", "out", "u", "v", "text", "corner"):
            continue
        if info.annotation is Entry or Entry in options:
            yield name, ["0", "17 deg", "90 deg", "-33 deg"] if name == "angle" else LENGTHS
        else:
            flat = [o for option in options for o in (typing.get_args(option) or (option,)) if isinstance(o, str)]
            if name == "edge":
                flat = ["left", "right", "front", "back", "top"]
            if name == "face":
                flat = ["bottom", "top", "left"]
            yield name, flat


@pytest.mark.parametrize("kind", [k for k in KINDS if k != "trim"])
def test_what_is_worked_into_a_board_is_the_same_in_every_plane_and_turned_over(kind):
    more = [
        {},
        {"mirrored": "u"},
        {"mirrored": "both"},
        *({"face": f} for f in ("bottom", "top")),
        *({"edge": e} for e in ("right", "back") if "edge" in KINDS[kind].model_fields),
    ]
    for own in more:
        words, figures = worked(build(board(kind, **own)))
        for plane, up in itertools.product(WORDS, "ab"):
            found, numbers = worked(build(board(kind, plane, up, **own)))
            assert found == words and numbers == pytest.approx(figures, abs=1e-6), (own, plane, up)


@pytest.mark.parametrize("kind", KINDS)
def test_every_entry_of_a_feature_is_worked_and_told_as_it_was(kind):
    found = {}
    for name, values in fields(KINDS[kind]):
        for n, value in enumerate(values):
            plane = list(WORDS)[n % 3]
            built = build(board(kind, plane, "ab"[n % 2], ("laser", "router", "saw")[n % 3], **{name: value}))
            problems = [said(p.fault) for p in check(built, assembled=False)]
            found.setdefault(name, []).append([value, plane, worked(built), problems])
    compared(f"features {kind}", {name: condensed(rows) for name, rows in found.items()})


@pytest.mark.parametrize("kind", KINDS)
def test_where_a_feature_lies_is_what_it_was(kind):
    found = []
    ways = itertools.cycle([("left", "31"), ("right", "23"), ("centre", "-17"), ("centre", "40"), ("room", "88")])
    others = itertools.cycle(
        [("front", "27"), ("back", "33"), ("room", "61"), ("centre", "13"), ("centre", "-29"), ("back", "3"), ("front", "-2")]
    )
    for n, (plane, up, mirrored) in enumerate(itertools.product(WORDS, "ab", ("none", "u", "v", "both"))):
        own = {"mirrored": mirrored}
        if "edge" in KINDS[kind].model_fields:
            own["edge"] = ("left", "right", "front", "back")[n % 4]
        if kind == "corner":
            own |= {
                "corner": ("left-front", "all", "right-back", "left-back")[n % 4],
                "style": ("round", "cut", "hollow", "step")[n % 4],
                "size_2": "9",
            }
        if kind == "groove":
            own |= {"along": "uv"[n % 2], "length": (None, "60")[n % 2] or "90"}
        if kind in ("hole", "pocket", "groove", "rebate"):
            own["face"] = ("top", "bottom")[n % 2]
            if kind == "hole":
                own["depth"] = "5"
        document = board(kind, plane, up, ("laser", "router", "saw")[n % 3], next(ways), next(others), **own)
        built = build(document)
        cutter, part = document.cutters[document.cutter], built.parts["p"]
        try:
            cut = compensated(part.flat, kerf_of(document, "ply12"), by_hand_of(cutter, "ply12"))
            lines = [[list(c.points), list(c.bulges)] for c in (*cut.marks, *cut.inside, *cut.outside)]
        except ZygonError as error:
            lines = [error.message]
        found.append(
            [built_data(built, []), list(part_resources(built).values()), lines, [said(p.fault) for p in check(built, assembled=False)]]
        )
    compared(f"places {kind}", {"places": condensed(without_digests(found))})


@pytest.mark.parametrize("cutter", ["laser", "router", "saw"])
def test_two_features_beside_on_and_in_one_another_are_told_as_they_were(cutter):
    found = []
    pairs = [
        ("hole", "slot"),
        ("pocket", "hole"),
        ("groove", "pocket"),
        ("rebate", "edge_hole"),
        ("edge_notch", "hole"),
        ("mark_text", "rectangle"),
        ("hand_hold", "perforation"),
        ("groove", "edge_hole"),
        ("corner", "hole"),
        ("taper", "mark_line"),
    ]
    for n, (one, other) in enumerate(pairs):
        for apart in ("0", "11", "26", "41.5"):
            data = board(one, list(WORDS)[n % 3], "ab"[n % 2], cutter).dump()
            second = board(other, list(WORDS)[n % 3], "ab"[n % 2], cutter, ("left", f"71 + {apart}"), ("front", "57")).dump()["parts"]["p"][
                "features"
            ]["f"]
            data["parts"]["p"]["features"]["g"] = {**second, "order": 1}
            built = build(parse_document(data))
            found.append([[one, other, apart], worked(built), [said(p.fault) for p in check(built, assembled=False)]])
    compared(f"two features {cutter}", {"two": condensed(found)})
