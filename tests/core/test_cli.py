"""The command line, as a script would use it."""

import json
import subprocess
import sys
from pathlib import Path

import ezdxf
import pytest

from zygon.cli import main


def run(capsys, *arguments):
    code = main([str(a) for a in arguments])
    out, err = capsys.readouterr()
    return code, out, err


@pytest.fixture
def design(tmp_path, capsys):
    code, out, _ = run(capsys, "example", "brood-box")
    assert code == 0
    path = tmp_path / "brood.json"
    path.write_text(out)
    return path


def test_build_lists_parts_joints_and_problems(design, capsys):
    code, out, _ = run(capsys, "build", design, "--json")
    data = json.loads(out)
    assert code == 0 and data["problems"] == []
    assert (len(data["parts"]), len(data["joints"])) == (9, 12)
    assert data["parts"][0] | {"length": 420.0, "width": 240.0} == data["parts"][0]
    code, out, _ = run(capsys, "build", design)
    assert "front" in out and "fit 0.08 mm" in out


@pytest.mark.parametrize(("to", "count"), [("dxf", 9), ("svg", 9), ("csv", 3)])
def test_export_writes_one_file_a_part(design, to, count, tmp_path, capsys):
    code, out, _ = run(capsys, "export", design, "--to", to, "--out", tmp_path / "o", "--kerf", "compensated", "--json")
    assert code == 0
    assert sorted(p.name for p in (tmp_path / "o").iterdir()) == json.loads(out)["files"]
    assert len(json.loads(out)["files"]) == count


def test_nest_writes_sheets_and_a_layout_that_holds(design, tmp_path, capsys):
    run(capsys, "export", design, "--to", "dxf", "--out", tmp_path / "o")
    front = next((tmp_path / "o").glob("*_front_*.dxf"))
    rest = next((tmp_path / "o").glob("*_rest_back_*.dxf"))
    code, out, _ = run(
        capsys,
        "nest",
        f"{front}:3",
        rest,
        "--sheet",
        "1220x610",
        "--gap",
        2,
        "--margin",
        4,
        "--turn",
        "90",
        "--time",
        0.3,
        "--out",
        tmp_path / "n",
        "--json",
    )
    layout = json.loads((tmp_path / "n" / "layout.json").read_text())
    assert code == 0 and json.loads(out) == layout
    assert layout["unplaced"] == [] and len(layout["sheets"]) == 1
    sheet = layout["sheets"][0]
    assert (sheet["width"], sheet["height"]) == (1220, 610)
    assert [p["source"] for p in sheet["parts"]].count(str(front)) == 3
    assert sorted(p["copy"] for p in sheet["parts"]) == [1, 1, 2, 3]

    import shapely
    from shapely import affinity

    from zygon.exchange.read import read_regions

    placed = []
    for p in sheet["parts"]:
        shape = shapely.Polygon(read_regions(Path(p["source"]))[0].outer.flatten(0.001))
        if p["mirrored"]:
            shape = affinity.scale(shape, -1, 1, origin=(0, 0))
        placed.append(affinity.translate(affinity.rotate(shape, p["angle"], origin=(0, 0)), p["x"], p["y"]))
    assert all(shapely.box(3.999, 3.999, 1216.001, 606.001).covers(s) for s in placed)
    assert min(a.distance(b) for i, a in enumerate(placed) for b in placed[i + 1 :]) >= 1.999
    assert (tmp_path / "n" / "sheet-1.dxf").exists()
    code, _, _ = run(capsys, "nest", f"{front}:2", "--roll", 600, "--time", 0.2, "--out", tmp_path / "r")
    roll = json.loads((tmp_path / "r" / "layout.json").read_text())["sheets"][0]
    assert roll["height"] == 600 and roll["used_length"] == pytest.approx(420, abs=0.01)


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["example", "boat"], "is not one of frame"),
        (["build", "missing.json"], "No such file"),
        (["nest", "missing.dxf", "--roll", "600", "--out", "o"], "cannot be read"),
        (["nest", "a.dxf", "--sheet", "12", "--out", "o"], "No such file|give length x width"),
        (["nest", "a.dxf", "--out", "o"], "required"),
        (["nest", "a.dxf", "--roll", "6", "--gap", "x", "--out", "o"], "invalid float"),
        (["fly"], "invalid choice"),
        (["export", "missing.json", "--to", "dxf"], "--out"),
    ],
)
def test_bad_input_gives_exit_code_2_and_one_clear_line(arguments, words, capsys, tmp_path, monkeypatch):
    import re

    monkeypatch.chdir(tmp_path)
    code, out, err = run(capsys, *arguments)
    assert code == 2 and out == ""
    assert len(err.strip().splitlines()) == 1 and re.search(words, err)
    code, _, err = run(capsys, *arguments, "--json")
    assert code == 2 and json.loads(err)["error"]["message"]


def test_a_broken_design_file_names_the_entry(design, capsys, tmp_path):
    data = json.loads(design.read_text())
    data["parts"]["front"]["stock"] = "oak"
    design.write_text(json.dumps(data))
    code, _, err = run(capsys, "build", design)
    assert code == 2 and "/parts/front/stock" in err and "oak" in err
    design.write_text("{")
    assert run(capsys, "build", design)[0] == 2


def test_it_is_installed_as_a_command_and_does_not_load_what_it_does_not_use():
    command = Path(sys.executable).parent / "zygon"
    assert subprocess.run([command, "--version"], capture_output=True, text=True, check=True).stdout.startswith("0.")
    code = "import sys, zygon.cli; from zygon.making.pipeline import build; print([m for m in ('django', 'trimesh', 'OCP', 'numba') if m in sys.modules])"
    assert subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout.strip() == "[]"


def test_bend_prints_allowance_setback_deduction_and_k(capsys):
    code, out, _ = run(capsys, "bend", "--thickness", 2, "--radius", 3, "--angle", 90, "--k", 0.42)
    assert code == 0 and json.loads(out) == {
        "allowance": 6.031858,
        "setback": 5.0,
        "deduction": 3.968142,
        "k": 0.42,
        "refers_to": "outer sharp",
        "unit": "mm",
    }
    # DIN 6935: s 2 r 2.5 gives v = -4.0 (from memory)
    _, out, _ = run(capsys, "bend", "--thickness", 2, "--radius", 2.5, "--angle", 90, "--rule", "din6935")
    assert round(json.loads(out)["deduction"], 1) == 4.0


@pytest.mark.parametrize(("name", "value"), [("--thickness", 0), ("--radius", -1), ("--angle", 180), ("--angle", "nan"), ("--k", 2)])
def test_bend_names_the_entry_that_cannot_be(capsys, name, value):
    given = {"--thickness": 2, "--radius": 3, "--angle": 90, "--k": 0.4, name: value}
    code, _, err = run(capsys, "bend", *(x for pair in given.items() for x in pair))
    assert code == 2 and err.startswith(f"zygon: {name}") and len(err.splitlines()) == 1


def test_nest_uses_offcuts_and_single_sheets_first_and_takes_the_cheaper_kind(tmp_path, capsys):
    plate, corner = ezdxf.new(units=4), ezdxf.new(units=4)  # millimetres
    plate.modelspace().add_lwpolyline([(0, 0), (90, 0), (90, 60), (0, 60)], close=True)
    corner.modelspace().add_lwpolyline([(50, 50), (250, 50), (250, 120), (150, 120), (150, 200), (50, 200)], close=True)
    for doc, name in ((plate, "plate.dxf"), (corner, "corner.dxf")):
        doc.saveas(tmp_path / name)
    asked = ["nest", f"{tmp_path / 'plate.dxf'}:9", "--offcut", tmp_path / "corner.dxf", "--sheet", "200x100:1", "--gap", 1, "--time", 0.5]
    code, out, _ = run(capsys, *asked, "--sheet", "400x200:0:8", "--sheet", "300x200:0:9", "--out", tmp_path / "n", "--json")
    data = json.loads(out)
    names = [s["sheet"] for s in data["sheets"]]
    assert code == 0 and names[0] == "corner.dxf" and data["unplaced"] == [] and names.count("200x100") <= 1
    # nine of 90 x 60: three on the corner, and the rest for 8.02 on the large one and the small one, not on two large ones
    assert data["cost"] <= 8.02 + 1e-9
    drawn = ezdxf.readfile(tmp_path / "n" / "sheet-1.dxf").modelspace().query("LWPOLYLINE")
    assert any(len(p) == 6 for p in drawn)  # the offcut's own outline
    code, out, _ = run(
        capsys, "nest", f"{tmp_path / 'plate.dxf'}:9", "--sheet", "200x100:2", "--time", 0.2, "--out", tmp_path / "m", "--json"
    )
    assert json.loads(out)["unplaced"] == [{"source": str(tmp_path / "plate.dxf"), "count": 5, "reason": "no sheet left"}]
    for more, says in (
        (["--turn", "7"], "--turn 7: give none, free"),
        (["--cut", "100"], "--cut goes with --bar"),
        (["--gap", "300"], "as large as a sheet"),
        (["--margins", "0", "0", "300", "300"], "greater than both margins"),
    ):
        code, _, err = run(capsys, "nest", tmp_path / "plate.dxf", "--sheet", "300x200", "--out", tmp_path / "m", *more)
        assert code == 2 and says in err
    code, out, _ = run(capsys, "nest", f"{tmp_path / 'plate.dxf'}:1000000", "--sheet", "300x200", "--out", tmp_path / "m")
    assert code == 2
    code, _, err = run(capsys, "nest", tmp_path / "plate.dxf", "--sheet", "200:100", "--out", tmp_path / "m")
    assert code == 2 and "--sheet 200:100: give length x width" in err
