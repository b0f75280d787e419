"""The command line's tubes and rods: figures, files, and what is refused."""

import json
import math

import ezdxf
import pytest

from zygon.cli import main
from zygon.making.tube.cope import Cope
from zygon.making.tube.unrolled import COLLAR


def run(capsys, *arguments):
    code = main([str(a) for a in arguments])
    out, err = capsys.readouterr()
    return code, out, err


def test_a_cope_is_told_all_round_and_its_template_written(capsys, tmp_path):
    file = tmp_path / "to" / "cope.dxf"
    asked = ("cope", "--main", 60.3, "--branch", 42.4, "--angle", 60, "--offset", 3, "--wall", 2)
    code, out, _ = run(capsys, *asked, "--json", "--out", file)
    told = json.loads(out)
    cope = Cope(60.3, 42.4, 60, 3, 2)
    assert code == 0 and told["unit"] == "mm" and [p for p, _ in told["points"]] == list(range(0, 361, 5))
    assert all(length == pytest.approx(cope.length(phi), abs=1e-6) for phi, length in told["points"])
    outline = next(e for e in ezdxf.readfile(file).modelspace() if e.dxftype() == "LWPOLYLINE")
    corners = outline.get_points("xy")
    assert max(x for x, _ in corners) == pytest.approx(math.pi * 42.4) and outline.closed
    lengths = [cope.length(k / 4) for k in range(1440)]
    assert max(y for _, y in corners) == pytest.approx(max(lengths) - min(lengths) + COLLAR, abs=0.2)  # corners alone
    code, out, _ = run(capsys, *asked)
    lines = out.splitlines()
    assert code == 0 and len(lines) == 74 and f"{cope.length(90):.3f} mm" in next(line for line in lines if " 90 deg" in line)


def test_a_rod_is_told_bend_by_bend(capsys):
    code, out, _ = run(capsys, "rod", "--diameter", 8, "--radius", 16, "--points", "0,0,0 120,0,0 120,80,0", "--json")
    told = json.loads(out)
    assert code == 0 and told["length"] == pytest.approx(193.133, abs=5e-4) and told["rows"] == [{"feed": 104.0, "turn": 0.0, "bend": 90.0}]
    assert told["end"] == 64.0
    code, out, _ = run(capsys, "rod", "--diameter", 8, "--radius", 16, "--points", "-9,0,0 120,0,0 120,80,0 120,80,-70")
    assert code == 0 and "-90.00 deg" in out and "then" in out and out.count(" mm") == 6


@pytest.mark.parametrize(
    "arguments, words",
    [
        (("cope", "--main", "40", "--branch", "42.4", "--angle", "60"), "branch: 42.4"),
        (("cope", "--main", "60", "--branch", "42.4", "--angle", "60", "--offset", "9"), "offset: 9"),
        (("cope", "--main", "60", "--branch", "x", "--angle", "60"), "--branch"),
        (("rod", "--diameter", "8", "--radius", "16", "--points", "0,0,0 1,2"), "point 2, 1,2, has 2 figures"),
        (("rod", "--diameter", "8", "--radius", "16", "--points", "0,0,0 a,b,c"), "a,b,c is not a point"),
        (("rod", "--diameter", "8", "--radius", "16", "--points", "0,0,0 20,0,0 20,20,0 0,20,0"), "12.000 mm are lacking"),
        (("rod", "--diameter", "8", "--radius", "16", "--points", "0,0,inf 20,0,0"), "has 3 figures"),
    ],
)
def test_what_cannot_be_is_refused_in_a_line(capsys, arguments, words):
    code, out, err = run(capsys, *arguments)
    assert code == 2 and out == "" and words in err and err.count("\n") == 1
    code, _, err = run(capsys, *arguments, "--json")
    assert code == 2 and json.loads(err)["error"]["rule"] is not None
