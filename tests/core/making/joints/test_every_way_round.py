"""Every kind of joint in every way that two boards can lie in the room, and with every one of its entries at values from nothing to far too much.

Lying otherwise, boards and joint are the same ones: areas, volumes and figures of the joint do not change. Where all of it lies, and what is said of a
value, is kept as figures.
"""

import itertools
import random
import typing

import pytest

from tests.core.figures import compared, condensed, said, without_digests
from tests.core.making.joints.pairs import MEETING, pair, stocked
from zygon.design.draft import Draft
from zygon.design.joints import JOINT_RECORDS
from zygon.making.asked.questions import offers_between
from zygon.making.flats.layers import volume_of
from zygon.making.pipeline import build
from zygon.measure.entry import Entry
from zygon.screen.design import built_data, part_resources

AXES = "xyz"
PLANE = {"x": "facing_side", "y": "facing_front", "z": "lying"}
SPANS = {"x": "yz", "y": "xz", "z": "xy"}
#: All ways to lie along the axes: which axis each one becomes, and which of them run the other way.
WAYS = [(order, flips) for order in itertools.permutations(range(3)) for flips in itertools.product((False, True), repeat=3)]
#: Entries of a kind's own, off what is usual.
OWN = {
    "finger": {"count": "5", "starts": "b"},
    "tab_slot": {"number": "2", "inset": "19", "length": "15", "stand_over": "1.3"},
    "dovetail": {"number": "3", "slope": "1:6"},
    "mortise_tenon": {"thickness": "5.5", "depth": "7", "width": "23", "number": "2", "inset": "14"},
    "groove": {"depth": "5", "stop": "17", "end_play": "0.8", "ends": "stopped"},
    "rebate": {"depth": "6", "stop": "11"},
    "cross_lap": {"share": "0.4", "side": "high"},
    "half_lap": {"share": "0.4"},
    "dovetail_lap": {"share": "0.4", "shoulder": "9"},
    "edge_key": {"number": "2", "width": "21", "depth": "9"},
    "dowels": {"diameter": "5", "number": "3", "inset": "21", "depth_edge": "21", "depth_face": "8"},
    "screws": {"size": "4", "number": "3", "length": "40", "inset": "23"},
    "butt": {"outline": True},
    "face_glue": {"outline": True},
}
#: More ways to meet of kinds that know several.
ALSO = {
    "dowels edge": ("dowels", "edge"),
    "groove corner": ("groove", "corner"),
    "dowels corner": ("dowels", "corner"),
    "screws corner": ("screws", "corner"),
    "butt edge": ("butt", "edge"),
    "finger tee": ("finger", "tee"),
    "mitre": ("mitre", "corner"),
    "tab_slot corner": ("tab_slot", "corner"),
}
KINDS = {**{k: (k, MEETING[k]) for k in MEETING}, **ALSO}


def boxes(kind, meeting, ta=11.3, tb=14.1, run=127.0):
    """Low and high of both boards as a pair stands, and their normals."""
    parts = build(pair("butt", ta, tb, run, meeting=meeting).document()).parts
    return {k: (p.span_box.low, p.span_box.high, p.frame.normal) for k, p in parts.items()}


def lying(kind, meeting, way, ups="aa", shift=0.0, **more):
    """The pair turned over to lie another way; ``shift`` moves a along the run, so that the boards are not flush."""
    order, flips = way
    found = boxes(kind, meeting)
    d = Draft("pair", "ply12")
    for n, (key, (low, high, normal)) in enumerate(sorted(found.items(), reverse=True)):
        thickness = high[AXES.index(normal)] - low[AXES.index(normal)]
        stock = stocked(d, f"s{n}", thickness)
        spans = {}
        for k in range(3):
            lo, hi = low[k], high[k]
            if key == "a" and shift and k == 2:
                lo, hi = lo + shift, hi + shift
            spans[AXES[order[k]]] = (300 - hi, 300 - lo) if flips[k] else (lo, hi)
        plane = AXES[order[AXES.index(normal)]]
        one, other = SPANS[plane]
        d.board(
            key,
            stock,
            PLANE[plane],
            f"{spans[plane][0]:.4f}",
            tuple(f"{x:.4f}" for x in spans[one]),
            tuple(f"{x:.4f}" for x in spans[other]),
            up=ups[n],
        )
    d.joint(kind, "a", "b", **more)
    return d.document()


def told(built):
    joint = built.joints["a-b"]
    return [
        built_data(built, []),
        list(part_resources(built).values()),
        [joint.details, joint.ends, joint.holds, joint.fastened],
        [said(f) for f in built.faults],
    ]


def sameness(built):
    """What does not hang on how a pair lies: words, and figures to compare nearly."""
    joint = built.joints["a-b"]
    words, figures = [sorted(f.code for f in built.faults)], [f.high - f.low for f in joint.fingers]
    for key, part in sorted(built.parts.items()):
        words += [key, len(part.flat.pieces), len(part.flat.pockets)]
        figures += [volume_of(part.flat), sum(x.area for x in part.flat.pieces), *sorted(x.depth for x in part.flat.pockets)]
    numbers = {k: v for k, v in sorted(joint.details.items()) if isinstance(v, int | float)}
    return [*words, *numbers], [*sorted(figures), *numbers.values()]


@pytest.mark.parametrize("name", KINDS)
def test_a_joint_is_the_same_however_its_boards_lie(name):
    kind, meeting = KINDS[name]
    more = {} if kind in ("butt", "face_glue", "mitre") else {"fit": "0.17"}
    words, figures = sameness(build(lying(kind, meeting, WAYS[0], **more)))
    for n, way in enumerate(WAYS):
        own, numbers = sameness(build(lying(kind, meeting, way, ups=("aa", "ab", "ba", "bb")[n % 4], **more)))
        assert own == words and numbers == pytest.approx(figures, abs=1e-4), way


@pytest.mark.parametrize("name", KINDS)
def test_where_a_joint_lies_is_what_it_was(name):
    kind, meeting = KINDS[name]
    lot = random.Random(name)
    found = []
    for n, way in enumerate(lot.sample(WAYS, 12)):
        fit = {} if kind in ("butt", "face_glue", "mitre") else {"fit": ("0.17", "-0.06", "slip")[n % 3]}
        document = lying(
            kind, meeting, way, ("aa", "ab", "ba", "bb")[n % 4], (0.0, 7.0, -9.0)[n % 3], **fit, **(OWN.get(kind, {}) if n % 2 else {})
        )
        built = build(document)
        found.append([told(built), offers_between(document, "a", "b"), offers_between(document, "b", "a")])
    compared(f"ways {name}", {"ways": condensed(without_digests(found))})


VALUES = ["0", "-2", "0.4", "2", "3.9", "11", "12.1", "29", "61", "150"]


def fields(record):
    """Names of a record's entries, and of its choices with what can be chosen."""
    for field, info in record.model_fields.items():
        options = typing.get_args(info.annotation)
        if info.annotation is Entry or Entry in options:
            yield field, VALUES
        elif options and all(isinstance(o, str) for o in options):
            if field != "kind":
                yield field, options
        elif info.annotation is bool:
            yield field, [False, True]
        else:
            inner = [o for o in options if typing.get_args(o)]
            if inner and field not in ("tabs",):
                yield field, typing.get_args(inner[0])


@pytest.mark.parametrize("name", KINDS)
def test_every_entry_of_a_joint_from_nothing_to_too_much_is_told_what_it_was_told(name):
    kind, meeting = KINDS[name]
    record = JOINT_RECORDS[kind]
    found = {}
    for field, values in fields(record):
        if field in ("a", "b", "order", "out", "held"):
            continue
        for value in values:
            # half of them beside other entries that are not usual either
            more = {**(OWN.get(kind, {}) if VALUES.index(value) % 2 else {}), field: value} if value in VALUES else {field: value}
            built = build(pair(kind, 11.3, 14.1, 127.0, meeting=meeting, **more).document())
            found.setdefault(field, []).append(
                [str(value), sameness(built), [[f.low, f.high] for f in built.joints["a-b"].fingers], [said(f) for f in built.faults]]
            )
    compared(f"entries {name}", {field: condensed(rows) for field, rows in found.items()})


def test_boards_that_cannot_be_joined_are_told_why():
    found = []
    for kind, meeting in itertools.product((*MEETING, "mitre", "bevel"), ("tee", "corner", "cross", "lap", "lap_tee", "edge", "faces")):
        built = build(pair(kind, 11.3, 14.1, 127.0, meeting=meeting).document())
        found.append([[kind, meeting], [said(f) for f in built.faults], [len(j.fingers) for j in built.joints.values()]])
    for gap in (0.04, 0.06, 30.0):  # beside each other
        d = Draft("two", "ply12")
        s = stocked(d, "s", 12.0)
        d.board("b", s, "lying", 0, (0, 100), (0, 80)).board("a", s, "facing_side", 20, (0, 80), (f"{12 + gap:g}", 150))
        d.joint("tab_slot", "a", "b")
        built = build(d.document())
        found.append([gap, [said(f) for f in built.faults], offers_between(d.document(), "a", "b")])
    compared("refused joints", {"refused": condensed(found)})
