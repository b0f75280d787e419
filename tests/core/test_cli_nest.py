"""The command line's nesting: what it asks of the engine, what it refuses by name, and every figure of what it writes."""

import json
import math
from dataclasses import replace

import ezdxf
import pytest
from ezdxf import bbox

from zygon import cli_nest
from zygon.cli import main
from zygon.design.draft import Draft
from zygon.errors import DocumentError, ExpressionError, ImportFileError, NestError, PatchError, StoppedError, ZygonError
from zygon.nest import engine
from zygon.nest.bottom_left import first_layout
from zygon.nest.task import Layout, Placement, SheetLayout

#: An ell of 60 x 40 with a hole, and a strip.
ELL = '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40"><path d="M0 0H60V15H20V40H0Z"/><circle cx="10" cy="10" r="4"/></svg>'
STRIP = '<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="20mm" viewBox="0 0 90 20"><rect width="90" height="20"/></svg>'
TWO = '<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="20mm" viewBox="0 0 90 20"><rect width="30" height="20"/><rect x="50" width="30" height="20"/></svg>'


@pytest.fixture
def files(tmp_path):
    for name, text in (("ell", ELL), ("strip", STRIP), ("two", TWO)):
        (tmp_path / f"{name}.svg").write_text(text)
    return tmp_path


@pytest.fixture
def asked(monkeypatch):
    """The tasks that the engine is asked; each is answered with its first layout."""
    tasks = []

    def nest(task):
        tasks.append(task)
        return first_layout(task)

    monkeypatch.setattr(engine, "nest", nest)
    return tasks


def run(capsys, *arguments):
    code = main(["nest", *(str(a) for a in arguments)])
    out, err = capsys.readouterr()
    return code, out, err


def test_everything_that_is_said_is_asked_of_the_engine(files, asked, capsys):
    code, out, _ = run(
        capsys,
        files / "ell.svg:3",
        files / "strip.svg",
        "--sheet",
        "300x200:2:7.5",
        "--sheet",
        "150X110",
        "--offcut",
        files / "strip.svg",
        "--gap",
        2.5,
        "--margins",
        1,
        2,
        3,
        4,
        "--turn",
        "90",
        "--mirror",
        "--time",
        3,
        "--seed",
        9,
        "--workers",
        2,
        "--out",
        files / "o",
        "--json",
    )
    assert code == 0, out
    (task,) = asked
    assert [(s.name, s.quantity, len(s.region.inner), s.mirror, s.free) for s in task.shapes] == [
        (str(files / "ell.svg"), 3, 1, True, False),
        (str(files / "strip.svg"), 1, 0, True, False),
    ]
    assert [round(math.degrees(t)) for t in task.shapes[0].turns] == [0, 90, 180, 270]
    assert [(k.length, k.width, k.name, k.price, k.count) for k in task.kinds] == [
        (300, 200, "300x200", 7.5, 2),
        (150, 110, "150x110", pytest.approx(0.0165), None),
    ]
    assert [(round(s.length, 6), round(s.width, 6), s.name, s.price) for s in task.stock] == [(90, 20, "strip.svg", 0.0)]
    assert (task.gap, task.edges, task.seed, task.seconds, task.workers, task.max_sheets) == (2.5, (1, 2, 3, 4), 9, 3.0, 2, 200)
    run(capsys, files / "ell.svg", "--roll", "250", "--margin", 6, "--turn", "free", "--out", files / "o")
    task = asked[-1]
    assert [(k.length, k.width, k.name, k.roll) for k in task.kinds] == [(math.inf, 250, "roll 250", True)] and task.edges == (6,) * 4
    assert (
        task.shapes[0].free
        and not task.shapes[0].mirror
        and (task.seed, task.seconds, task.workers, task.gap) == (1, 10.0, engine.cores(), 0.0)
    )


def test_what_is_written_lies_as_the_layout_says(files, capsys, monkeypatch):
    def nest(task):
        placed = (Placement(0, 0, 100.0, 50.0, math.pi / 2, True), Placement(1, 1, 5.0, 150.0, 0.0))
        return Layout(
            (SheetLayout(task.sheet, placed, 104.0), SheetLayout(task.others[0], (Placement(1, 0, 2.0, 3.0, math.pi / 2),), 23.0)),
            {0: 1, 1: 3},
            0.25,
        )

    monkeypatch.setattr(engine, "nest", nest)
    monkeypatch.setattr("zygon.nest.legal.layout_faults", lambda task, layout: [])
    arguments = (
        files / "ell.svg:2",
        files / "strip.svg:5",
        "--sheet",
        "300x200:2:7.5",
        "--sheet",
        "25x95::1",
        "--mirror",
        "--turn",
        "90",
        "--out",
        files / "o",
    )
    code, out, _ = run(capsys, *arguments, "--json")
    assert code == 2  # ':' without a quantity
    arguments = tuple("25x95:4:1" if a == "25x95::1" else a for a in arguments)
    code, out, _ = run(capsys, *arguments, "--json")
    data = json.loads(out)
    assert code == 0 and data == json.loads((files / "o" / "layout.json").read_text())
    assert (data["yield"], data["cost"]) == (0.25, 8.5)
    one, two = data["sheets"]
    assert (one["width"], one["height"], one["used_length"], one["sheet"]) == (300, 200, 104.0, "300x200")
    assert one["parts"] == [
        {"source": str(files / "ell.svg"), "copy": 1, "x": 100.0, "y": 50.0, "angle": pytest.approx(90), "mirrored": True},
        {"source": str(files / "strip.svg"), "copy": 2, "x": 5.0, "y": 150.0, "angle": 0.0, "mirrored": False},
    ]
    assert (two["width"], two["height"], len(two["parts"])) == (25, 95, 1)
    assert [(u["source"], u["count"]) for u in data["unplaced"]] == [(str(files / "ell.svg"), 1), (str(files / "strip.svg"), 3)]
    assert all(u["reason"] == "no sheet left" for u in data["unplaced"])
    drawn = [ezdxf.readfile(files / "o" / f"sheet-{n}.dxf") for n in (1, 2)]
    layers = [sorted(e.dxf.layer for e in d.modelspace()) for d in drawn]
    assert layers == [["CUT_INSIDE", "CUT_OUTSIDE", "CUT_OUTSIDE", "NOTE", "NOTE", "NOTE"], ["CUT_OUTSIDE", "NOTE", "NOTE", "NOTE"]]

    def reach(d, layer):
        found = bbox.extents(d.modelspace().query(f'LWPOLYLINE[layer=="{layer}"]'))
        return [found.extmin.x, found.extmin.y, found.extmax.x, found.extmax.y]

    # the ell, turned over and round, and the strip; the frame is the sheet's own
    # a drawing's y runs down, so that both lie below their origins; the ell is turned over, and round
    assert reach(drawn[0], "CUT_OUTSIDE") == pytest.approx([5, -10, 140, 150], abs=1e-6)
    assert reach(drawn[1], "CUT_OUTSIDE") == pytest.approx([2, 3, 22, 93], abs=1e-6)
    assert [reach(d, "NOTE") for d in drawn] == [pytest.approx([0, 0, 300, 200]), pytest.approx([0, 0, 25, 95])]
    code, out, _ = run(capsys, *arguments)
    assert out == f"2 sheets, 25.0% used, 4 left over; {files / 'o' / 'layout.json'}\n"


def test_a_layout_that_breaks_its_rules_is_never_written(files, capsys, monkeypatch):
    monkeypatch.setattr(engine, "nest", lambda task: replace(first_layout(task), unplaced={0: 4}))
    code, _, err = run(capsys, files / "ell.svg", "--sheet", "300x200", "--out", files / "o")
    assert code == 2 and "breaks its own rules" in err and not (files / "o").exists()


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["ell.svg", "--sheet", "300x200"], "--out is missing"),
        (["--sheet", "300x200", "--out", "o"], "FILE is missing"),
        (["ell.svg", "--sheet", "300x200", "--out", "o", "--cut", "30"], "--cut goes with --bar"),
        (["ell.svg", "--sheet", "300", "--out", "o"], "--sheet 300: give length x width"),
        (["ell.svg", "--sheet", "0x200", "--out", "o"], "--sheet 0x200"),
        (["ell.svg", "--sheet", "300x0", "--out", "o"], "--sheet 300x0"),
        (["ell.svg", "--sheet", "300x200:201", "--out", "o"], "at most 200 of a kind"),
        (["ell.svg", "--roll", "x", "--out", "o"], "--roll x: give a width"),
        (["ell.svg", "--roll", "0", "--out", "o"], "--roll 0: give a width"),
        (["ell.svg", "--sheet", "300x200", "--out", "o", "--turn", "7"], "--turn 7"),
        (["ell.svg", "--sheet", "300x200", "--out", "o", "--turn", "0"], "--turn 0"),
        (["ell.svg", "--sheet", "300x200", "--out", "o", "--turn", "loose"], "--turn loose"),
        (["ell.svg:0", "--sheet", "300x200", "--out", "o"], "the quantity 0 is not at least 1"),
        (["ell.svg:-2", "--sheet", "300x200", "--out", "o"], "the quantity -2 is not at least 1"),
        (["two.svg", "--sheet", "300x200", "--out", "o"], "2 separate outlines"),
        (["ell.svg", "--sheet", "300x200", "--out", "o", "--workers", "0"], "--workers 0: 1 to 32"),
        (["ell.svg", "--sheet", "300x200", "--out", "o", "--workers", "33"], "--workers 33: 1 to 32"),
        (["--bar", "3000"], "--bar goes with --cut"),
        (["ell.svg", "--bar", "3000", "--cut", "30"], "--bar takes a design, as .json"),
        (["--bar", "3000:2:1:4", "--cut", "30"], "give LENGTH[:QTY[:PRICE]]"),
        (["--bar", "3000:1.5", "--cut", "30"], "give LENGTH[:QTY[:PRICE]]"),
        (["--bar", "3000", "--cut", "30:1:2"], "give LENGTH[:QTY]"),
        (["--bar", "3000", "--cut", "x"], "give LENGTH[:QTY]"),
    ],
)
def test_what_makes_no_sense_is_refused_by_its_name(files, asked, capsys, monkeypatch, arguments, words):
    monkeypatch.chdir(files)
    code, _, err = run(capsys, *arguments)
    assert code == 2 and words in err and asked == [] and not (files / "o").exists()


@pytest.mark.parametrize(("turn", "count"), [("none", 1), ("180", 2), ("120", 3), ("1", 360), ("360", 1)])
def test_each_step_that_divides_a_circle_may_be_taken(files, asked, capsys, turn, count):
    assert run(capsys, files / "ell.svg", "--sheet", "300x200", "--out", files / "o", "--turn", turn)[0] == 0
    assert len(asked[0].shapes[0].turns) == count


def test_sheets_and_workers_up_to_their_limits(files, asked, capsys):
    assert run(capsys, files / "ell.svg", "--sheet", "300x200:200", "--workers", 32, "--out", files / "o")[0] == 0
    assert (asked[0].sheet.count, asked[0].workers) == (200, 32)
    assert run(capsys, files / "ell.svg", "--sheet", "300×200.5:0", "--workers", 1, "--out", files / "deep" / "o")[0] == 0
    assert (asked[1].sheet.width, asked[1].sheet.count, asked[1].workers) == (200.5, None, 1)


@pytest.mark.parametrize(("cores", "workers"), [(1, 1), (6, 6), (64, 32)])
def test_where_nothing_is_said_a_search_has_as_many_workers_as_there_are_cores(files, asked, capsys, monkeypatch, cores, workers):
    monkeypatch.setattr(engine, "cores", lambda: cores)
    assert run(capsys, files / "ell.svg", "--sheet", "300x200", "--out", files / "o")[0] == 0
    assert asked[0].workers == workers


def test_bars_have_quantities_and_prices_and_cuts_quantities(capsys):
    code, out, _ = run(capsys, "--bar", "3000:1:9", "--bar", "2010", "--cut", "1000:4", "500", "--kerf", "3", "--trim", "2")
    data = json.loads(out)
    assert code == 0 and data["missing"] == []
    pieces = {}
    for pattern in data["patterns"]:
        for cut in pattern["cuts"]:
            pieces[cut["length"]] = pieces.get(cut["length"], 0) + cut["count"] * pattern["times"]
    assert pieces == {1000.0: 4, 500.0: 1}
    # 2 x 1000 with a cut between fill 2006 of 2010; the fifth piece makes a third bar of 1.00 cheaper than the long one of 9.00
    assert (data["bars"], data["cost"], data["bound"], data["proven"]) == (3, 3.0, 2.5, False)
    assert sorted(p["rest"] for p in data["patterns"]) == pytest.approx([0.0, 500.0, 1003.0])


def test_a_design_s_lengths_are_cut_from_bars(capsys, tmp_path):
    d = Draft("rack", "steel6", "beech12")
    d.rod("long", "steel6", "x", ("0", "700 mm"), y="0", z="0").rod("short", "steel6", "x", ("0", "300 mm"), y="50 mm", z="0")
    d.data["parts"]["short"]["quantity"] = 3
    file = tmp_path / "rack.json"
    file.write_text(json.dumps(d.document().dump()))
    code, out, _ = run(capsys, file, "--bar", "1000", "--cut", "400:1")
    data = json.loads(out)
    pieces = {}
    for p in data["patterns"]:
        for c in p["cuts"]:
            pieces[c["name"], c["length"]] = pieces.get((c["name"], c["length"]), 0) + c["count"] * p["times"]
    assert code == 0 and pieces == {("long", 700.0): 1, ("short", 300.0): 3, ("", 400.0): 1} and data["bars"] == 2
    d.rod("pin", "beech12", "x", ("0", "60 mm"), y="0", z="200 mm")
    file.write_text(json.dumps(d.document().dump()))
    code, out, err = run(capsys, file, "--bar", "1000")
    assert code == 2 and out == "" and "Beech rod 12 mm, Steel rod 6 mm" in err and "--stock" in err
    code, out, _ = run(capsys, file, "--bar", "1000", "--stock", "Beech rod 12 mm")
    assert code == 0 and [c["length"] for p in json.loads(out)["patterns"] for c in p["cuts"]] == [60.0]
    for words, arguments in (
        ("--stock", (file, "--bar", "1000", "--stock", "Oak")),
        (".json", (tmp_path / "a.dxf", "--bar", "1000")),
        ("or with a design", ("--bar", "9")),
    ):
        code, _, err = run(capsys, *arguments)
        assert code == 2 and words in err


# errors


def test_every_error_has_its_code_and_all_that_is_known_of_it():
    found = {e: e("A sentence.", entry="e", value=3, rule="r") for e in (ZygonError, DocumentError, PatchError, ImportFileError, NestError)}
    assert {e.__name__: x.code for e, x in found.items()} == {
        "ZygonError": "error",
        "DocumentError": "bad_document",
        "PatchError": "bad_patch",
        "ImportFileError": found[ImportFileError].code,
        "NestError": found[NestError].code,
    }
    assert len({x.code for x in found.values()}) == 5
    for error in found.values():
        assert (
            error.as_dict() == {"code": error.code, "message": "A sentence.", "entry": "e", "value": 3, "rule": "r"}
            and str(error) == "A sentence."
        )
    assert NestError("x", code="own").code == "own" and issubclass(StoppedError, Exception)
    plain = ExpressionError("no size is called b", "a + b", 4)
    assert plain.as_dict() == {
        "code": "broken_expression",
        "message": "a + b: no size is called b",
        "entry": "a + b",
        "value": "b",
        "rule": "no size is called b",
        "start": 4,
        "end": 5,
    }
    part = ExpressionError("two ways", "4*2-1/4", 2, 5, ["4*(2-1/4)", "4*2 - 1/4"])
    assert (part.end, part.value, part.as_dict()["readings"], part.reason) == (5, "2-1", ["4*(2-1/4)", "4*2 - 1/4"], "two ways")
    assert cli_nest.MOST_SHEETS == 200
