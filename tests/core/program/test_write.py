"""Programs run by readers that share nothing with the writer: ours, and gcodeparser for the words. What they cut is what was drawn."""

from __future__ import annotations

import json
import math
from functools import cache

import pytest
import shapely
from gcodeparser import parse_gcode_lines

from tests.core.toolpath.sheets import SHEETS, bodies, laid, with_laser
from tests.core.toolpath.test_laser import assert_as_drawn
from zygon.check.problem import Problem
from zygon.cli import main
from zygon.cut.kerf import kerf_of
from zygon.design.document import Kept
from zygon.errors import NestError
from zygon.geometry.boolean import Region
from zygon.geometry.contour import circle, polygon, rectangle
from zygon.making.result.fault import Fault
from zygon.measure.entry import Entry
from zygon.program.of_design import machine_of, program_of
from zygon.program.of_outlines import sheet_of_outlines
from zygon.program.read import read_program
from zygon.program.timed import durations
from zygon.stock.cutter import Controller

CONTROLLERS = {
    "plain": Controller(),
    "inches": Controller(unit="in", decimals=4),
    "chords": Controller(arcs=False, chords=0.004),
    "numbered": Controller(numbered=True, decimals=4, dwell="ms", full_power=255, header="(ours)\nM8", footer="M9"),
}


def controlled(document, name: str):
    return with_laser(document, controller=CONTROLLERS[name])


def second_reading(text: str) -> list[shapely.LineString]:
    """What is cut by the words that gcodeparser finds: straight blocks and arcs about I and J, in mm."""
    found, at, on, unit = [], (0.0, 0.0), False, 1.0
    for line in parse_gcode_lines(text):
        letter, number = line.command
        p = line.params
        if letter == "G" and number in (20, 21):
            unit = 25.4 if number == 20 else 1.0
        if letter == "M" and number in (3, 5):
            on = number == 3
        if letter != "G" or number not in (0, 1, 2, 3) or not {"X", "Y"} & set(p):
            continue
        to = (p.get("X", at[0] / unit) * unit, p.get("Y", at[1] / unit) * unit)
        if on and number == 1:
            found.append(shapely.LineString([at, to]))
        if on and number in (2, 3):
            x, y = at[0] + p["I"] * unit, at[1] + p["J"] * unit
            r, start = math.dist(at, (x, y)), math.atan2(at[1] - y, at[0] - x)
            turn = math.atan2(to[1] - y, to[0] - x) - start
            sweep = turn % (2 * math.pi) if number == 3 else -(-turn % (2 * math.pi))
            n = max(2, math.ceil(abs(sweep) * 60))
            places = [(x + r * math.cos(start + sweep * k / n), y + r * math.sin(start + sweep * k / n)) for k in range(n)]
            found.append(shapely.LineString([*places, to]))
        at = to
    return found


@cache
def made(name: str, stock: str, controller: str):
    document, nest = laid(name, stock)
    return program_of(controlled(document, controller), nest, 1)


@pytest.mark.parametrize("controller", sorted(CONTROLLERS))
@pytest.mark.parametrize(("name", "stock"), SHEETS)
def test_what_a_second_reader_cuts_is_what_was_drawn(name, stock, controller):
    one = made(name, stock, controller)
    text, paths = one.text, one.paths
    marks = sum(c.operation == "mark" for c in paths.cuts)
    if marks:  # they burn nothing away: the second reader takes what is cut at full power alone
        text = without_marks(text, paths)
    swath = shapely.union_all([line.buffer(paths.kerf / 2, quad_segs=16) for line in second_reading(text)])
    pieces = list(shapely.get_parts(shapely.difference(shapely.box(0, 0, *paths.size), swath)))
    document, nest = laid(name, stock)
    for _, _, body in bodies(document, nest, 1):
        piece = next(p for p in pieces if p.contains(body.representative_point()))
        assert_as_drawn(piece, body, paths.kerf)


def without_marks(text: str, paths) -> str:
    """The program without the blocks of its marks, which come first and say so."""
    lines, kept, skipping = text.splitlines(), [], False
    for line in lines:
        if "(mark " in line:
            skipping = True
        elif "(inside " in line or "(outside " in line:
            skipping = False
        if not skipping:
            kept.append(line)
    return "\n".join(kept)


@pytest.mark.parametrize("controller", sorted(CONTROLLERS))
@pytest.mark.parametrize(("name", "stock"), SHEETS)
def test_both_readers_see_the_same_and_nothing_is_wrong(name, stock, controller):
    one = made(name, stock, controller)
    text, paths, program, looked = one.text, one.paths, one.program, one.looked
    assert one.faults == () and program.ended and not program.left_on
    assert looked.cut == pytest.approx(sum(c.length for c in paths.cuts), rel=2e-4)
    assert looked.cut == pytest.approx(sum(line.length for line in second_reading(text)), rel=2e-4)
    assert looked.pierces == sum(len(c.runs) for c in paths.cuts)
    arcs = [m for m in program.moves if m.kind == "arc"]
    assert bool(arcs) == (controller != "chords")
    for m in arcs:
        assert abs(math.dist(m.p[:2], m.centre) - math.dist(m.q[:2], m.centre)) <= 0.002


def test_speeds_powers_and_waits_are_those_of_the_stock():
    document, _ = laid("brood-box", "ply12")
    one = made("brood-box", "ply12", "numbered")
    paths, program = one.paths, one.program
    work = document.cutters[document.cutter].work["ply12"]
    cuts = [m for m in program.moves if m.on and m.kind in ("line", "arc")]
    assert {round(m.feed, 3) for m in cuts} == {round(work.cut_speed, 3), round(work.mark_speed, 3)}
    assert {(round(m.feed, 3), m.power) for m in cuts} == {(round(work.cut_speed, 3), 255.0), (round(work.mark_speed, 3), 51.0)}
    waits = [m.wait for m in program.moves if m.kind == "wait"]
    assert waits == [pytest.approx(work.pierce)] * sum(len(c.runs) for c in paths.cuts if c.operation != "mark")


def test_the_head_says_what_it_is_for():
    document, nest = laid("brood-box", "ply12")
    one = program_of(document, nest, 1, revision="7")
    text, program, looked = one.text, one.program, one.looked
    head = " / ".join(c for _, c in read_program(text).comments[:6])
    for told in (
        "Brood box, revision 7",
        "sheet 1 of",
        "1220 x 610 mm",
        "11.9 mm thick" if "11.9" in head else "mm thick",
        "kerf",
        "zero is",
        "time",
    ):
        assert told in head
    seconds = float(head.split("time ")[1].split(" s")[0])
    assert seconds == pytest.approx(looked.seconds, abs=0.6)
    assert looked.seconds == pytest.approx(sum(durations(program.moves, machine_of(document.cutters[document.cutter]))))
    assert read_program(text).moves == program.moves and "reckoned" not in text


def test_names_with_brackets_do_not_break_the_program():
    document, nest = laid("brood-box", "ply6")
    odd = document.model_copy(update={"name": "Box (the second) G0 X9999\nM30"})
    one = program_of(odd, nest, 1)
    text, program = one.text, one.program
    assert one.faults == ()
    assert program.moves and program.ended
    assert read_program(text).moves == program.moves


def test_a_stock_without_speeds_is_refused_and_says_where_to_give_them():
    document, nest = laid("brood-box", "ply6")
    cutter = document.cutters[document.cutter].model_copy(update={"work": {}})
    bare = document.model_copy(update={"cutters": {document.cutter: cutter}})
    with pytest.raises(NestError) as said:
        program_of(bare, nest, 1)
    assert said.value.code == "no_speeds" and "Birch plywood 6 mm" in said.value.message


def test_a_bed_that_is_too_small_is_said():
    document, nest = laid("brood-box", "ply12")
    one = program_of(with_laser(document, bed_length=Entry(text="500 mm")), nest, 1)
    assert any("leaves the bed of 500 ×" in f for f in one.faults)
    with pytest.raises(NestError) as said:
        one.leave()
    assert said.value.code == "program_faults" and "leaves the bed" in said.value.message
    assert said.value.message.endswith(": smaller sheets in Sizes, Stock, or another cutter would do")


def test_a_bit_that_goes_past_the_sheet_s_edge_off_the_bed_is_said_with_the_margin_that_helps():
    document, _ = laid("brood-box", "ply6")
    document = document.model_copy(update={"cutter": "router"})
    for margin, so in ((1.0, True), (10.0, False)):
        region = Region(rectangle(margin, margin, 200, 200).wound(ccw=True), ())
        faults = program_of(document, sheet_of_outlines("ply6", [region], 6.0, (400, 400)), 1).faults
        assert any("leaves the bed" in f and f.endswith("a wider margin in Nest would do") for f in faults) == so


@pytest.mark.parametrize(
    ("lines", "said"),
    [
        ({"header": "M30"}, "0 mm are cut"),
        ({"footer": "M3\nG1 X900 Y400 F600\nM5"}, "were drawn"),
        ({"header": "M3"}, "through material"),
        ({"header": "G91"}, "G91 is not understood"),
        ({"footer": "(open"}, "no word of a program"),
        ({"header": "G0 X5000"}, "leaves the bed of 1300 × 1250 mm, at X5000.0 Y0.0"),
        ({"header": "M8", "footer": "M9"}, ""),
    ],
)
def test_a_controller_s_own_lines_do_not_change_what_is_cut(lines, said):
    document, nest = laid("brood-box", "ply6")
    odd = with_laser(document, controller=Controller(**lines))
    try:
        told = " / ".join(program_of(odd, nest, 1).faults)
    except NestError as error:
        assert error.code == "controller_lines" and "controller, lines before or after" in error.message
        told = error.message
    assert (said in told if said else told == "") and "would do" not in told


def test_problems_of_what_lies_on_the_sheet_keep_its_program_here_unless_they_are_kept():
    document, nest = laid("brood-box", "ply6")
    on = nest.plan.parts[nest.layout.sheets[0].placements[0].shape]

    def told(part: str, severity: str = "error", kept: bool = False) -> tuple[str, ...]:
        fault = Fault("thin_web", "A web is 0.1 mm wide", "at least 5.9 mm", part=part, severity=severity)
        why = Kept(reason="it holds", by="Ilse", value="", rule="") if kept else None
        return program_of(document, nest, 1, [Problem("one", fault, why)]).faults

    assert told(on) == ("A web is 0.1 mm wide",)
    assert told("front") == told(on, "warning") == told(on, kept=True) == ()


@pytest.mark.parametrize(
    ("entry", "so"),
    [
        ("/nest/gap", True),
        ("/nest/margin", True),
        ("/stocks/ply6/thickness", True),
        ("/stocks/ply12/thickness", False),
        ("/cutters/laser/kerf", True),
        ("/cutters/router/kerf", False),
        ("/sizes/width", False),
    ],
)
def test_problems_of_how_it_is_laid_out_of_its_stock_and_its_cutter_keep_it_here_too(entry, so):
    document, nest = laid("brood-box", "ply6")
    fault = Fault("any", "Something is wrong", "right", entry=entry)
    assert bool(program_of(document, nest, 1, [Problem("one", fault)]).faults) == so


@pytest.mark.parametrize("gap", [0.0, 0.05, 0.15, 0.18, 0.3])
def test_neighbours_nearer_than_the_cut_are_never_cut_as_if_they_were_not(gap):
    """Side by side, above one another, and one in a hole of the other."""
    document, _ = laid("brood-box", "ply6")
    kerf = kerf_of(document, "ply6")
    assert kerf == 0.18
    hole = Region(rectangle(150, 150, 250, 250).wound(ccw=True), (rectangle(170, 170, 230, 230).wound(ccw=False),))
    for other in (
        rectangle(150 - gap - 30, 160, 150 - gap, 190),
        rectangle(160, 250 + gap, 200, 290 + gap),
        rectangle(170 + gap, 200 - 5, 200, 200 + 5),
    ):
        sheet = sheet_of_outlines("ply6", [hole, Region(other.wound(ccw=True), ())], 6.0, (400, 400))
        one = program_of(document, sheet, 1)
        assert any("lie nearer than the cut is wide, 0.18 mm" in f for f in one.faults) == (gap < kerf)


@pytest.mark.parametrize("controller", [Controller(arcs=False, chords=c) for c in (0.001, 0.01, 0.1)] + [Controller(unit="in", decimals=3)])
@pytest.mark.parametrize("across", [0.8, 1.3, 3.0, 12.0])
def test_small_holes_as_chords_or_rounded_are_no_fault_of_the_controller_s_lines(across, controller):
    document, _ = laid("brood-box", "ply6")
    holes = (
        tuple(circle(20 + 10 * i, 20 + 10 * j, across / 2).wound(ccw=False) for i in range(8) for j in range(8))
        if across < 9
        else (circle(50, 50, across / 2).wound(ccw=False),)
    )
    sheet = sheet_of_outlines("ply6", [Region(rectangle(10, 10, 100, 100).wound(ccw=True), holes)], 6.0, (400, 400))
    for cutter in ("laser", "router"):
        own = document.cutters[cutter].model_copy(update={"controller": controller})
        one = program_of(document.model_copy(update={"cutter": cutter, "cutters": {**document.cutters, cutter: own}}), sheet, 1)
        assert not [f for f in one.faults if "were drawn" in f]


def test_holes_and_slots_just_as_wide_as_the_cut_are_a_point_and_a_line():
    document, _ = laid("brood-box", "ply6")
    kerf = kerf_of(document, "ply6")
    inner = (circle(50, 50, kerf / 2).wound(ccw=False), rectangle(60, 60, 60 + kerf, 80).wound(ccw=False))
    one = program_of(document, sheet_of_outlines("ply6", [Region(rectangle(20, 20, 100, 100).wound(ccw=True), inner)], 6.0, (300, 300)), 1)
    assert one.faults == () and sorted(len(c.runs[0].points) for c in one.paths.cuts if c.operation == "inside") == [1, 2]


def test_an_outline_s_narrow_place_is_not_given_the_width_of_the_whole():
    document, _ = laid("brood-box", "ply6")
    notched = polygon([(20, 20), (80, 20), (80, 80), (50.05, 80), (50.05, 50), (50, 50), (50, 80), (20, 80)]).wound(ccw=True)
    slotted = Region(rectangle(120, 20, 180, 80).wound(ccw=True), (rectangle(150, 30, 150.05, 60).wound(ccw=False),))
    one = program_of(document, sheet_of_outlines("ply6", [Region(notched, ()), slotted], 6.0, (400, 400)), 1)
    assert [f for f in one.faults if "narrower" in f] == [
        "outline 1 has a place narrower than the kerf: it cannot be cut as drawn",
        "outline 2 has a place 0.05 mm wide, narrower than the kerf: it cannot be cut as drawn",
    ]


def test_a_place_narrower_than_the_kerf_is_never_cut_as_if_it_were_not():
    document, nest = laid("electronics-box", "galv20")
    wide = with_laser(
        document, work={k: w.model_copy(update={"kerf": Entry(text="4 mm")}) for k, w in document.cutters[document.cutter].work.items()}
    )
    one = program_of(wide, nest, 1)
    assert any("narrower than the kerf" in f for f in one.faults)
    with pytest.raises(NestError):
        one.leave()


def test_the_command_line_writes_a_program_and_looks_it_through(tmp_path, capsys):
    main(["example", "brood-box"])
    (tmp_path / "box.json").write_text(capsys.readouterr().out)
    out = tmp_path / "a.nc"
    assert main(["program", str(tmp_path / "box.json"), "--stock", "ply6", "--nest", "0.5", "--out", str(out), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert main(["simulate", str(out), "--bed", "1300x900"]) == 0
    again = json.loads(capsys.readouterr().out)
    assert again["faults"] == [] and again["cut_mm"] == told["cut_mm"] and again["pierces"] == told["pierces"]
    box = json.loads((tmp_path / "box.json").read_text())
    box["cutters"][box["cutter"]]["bed_length"] = {"text": "300 mm", "unit": "mm"}
    (tmp_path / "small.json").write_text(json.dumps(box))
    none = tmp_path / "none.nc"
    assert main(["program", str(tmp_path / "small.json"), "--stock", "ply6", "--nest", "0.5", "--out", str(none)]) == 2
    assert "leaves the bed" in capsys.readouterr().err or not none.exists()
    assert not none.exists(), "nothing leaves while something is wrong"
    assert main(["program", str(tmp_path / "box.json"), "--out", str(none)]) == 2
    assert "ply12, ply6" in capsys.readouterr().err
    assert main(["program", str(tmp_path / "box.json"), "--stock", "ply6", "--nest", "0", "--out", str(none)]) == 2
    assert "--nest" in capsys.readouterr().err
    assert main(["simulate", str(out), "--bed", "300x200"]) == 0
    assert "leaves the bed" in json.loads(capsys.readouterr().out)["faults"][0]


@pytest.mark.parametrize(
    ("more", "said"),
    [
        (["--bed", "0x900"], "--bed"),
        (["--bed", "wide"], "--bed"),
        (["--acceleration", "0"], "--acceleration"),
        (["--rapid", "nan"], "--rapid"),
    ],
)
def test_a_machine_that_is_none_is_refused(tmp_path, capsys, more, said):
    (tmp_path / "a.nc").write_text("G21\nG0 X1\nM30\n")
    assert main(["simulate", str(tmp_path / "a.nc"), *more]) == 2
    assert said in capsys.readouterr().err


def test_a_foreign_program_is_refused_in_one_line_with_its_number(tmp_path, capsys):
    (tmp_path / "a.nc").write_text("G21\nG0 X1\nG65 P9810\n")
    assert main(["simulate", str(tmp_path / "a.nc")]) == 2
    told = capsys.readouterr().err
    assert told.count("\n") == 1 and "Line 3" in told and "G65" in told
    (tmp_path / "a.nc").write_bytes(b"\xff\xfe\x00")
    assert main(["simulate", str(tmp_path / "a.nc")]) == 2
    assert main(["program", str(tmp_path / "a.nc"), "--out", str(tmp_path / "b.nc")]) == 2
