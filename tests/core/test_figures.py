"""The figures of many odd designs are what they were: a net under every rule, for what no other test looks at.

Where a change is meant to change figures, ``ZYGON_WRITE_FIGURES=1 pytest tests/core/test_figures.py`` writes them anew; the difference is read before it is kept.
"""

import random

import pytest

from tests.core.answers import answers_of
from tests.core.figures import compared, condensed, figures_of, without_digests
from tests.core.making.joints.pairs import MEETING, pair
from tests.core.test_robustness import DOCUMENTS, laid_out
from tests.explore import EXPLORE
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES
from zygon.design.operations import entries
from zygon.design.patch import apply_patch
from zygon.design.starters import starter
from zygon.design.upgrade import load
from zygon.edits.split import split_part
from zygon.errors import ZygonError
from zygon.making.pipeline import build

SIZES = ["0", "-5 mm", "3.3 mm", "30 mm", "80 mm", "15 mm", "200 mm", "1 mm", "45 deg", "120 deg", "7.5", "400 mm", "width / 3"]


def joined(kind, hand):
    """Two boards of unlike thickness, length and fit; with hand, a mirror image beside them and all of it turned."""
    meeting = MEETING[kind]
    d = pair(kind, 9.7, 14.3, 137.0, cutter="router" if hand else "", **({} if kind in ("butt", "face_glue") else {"fit": "0.13"}))
    if hand:
        d.mirror("image", "x", "-20 mm", "part:a", "part:b")
    d.feature("a", "hole", "hole", ("centre", "11"), ("centre", "-7"), diameter="6.4")
    return d.document().dump() | {"name": f"{kind} {meeting}"}


def worked(up):
    """Everything that can be worked into a board, on both faces, off the middle."""
    d = Draft("worked", "ply12", "ply6", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 420), (0, 310), up=up)
    d.feature("p", "blind", "hole", ("left", 31), ("front", 47), diameter="9", depth="4.2", face="top", mirrored="u")
    d.feature("p", "below", "hole", ("left", 131), ("back", 41), diameter="11", depth="3.1", face="bottom")
    d.feature(
        "p", "pocket", "pocket", ("left", 90), ("front", 120), width="60", height="33", depth="5", radius="7", angle="20 deg", face="top"
    )
    d.feature("p", "groove", "groove", ("left", 0), ("front", 210), along="u", width="9.3", depth="4", face="bottom")
    d.feature(
        "p", "rebate", "rebate", ("centre", 0), ("centre", 0), edge="back", width="13", depth="6", stop_low="20", stop_high="35", face="top"
    )
    d.feature("p", "slot", "slot", ("right", 70), ("front", 60), length="44", width="8", angle="35 deg")
    d.feature("p", "cut", "rectangle", ("right", 120), ("front", 150), width="50", height="31", radius="4", angle="-12 deg")
    d.feature("p", "sieve", "perforation", ("right", 60), ("back", 70), width="70", height="48", diameter="5", pitch="9")
    d.feature("p", "corner", "corner", ("centre", 0), ("centre", 0), corner="left-front", style="cut", size="22", size_2="13")
    d.feature("p", "round", "corner", ("centre", 0), ("centre", 0), corner="right-back", style="round", size="17")
    d.feature(
        "p",
        "notch",
        "edge_notch",
        ("centre", 0),
        ("centre", 0),
        edge="right",
        width="30",
        depth="12",
        shape="square",
        radius="3",
    )
    d.feature("p", "line", "mark_line", ("left", 200), ("front", 30), length="60", angle="15 deg")
    d.feature("p", "text", "mark_text", ("left", 200), ("front", 260), text="No 7", height="9")
    d.board("q", "ply6", "facing_side", 200, (30, 260), (20, 160))
    d.feature("q", "edge", "edge_hole", ("centre", 0), ("centre", 0), edge="front", diameter="4", depth="21", height="2.5")
    return d


def folded(edge, toward, corner):
    """A plate with flanges of unlike lengths and angles round a corner, a hem, an offset and a lip, a hole in a flange, and a late line."""
    beside = {"left": "front", "front": "right", "right": "back", "back": "left"}[edge]
    over = {"left": "right", "right": "left", "front": "back", "back": "front"}[edge]
    d = Draft("folded", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 230), (0, 170), up="a")
    d.fold("p")
    d.flange("p", "one", edge, "41", angle="90 deg", toward=toward)
    d.flange("p", "two", beside, "33", angle="77 deg", toward=toward)
    d.flange("p", "lip", "end", "15", angle="105 deg", toward=toward, on="one")
    d.flange("p", "hem", over, "9", kind="hem", gap="0.4", style="open", toward="b" if toward == "a" else "a")
    d.flange_feature("p", "one", "hole", "hole", ("low", 37), ("root", 17), diameter="6.5")
    d.feature("p", "hole", "hole", ("left", 60), ("front", 90), diameter="12", mirrored="u")
    if corner:
        d.data["parts"]["p"]["folding"]["corners"] = {"c": {"a": "one", "b": "two", "style": corner, "gap": d.entry("0.7 mm")}}
    return d


def swept(mirrored, plane):
    """One feature of each kind off the middle, mirrored as said, on a board that stands in each plane in turn; and a copy of it turned."""
    u, v = {"lying": ("left", "front"), "facing_front": ("left", "bottom"), "facing_side": ("front", "bottom")}[plane]
    faces = {"lying": ("top", "bottom"), "facing_front": ("front", "back"), "facing_side": ("left", "right")}[plane]
    d = Draft("swept", "ply12", cutter="router")
    d.board("p", "ply12", plane, 17, (40, 540), (30, 390))
    spots = iter(
        [(60, 50), (150, 70), (70, 160), (180, 150), (60, 260), (150, 240), (210, 60), (205, 220), (120, 120), (220, 300), (40, 110)]
    )
    kinds = [
        ("hole", {"diameter": "7"}),
        ("hole", {"diameter": "9", "depth": "4", "face": faces[0]}),
        ("hole", {"diameter": "8", "depth": "5", "face": faces[1]}),
        ("pocket", {"width": "22", "height": "13", "depth": "3", "radius": "4", "angle": "17 deg", "face": faces[1]}),
        ("slot", {"length": "31", "width": "7", "angle": "25 deg"}),
        ("rectangle", {"width": "21", "height": "15", "radius": "2", "angle": "-8 deg"}),
        ("hand_hold", {"length": "50", "width": "24"}),
        ("fan", {"opening": "36", "pitch": "32", "diameter": "4"}),
        ("mark_circle", {"diameter": "12"}),
        ("mark_text", {"text": "Rb 4", "height": "7"}),
        ("mark_line", {"length": "24", "angle": "40 deg"}),
    ]
    for i, ((kind, more), (x, y)) in enumerate(zip(kinds, spots, strict=True)):
        d.feature("p", f"{kind}{i}", kind, (u, x), (v, y), mirrored=mirrored, **more)
    d.repeat("row", "row", "part:p", axis="z", number="2", spacing="700 mm")
    d.turn("p", "z", "23 deg", x="0", y="0")
    return d


def edged(plane, n):
    """What is cut into edges, another one for each number, with unlike ends."""
    edges = {
        "lying": ("left", "right", "front", "back"),
        "facing_front": ("left", "right", "bottom", "top"),
        "facing_side": ("front", "back", "bottom", "top"),
    }[plane]
    one, two, three, four = (edges[(n + i) % 4] for i in range(4))
    face = {"lying": ("top", "bottom"), "facing_front": ("front", "back"), "facing_side": ("left", "right")}[plane][n % 2]
    here, off = ("centre", 0), ("centre", 23)
    d = Draft("edged", "ply12", cutter="router")
    d.board("p", "ply12", plane, 5, (0, 420), (0, 310))
    d.feature("p", "taper", "taper", here, here, edge=one, low="6", high="19")
    d.feature("p", "curve", "edge_curve", here, here, edge=two, rise="11", bulge=("in", "out")[n % 2])
    d.feature("p", "notch", "edge_notch", off, off, edge=three, shape=("square", "round", "vee")[n % 3], width="34", depth="15", radius="3")
    d.feature("p", "rebate", "rebate", here, here, edge=four, width="17", depth="5", stop_low="21", stop_high="47", face=face)
    d.feature("p", "bore", "edge_hole", off, off, edge=three, diameter="5", depth="19", height="4")
    d.feature("p", "groove", "groove", ("centre", 31), ("centre", -19), along="uv"[n % 2], width="8.2", depth="4", length="200", face=face)
    d.feature(
        "p",
        "corner",
        "corner",
        here,
        here,
        corner=f"{one}-{two}" if n % 2 else f"{one}-{four}",
        style=("round", "cut", "hollow", "step")[n],
        size="26",
        size_2="14",
    )
    axis = {"lying": "z", "facing_front": "y", "facing_side": "x"}[plane]
    at = {a: t for a, t in (("x", 190), ("y", 170), ("z", 160)) if a != axis}
    d.bore("rod", axis, at, "7", p=(("cut", "mark", "cut", "leave")[n], "0.3"))
    return d


#: Entries of the joints' own, none at its usual value.
OWN = {
    "finger": {"count": "5", "starts": "b", "relief": "dog_bone"},
    "tab_slot": {"number": "3", "inset": "22", "length": "19", "stand_over": "1.5"},
    "dovetail": {"number": "3", "slope": "1:6"},
    "mortise_tenon": {"thickness": "5", "depth": "7", "width": "23", "number": "2", "inset": "14"},
    "groove": {"depth": "5", "stop": "17", "end_play": "0.8"},
    "rebate": {"depth": "6", "stop": "11"},
    "cross_lap": {"share": "0.4", "side": "high"},
    "half_lap": {"share": "0.4"},
    "dovetail_lap": {"share": "0.4", "shoulder": "9"},
    "edge_key": {"number": "2", "width": "21", "depth": "9"},
    "dowels": {"diameter": "5", "number": "3", "inset": "27", "depth_edge": "21", "depth_face": "8"},
    "screws": {"size": "5", "number": "3", "length": "45", "inset": "31"},
    "butt": {"outline": True},
    "face_glue": {"outline": True},
    "notch": {"side": "low"},
}


def own(kind, turned):
    """A joint with entries of its own; none at its usual value. With turned, the pair stands askew in a group."""
    d = pair(kind, 11.3, 16.1, 149.0, cutter="router", **OWN[kind])
    if turned:
        d.group("g", x="40 mm", y="7 mm", z="-12 mm")
        for part in ("a", "b"):
            d.data["parts"][part]["group"] = "g"
        d.turn("g", "x", "31 deg", "groups", y="0", z="0").turn("g", "z", "-17 deg", "groups", x="10 mm", y="0")
    return d


FLANGES = {
    "edge": [
        ("one", "left", "37", {"where": "edge", "measured": "inner", "angle": "63 deg"}),
        ("two", "back", "29", {"where": "inside", "measured": "tangent", "angle": "118 deg", "toward": "b"}),
    ],
    "parts": [
        ("one", "front", "31", {"extent": "inset", "first": "21", "second": "43", "relief": {"style": "round"}}),
        ("two", "right", "27", {"extent": "centred", "first": "60", "second": "9", "relief": {"style": "tear"}, "rounding": "5"}),
        ("three", "left", "24", {"extent": "between", "first": "33", "second": "121", "toward": "b"}),
    ],
    "hems": [
        ("one", "left", "11", {"kind": "hem", "style": "closed", "gap": "0.2"}),
        ("two", "front", "13", {"kind": "hem", "style": "teardrop", "gap": "0.5", "toward": "b"}),
        ("three", "right", "12", {"kind": "hem", "style": "open", "gap": "1.1"}),
    ],
    "steps": [
        ("one", "right", "41", {"kind": "offset", "height": "14", "angle": "70 deg", "inset": "12", "measured": "inner"}),
        ("two", "back", "33", {"kind": "offset", "height": "17", "toward": "b"}),
    ],
    "mirrored": [
        ("one", "left", "33", {"mirrored": "u", "angle": "81 deg", "rounding": "6"}),
        ("two", "front", "22", {"mirrored": "v", "toward": "b"}),
    ],
    "stacked": [
        ("one", "left", "52", {"radius": "2.2"}),
        ("lip", "end", "17", {"on": "one", "angle": "130 deg"}),
        ("side", "low", "14", {"on": "one", "angle": "90 deg"}),
        ("back", "high", "19", {"on": "one", "toward": "b"}),
    ],
}


def bent(name, stock, split=""):
    """A plate with flanges of one sort, holes in plate and flange; split where so said."""
    d = Draft(name, stock)
    d.board("p", stock, "lying", 0, (0, 240), (0, 190), up="a")
    d.fold("p", gap="0.5 mm")
    for key, edge, length, more in FLANGES[name]:
        d.flange("p", key, edge, length, **more)
    d.profile("p", "shaped", "front" if name == "edge" else "back", ("21", "60 deg"), ("18", "-35 deg"), ("13", "20 deg")) if name in (
        "edge",
        "hems",
    ) and not split else None
    d.feature("p", "hole", "hole", ("left", 77), ("front", 61), diameter="9", mirrored="v")
    d.feature("p", "cut", "rectangle", ("right", 60), ("back", 55), width="30", height="17", angle="12 deg")
    if name not in ("hems", "steps"):
        d.flange_feature("p", "one", "slot", "slot", ("low", 41), ("root", 15), length="17", width="5")
    if split:
        document = d.document()
        try:
            _, patch = split_part(build(document), "p", "x", 118.0, hold=split)
        except ZygonError:
            return d.data
        return apply_patch(document.dump(), patch)[0].dump()
    return d.document().dump()


RODS = [d for d in DOCUMENTS if any(p["kind"] == "rod" for p in d["parts"].values())]
FLAT = [d for d in DOCUMENTS if d not in RODS]


def perturbed(n):
    """A design with a few of its entries spoilt, drawn by number."""
    chance = random.Random(n)
    data = FLAT[n % len(FLAT)] if n < 66 else RODS[n % len(RODS)]
    places = sorted(p for p, _ in entries(data))
    for _ in range(50):
        patch = [
            {"op": "replace", "path": f"{chance.choice(places)}/text", "value": chance.choice(SIZES)} for _ in range(chance.randint(1, 3))
        ]
        try:
            return data, apply_patch(data, patch)[0]
        except ZygonError:
            continue
    raise AssertionError("every change is refused")


WHOLE = {
    **{f"example {k}": lambda k=k: EXAMPLES[k]().dump() for k in EXAMPLES},
    **{f"joint {k} {h}": lambda k=k, h=h: joined(k, h) for k in MEETING for h in (0, 1)},
    **{f"starter {k}": lambda k=k: starter(k, "Odd").dump() for k in ("closed-box", "tray", "shelf-case", "folded-box")},
    **{
        f"swept {m} {p}": lambda m=m, p=p: swept(m, p).document().dump()
        for m, p in zip(("u", "v", "both", "none"), ("lying", "facing_front", "facing_side", "facing_side"), strict=True)
    },
    **{
        f"edged {p} {n}": lambda p=p, n=n: edged(p, n).document().dump()
        for n in range(4)
        for p in (("lying", "facing_front", "facing_side")[n % 3],)
    },
    **{f"own {k} {t}": lambda k=k, t=t: own(k, t).document().dump() for t, k in enumerate(MEETING)},
    **{f"bent {k}": lambda k=k: bent(k, "galv20") for k in FLANGES},
    **{
        f"split {k} {h}": lambda k=k, h=h: bent(k, "galv20", h)
        for k, h in zip(FLANGES, ("rivets", "tabs", "none", "tabs", "rivets", "none"), strict=True)
    },
    "laid out": laid_out,
    **{f"worked {up}": lambda up=up: worked(up).document().dump() for up in "ab"},
    **{
        f"folded {e} {t} {c}": lambda e=e, t=t, c=c: folded(e, t, c).document().dump()
        for e, t, c in (
            ("left", "a", ""),
            ("front", "b", "closed"),
            ("right", "a", "a_covers"),
            ("back", "b", "b_covers"),
            ("left", "b", "open"),
        )
    },
}


#: What other tests keep figures of as well: halves, and a field of a thousand holes.
ELSEWHERE = ("split ", "example vent-plate")


@pytest.mark.parametrize("name", [n for n in WHOLE if EXPLORE or not n.startswith(ELSEWHERE)])
def test_a_design_gives_out_what_it_gave_out(name):
    compared(name, figures_of(load(WHOLE[name]())))


#: Of what questions are asked: one of each sort.
ASKED = [
    "laid out",
    "example brood-box",
    "example electronics-box",
    "example feeder-tray",
    "example splayed-stand",
    "example hive",
    "joint finger 1",
    "joint dowels 1",
    "worked a",
    "swept v facing_front",
    "edged lying 0",
    "bent mirrored",
    "folded left a ",
]


@pytest.mark.parametrize("name", ASKED)
def test_a_design_answers_what_it_answered(name):
    compared(
        f"asked {name.strip()}", {question: condensed(without_digests(told)) for question, told in answers_of(load(WHOLE[name]())).items()}
    )


@pytest.mark.parametrize("n", range(70))
def test_a_spoilt_design_is_told_what_it_was_told(n):
    data, document = perturbed(n)
    compared(f"spoilt {n}", figures_of(document, build(load(data)).good, files=False))
