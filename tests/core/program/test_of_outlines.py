"""Programs of sheets that are drawn, not designed: the same contours come off as of the design that the drawing came from, by beam and by bit."""

from __future__ import annotations

import json

import ezdxf
import pytest
import shapely

from tests.core.toolpath.sheets import laid
from zygon.cli import main
from zygon.errors import NestError
from zygon.exchange.bundle import sheet_files
from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, rectangle
from zygon.making.pipeline import build
from zygon.program.of_design import program_of
from zygon.program.of_outlines import sheet_of_outlines
from zygon.program.read import read_program


def drawing(tmp_path, name, stock, mode="nominal"):
    document, nest = laid(name, stock)
    text = next(iter(sheet_files(build(document), nest, "dxf", mode).values()))
    path = tmp_path / "sheet.dxf"
    path.write_text(text, encoding="utf-8")
    return document, nest, path


@pytest.mark.parametrize(("name", "stock"), [("brood-box", "ply12"), ("electronics-box", "galv20")])
def test_a_drawn_sheet_is_cut_as_the_design_s_is(tmp_path, capsys, name, stock):
    document, nest, path = drawing(tmp_path, name, stock)
    own = tmp_path / "design.json"
    own.write_text(json.dumps(document.dump()), encoding="utf-8")
    size = nest.layout.sheets[0].sheet
    args = ["program", str(path), "--like", str(own), "--stock", stock, "--size", f"{size.length:g}x{size.width:g}"]
    assert main([*args, "--out", str(tmp_path / "a.nc"), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    wanted = program_of(document, nest, 1)
    kinds = [c.operation for c in wanted.paths.cuts]
    cuts = [line[1:].split()[0] for line in (tmp_path / "a.nc").read_text().splitlines() if line.startswith(("(inside", "(outside"))]
    assert sorted(cuts) == sorted(k for k in kinds if k != "mark")
    done = shapely.union_all(
        [shapely.LineString([m.p[:2], m.q[:2]]) for m in read_program((tmp_path / "a.nc").read_text()).moves if m.kind == "line" and m.on]
    )
    for c in wanted.paths.cuts:
        if c.operation == "mark":
            continue
        ring = shapely.LineString(c.runs[0].flatten(0.005))
        straight = [shapely.LineString(p) for p in zip(ring.coords, ring.coords[1:], strict=False) if shapely.LineString(p).length > 8]
        # leads may begin elsewhere, the sides lie where they lie
        assert all(done.buffer(0.02).covers(s.interpolate(0.5, normalized=True)) for s in straight)
    assert any("MARK" in s for s in told["said"]) == ("mark" in kinds)


def test_a_drawing_that_is_compensated_or_reaches_over_the_sheet_is_refused(tmp_path, capsys):
    _, _, path = drawing(tmp_path, "brood-box", "ply12", mode="compensated")
    out = tmp_path / "a.nc"
    assert main(["program", str(path), "--stock", "ply12", "--out", str(out)]) == 2
    assert "give the nominal drawing" in capsys.readouterr().err
    _, _, path = drawing(tmp_path, "brood-box", "ply12")
    for more, said in (
        (["--size", "300x300"], "over a sheet of 300 × 300 mm"),
        (["--size", "big"], "--size big: give length x width"),
        (["--cutter", "saw"], "runs no programs"),
        (["--cutter", "axe"], "--cutter has to be one of"),
    ):
        assert main(["program", str(path), "--stock", "ply12", *more, "--out", str(out)]) == 2
        assert said in capsys.readouterr().err
    assert main(["program", str(path), "--out", str(out)]) == 2
    assert "--stock has to be one of" in capsys.readouterr().err
    assert not out.exists()


def test_a_router_mills_what_is_drawn_and_says_what_it_cannot(tmp_path, capsys):
    document, _ = laid("inner-cover", "ply12")
    region = Region(rectangle(20, 20, 220, 120).wound(ccw=True), (circle(70, 70, 20).wound(ccw=False),))
    nest = sheet_of_outlines("ply12", [region], 11.8, (400, 300))
    made = program_of(document.model_copy(update={"cutter": "router"}), nest, 1)
    assert not made.faults and {c.operation for c in made.paths.cuts} == {"inside", "outside"}
    # a slot as wide as the finer bit is cut by it; one that is narrower than every bit is said
    for wide, gets_in in ((3, True), (2.9, False)):
        slot = Region(rectangle(20, 20, 220, 120).wound(ccw=True), (rectangle(50, 50, 50 + wide, 90).wound(ccw=False),))
        said = program_of(document.model_copy(update={"cutter": "router"}), sheet_of_outlines("ply12", [slot], 11.8, (400, 300)), 1)
        assert bool(said.faults or said.paths.faults) is not gets_in
        assert ("inside" in {cut.operation for cut in said.paths.cuts}) is gets_in


def test_nothing_drawn_is_said():
    with pytest.raises(NestError, match="nothing to cut"):
        sheet_of_outlines("ply12", [], 12.0)


@pytest.mark.parametrize("layer", ["DEPTH-A-6", "DRILL", "BEND_UP", "MARK", "NOTE", "CUT_INSIDE", "0"])
def test_only_what_is_cut_through_is_in_the_program(tmp_path, capsys, layer):
    drawn = ezdxf.new()
    drawn.units = ezdxf.units.MM
    space = drawn.modelspace()
    space.add_lwpolyline([(10, 10), (110, 10), (110, 90), (10, 90)], close=True, dxfattribs={"layer": "CUT_OUTSIDE"})
    space.add_circle((60, 50), 15, dxfattribs={"layer": layer})
    drawn.saveas(tmp_path / "a.dxf")
    assert main(["program", str(tmp_path / "a.dxf"), "--stock", "ply6", "--out", str(tmp_path / "a.nc"), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    cut = layer in ("CUT_INSIDE", "0")
    assert told["cuts"] == (2 if cut else 1) and any(layer in s for s in told["said"]) != cut
