"""Whatever the command line is given, it ends with 2 and one line, or does what was asked; never with a traceback."""

import json

import pytest

from zygon.cli import main
from zygon.design.examples import brood_box

NUMBERS = ["NaN", "inf", "-inf", "1e308", "1e-320", "-1", "0", "9" * 5000, "²", "", " ", "0x10", "1_000", "1,5", "\ud800", "\x00", "=1+1"]
BARS = [
    "1e308",
    "1e-9",
    "9" * 400,
    "NaN",
    "inf",
    "-5",
    "0",
    "1000:1e9",
    "1000:-1",
    "1000:2:NaN",
    "1000:2:1e308",
    "1000:2:-1",
    ":",
    "x" * 500,
    "1000:1:1:1",
    "²",
    "10 fathoms",
]
#: An option and what else its command needs.
OPTIONS = [
    *[
        (
            f"--{n}",
            [
                "bend",
                *(x for k, v in (("thickness", "2"), ("radius", "3"), ("angle", "90"), ("k", "0.4")) if k != n for x in (f"--{k}", v)),
            ],
        )
        for n in ("thickness", "radius", "angle", "k")
    ],
    *[(f"--{n}", ["nest", "--bar", "2000", "--cut", "500:2"]) for n in ("kerf", "trim")],
    *[
        (f"--{n}", ["nest", "SQUARE", "--sheet", "300x200", "--out", "OUT", "--time", "0.1"])
        for n in ("gap", "margin", "time", "seed", "workers", "turn")
    ],
    ("--roll", ["nest", "SQUARE", "--out", "OUT", "--time", "0.1"]),
]
SQUARE = '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="30mm" viewBox="0 0 40 30"><path d="M0 0 H40 V30 H0 Z"/></svg>'


@pytest.fixture
def run(tmp_path, capsys, monkeypatch):
    (tmp_path / "square.svg").write_text(SQUARE)
    monkeypatch.chdir(tmp_path)
    names = {"SQUARE": "square.svg", "OUT": "out"}

    def ran(*arguments):
        code = main([names.get(a, a) for a in arguments])
        out, err = capsys.readouterr()
        assert code in (0, 2), ascii(arguments)
        if code:
            lines = err.splitlines()
            assert len(lines) == 1 and lines[0].startswith("zygon: ") and len(lines[0]) > 20, ascii((arguments, err))
            assert not out
        return code, out, err

    return ran


@pytest.mark.parametrize(("option", "rest"), OPTIONS, ids=[f"{r[0]} {o}" for o, r in OPTIONS])
def test_odd_numbers_are_refused_or_meant(run, option, rest):
    refused = 0
    for value in NUMBERS:
        if option == "--workers" and value in ("1_000",):
            continue
        refused += run(*rest, f"{option}={value}")[0] == 2
    assert refused >= 8


@pytest.mark.parametrize("option", ["--bar", "--cut", "--sheet"])
def test_odd_lengths_are_refused_or_meant(run, option):
    rest = {
        "--bar": ["nest", "--cut", "500:2"],
        "--cut": ["nest", "--bar", "2000"],
        "--sheet": ["nest", "SQUARE", "--out", "OUT", "--time", "0.1"],
    }[option]
    for value in BARS if option != "--sheet" else [f"{v}x100" for v in BARS] + [f"100x{v}" for v in BARS] + BARS:
        run(*rest, f"{option}={value}")


@pytest.mark.parametrize("quantity", ["0", "-1", "1e9", "9" * 400, "NaN", "x", "", "1501", "²"])
def test_odd_quantities_of_a_file_are_refused(run, quantity):
    assert (
        run("nest", f"SQUARE.svg:{quantity}".replace("SQUARE.svg", "square.svg"), "--sheet", "300x200", "--out", "OUT", "--time", "0.1")[0]
        == 2
    )


def spoilt(change):
    data = brood_box().dump()
    change(data)
    return json.dumps(data)


DESIGNS = {
    "nothing": "",
    "no json": "{",
    "a list": "[]",
    "a number": "7",
    "deep": "[" * 100_000,
    "deep objects": '{"a":' * 3000 + "1" + "}" * 3000,
    "NaN": '{"schema": NaN}',
    "many digits": '{"schema": ' + "9" * 5000 + "}",
    "a newer schema": '{"schema": 99}',
    "no schema": '{"name": "x"}',
    "an infinite number": spoilt(lambda d: d["stocks"]["ply12"].update(density=float("inf"))),
    "half a character": spoilt(lambda d: d.update(name="a\ud800b")),
    "a line break": spoilt(lambda d: d["cutters"]["laser"]["layers"]["outside"].update(name="a\nb")),
    "an unknown field": spoilt(lambda d: d.update(more=1)),
    "parts that are a list": spoilt(lambda d: d.update(parts=[])),
    "a long expression": spoilt(lambda d: d["sizes"]["width"]["entry"].update(text="1+" * 5000 + "1")),
}


@pytest.mark.parametrize("name", DESIGNS)
@pytest.mark.parametrize("command", ["build", "export"])
def test_odd_designs_are_refused(run, tmp_path, name, command):
    (tmp_path / "d.json").write_bytes(DESIGNS[name].encode("utf-8", "surrogatepass"))
    more = ["--to", "dxf", "--out", "OUT"] if command == "export" else []
    assert run(command, "d.json", *more)[0] == 2
    assert not (tmp_path / "out").exists()


@pytest.mark.parametrize("content", [b"\xff\xfe\x00", b"\x00" * 1000, b"PK\x03\x04"])
@pytest.mark.parametrize("name", ["d.json", "d.dxf", "d.svg"])
def test_what_is_no_text_is_refused(run, tmp_path, content, name):
    (tmp_path / name).write_bytes(content)
    rest = ["build", name] if name.endswith("json") else ["nest", name, "--sheet", "300x200", "--out", "OUT", "--time", "0.1"]
    assert run(*rest)[0] == 2


def test_files_that_are_not_there_or_cannot_be_written(run, tmp_path):
    (tmp_path / "d.json").write_text(json.dumps(brood_box().dump()))
    (tmp_path / "taken").write_text("a file")
    assert run("build", "nowhere.json")[0] == 2
    assert run("build", ".")[0] == 2
    assert run("export", "d.json", "--to", "dxf", "--out", "taken")[0] == 2
    assert run("nest", "nowhere.svg", "--sheet", "300x200", "--out", "OUT")[0] == 2
    assert run("nest", "SQUARE", "--sheet", "300x200", "--out", "taken", "--time", "0.1")[0] == 2
