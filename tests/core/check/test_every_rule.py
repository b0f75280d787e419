"""What is told of odd designs, and how it could be mended, is what was told: parts that hang in the air, overlap, do not fit on a sheet, meet a bend or a bore."""

import itertools

import pytest

from tests.core.figures import compared, condensed
from tests.core.making.metal.test_every_fold import made
from tests.core.making.metal.trays import SIDES, entry, flange, folded
from zygon.check.run import check
from zygon.design.document import parse_document
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.design.workshop import BRAKE
from zygon.making.assembly.hold import drops
from zygon.making.pipeline import build


def said(problem):
    f = problem.fault
    return [
        problem.open,
        f.code,
        f.severity,
        f.entry,
        f.part,
        f.other,
        f.owner,
        f.value,
        f.rule,
        f.source,
        f.message,
        f.at,
        [[m.label, m.patch] for m in f.mends],
    ]


def told(document, **more):
    return [said(p) for p in check(build(document), **more)]


def keep(name, rows):
    compared(f"rules {name}", {"rules": condensed(rows)})


# parts in the air


def case(kind="shelf", axis="x", unit="mm", group=False, copies=False, lone=False, obstacle=False):
    """A board in the air: between two walls across from one another, before one, over a floor, or alone."""
    d = Draft("case", "ply12", "ply6")
    d.data["unit"] = unit
    if group:
        d.group("g", x="70 mm", y="-20 mm", z="15 mm")
    d.board("floor", "ply12", "lying", "-12 mm", ("0 mm", "320 mm"), ("0 mm", "260 mm"))
    if axis == "x":
        d.board("low", "ply12", "facing_side", "0 mm", ("0 mm", "240 mm"), ("0 mm", "300 mm"))
        if not lone:
            d.board("high", "ply12", "facing_side", "300 mm", ("0 mm", "240 mm"), ("0 mm", "300 mm"))
        run = (("low.right", "high.left" if not lone else "290 mm"), ("5 mm", "233 mm"))
    else:
        d.board("low", "ply12", "facing_front", "0 mm", ("0 mm", "300 mm"), ("0 mm", "300 mm"))
        if not lone:
            d.board("high", "ply12", "facing_front", "240 mm", ("0 mm", "300 mm"), ("0 mm", "300 mm"))
        run = (("7 mm", "291 mm"), ("low.back", "high.front" if not lone else "230 mm"))
    if kind == "shelf":
        d.board("shelf", "ply6", "lying", "140 mm", *run)
    elif kind == "low shelf":
        d.board("shelf", "ply6", "lying", "14 mm", *run)
    elif kind == "upright":
        d.board(
            "shelf",
            "ply6",
            "facing_front" if axis == "x" else "facing_side",
            "110 mm",
            run[0] if axis == "x" else run[1],
            ("60 mm", "180 mm"),
        )
    if obstacle:
        d.board("post", "ply12", "facing_side", "150 mm", ("90 mm", "140 mm"), ("0 mm", "130 mm"))
    if copies:
        d.repeat("row", "row", "part:shelf", axis="z", number="2", spacing="70 mm")
    return d


@pytest.mark.parametrize("axis", ["x", "y"])
@pytest.mark.parametrize("kind", ["shelf", "low shelf", "upright"])
def test_parts_in_the_air_and_what_would_hold_them(kind, axis):
    found = []
    for unit, group, lone, obstacle in itertools.product(("mm", "in"), (False, True), (False, True), (False, True)):
        document = case(kind, axis, unit, group, False, lone, obstacle).document()
        problems = [p for p in check(build(document)) if p.fault.code in ("drops", "tips", "overlap", "copies")]
        found.append([said(p) for p in problems])
        for problem in problems[:1]:
            for mend in problem.fault.mends[:3] if unit == "mm" and not group else []:
                after = build(patched(document.dump(), mend.patch))
                assert not [x for x in drops(after) if x.part == problem.fault.part], mend.label
    document = case(kind, axis, copies=True).document()
    found.append(told(document))
    keep(f"air {kind} {axis}", found)


def test_what_stands_over_nothing_tips_or_drops_by_how_far():
    found = []
    for x, z in itertools.product((-80, -50, -41, -39, 0, 110, 170), (0, 0.04, 0.06, 3, 200)):
        d = Draft("d", "ply12")
        d.board("base", "ply12", "lying", 0, (0, 200), (0, 100)).board("top", "ply12", "lying", f"base.top + {z}", (x, x + 80), (10, 70))
        found.append([[x, z], told(d.document())])
    keep("tips", found)


# overlaps


@pytest.mark.parametrize("plane", ["lying", "facing_front", "facing_side"])
def test_parts_that_overlap_and_by_how_much(plane):
    found = []
    for other, (x, y, z) in itertools.product(
        ("lying", "facing_front", "facing_side"),
        ((3, 5, 2), (60, 7, 4), (69.99, 0, 0), (69.9, 1, 2), (11, 39, 6), (5, 6, 11.79), (5, 6, 11.75), (-30, -20, -8)),
    ):
        d = Draft("d", "ply12")
        d.data["stocks"]["ply12"].pop("measured", None)
        sizes = {"lying": ((0, 70), (0, 40)), "facing_front": ((0, 70), (0, 50)), "facing_side": ((0, 40), (0, 50))}
        moves = {"lying": (z, x, y), "facing_front": (y, x, z), "facing_side": (x, y, z)}
        d.board("a", "ply12", plane, 0, *sizes[plane])
        at, one, two = moves[other]
        d.board("b", "ply12", other, at, *[(lo + m, hi + m) for (lo, hi), m in zip(sizes[other], (one, two), strict=True)])
        d.feature("b", "h", "rectangle", ("centre", 4), ("centre", -3), width="9", height="7")
        found.append([[other, x, y, z], told(d.document())])
    keep(f"overlap {plane}", found)


# sheets, margins, gaps, beds


@pytest.mark.parametrize("cutter", ["laser", "router", "saw"])
def test_what_a_sheet_its_margins_and_the_cutter_leave(cutter):
    found = []
    for gap, margins in itertools.product(
        ("0", "0.14 mm", "0.2 mm", "3 mm", "3.3 mm", "6 mm", "8 mm"),
        ({}, {"left": "30", "top": "11"}, {"right": "900"}, {"bottom": "700", "top": "-2"}),
    ):
        d = Draft("d", "ply12", cutter=cutter)
        d.board("p", "ply12", "lying", 0, (0, 310), (0, 200))
        d.data["nest"] = {"gap": d.entry(gap), "margin": d.entry("5 mm"), "edges": {k: d.entry(v) for k, v in margins.items()}}
        found.append([[gap, margins], told(d.document())])
    stock = d.data["stocks"]["ply12"]
    size = next(iter(stock["sheets"].values()))
    for length, width, roll in (
        ("320", "210", False),
        ("319.99", "210", False),
        ("320", "209.99", False),
        ("210", "320", False),
        ("5", "220", False),
        ("9000", "8000", False),
        ("300", "210", True),
        ("300", "9000", True),
        ("no", "210", False),
    ):
        d.data["nest"] = {"gap": d.entry("8 mm"), "margin": d.entry("5 mm")}
        stock["sheets"] = {"s": {**size, "length": d.entry(length), "width": d.entry(width), "roll": roll}}
        found.append([[length, width, roll], told(d.document())])
    stock["sheets"] = {}
    found.append(told(d.document()))
    keep(f"sheets {cutter}", found)


# bores


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
def test_bores_that_meet_what_is_cut_and_one_another(edge):
    found = []
    for what, depth, height in itertools.product(
        ("hole", "groove", "bore", "blind"), ("40", "90", "160", "400"), (None, "3.1", "1.9", "9.7")
    ):
        d = Draft("d", "ply12", cutter="router")
        d.board("p", "ply12", "lying", 0, (0, 210), (0, 160), up="a")
        more = {} if height is None else {"height": height}
        d.feature("p", "bore", "edge_hole", ("left", 90), ("front", 70), edge=edge, diameter="4", depth=depth, **more)
        if what == "hole":
            d.feature("p", "x", "hole", ("left", 95), ("front", 66), diameter="12")
        elif what == "groove":
            d.feature(
                "p",
                "x",
                "groove",
                ("left", 60),
                ("front", 50),
                along="u" if edge in ("front", "back") else "v",
                width="9",
                depth="5",
                face="bottom",
            )
        elif what == "blind":
            d.feature("p", "x", "hole", ("left", 88), ("front", 71), diameter="10", depth="4", face="top")
        else:
            d.feature(
                "p",
                "x",
                "edge_hole",
                ("left", 92),
                ("front", 71),
                edge={"left": "front", "front": "left", "right": "back", "back": "right"}[edge],
                diameter="5",
                depth="100",
            )
        found.append([[what, depth, height], told(d.document(), assembled=False)])
    keep(f"bores {edge}", found)


# bends


def bent(flanges, features=None, **more):
    built = folded(flanges, width=150, depth=130, thickness=1.5, features=features)
    data = built.document.dump()
    data["stocks"]["s"]["bending"] |= {k: entry(v) if isinstance(v, str) else v for k, v in more.pop("bending", {}).items()}
    data["brakes"] = {"bench": {**BRAKE, **more}}
    data["brake"] = "bench"
    return parse_document(data)


@pytest.mark.parametrize("toward", ["a", "b"])
def test_holes_near_bends_and_bends_on_the_brake(toward):
    found = []
    for edge, far in itertools.product(SIDES, ("1", "4.9", "6.5", "6.6", "9", "14")):
        hole = {
            "kind": "hole",
            "name": "h",
            "order": 0,
            "diameter": entry("6"),
            "u": {"origin": edge if edge in ("left", "right") else "centre", "offset": entry(far)},
            "v": {"origin": edge if edge in ("front", "back") else "centre", "offset": entry(far)},
        }
        own = {"hole_distance": "2.2"} if far == "9" else {}
        found.append(
            [[edge, far], told(bent({"f": made("flange", edge, toward=toward, length=31)}, {"h": hole}, bending=own), assembled=False)]
        )
    keep(f"near bends {toward}", found)
    found = []
    for angle, radius, length in itertools.product(("30 deg", "90 deg", "135 deg"), ("0.3", "1.5", "2.4", "6"), ("5", "9", "30")):
        flanges = {"f": made("flange", "left", toward=toward, angle=angle, radius=radius, length=length)}
        found.append([[angle, radius, length], told(bent(flanges), assembled=False)])
    for more in ({"force": 4.0}, {"length": 100.0}, {"length": 130.0}, {"free": 20.0}, {"gauge": 30.0}):
        found.append(
            [
                more,
                told(
                    bent(
                        {"f": made("flange", "left", toward=toward, length=40), "g": made("offset", "right", toward=toward, order=1)},
                        **more,
                    ),
                    assembled=False,
                ),
            ]
        )
    keep(f"brake {toward}", found)


@pytest.mark.parametrize("toward", ["a", "b"])
def test_flanges_that_run_into_one_another(toward):
    found = []
    for one, other, lip, angle in itertools.product(("75 deg", "90 deg"), ("90 deg", "110 deg"), ("20", "90"), ("90 deg", "120 deg")):
        flanges = {
            "l": made("flange", "left", toward=toward, length=50, angle=one),
            "r": made("flange", "front", toward=toward, length=44, angle=other, order=1),
            "lip": flange("end", lip, on="l", toward=toward, angle=angle, order=2),
            "rip": flange("end", 15, on="r", toward=toward, order=3, measured="inner"),
        }
        found.append([[one, other, lip, angle], told(bent(flanges), assembled=False)])
    keep(f"clash {toward}", found)


@pytest.mark.parametrize("toward", ["a", "b"])
def test_how_long_a_flange_may_be_is_the_same_bent_both_ways(toward):
    """The ring of two walls and a lid that is too long: whichever way all of it is bent, it may be as long."""
    ring = {
        "left": flange("left", 40, toward=toward),
        "right": flange("right", 40, order=1, toward=toward),
        "over": flange("end", 250, on="left", order=2, toward=toward),
    }
    found = next(p.fault for p in check(folded(ring), assembled=False) if p.fault.code == "folds_into_itself")
    shorter = next(m for m in found.mends if m.label.startswith("Make it"))
    assert float(shorter.patch[0]["value"]["text"].split()[0]) == pytest.approx(199, abs=0.1)


@pytest.mark.parametrize(("along", "at"), [("left", -1), ("left", 1), ("front", -1), ("front", 1)])
def test_a_bore_meets_a_pocket_that_only_its_one_half_lies_under(along, at):
    """A bore of 4 mm, and a groove that reaches to a tenth beside its middle on the one side or the other."""
    d = Draft("d", "ply12", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 210), (0, 160), up="a")
    d.feature("p", "bore", "edge_hole", ("left", 90), ("front", 70), edge=along, diameter="4", depth="60")
    middle = (70 if along == "left" else 90) + at * (0.1 + 10)
    spots = {n: {"origin": "room", "offset": d.entry(middle)} for n in "uv"}
    d.feature(
        "p", "x", "groove", ("room", middle), ("room", middle), along="u" if along == "left" else "v", width="20", depth="7", face="top"
    )
    assert "bore_meets" in [p.fault.code for p in check(build(d.document()), assembled=False)]
    for spot in spots.values():
        spot["offset"] = d.entry(middle + at * 2.2)
    d.data["parts"]["p"]["features"]["x"] |= spots
    assert "bore_meets" not in [p.fault.code for p in check(build(d.document()), assembled=False)]


@pytest.mark.parametrize("edge", ["left", "right", "front", "back"])
def test_a_saw_runs_through_from_edge_to_edge_and_does_not_stop_inside(edge):
    d = Draft("d", "ply12", cutter="saw")
    d.board("p", "ply12", "lying", 0, (0, 210), (0, 160), up="a")
    d.feature(
        "p", "x", "groove", ("centre", 0), ("centre", 0), along="u" if edge in ("left", "right") else "v", width="9", depth="4", face="top"
    )
    assert "not_sawn" not in [p.fault.code for p in check(build(d.document()), assembled=False)]
    stops = {
        "left": ("left", 40, "centre", 0),
        "right": ("right", 40, "centre", 0),
        "front": ("centre", 0, "front", 40),
        "back": ("centre", 0, "back", 40),
    }[edge]
    d.data["parts"]["p"]["features"]["x"] |= {
        "u": {"origin": stops[0], "offset": d.entry(stops[1])},
        "v": {"origin": stops[2], "offset": d.entry(stops[3])},
        "length": d.entry(90),
    }
    assert "not_sawn" in [p.fault.code for p in check(build(d.document()), assembled=False)]
