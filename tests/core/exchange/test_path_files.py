"""Paths as drawings: read back by libraries, they are what the program runs, on the cutter's layers."""

from __future__ import annotations

import io

import ezdxf
import ezdxf.path
import pytest
from svgelements import SVG, Path

from tests.core.program.test_routed import milled
from tests.core.toolpath.sheets import laid
from zygon.cli import main
from zygon.errors import NestError
from zygon.exchange.path_files import path_lines, paths_file
from zygon.measure.entry import Entry
from zygon.program.of_design import program_of

SHEETS = [("brood-box", "ply6"), ("brood-box", "ply12"), ("hive-floor", "ply18"), ("landing-board", "ply12")]


def dxf_lengths(text: str) -> dict[str, float]:
    found: dict[str, float] = {}
    for entity in ezdxf.read(io.StringIO(text)).modelspace():
        if entity.dxftype() not in ("TEXT", "POINT"):
            own = ezdxf.path.make_path(entity)
            places = list(own.flattening(0.0005))
            found[entity.dxf.layer] = found.get(entity.dxf.layer, 0.0) + sum(
                a.distance(b) for a, b in zip(places, places[1:], strict=False)
            )
    return found


@pytest.mark.parametrize(("name", "stock"), SHEETS)
def test_a_drawing_of_the_paths_is_as_long_by_layer_as_the_paths(name, stock):
    document, nest = laid(name, stock)
    made = program_of(document, nest, 1)
    layers = document.cutters[document.cutter].layers
    wanted: dict[str, float] = {}
    for operation, run in path_lines(made.paths):
        layer = {"mark": layers.mark, "inside": layers.inside, "outside": layers.outside, "drill": layers.drill}.get(operation)
        key = layer.name if layer else f"{layers.depth.name}_A_{operation.rsplit('-', 1)[1]}MM"
        wanted[key] = wanted.get(key, 0.0) + run.length
    assert dxf_lengths(paths_file(document, made, "dxf")) == pytest.approx(wanted, rel=5e-4)
    drawn = SVG.parse(io.StringIO(paths_file(document, made, "svg")), ppi=25.4)
    shapes = [Path(e) for e in drawn.elements() if hasattr(e, "segments") or hasattr(e, "d")]
    assert sum(s.length(error=1e-4) for s in shapes) == pytest.approx(sum(wanted.values()), rel=2e-3)


def test_of_a_beam_all_that_it_cuts_is_drawn():
    document, nest = laid("brood-box", "ply6")
    made = program_of(document, nest, 1)
    assert sum(c.length for _, c in path_lines(made.paths)) == pytest.approx(made.looked.cut, rel=1e-4)


def test_of_a_bit_outlines_are_drawn_at_their_depth_and_broken_at_tabs():
    with_tabs, without = milled("landing-board", "ply12"), milled("landing-board", "ply12", "loose")
    lengths = [sum(c.length for o, c in path_lines(one.paths) if o == "outside") for one in (with_tabs, without)]
    assert lengths[1] - lengths[0] == pytest.approx(
        with_tabs_of(with_tabs) * 12.0, abs=0.5
    )  # each tab is lifted over for its own length and the bit's width


def with_tabs_of(made) -> int:
    """How many tabs a sheet's one outline has: its last passes are lifted so often."""
    (outline,) = (c for c in made.paths.cuts if c.operation == "outside")
    return sum(leg.plunge and leg.z1 > leg.z0 for dip in outline.dips for leg in dip)


def test_while_something_is_wrong_nothing_leaves():
    document, nest = laid("brood-box", "ply12")
    cutter = document.cutters[document.cutter].model_copy(update={"bed_length": Entry(text="300 mm")})
    made = program_of(document.model_copy(update={"cutters": {document.cutter: cutter}}), nest, 1)
    with pytest.raises(NestError) as said:
        paths_file(document, made, "dxf")
    assert said.value.code == "program_faults"


@pytest.mark.parametrize("to", ["dxf", "svg"])
def test_the_command_line_writes_them(tmp_path, to, capsys):
    assert main(["example", "landing-board"]) == 0
    (tmp_path / "d.json").write_text(capsys.readouterr().out)
    out = tmp_path / f"paths.{to}"
    assert main(["program", str(tmp_path / "d.json"), "--nest", "0.5", "--to", to, "--out", str(out)]) == 0
    assert ("LINE" if to == "dxf" else "<svg") in out.read_text()
