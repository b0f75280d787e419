"""The reader of programs: what it understands, what it refuses with its line, what it finds wrong."""

from __future__ import annotations

import math

import pytest

from zygon.program.looked_through import look_through
from zygon.program.read import ProgramError, read_program
from zygon.program.timed import Machine

MACHINE = Machine(300.0, 2000.0, (1300.0, 900.0))


@pytest.mark.parametrize(
    ("line", "code"),
    [
        ("G33 X1", "G33"),
        ("G2 X1 Y1 R5 F100", "R"),
        ("X10 hello", "hello"),
        ("G1 X1 F0", "F"),
        ("G1 X1 F-5", "F"),
        ("G1 G0 X1", "G0"),
        ("G1 X1 X2 F100", "X"),
        ("G91", "G91"),
        ("M98 P2", "M98"),
        ("G4", "G4"),
        ("G4 P-1", "G4"),
        ("#1=5", "#1=5"),
        ("G2 X1 Y1 F100", "G2"),
        ("X5", ""),
        ("G1 X5", "G1"),
        ("G28 X0", "G28"),
        (f"G0 X{'9' * 400}", "X"),
    ],
)
def test_what_it_does_not_understand_is_said_with_its_line(line, code):
    with pytest.raises(ProgramError) as said:
        read_program(f"G21\n(a comment)\n{line}\n")
    assert said.value.message.startswith("Line 3: ") and said.value.line == 3
    assert said.value.value == code or code in said.value.message


def test_modes_hold_until_they_change():
    program = read_program("G21 G90\nG1 X10 F600\nY5\nG0 X0\nG20\nG1 X1 F60\nM30\nG1 X99")
    assert [(m.kind, m.q[:2]) for m in program.moves] == [
        ("line", (10.0, 0.0)),
        ("line", (10.0, 5.0)),
        ("rapid", (0.0, 5.0)),
        ("line", (25.4, 5.0)),
    ]
    assert [m.feed for m in program.moves] == pytest.approx([10.0, 10.0, 0.0, 25.4])
    assert program.ended and [m.line for m in program.moves] == [2, 3, 4, 6]


def test_arcs_both_ways_and_whole_circles():
    """From (10, 0) about the origin to (0, 10): a quarter counter-clockwise, three quarters clockwise."""
    ccw = read_program("G1 X10 F600\nG3 X0 Y10 I-10 J0").moves[-1]
    cw = read_program("G1 X10 F600\nG2 X0 Y10 I-10 J0").moves[-1]
    ring = read_program("G1 X10 F600\nG2 I-10 J0").moves[-1]
    assert (ccw.sweep, cw.sweep, ring.sweep) == pytest.approx((math.pi / 2, -1.5 * math.pi, -2 * math.pi))
    assert (ccw.length, cw.length, ring.length) == pytest.approx((5 * math.pi, 15 * math.pi, 20 * math.pi))


def faults(text: str) -> tuple[str, ...]:
    return look_through(read_program(text), MACHINE).faults


def test_what_is_wrong_with_a_program_is_said_with_its_line():
    assert faults("G0 X5\nM30") == ()
    assert "M30 is missing" in faults("G0 X5")[0]
    assert "Line 2" in faults("M3\nG0 X50\nM5\nM30")[0] and "through material" in faults("M3\nG0 X50\nM5\nM30")[0]
    assert "ends with the beam" in faults("M3\nG1 X5 F60\nM30")[0]
    assert "does not close" in faults("G1 X10 F600\nG3 X0 Y10.01 I-10 J0\nM30")[0]
    assert faults("G1 X10 F600\nG3 X0 Y10.001 I-10 J0\nM30") == ()
    assert "leaves the bed of 1300 × 900 mm" in faults("G0 X1300.1\nM30")[0]
    assert "leaves the bed" in faults("G0 Y-0.1\nM30")[0]


def test_an_arc_that_bulges_over_the_bed_leaves_it():
    """Its ends lie on the bed, its middle does not: (0, 0) to (20, 0) about (10, 0), clockwise over the top or counter-clockwise below."""
    assert faults("G0 X0 Y0\nG2 X20 Y0 I10 J0 F600\nM30") == ()
    assert "leaves the bed" in faults("G0 X0 Y0\nG3 X20 Y0 I10 J0 F600\nM30")[0]


def test_what_is_cut_and_what_is_not():
    looked = look_through(read_program("G0 X10\nM3\nG1 X20 F600\nM5\nG1 X30\nG0 X0\nM30"), MACHINE)
    assert (looked.cut, looked.rapid, looked.pierces) == (10.0, 40.0, 1)
    assert looked.extents == (0.0, 0.0, 30.0, 0.0)
    assert list(looked.starts) == sorted(looked.starts)


def test_waits_may_be_milliseconds():
    assert read_program("G4 P250", wait_in="ms").moves[0].wait == 0.25
