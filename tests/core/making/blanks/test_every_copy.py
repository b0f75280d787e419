"""Mirrors, rows, grids and rings of boards, groups and of one another, with everything on a board that has a hand, and at every value of their entries.

A copy is the same board elsewhere: it has the area, the volume and the depths of what it is a copy of. Where it lies, what it is called, what is said of it,
and what becomes of it when it is made independent is kept as figures.
"""

import itertools
from functools import partial

import pytest

from tests.core.figures import compared, condensed, without_digests
from zygon.check.run import check
from zygon.design.document import parse_document
from zygon.design.draft import Draft
from zygon.design.layout_operations import remove_copy, remove_group
from zygon.design.patch import patched
from zygon.edits.independent import make_independent
from zygon.errors import ZygonError
from zygon.exchange.drilling import write_drilling
from zygon.making.assembly.plan import assembly
from zygon.making.assembly.sweep import WAYS, blockers, solid_parts
from zygon.making.flats.distinct import distinct
from zygon.making.flats.layers import volume_of
from zygon.making.pipeline import build
from zygon.screen.design import built_data

PLANES = {
    "lying": (("left", "right"), ("front", "back"), ("bottom", "top")),
    "facing_front": (("left", "right"), ("bottom", "top"), ("front", "back")),
    "facing_side": (("front", "back"), ("bottom", "top"), ("left", "right")),
}


def handed(plane="lying", up="a", group=False):
    """A board with all that has a hand, a plain one, a joint between two others, and a rod through them."""
    d = Draft("d", "ply12", cutter="router")
    if group:
        d.group("g", x="30 mm", y="-11 mm", z="7 mm")
    (left, right), (front, back), (bottom, top) = PLANES[plane]
    d.board("p", "ply12", plane, 23, (0, 210), (0, 160), up=up)
    d.feature("p", "h", "hole", (left, 31), (front, 47), diameter="9")
    d.feature("p", "b", "hole", (right, 41), (front, 27), diameter="7", depth="4", face=top)
    d.feature("p", "s", "slot", (left, 91), (back, 37), length="33", width="8", angle="25 deg")
    d.feature("p", "e", "edge_hole", ("centre", 0), (front, 61), edge=left, diameter="4", depth="20", height="3.5")
    d.feature("p", "r", "rebate", ("centre", 0), ("centre", 0), edge=back, width="14", depth="4", stop_low="20", face=bottom)
    d.feature("p", "c", "corner", ("centre", 0), ("centre", 0), corner=f"{right}-{front}", style="cut", size="22", size_2="9")
    d.feature("p", "t", "mark_text", ("centre", 11), ("centre", -9), text="No 7", height="9")
    if group:
        d.group("loose")
        d.inside = ""
    d.board("a", "ply12", "facing_side", 300, (0, 150), (0, 90)).board("q", "ply12", "facing_front", 150, (260, 400), (0, 90))
    d.joint("finger", "a", "q", starts="b", count="5")
    d.bore("rod", "x", {"y": 70, "z": 45}, "6", a=("cut", "0.2"))
    return d


COPIES = {
    "mirror": [{"axis": a, "at": at} for a in "xyz" for at in ("-20", "105", "300")],
    "row": [
        {"axis": a, "number": n, "spacing": s}
        for a, n, s in (
            ("x", "3", "250"),
            ("y", "2", "-190"),
            ("z", "4", "33"),
            ("z", "1", "33"),
            ("x", "0", "9"),
            ("y", "2.5", "9"),
            ("z", "500", "3"),
        )
    ]
    + [{"axis": "z", "length": length, "largest": most} for length, most in (("200", "60"), ("-200", "60"), ("200", "0"), ("10", "60"))],
    "grid": [
        {"axis": "x", "number": "2", "spacing": "230", "axis_2": b, "number_2": n, "spacing_2": "190"}
        for b, n in (("y", "3"), ("z", "2"), ("x", "2"))
    ],
    "ring": [
        {"axis": a, "at": {x: "-40" for x in "xyz" if x != a}, "number": n, "angle": w, "upright": u}
        for a, n, w, u in (
            ("z", "3", "360 deg", False),
            ("z", "4", "120 deg", True),
            ("x", "2", "90 deg", False),
            ("y", "5", "-200 deg", True),
            ("z", "0", "360 deg", False),
        )
    ],
}


def add(d, kind, key, of, fields):
    plain = ("axis", "axis_2", "upright", "at", "spared")
    record = {"kind": kind, "name": key, "of": list(of), "order": len(d.data["copies"])}
    for name, value in fields.items():
        record[name] = d.entry(value) if name not in plain or (kind == "mirror" and name == "at") else value
    if kind == "ring":
        record["at"] = {a: d.entry(t) for a, t in fields["at"].items()}
    d.data["copies"][key] = record


def said(problem):
    f = problem.fault
    return [f.code, f.severity, f.entry, f.part, f.other, f.owner, f.value, f.rule, f.message, f.at, [[m.label, m.patch] for m in f.mends]]


def told(document, *, problems=True):
    built = build(document)
    solids = [[key, p.matrix, p.path, p.made_by, volume_of(p.flat)] for key, p in built.flats.items() if p.flat.pieces]
    alike = [[one.part.key, one.quantity] for one in distinct(built)]
    return [
        built_data(built, []),
        solids,
        alike,
        write_drilling(built).splitlines(),
        [said(p) for p in check(built, assembled=False)] if problems else [],
    ]


def same_boards(built):
    """Each instance has what its original has."""
    for part in built.flats.values():
        if not part.made_by or part.of not in built.flats:
            continue
        own = built.flats[part.of].flat
        assert volume_of(part.flat) == pytest.approx(volume_of(own))
        assert sum(p.area for p in part.flat.pieces) == pytest.approx(sum(p.area for p in own.pieces))
        assert sorted(x.depth for x in part.flat.pockets) == pytest.approx(sorted(x.depth for x in own.pockets))


@pytest.mark.parametrize("plane", PLANES)
@pytest.mark.parametrize("kind", COPIES)
def test_copies_of_a_board_are_the_same_board_where_they_were(kind, plane):
    found = []
    for n, fields in enumerate(COPIES[kind]):
        d = handed(plane, "ab"[n % 2])
        add(d, kind, "c", ["part:p"] if n % 3 else ["part:p", "part:a", "part:q"], fields)
        document = d.document()
        same_boards(build(document))
        found.append(told(document))
    compared(f"copies {kind} {plane}", {"copies": condensed(without_digests(found))})


@pytest.mark.parametrize("kind", COPIES)
def test_copies_of_groups_and_of_copies_are_what_they_were(kind):
    found = []
    for n, (fields, second) in enumerate(itertools.product(COPIES[kind][:3], ("mirror", "row", "ring"))):
        d = handed("facing_front", "ab"[n % 2], group=True)
        if n % 2:
            d.turn("g", "zxy"[n % 3], "37 deg", "groups", **{a: "10 mm" for a in "xyz" if a != "zxy"[n % 3]})
        add(d, kind, "c", ["group:g"], fields)
        add(d, second, "d", ["copy:c"], COPIES[second][n % 2])
        same_boards(build(d.document()))
        d.data["copies"]["d"]["spared"] = {"feature:p:h": [k for k in build(d.document()).parts if k.startswith("p@")][:2]}
        document = d.document()
        found.append(told(document, problems=n % 3 == 0))
    compared(f"copied copies {kind}", {"copies": condensed(without_digests(found))})


@pytest.mark.parametrize("kind", COPIES)
def test_what_becomes_of_copies_that_are_made_independent_or_removed(kind):
    found = []
    for n, fields in enumerate(COPIES[kind][:3]):
        d = handed(list(PLANES)[n % 3], group=n == 2)
        add(d, kind, "c", ["group:g"] if n == 2 else ["part:p", "part:a", "part:q"], fields)
        add(d, "row", "e", ["copy:c"] if n == 1 else ["part:a"], {"axis": "y", "number": "2", "spacing": "300"})
        document = d.document()
        built = build(document)
        for work in (partial(make_independent, built, "c"), partial(remove_copy, document, "c"), partial(remove_group, document, "g")):
            try:
                label, patch = work()
            except ZygonError as error:
                found.append([error.message, error.entry, error.rule])
                continue
            after = parse_document(patched(document.dump(), patch).dump())
            found.append([label, told(after, problems=False)])
    compared(f"freed {kind}", {"freed": condensed(without_digests(found))})


def test_names_of_mirror_images_and_places_that_name_copies():
    found = []
    for axis, plane in itertools.product("xyz", PLANES):
        d = handed(plane)
        d.mirror("m", axis, "-20", "part:p", names={"p": "other"})
        low, high = {"x": ("left", "right"), "y": ("front", "back"), "z": ("bottom", "top")}[axis]
        d.board(
            "z",
            "ply12",
            "lying",
            400,
            (f"min(other.{low}, other.{high})" if axis == "x" else 0, 50),
            (0, "other.centre" if axis == "y" else 60),
        )
        found.append(told(d.document()))
    compared("copies named", {"named": condensed(without_digests(found))})


# in whose way


def heap(n):
    """Boards in all planes, some of them turned, near one another."""
    d = Draft("heap", "ply12", "ply6")
    for k in range(7):
        plane = list(PLANES)[(n + k) % 3]
        x, y, z = (37 * k * (n + 1)) % 190, (53 * k + 31 * n) % 170, (29 * k * (n + 2)) % 150
        spots = {"lying": (z, x, y), "facing_front": (y, x, z), "facing_side": (x, y, z)}[plane]
        d.board(f"b{k}", ("ply12", "ply6")[k % 2], plane, spots[0], (spots[1], spots[1] + 40 + 9 * k), (spots[2], spots[2] + 30 + 7 * k))
        if k % 3 == 2:
            d.feature(f"b{k}", "h", "rectangle", ("centre", 3), ("centre", -2), width="22", height="17")
        if k in (3, 5) and n % 2:
            d.turn(f"b{k}", "xyz"[(n + k) % 3], f"{17 + 11 * k} deg", **{a: "60 mm" for a in "xyz" if a != "xyz"[(n + k) % 3]})
    return d.document()


@pytest.mark.parametrize("n", range(8))
def test_who_stands_in_whose_way_and_how_a_heap_goes_together_is_what_it_was(n):
    built = build(heap(n))
    parts = solid_parts(built)
    found = blockers(built, parts)
    every = frozenset(p.key for p in parts)
    ways = [[p.key, way, sorted(found.of(p.key, way, every))] for p in parts for way in WAYS]
    plan = assembly(built)
    steps = [[s.parts, s.way, s.distance] for s in plan.steps]
    compared(f"heap {n}", {"heap": condensed([ways, steps, list(plan.first)]), "problems": condensed([said(p) for p in check(built)])})
    if n % 2 == 0:  # along the axes nothing is missed: with reach without end a board is free where nothing lies before it
        for p, way, others in ways:
            assert all((o, (way[0], -way[1]), p) in {(a, w, b) for a, w, rest in ways for b in rest} for o in others)
