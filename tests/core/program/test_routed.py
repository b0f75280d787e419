"""Programs of routers, run by a reader that shares nothing with the writer: nothing of a part is cut away, all that is wanted is, and parts are held by their tabs."""

from __future__ import annotations

from functools import cache

import pytest
import shapely

from tests.core.program.milled import drilled_holes, moves_of, placed_pockets, swept_to
from tests.core.toolpath.sheets import bodies, laid
from zygon.measure.entry import Entry
from zygon.program.of_design import SheetProgram, program_of
from zygon.stock.cutter import Controller
from zygon.stock.router import Routing

SHEETS = [
    ("hive-floor", "ply18"),
    ("rebated-box", "ply18"),
    ("stand", "ply18"),
    ("inner-cover", "ply12"),
    ("tool-chest", "ply18"),
    ("landing-board", "ply12"),
]
WAYS: dict[str, dict] = {
    "plain": {},
    "conventional": {"way": "conventional", "slope": 0.0, "zero": "bed"},
    "finished": {"finish": Entry(text="0.4 mm"), "tabs": 3},
    "loose": {"tabs": 0},
    "skin": {"tabs": 0, "skin": Entry(text="0.6 mm")},
    "skin and tabs": {"finish": Entry(text="0.3 mm"), "skin": Entry(text="0.6 mm"), "step_over": 60},
}
CONTROLLERS = {"inches": Controller(unit="in", decimals=4), "chords": Controller(arcs=False, chords=0.004)}


@cache
def milled(name: str, stock: str, way: str = "plain", controller: str = "", under: bool = False) -> SheetProgram:
    document, nest = laid(name, stock)
    cutter = document.cutters[document.cutter]
    cutter = cutter.model_copy(update={"routing": Routing(**WAYS[way]), "controller": CONTROLLERS.get(controller, cutter.controller)})
    return program_of(document.model_copy(update={"cutters": {**document.cutters, document.cutter: cutter}}), nest, 1, under=under)


def looked_at(one: SheetProgram):
    """Moves with heights over the face, and how wide each bit cuts straight through."""
    paths = one.paths
    face = paths.thickness if paths.routing.zero == "bed" else 0.0
    moves = moves_of(one.text)
    for m in moves:
        m.z0, m.z1 = m.z0 - face, m.z1 - face
    return moves, {b.number: b.diameter for b in paths.bits.values() if b.kind != "v"}


CASES = [(n, s, w, "") for n, s in SHEETS for w in WAYS] + [(*SHEETS[0], "plain", c) for c in CONTROLLERS]


@pytest.mark.parametrize(("name", "stock", "way", "controller"), CASES)
def test_nothing_of_a_part_is_cut_away(name, stock, way, controller):
    document, nest = laid(name, stock)
    one = milled(name, stock, way, controller)
    assert one.faults == ()
    moves, wide = looked_at(one)
    pockets = placed_pockets(nest, 1)
    holes = drilled_holes(nest, 1, one.paths.kerf)
    thick = one.paths.thickness
    for deep in (0.05, *(d + 0.01 for _, d, _ in pockets), thick - 0.05):
        gone = swept_to(moves, -deep, wide, surely=False)
        for k, (key, _, body) in enumerate(bodies(document, nest, 1)):
            stays = shapely.difference(body, shapely.union_all([holes, *(r for i, d, r in pockets if i == k and d > deep)]))
            assert shapely.intersection(gone, stays.buffer(-0.012)).area < 1e-4, f"{key} is cut into {deep} mm under its face"


@pytest.mark.parametrize(("name", "stock", "way", "controller"), CASES)
def test_pockets_are_empty_but_for_what_the_bits_cannot_reach(name, stock, way, controller):
    document, nest = laid(name, stock)
    one = milled(name, stock, way, controller)
    moves, wide = looked_at(one)
    left = shapely.union_all([a for _, _, a in one.paths.unreached])
    own = bodies(document, nest, 1)
    narrow = min(b.diameter for b in one.paths.bits.values() if b.kind == "end_mill")
    seen = 0
    for k, depth, region in placed_pockets(nest, 1):
        if region.area < narrow**2:  # a hole that is drilled
            continue
        wanted = shapely.intersection(region, own[k][2])
        gone = swept_to(moves, -depth, wide, surely=True)
        remains = shapely.difference(wanted, gone)
        told = shapely.intersection(left, wanted).area
        assert abs(remains.area - told) <= 1e-3 * wanted.area + 0.02
        seen += 1
    assert seen or name in ("landing-board", "stand")


@pytest.mark.parametrize(("name", "stock", "way", "controller"), CASES)
def test_parts_come_off_as_drawn_and_are_held_by_what_was_asked_for(name, stock, way, controller):
    document, nest = laid(name, stock)
    one = milled(name, stock, way, controller)
    moves, wide = looked_at(one)
    paths = one.paths
    sheet = shapely.box(-50, -50, paths.size[0] + 50, paths.size[1] + 50)
    r = paths.kerf / 2
    clear = -(paths.thickness - 0.01)
    tops = paths.thickness - 2.0
    over_tabs = swept_to(moves, -tops + 0.05, wide, surely=True)
    at_bed = swept_to(moves, clear, wide, surely=True)
    tabs = Routing(**WAYS[way]).tabs
    for key, _, body in bodies(document, nest, 1):
        free = next(p for p in shapely.get_parts(shapely.difference(sheet, over_tabs)) if p.contains(body.representative_point()))
        rounded = body.buffer(r, quad_segs=32).buffer(-r, quad_segs=32)
        assert shapely.difference(free, rounded.buffer(0.02)).area < 1e-3, f"something is left on {key}"
        held = next(p for p in shapely.get_parts(shapely.difference(sheet, at_bed)) if p.contains(body.representative_point()))
        assert (held.area > rounded.area + 1000) == (tabs > 0), key
        if tabs:
            # cut apart along the channel's middle, the sheet holds it at so many places
            ring = shapely.difference(body.buffer(r + 0.2), body.buffer(r - 0.2))
            ring = shapely.difference(ring, shapely.union_all([b.buffer(r + 0.3) for k, _, b in bodies(document, nest, 1) if k != key]))
            bridges = [p for p in shapely.get_parts(shapely.intersection(shapely.difference(ring, at_bed), held)) if p.area > 0.05]
            assert bridges, key


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize(("name", "stock"), SHEETS)
def test_the_bit_never_moves_in_the_sheet_without_cutting_and_never_cuts_while_it_stands(name, stock, way):
    one = milled(name, stock, way)
    moves, _ = looked_at(one)
    for m in moves:
        if not m.cuts:
            level = m.line.length < 1e-9 and m.z1 > m.z0
            assert level or min(m.z0, m.z1) >= 2.0 - 1e-6 or (m.z0 == m.z1 == 0.0 and not m.spindle)
        else:
            assert m.spindle
    assert max(max(m.z0, m.z1) for m in moves[2:]) == pytest.approx(10.0)
    assert one.looked.cut == pytest.approx(sum(c.length for c in one.paths.cuts), rel=1e-3)


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize(("name", "stock"), SHEETS)
def test_passes_are_no_deeper_than_said_and_a_part_is_loose_last(name, stock, way):
    one = milled(name, stock, way)
    paths = one.paths
    loose = [k for k, c in enumerate(paths.cuts) if c.loose]
    assert bool(loose) == (WAYS[way].get("tabs", 4) == 0)
    for k in loose:
        own = (paths.cuts[k].key, paths.cuts[k].copy)
        assert all((c.key, c.copy) != own for c in paths.cuts[k + 1 :]), "nothing is cut of a part that is loose"
    if "skin" in WAYS[way]:
        deep = [min(leg.z1 for dip in c.dips for leg in dip) for c in paths.cuts if c.operation == "outside"]
        half = len(deep) // 2
        assert all(z == pytest.approx(0.6 - paths.thickness) for z in deep[:half]) and all(z < -paths.thickness for z in deep[half:])
    done: dict[tuple[str, int, str, str], float] = {}
    for c in paths.cuts:
        deepest = done.get((c.key, c.copy, c.owner, c.operation), 0.0)
        for leg in (leg for dip in c.dips for leg in dip):
            if c.operation in ("pocket", "outside", "inside") and leg.run.bulges and paths.bits[c.bit].pass_depth:
                assert min(leg.z0, leg.z1) >= deepest - paths.bits[c.bit].pass_depth - 1e-6
                deepest = min(deepest, leg.z0, leg.z1)
        done[c.key, c.copy, c.owner, c.operation] = deepest


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize(("name", "stock"), SHEETS)
def test_no_outline_is_cut_twice_at_its_depth(name, stock, way):
    """Whole rounds at each height: one, or two where a finishing run was asked for."""
    one = milled(name, stock, way)
    rounds = 2 if "finish" in WAYS[way] else 1
    for c in one.paths.cuts:
        if c.operation == "outside":
            deep = min(leg.z1 for dip in c.dips for leg in dip)
            low = [leg for dip in c.dips for leg in dip if leg.z0 == leg.z1 == deep]
            nominal = max(sum(leg.run.length for leg in dip if leg.z0 == leg.z1 == deep) for dip in c.dips)
            assert sum(leg.run.length for leg in low) <= rounds * nominal * 1.01
            bare = any("no room to leave something" in f and c.key.replace("_", " ") in f for f in one.paths.faults)
            assert len(c.dips) == (rounds if not bare and ("skin" not in WAYS[way] or deep > -one.paths.thickness) else 1)
