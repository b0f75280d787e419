"""Speed and memory, as a table with ratios to a reference measured in the same run. ``make bench``; never part of the tests."""

from __future__ import annotations

import gc
import math
import random
import resource
import statistics
import sys
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from tempfile import TemporaryDirectory

import ezdxf
import rectpack
import shapely
import spyrrow
from shapely.geometry import Point, box
from svgelements import SVG

from zygon.brake.order import bend_order
from zygon.check.overlap import overlap_faults
from zygon.check.run import check
from zygon.design.document import Document
from zygon.design.draft import Draft
from zygon.design.examples import brood_box, example
from zygon.design.examples.hive import hive
from zygon.design.examples.hive_floor import hive_floor
from zygon.design.patch import patched
from zygon.drawing.solver import solve_drawing
from zygon.drawn.drawing import Drawing, DrawnPoint
from zygon.edits.connectors import add_connectors
from zygon.exchange.read import read_regions
from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, polygon, rectangle
from zygon.making.assembly.plan import assembly
from zygon.making.flats.flat import mesh_of
from zygon.making.movement.found import movements_of
from zygon.making.movement.report import travel_of
from zygon.making.movement.said import said_of
from zygon.making.pipeline import build
from zygon.nest.bars import Bar, Cut, cut_bars
from zygon.nest.design import StockNest, lay_out, plans
from zygon.nest.engine import allowed_turns, nest
from zygon.nest.legal import layout_faults
from zygon.nest.task import NestSheet, Placement, Shape, Task
from zygon.paper.compose import asked_for, make
from zygon.paper.hidden import Asked, Seen, look_at
from zygon.paper.out.pdf import write_pdf
from zygon.paper.subjects import subjects
from zygon.program.of_design import program_of
from zygon.screen.design import built_data, part_resources
from zygon.toolpath.laser import laser_paths

#: ``--short``: every measurement once and small, to see that all of them still run.
SHORT = "--short" in sys.argv


#: Boxes of six parts, and racks of ten.
BOXES, RACKS = (2, 2) if SHORT else (10, 20)
#: For a search beside another library's.
SECONDS = 1 if SHORT else 6
#: How long our own engine looks on the same strips, of that time.
SHARE = 0.2 if SHORT else 1


def several(many: int) -> range:
    """So many changed sizes, or in the short form as many as its one measurement takes."""
    return range(2 if SHORT else many)


def median_ms(work: Callable[[int], object], times: int) -> float:
    """Median milliseconds of ``work(i)``, after one warm-up that the short form does without."""
    if not SHORT:
        work(0)
    taken = []
    for i in range(1, (1 if SHORT else times) + 1):
        start = time.perf_counter()
        work(i)
        taken.append((time.perf_counter() - start) * 1000)
    return statistics.median(taken)


def row(what: str, value: float, unit: str, target: str, ratio: str = "") -> None:
    """One line of the table, printed as it is measured."""
    print(f"{what:<72}  {f'{value:.1f} {unit}':>12}  {target:<9}  {ratio}".rstrip(), flush=True)


def reference() -> float:
    """A plain Shapely boolean: a panel less 30 finger cuts and 8 finely divided holes, in ms."""
    cuts = [box(-1, 10 + 12 * i, 13, 16 + 12 * i) for i in range(30)] + [Point(60 + 40 * i, 200).buffer(9, quad_segs=32) for i in range(8)]
    return median_ms(lambda i: shapely.difference(box(0, 0, 420 + i, 400), shapely.union_all(cuts)), 40)


def changed(document: Document, name: str, mm: float) -> Document:
    """The document with a size set."""
    return patched(document.dump(), [{"op": "replace", "path": f"/sizes/{name}/entry/text", "value": f"{mm} mm"}])


def sixty_parts(boxes: int = BOXES) -> Document:
    """Open boxes side by side, all reading one width, and as many shelves of one other size: six parts each."""
    d = Draft("sixty", "ply12")
    d.size("width", "260 mm").size("depth", "200 mm").size("shelf", "150 mm")
    for n in range(boxes):
        x, y = f"{n % 10} * 700 mm", f"{n // 10} * 500 mm"
        d.board(f"front{n}", "ply12", "facing_front", y, (x, f"{x} + width"), (0, "150 mm"))
        d.board(f"back{n}", "ply12", "facing_front", f"{y} + depth", (x, f"{x} + width"), (0, "150 mm"), face="back")
        d.board(f"left{n}", "ply12", "facing_side", x, (f"front{n}.back", f"back{n}.front"), (0, "150 mm"))
        d.board(f"right{n}", "ply12", "facing_side", f"{x} + width", (f"front{n}.back", f"back{n}.front"), (0, "150 mm"), face="right")
        d.board(f"floor{n}", "ply12", "lying", "0", (f"left{n}.right", f"right{n}.left"), (f"front{n}.back", f"back{n}.front"))
        d.board(f"shelf{n}", "ply12", "lying", f"{400 + 40 * (n % 10)} mm", (x, f"{x} + shelf"), (y, f"{y} + {100 + n} mm"))
        for a, b in (
            ("front", "left"),
            ("front", "right"),
            ("back", "left"),
            ("back", "right"),
            ("front", "floor"),
            ("back", "floor"),
            ("left", "floor"),
            ("right", "floor"),
        ):
            d.joint("finger", f"{a}{n}", f"{b}{n}")
        d.feature(f"front{n}", "hold", "hand_hold", ("centre", 0), ("top", "40 mm"), length="90 mm")
    return d.document()


def building(plain: float) -> None:
    """A changed size: the brood box, sixty parts whole, and sixty parts where little depends on the change."""
    box_ = brood_box()
    documents = [changed(box_, "width", 400.5 + i) for i in several(25)]
    ms = median_ms(lambda i: build(documents[i]), 24)
    row("brood box, a changed width: build", ms, "ms", "< 30 ms", f"{ms / plain:.1f} x a plain boolean of one panel")
    for what, design, size, first, target in (
        ("brood box", box_, "width", 400.25, "< 100 ms"),
        ("hive floor (depth, marks)", hive_floor(), "width", 400.25, ""),
    ):
        for way, assembled in (("while a value is dragged", False), ("kept, with its assembly", True))[: 1 if SHORT and not target else 2]:
            widths = [first + i + (0.5 if assembled else 0.0) for i in several(25)]

            def whole(i: int, design=design, size=size, widths=widths, assembled=assembled) -> None:
                built = build(changed(design, size, widths[i]))
                built_data(built, check(built, assembled=assembled))
                part_resources(built)

            ms = median_ms(whole, 24)
            goal = target if not assembled else "< 250 ms" if target else ""
            row(f"   {what}, all for the screen, {way}", ms, "ms", goal, f"{ms / plain:.1f} x")
    many = sixty_parts()
    assert len(many.parts) == 6 * BOXES
    documents = [changed(many, "width", 260.5 + i) for i in several(9)]
    ms = median_ms(lambda i: build(documents[i]), 8)
    row("sixty parts, all but ten depend on the change: build", ms, "ms", "< 300 ms", f"{ms / plain / BOXES / 5:.2f} x a boolean a part")
    built = [build(d) for d in documents]
    ms = median_ms(lambda i: check(built[i], assembled=False), 8)
    row("   its checks", ms, "ms", "", f"{ms / plain / BOXES / 6:.2f} x a boolean a part")
    ms = median_ms(lambda i: assembly(built[i]), 8)
    row("   its order of assembly", ms, "ms", "", f"{ms / plain / BOXES / 6:.2f} x a boolean a part")
    documents = [changed(many, "shelf", 150.5 + i) for i in several(9)]
    assert len(build(documents[0]).rebuilt) >= BOXES
    ms = median_ms(lambda i: build(documents[i]), 8)
    row(f"   only {len(build(changed(many, 'shelf', 99)).rebuilt)} of them depend on it", ms, "ms", "", f"{ms / plain:.1f} x")


def grille(size: float) -> Document:
    """A panel with a field of holes, 10 mm apart, and one of its sizes."""
    d = Draft("grille", "ply12").size("diameter", "4 mm")
    d.board("p", "ply12", "facing_side", "0", (0, "700 mm"), (0, "700 mm"))
    more = {"width": f"{size} mm", "height": f"{size} mm", "diameter": "diameter", "pitch": "10 mm", "edge_distance": "10 mm"}
    d.feature("p", "f", "perforation", ("centre", 0), ("centre", 0), pattern="square", field="rectangle", **more)
    return d.document()


def tangle(rows: int) -> Document:
    """Rows of rows of boards whose spacing is a slip of the finger: each one overlaps all the others."""
    d = Draft("tangle", "ply12").size("side", "100 mm")
    d.board("p", "ply12", "facing_side", "0", (0, "side"), (0, "side"))
    entry, number = {"text": "1 mm", "unit": "mm"}, {"text": str(rows)}
    ways = {"axis": "y", "number": number, "spacing": entry, "axis_2": "z", "number_2": number, "spacing_2": entry}
    d.data["copies"] = {"g": {"kind": "grid", "name": "g", "of": ["part:p"], **ways}}
    return d.document()


def heavy(plain: float) -> None:
    """What a maker may ask for in one entry."""
    field = grille(100 if SHORT else 640)
    documents = [changed(field, "diameter", 4.1 + 0.1 * i) for i in several(4)]
    built = [build(d) for d in documents]
    count = sum(len(p.inner) for p in built[0].flats["p"].flat.pieces)
    ms = median_ms(lambda i: build(changed(field, "diameter", 3.1 + 0.1 * i)), 3)
    row(f"a field of {count} holes: build", ms, "ms", "< 1 s", f"{ms / plain:.1f} x")
    ms = median_ms(lambda i: check(built[i], assembled=False), 3)
    row("   its checks", ms, "ms", "", f"{ms / plain:.1f} x")
    ms = median_ms(lambda i: (built_data(built[i], []), part_resources(built[i])), 3)
    row("   all for the screen", ms, "ms", "", f"{ms / plain:.1f} x")
    rows = 6 if SHORT else 14
    many = tangle(rows)
    built = [build(changed(many, "side", 100.5 + i)) for i in several(4)]
    ms = median_ms(lambda i: check(built[i]), 3)
    row(f"{rows * rows} boards that all overlap: checks", ms, "ms", "< 500 ms", f"{ms / plain:.1f} x")


def squares(folder: Path, many: int) -> list[Path]:
    """A drawing of so many squares, as DXF and as SVG."""
    doc = ezdxf.new("R2010")
    lines = []
    for x, y in ((n % 250 * 3, n // 250 * 3) for n in range(many)):
        doc.modelspace().add_lwpolyline([(x, y), (x + 2, y), (x + 2, y + 2), (x, y + 2)], close=True)
        lines.append(f'<rect x="{x}" y="{y}" width="2" height="2"/>')
    doc.saveas(folder / "squares.dxf")
    (folder / "squares.svg").write_text(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="750mm" height="750mm" viewBox="0 0 750 750">{"".join(lines)}</svg>'
    )
    return [folder / "squares.dxf", folder / "squares.svg"]


def reading() -> None:
    """Drawings of many outlines, beside what the libraries take to read the file; as in a reader's own process, where nothing is collected."""
    many = 500 if SHORT else 50_000
    gc.disable()
    with TemporaryDirectory() as folder:
        for path, library in zip(squares(Path(folder), many), (ezdxf.readfile, SVG.parse), strict=True):
            alone = median_ms(lambda _, path=path, library=library: library(str(path)), 1)
            ms = median_ms(lambda _, path=path: read_regions(path), 1)
            row(f"{many} squares read from {path.suffix[1:].upper()}", ms, "ms", "< 5 s", f"{ms / alone:.2f} x the library's reading alone")
            gc.collect()
    gc.enable()


def two_hundred() -> Document:
    """Racks of two handed sides and eight shelves in a row, every second one turned as a whole; all read one width."""
    d = Draft("two hundred", "ply12")
    d.size("width", "400 mm")
    for k in range(RACKS):
        d.group(f"rack{k}")
        d.board(f"side{k}", "ply12", "facing_side", "0", ("0", "300 mm"), (f"{k * 400} mm", f"{k * 400 + 380} mm"))
        d.board(f"shelf{k}", "ply12", "lying", f"{k * 400 + 20} mm", (f"side{k}.right", f"width - side{k}.thickness"), ("0", "300 mm"))
        d.joint("tab_slot", f"shelf{k}", f"side{k}")
        d.mirror(f"m{k}", "x", "width / 2", f"part:side{k}")
        d.repeat(f"r{k}", "row", f"part:shelf{k}", number="8", spacing="40 mm", axis="z")
        if k % 2:
            d.turn(f"rack{k}", "z", f"{k} deg", "groups", x="0", y="0")
    return d.document()


def screwed(many: int, *, hardware: bool) -> Document:
    """Pairs of boards with bores in rows of ten through both, with a set along each or none."""
    d = Draft("screwed", "ply12", "ply18")
    for i in range(many // 50):
        d.board(f"a{i}", "ply12", "lying", f"{i * 100} mm", ("0 mm", "1200 mm"), ("0 mm", "500 mm"))
        d.board(f"b{i}", "ply18", "lying", f"a{i}.top", ("0 mm", "1200 mm"), ("0 mm", "500 mm"))
        for k in range(5):
            name = f"h{i}_{k}"
            d.bore(name, "z", {"x": "50 mm", "y": f"{50 + 80 * k} mm"}, "5 mm", **{f"{p}{i}": ("cut", "0") for p in "ab"})
            d.bore_rows(name, x=("10", "110 mm"))
            if hardware:
                d.hardware(name, size="M5", washer="plain_washer", nut_washer="plain_washer")
    return d.document()


def fastening() -> None:
    """What sets cost beside the bores that they are in."""
    many = 50 if SHORT else 500
    bare, held = screwed(many, hardware=False), screwed(many, hardware=True)
    alone, both = (median_ms(lambda _, d=d: build(d), 2 if SHORT else 7) for d in (bare, held))  # type: ignore[misc]
    row(f"{many} bores in pairs of boards: build", alone, "ms", "")
    row(f"   with {many} sets of four pieces", both, "ms", "< 100 ms more", f"{both / alone:.1f} x without them")
    built = build(held)
    ms = median_ms(lambda _: check(built), 2 if SHORT else 5)
    row("   their checks", ms, "ms", "", f"{ms / both:.1f} x their build")


def layout(plain: float) -> None:
    """Two hundred parts after one size: built, checked for overlaps, made ready for the screen; and the hive."""
    many = two_hundred()
    documents = [changed(many, "width", 400.5 + i) for i in several(7)]
    assert len(build(documents[0]).parts) == 10 * RACKS
    ms = median_ms(lambda i: build(documents[i]), 6)
    row("two hundred parts, all depend on the change: build", ms, "ms", "< 500 ms", f"{ms / plain / RACKS / 10:.2f} x a boolean a part")
    built = [build(d) for d in documents]
    ms = median_ms(lambda i: overlap_faults(built[i]), 6)
    row("   their overlaps", ms, "ms", "< 1000 ms", f"{ms / plain / RACKS / 10:.2f} x a boolean a part")
    ms = median_ms(lambda i: built_data(built[i], check(built[i], assembled=False)), 6)
    row("   all checks and what the screen needs, overlaps known", ms, "ms", "", f"{ms / plain / RACKS / 10:.2f} x a boolean a part")
    documents = [changed(hive(), "depth", 460.5 + i) for i in several(7)]
    ms = median_ms(lambda i: build(documents[i]), 6)
    row("hive (59 parts of 17 drawn): build", ms, "ms", "", f"{ms / plain / 17:.2f} x a boolean a part drawn")


def bent(bends: int) -> Document:
    """A strip folded to and fro, all flanges of one size."""
    d = Draft("bent", "galv20")
    d.size("leg", "30 mm")
    d.board("strip", "galv20", "lying", "0", (0, "40 mm"), (0, "60 mm"))
    d.fold("strip")
    for n in range(bends):
        on = f"f{n - 1}" if n else ""
        d.flange("strip", f"f{n}", "end" if n else "right", "leg", on=on, toward="ab"[n % 2])
    return d.document()


def wound(bends: int) -> Document:
    """A strip of profiles, forty lengths each, folded to and fro."""
    d = Draft("wound", "galv20")
    d.size("leg", "30 mm")
    d.board("strip", "galv20", "lying", "0", (0, "40 mm"), (0, "60 mm"))
    d.fold("strip")
    for n in range(bends // 40):
        legs = [("leg", "90 deg" if k % 2 else "-90 deg") for k in range(40)]
        d.profile("strip", f"f{n}", "end" if n else "right", *legs, on=f"f{n - 1}" if n else "", where="edge")
    return d.document()


def unfolding(plain: float) -> None:
    """A changed length of all bends of one part, by their number: the time a bend stays the same."""
    per_bend = {}
    for bends in (40, 80) if SHORT else (200, 1000):
        documents = [changed(wound(bends), "leg", 30.5 + i) for i in several(5)]
        per_bend[bends] = median_ms(lambda i, d=documents: build(d[i]), 4) / bends
    few, many = per_bend
    ratio = f"{per_bend[many] / per_bend[few]:.2f} x the time a bend of {few}"
    row(f"{many} bends: unfolded", per_bend[many] * many, "ms", "linear", ratio)


def bending(plain: float) -> None:
    """The order of bending of a box and a tray, found by trying."""
    for name, key in (("roof", "roof"),) if SHORT else (("electronics-box", "base"), ("roof", "roof")):
        document = example(name)
        flat = build(document).parts[key].flat
        brake, stock = document.brakes[document.brake], document.stocks["galv20"]
        ms = median_ms(lambda _, f=flat, s=stock, b=brake: bend_order(f.fold, f.thickness, s.bending, b), 3)
        row(f"{name}: order of {len(flat.fold.bends)} bends", ms, "ms", "", f"{ms / plain:.0f} x a plain boolean")
    many = 10 if SHORT else 40
    document = bent(many)
    flat, brake = build(document).parts["strip"].flat, document.brakes[document.brake]
    ms = median_ms(lambda _: bend_order(flat.fold, flat.thickness, document.stocks["galv20"].bending, brake), 3)
    row(f"a strip of {many} bends: order", ms, "ms", "< 1000 ms", f"{ms / plain:.0f} x a plain boolean")


def folding(plain: float) -> None:
    """A changed length of all flanges: built, and folded to its solid."""
    per_bend = {}
    few, many = (5, 10) if SHORT else (20, 200)
    for bends in (few, many):
        documents = [changed(bent(bends), "leg", 30.5 + i) for i in several(9)]
        ms = median_ms(lambda i, d=documents: build(d[i]), 8)
        solids = [build(changed(bent(bends), "leg", 50.25 + i)).parts["strip"].flat for i in several(9)]
        folded = median_ms(lambda i, s=solids: mesh_of(s[i]), 8)
        per_bend[bends] = ms / bends
        ratio = f"{ms / plain:.1f} x a plain boolean" + (
            f", {per_bend[many] / per_bend[few]:.2f} x the time a bend of {few}" if bends == many else ""
        )
        row(f"{bends} bends, a changed length: build", ms, "ms", "< 50 ms" if bends == 20 else "", ratio)
        row(f"{bends} bends: solid", folded, "ms", "", f"{folded / plain:.1f} x a plain boolean")


def trestle(bays: int, stock: str, joint: str) -> Document:
    """Pairs of posts in a row with rails between them above and below, joined at every post: eight members a bay, and four more."""
    d = Draft("trestle", stock)
    d.size("high", "700 mm", "300 mm", "2 m")
    points, lines, joined = {}, {}, []
    for i in range(bays + 1):
        for side, y in (("f", "0"), ("b", "400 mm")):
            points |= {f"{side}l{i}": (f"300 mm * {i}", y, "0"), f"{side}h{i}": (f"300 mm * {i}", y, "high")}
            lines[f"post_{side}{i}"] = (f"{side}l{i}", f"{side}h{i}")
        for level in "lh":
            lines[f"cross_{level}{i}"] = (f"f{level}{i}", f"b{level}{i}")
            joined += [(f"cross_{level}{i}", f"post_{side}{i}") for side in "fb"]
            if i < bays:
                for side in "fb":
                    lines[f"rail_{side}{level}{i}"] = (f"{side}{level}{i}", f"{side}{level}{i + 1}")
                    joined += [(f"rail_{side}{level}{i}", f"post_{side}{k}") for k in (i, i + 1)]
    d.frame("f", points, lines)
    for line in lines:
        d.member(line, stock, "f", line, against="y" if line.startswith("post") else "z")
    for one, other in joined if joint else ():
        d.joint(joint, one, other)
    return d.document()


def framing(plain: float) -> None:
    """A changed height of a frame of 204 members, cut to one another and in connectors, and the first plan of 500 pieces of 40 lengths."""
    for stock, joint in (("square40", "member_butt"), ("tube42", "member_cope")):
        whole = trestle(2 if SHORT else 25, stock, joint)
        documents = [changed(whole, "high", 700.5 + i) for i in several(6)]
        ms = median_ms(lambda i, d=documents: build(d[i]), 5)
        row(
            f"frame of {len(whole.parts)} members, {joint[7:]}, a changed height: build",
            ms,
            "ms",
            "< 500 ms",
            f"{ms / plain:.1f} x a plain boolean",
        )
    bare = trestle(2 if SHORT else 25, "tube33", "")
    held = patched(bare.dump(), add_connectors(build(bare), "f", [])[1])
    documents = [changed(held, "high", 700.5 + i) for i in several(6)]
    ms = median_ms(lambda i: build(documents[i]), 5)
    n = sum(p.kind == "connector" for p in held.parts.values())
    row(
        f"frame of {len(bare.parts)} members in {n} connectors, a changed height: build",
        ms,
        "ms",
        "< 500 ms",
        f"{ms / plain:.1f} x a plain boolean",
    )
    cuts = [Cut(180.0 + 37.3 * k, 12 + k % 2, str(k)) for k in range(4 if SHORT else 40)]
    bars = [Bar(6000.0, 30.0, 0)]
    ms = median_ms(lambda i: cut_bars(cuts, bars, 2.0, 0.0, 0.5), 2)
    row(
        f"{sum(c.quantity for c in cuts)} pieces of {len(cuts)} lengths: bars planned",
        ms,
        "ms",
        "< 1000 ms",
        f"{ms / plain:.0f} x a plain boolean",
    )


def crowded(pieces: int) -> tuple[Document, StockNest]:
    """A sheet of so many small plates with 19 holes each: 20 contours a piece."""
    built = build(example("brood-box"))
    plan = next(p for p in plans(built) if p.stock == "ply6")
    nest_ = lay_out(built.document, plan, seconds=1, search=False)
    assert nest_ is not None
    holes = tuple(circle(8 + i % 5 * 9, 8 + i // 5 * 9, 2.2, "x").wound(ccw=False) for i in range(19))
    flat = replace(plan.flats[0], pieces=(Region(rectangle(0, 0, 52, 44, "e"), holes),), pockets=(), digest="many")
    places = tuple(Placement(0, k, 5 + k % 32 * 56, 5 + k // 32 * 48, 0.0) for k in range(pieces))
    sheet = replace(nest_.layout.sheets[0], placements=places)
    sheet = replace(sheet, sheet=replace(sheet.sheet, length=2000.0, width=1700.0))
    return built.document, replace(nest_, plan=replace(plan, parts=("m",), flats=(flat,)), layout=replace(nest_.layout, sheets=(sheet,)))


def cutting(plain: float) -> None:
    """Paths and programs: a sheet of a thousand parts on the laser, a floor's grooves on the router, both sides."""
    document, sheet = crowded(10 if SHORT else 1000)
    ms = median_ms(lambda _: laser_paths(document, sheet, 1), 1)
    row(
        f"{len(sheet.layout.sheets[0].placements)} parts, 20 contours each: paths of a laser",
        ms,
        "ms",
        "< 10 s",
        f"{ms / plain:.0f} x a plain boolean",
    )
    built = build(example("hive-floor"))
    plan = next(p for p in plans(built) if p.stock == "ply18")
    floor = lay_out(built.document, plan, seconds=1, search=False)
    assert floor is not None
    for under in (False, True):
        ms = median_ms(lambda _, u=under: program_of(built.document, floor, 1, under=u), 3)
        row(
            f"hive floor, 18 mm on the router{', under side' if under else ''}: program",
            ms,
            "ms",
            "",
            f"{ms / plain:.0f} x a plain boolean",
        )


def moving(plain: float) -> None:
    """What moves, found anew at a changed size and again as it is known; how far things go, over a whole turn, a slide, and a stay that goes with its leg."""
    for name, size, begin in (("hive", "width", 420), ("tool-chest", "width", 520), ("hand-crank", "axle", 120)):
        design = example(name)
        built = [build(changed(design, size, begin + k)) for k in several(5)]
        ms = median_ms(lambda i, built=built: movements_of(built[i % len(built)]), 4)  # type: ignore[misc]
        row(f"what moves of {name}, at a changed size", ms, "ms", "< 1000", f"{ms / plain:.0f}x")
        again = median_ms(lambda _, built=built: movements_of(built[-1]), 5)  # type: ignore[misc]
        row(f"what moves of {name}, as it is known", again, "ms", "< 30", f"{again / plain:.1f}x")
    for name, size, begin, key in (
        ("hand-crank", "axle", 120, "turns:shaft"),
        ("tool-chest", "width", 520, "turns:lid"),
        ("fold-down-leg", "high", 720, "turns:leg"),
    ):
        design = example(name)
        said = [said_of(build(changed(design, size, begin + k))) for k in several(4)]
        ms = median_ms(lambda i, said=said, key=key: travel_of(said[i % len(said)], key, free=True), 3)  # type: ignore[misc]
        row(f"how far {key} of {name} goes", ms, "ms", "< 2000", f"{ms / plain:.0f}x")


def drawing_papers(plain: float) -> None:
    """Views of the hive as they are seen, its whole set of papers with its PDF, and what a changed size draws again."""
    built = build(hive() if not SHORT else brood_box())
    whole = next(s for s in subjects(built) if s.id == "whole")
    asked = asked_for(built, whole)
    look_at(asked["front"])  # the modeller is loaded, and solids are made once
    for name in ("front", "corner"):
        ms = median_ms(lambda _, a=asked[name]: look_at(a), 3)  # type: ignore[misc]
        row(
            f"papers: {len(built.made)} parts seen, {name}",
            ms,
            "ms",
            "< 1000 ms" if name == "front" else "",
            f"{ms / plain:.0f} x a plain boolean",
        )
    seen: dict[str, Seen] = {}

    def look(a: Asked) -> Seen:
        if a.digest not in seen:
            seen[a.digest] = look_at(a)
        return seen[a.digest]

    start = time.perf_counter()
    papers = [p for s in subjects(built) for p in make(built, s, look)]
    write_pdf(papers, "bench")
    first = (time.perf_counter() - start) * 1000
    row(f"   the whole set, {len(papers)} pages, as PDF", first, "ms", "< 60 s", f"{first / plain:.0f} x")
    ms = median_ms(lambda _: [make(built, s, look) for s in subjects(built)], 2)
    row("   all pages set again, views known", ms, "ms", "", f"{ms / first:.2f} x the first time")


def truss(many: int) -> tuple[Drawing, dict[str, float]]:
    """A drawing of so many points in two rows with a length said of every line, a little off; and what is said, in mm."""
    r = random.Random(1)
    true = {f"{row}{n}": (n * 20 + r.random() * 5, (30 if row == "b" else 0) + r.random() * 5) for n in range(many // 2) for row in "ab"}
    ends = {f"v{n}": (f"a{n}", f"b{n}") for n in range(many // 2)}
    for row in "ab":
        ends |= {f"{row}-{n}": (f"{row}{n - 1}", f"{row}{n}") for n in range(1, many // 2)}
    drawing = Drawing.model_validate(
        {
            "points": {k: {"x": x + r.uniform(-2, 2), "y": y + r.uniform(-2, 2)} for k, (x, y) in true.items()},
            "curves": {k: {"kind": "line", "a": a, "b": b} for k, (a, b) in ends.items()},
            "relations": {k: {"kind": "distance", "of": [k], "order": n, "entry": {"text": "1"}} for n, k in enumerate(ends)},
        }
    )
    return drawing, {k: math.dist(true[a], true[b]) for k, (a, b) in ends.items()}


def drawing(plain: float) -> None:
    """Drawings of many points: brought to what is said of them, and led by hand from place to place."""
    for many, target in ((100, "30 ms"), (500, "300 ms")):
        made, figures = truss(many)
        ms = median_ms(lambda i, made=made, figures=figures: solve_drawing(made, figures), 5)
        row(f"a drawing of {many} points and {len(figures)} relations, solved", ms, "ms", target, f"{ms / plain:.1f} x")
        solved = solve_drawing(made, figures)
        kept = made.model_copy(update={"points": {k: DrawnPoint(x=solved.point(k)[0], y=solved.point(k)[1]) for k in made.points}})
        x, y = solved.point("b5")

        def led(i: int, kept=kept, figures=figures, x=x, y=y) -> None:
            solve_drawing(kept, figures, pulled={"b5": (x + 3 + i, y + 2)}, rough=True)

        ms = median_ms(led, 5)
        row("the same, led by hand by some mm", ms, "ms", target, f"{ms / plain:.1f} x")


def strip(shapes: list[Shape], width: float, seconds: float) -> tuple[float, float]:
    """Length used and seconds taken on a roll."""
    task = Task(tuple(shapes), NestSheet(math.inf, width), seconds=seconds)
    start = time.perf_counter()
    layout = nest(task)
    taken = time.perf_counter() - start
    assert not layout_faults(task, layout)
    return layout.sheets[0].used_length, taken


def nesting() -> None:
    """Forty parts of the brood box; rectangles against rectpack, shapes against the packing solver."""
    built = build(brood_box())
    parts = list(built.flats.values())
    shapes = [Shape(p.path, p.flat.pieces[0], 1 if SHORT else 5 if i < 4 else 4, allowed_turns("90")) for i, p in enumerate(parts)]
    task = Task(tuple(shapes), NestSheet(1220, 610), 3, 5, seconds=0.2 if SHORT else 1)
    start = time.perf_counter()
    layout = nest(task)
    taken = time.perf_counter() - start
    assert not layout_faults(task, layout)
    row(f"{sum(s.quantity for s in shapes)} parts on {len(layout.sheets)} sheets, {layout.share:.0%} used", taken, "s", "< 3 s")

    sizes = [(40 + 13 * i % 57, 25 + 29 * i % 71) for i in range(40)]
    packer = rectpack.newPacker(rotation=True, pack_algo=rectpack.MaxRectsBssf)
    for w, h in sizes:
        packer.add_rect(w, h)
    packer.add_bin(100_000, 200)
    packer.pack()
    theirs = max(r.x + r.width for r in packer[0])
    ours, taken = strip(
        [Shape(str(i), Region(rectangle(0, 0, w, h)), 1, allowed_turns("90")) for i, (w, h) in enumerate(sizes)], 200, SHARE * SECONDS / 3
    )
    row(f"forty rectangles on a strip, {taken:.1f} s", ours, "mm", "", f"{ours / theirs:.3f} x the length rectpack needs")

    outlines = {
        "ell": [(0, 0), (60, 0), (60, 20), (20, 20), (20, 50), (0, 50)],
        "tee": [(0, 30), (22, 30), (22, 0), (38, 0), (38, 30), (60, 30), (60, 45), (0, 45)],
        "wedge": [(0, 0), (70, 0), (10, 40)],
        "hex": [(15, 0), (45, 0), (60, 26), (45, 52), (15, 52), (0, 26)],
    }
    items = [spyrrow.Item(name, points, demand=6, allowed_orientations=[0, 90, 180, 270]) for name, points in outlines.items()]
    solution = spyrrow.StripPackingInstance("strip", strip_height=200, items=items).solve(
        spyrrow.StripPackingConfig(early_termination=False, total_computation_time=SECONDS, seed=1)
    )
    ours, taken = strip([Shape(n, Region(polygon(p)), 6, allowed_turns("90")) for n, p in outlines.items()], 200, SHARE * SECONDS)
    row(
        f"24 shapes on a strip, {taken:.1f} s",
        ours,
        "mm",
        "",
        f"{ours / solution.width:.3f} x the length the packing solver needs in {SECONDS} s",
    )


def main() -> None:
    """Prints the table, line by line."""
    plain = reference()
    row("reference: a plain Shapely boolean of one panel", plain, "ms", "")
    building(plain)
    heavy(plain)
    reading()
    layout(plain)
    fastening()
    folding(plain)
    unfolding(plain)
    bending(plain)
    framing(plain)
    cutting(plain)
    moving(plain)
    drawing_papers(plain)
    drawing(plain)
    nesting()
    row("memory, greatest", resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024, "MiB", "")


if __name__ == "__main__":
    main()
