"""Allowances against the published rules, each named beside its figure."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.errors import ImportFileError
from zygon.stock.allowance import Bend, bend_by, k_of, row_k
from zygon.stock.bending import Bending, BendRow, bend_rows, read_bend_table

RIGHT = math.pi / 2


@pytest.mark.parametrize(
    ("s", "r", "v"),
    # DIN 6935, compensation at 90 degrees, rounded to a tenth as the standard's tables are (values from memory)
    [(1, 1, -1.9), (2, 2.5, -4.0), (3, 3, -5.8)],
)
def test_din_6935_compensation_at_a_right_angle(s, r, v):
    assert round(-bend_by(Bending(rule="din6935"), s, r, RIGHT).deduction, 1) == v


@pytest.mark.parametrize(
    ("ratio", "k"), [(0.01, 0.0), (0.65, 0.65 + 0.5 * math.log10(0.65)), (1, 0.65), (5, 0.65 + 0.5 * math.log10(5)), (5.01, 1.0)]
)
def test_din_6935_correction_factor(ratio, k):
    assert k_of(Bending(rule="din6935"), 1.0, ratio, RIGHT) == pytest.approx(k / 2)


@pytest.mark.parametrize(
    ("rule", "share"),
    # Machinery's Handbook, length of straight stock for a 90 degree bend (from memory)
    [("handbook-soft", 0.55), ("handbook-half-hard", 0.64), ("handbook-hard", 0.71)],
)
@given(t=st.floats(0.3, 12), r=st.floats(0, 40))
def test_handbook_allowance_at_a_right_angle(rule, share, t, r):
    assert bend_by(Bending(rule=rule), t, r, RIGHT).allowance == pytest.approx(share * t + 1.57 * r)


def test_a_k_factor_gives_the_textbook_figures():
    """A (R + K T), (R + T) tan(A/2), twice the setback less the allowance (Machinery's Handbook; geometry)."""
    bend = Bend(2.0, 3.0, RIGHT, 0.42)
    assert bend.allowance == pytest.approx(RIGHT * 3.84)
    assert bend.setback == pytest.approx(5.0)
    assert bend.deduction == pytest.approx(10 - RIGHT * 3.84)
    assert Bend(2.0, 3.0, math.radians(60), 0.42).setback == pytest.approx(5 * math.tan(math.radians(30)))


def test_over_a_right_angle_legs_run_to_the_tangent_and_say_so():
    bend = Bend(2.0, 3.0, math.radians(135), 0.4)
    assert (bend.refers_to, bend.setback) == ("tangent", pytest.approx(5.0))
    assert Bend(2.0, 3.0, RIGHT, 0.4).refers_to == "outer sharp"


ROWS = [
    BendRow(thickness=t, radius=r, angle=a, k=0.3 + 0.01 * t + 0.02 * r + 0.0005 * a) for t in (1, 2) for r in (1, 3) for a in (45, 90, 135)
]


@given(st.floats(1, 2), st.floats(1, 3), st.floats(45, 135))
def test_a_table_is_straight_between_its_rows(t, r, a):
    found = k_of(Bending(rule="table", table=ROWS), t, r, math.radians(a))
    assert found == pytest.approx(0.3 + 0.01 * t + 0.02 * r + 0.0005 * a)


@given(st.sampled_from(ROWS), st.sampled_from(["allowance", "deduction"]))
def test_a_row_says_the_same_by_k_allowance_or_deduction(row, figure):
    bend = Bend(row.thickness, row.radius, math.radians(row.angle), row.k)
    other = BendRow(thickness=row.thickness, radius=row.radius, angle=row.angle, **{figure: getattr(bend, figure)})
    assert row_k(other) == pytest.approx(row.k)


def test_beyond_its_ends_the_outermost_row_stands():
    rule = Bending(rule="table", table=ROWS)
    assert k_of(rule, 5, 9, math.radians(170)) == pytest.approx(k_of(rule, 2, 3, math.radians(135)))


def test_a_table_is_read_from_csv_and_a_wrong_line_is_named():
    rows = bend_rows("thickness,radius,angle,deduction\n1,1,90,1.9\n2, 2.5 ,90,4.0\n")
    assert [r.deduction for r in rows] == [1.9, 4.0]
    with pytest.raises(ImportFileError, match="line 3"):
        bend_rows("thickness,radius,angle,k\n1,1,90,0.4\n1,1,200,0.4\n")
    with pytest.raises(ImportFileError, match="one of k, allowance, deduction"):
        bend_rows("thickness,radius,angle\n1,1,90\n")


INCHES = [(0.036 * 25.4, 0.0625 * 25.4, 90, 0.133 * 25.4)]


@pytest.mark.parametrize(
    ("heading", "unit", "expected"),
    [
        ("thickness,radius,angle,allowance", "in", INCHES),
        ("thickness (in),radius in,angle deg,allowance_in", "mm", INCHES),
        ("Thickness [in],Radius (inch),Angle (deg),Allowance, in", "mm", None),
        ("thickness mm,radius (mm),angle,allowance_mm", "in", [(0.036, 0.0625, 90, 0.133)]),
        ("thickness in,radius,angle,allowance", "mm", [(0.036 * 25.4, 0.0625, 90, 0.133)]),
        ("thickness,radius,angle,allowance", "mm", [(0.036, 0.0625, 90, 0.133)]),
    ],
)
def test_lengths_of_a_table_are_in_the_unit_of_their_heading_or_of_the_design(heading, unit, expected):
    text = f"{heading}\n0.036,0.0625,90,0.133\n"
    if expected is None:  # a comma divides columns
        heading = heading.replace("Allowance, in", "Allowance")
        expected = [(*INCHES[0][:3], 0.133)]
        text = f"{heading}\n0.036,0.0625,90,0.133\n"
    rows = [(r.thickness, r.radius, r.angle, r.allowance) for r in bend_rows(text, unit=unit)]
    assert rows == [pytest.approx(e) for e in expected]


def test_a_k_has_no_unit():
    assert [r.k for r in bend_rows("thickness,radius,angle,k\n0.06,0.06,90,0.41\n", unit="in")] == [0.41]


@pytest.mark.parametrize(
    ("content", "told"),
    [
        (b"thickness,radius,angle,k\n1,1,90,0.4\n\xff\n", "no text in UTF-8"),
        (b"thickness,radius,angle,k\n1,1,90," + b"4" * 200_000 + b"\n", "field larger"),
        (b'thickness,radius,angle,k\n1,1,90,"0.4\n', ""),
        (b"", "its columns are none"),
        (b"thickness,radius,angle,k\n1,1,90,nan\n", "line 2"),
        (b"thickness,radius,angle,k\n1,inf,90,0.4\n", "line 2"),
    ],
)
def test_a_file_that_is_no_bend_table_is_refused(tmp_path, content, told):
    path = tmp_path / "bends.csv"
    path.write_bytes(b"\xef\xbb\xbfthickness,radius,angle,k\r\n1,1,90,0.4\r\n")
    assert [(r.thickness, r.k) for r in read_bend_table(path)] == [(1, 0.4)]
    path.write_bytes(content)
    if not told:
        assert len(read_bend_table(path)) == 1  # a quotation mark that is left open ends with the file
        return
    with pytest.raises(ImportFileError, match=rf"bends.csv.*{told}"):
        read_bend_table(path)
