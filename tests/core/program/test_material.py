"""What a router's program leaves: its volume against solids cut by solids, its rests against what bits are said not to reach, and planted gouges found where they are."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import manifold3d
import numpy as np
import pytest
import shapely

from tests.core.program.test_routed import SHEETS, looked_at, milled
from tests.core.toolpath.sheets import laid
from zygon.program.material import material_of
from zygon.program.read import Move, Program


@cache
def left(name, stock, way="plain", under=False):
    document, nest = laid(name, stock)
    return material_of(document, nest, 1, milled(name, stock, way, under=under))


def tool(bit, x, y, z, top):
    """A bit that stands at a height, up to over the face."""
    if bit.angle:
        high = top - z
        return manifold3d.Manifold.cylinder(high, 0.0, high * np.tan(bit.angle / 2), 64).translate((x, y, z))
    return manifold3d.Manifold.cylinder(top - z, bit.diameter / 2, bit.diameter / 2, 64).translate((x, y, z))


def cut_solid(one, moves, box):
    """What stays of a box of the sheet, by solids taken from a solid."""
    x0, y0, x1, y1 = box
    thick = one.paths.thickness
    stock = manifold3d.Manifold.cube((x1 - x0, y1 - y0, thick)).translate((x0, y0, -thick))
    bits = {b.number: b for b in one.paths.bits.values()}
    area = shapely.box(*box).buffer(max(b.diameter for b in bits.values()))
    tools = []
    for m in moves:
        if not (m.cuts and min(m.z0, m.z1) < 0 and area.intersects(m.line)):
            continue
        at = list(m.line.simplify(0.02).coords)
        heights = np.linspace(m.z0, m.z1, len(at))
        stands = [tool(bits[m.bit], x, y, z, 1.0) for (x, y), z in zip(at, heights, strict=True) if z < 1.0]
        if len(stands) == 1:
            tools += stands
        tools += [manifold3d.Manifold.batch_hull([a, b]) for a, b in zip(stands, stands[1:], strict=False)]
    for first in range(0, len(tools), 200):
        stock -= manifold3d.Manifold.batch_boolean(tools[first : first + 200], manifold3d.OpType.Add)
    return stock


#: Twenty pieces that no bit goes round more than a few hundred times: a solid for each step of it takes its time.
PIECES = [
    *[("rebated-box", "ply18", "plain", k) for k in range(4)],
    *[("stand", "ply18", "plain", k) for k in range(5)],
    *[("inner-cover", "ply12", w, k) for k in range(3) for w in ("plain", "finished")],
    *[("tool-chest", "ply18", "plain", k) for k in (0, 4)],
    *[("hive-floor", "ply18", "plain", k) for k in (2, 3)],
    ("landing-board", "ply12", "conventional", 0),
]


@pytest.mark.parametrize(("name", "stock", "way", "which"), PIECES)
def test_the_volume_that_stays_is_that_of_solids_cut_by_solids(name, stock, way, which):
    _, nest = laid(name, stock)
    one = milled(name, stock, way)
    moves, _ = looked_at(one)
    p = nest.layout.sheets[0].placements[which]
    x0, y0, x1, y1 = nest.plan.flats[p.shape].pieces[0].outer.moved(p.x, p.y, p.angle, p.mirrored).bounds
    box = (x0 - 8, y0 - 8, x1 + 8, y1 + 8)
    long, wide = one.paths.size
    box = (max(box[0], 0.0), max(box[1], 0.0), min(box[2], long), min(box[3], wide))
    solid = cut_solid(one, moves, box)
    material = left(name, stock, way)
    area = shapely.box(*box)
    volume = sum(shapely.intersection(s.left, area).area * (s.bottom - s.top) for s in material.slabs)
    whole = area.area * one.paths.thickness
    removed = whole - solid.volume()
    assert removed > 0
    assert abs(volume - solid.volume()) < 0.005 * removed + 5.0, (volume, solid.volume(), removed)


@pytest.mark.parametrize("way", ["plain", "finished", "skin", "conventional"])
@pytest.mark.parametrize(("name", "stock"), SHEETS)
def test_nothing_of_a_part_is_gone_and_rests_are_what_bits_do_not_reach(name, stock, way):
    material = left(name, stock, way)
    paths = milled(name, stock, way).paths
    assert not [d for d in material.differences if d.kind == "gouge"]
    told = shapely.union_all([a for _, _, a in paths.unreached])
    rest = [d for d in material.differences if d.where == "pocket"]
    area = shapely.union_all([d.shape for d in rest]).area
    assert area == pytest.approx(told.area, abs=0.06 * (len(rest) + 1) + 0.02 * told.area)
    assert all(d.shape.distance(told) < 0.05 for d in rest)
    assert all(d.area < 40 for d in material.differences if d.where == "hole")
    assert all(0 < d.mm <= material.thickness + 1e-6 for d in rest)


def test_slabs_follow_one_another_from_the_face_to_the_bed_and_grow():
    for name, stock in SHEETS:
        slabs = left(name, stock).slabs
        assert slabs[0].top == 0.0 and slabs[-1].bottom == milled(name, stock).paths.thickness
        assert all(a.bottom == b.top and a.top < a.bottom for a, b in zip(slabs, slabs[1:], strict=False))
        assert all(a.left.area <= b.left.area + 1.0 for a, b in zip(slabs, slabs[1:], strict=False))


def test_the_under_side_is_looked_at_as_it_lies():
    material = left("hive-floor", "ply18", under=True)
    assert material.differences == () and len(material.slabs) > 1


def spoilt(one, into: float):
    """The same program with a level cut into the middle of each part by so much, with the bit of outlines."""
    moves = list(one.program.moves)
    last = max(k for k, m in enumerate(moves) if m.kind == "line" and m.on)
    bit = moves[last].tool
    z = moves[last].q[2]
    face = one.paths.thickness if one.paths.routing.zero == "bed" else 0.0
    moves.append(Move("line", (into[0], into[1], z), (into[0] + 20, into[1], face - 3.0), 1, True, 10.0, 1.0, bit))
    moves.append(Move("line", (into[0] + 20, into[1], face - 3.0), (into[0] + 40, into[1], face - 3.0), 1, True, 10.0, 1.0, bit))
    return replace(one, program=replace(one.program, moves=tuple(moves)) if isinstance(one.program, Program) else one.program)


def test_a_gouge_is_found_where_it_is_with_how_deep_it_reaches():
    document, nest = laid("landing-board", "ply12")
    one = milled("landing-board", "ply12")
    p = nest.layout.sheets[0].placements[0]
    x0, y0, x1, y1 = nest.plan.flats[p.shape].pieces[0].outer.moved(p.x, p.y, p.angle, p.mirrored).bounds
    at = ((x0 + x1) / 2, (y0 + y1) / 2)
    found = material_of(document, nest, 1, spoilt(one, at)).differences
    gouges = [d for d in found if d.kind == "gouge"]
    assert gouges and found[0].kind == "gouge"
    worst = gouges[0]
    assert worst.key == nest.plan.parts[p.shape] and worst.shape.distance(shapely.Point(at[0] + 30, at[1])) < 0.1
    # amid the part it reaches as far in as the part's edge is away
    assert worst.mm > 20
    # at the edge it reaches in by what the bit overlaps
    radius = one.paths.kerf / 2
    edge = material_of(document, nest, 1, spoilt(one, (at[0], y1 + radius - 0.5))).differences
    assert max(d.mm for d in edge if d.kind == "gouge") == pytest.approx(0.5, abs=0.05)


def test_a_beam_leaves_no_depths():
    from zygon.program.of_design import program_of

    document, nest = laid("brood-box", "ply12")
    with pytest.raises(TypeError):
        material_of(document, nest, 1, program_of(document, nest, 1))
