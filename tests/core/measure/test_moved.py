"""A pulled entry keeps its meaning: pulled by d it is worth d more, and pulled back it reads as before."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.errors import ExpressionError
from zygon.measure.evaluate import NoScope, evaluate
from zygon.measure.moved import moved, trailing
from zygon.measure.quantity import Quantity, length


class Scope(NoScope):
    """Two sizes, and faces that are worth the length of their name."""

    def size(self, name):
        if name in ("width", "gap"):
            return length({"width": 420.0, "gap": 7.25}[name])
        raise KeyError(name)

    def face(self, part, face):
        return Quantity(10.0 * len(part) + len(face), length=1, axis="x", weight=1)


def worth(text, unit="mm"):
    return evaluate(text, unit, "length", Scope()).value


BASES = st.sampled_from(
    [
        "left.right",
        "width",
        "2 * gap",
        "(width - gap) / 3",
        "mid(left.right, right.left)",
        "left.right + gap",
        "width - 2 * gap",
        "max(gap, 3 mm)",
        "left.right - (gap - 2 mm)",
    ]
)
FIGURES = st.integers(1, 400_000).map(lambda n: n / 1000)


@given(
    BASES, FIGURES, st.sampled_from(["+", "-", ""]), st.sampled_from(["mm", "in"]), st.integers(-300_000, 300_000).map(lambda n: n / 1000)
)
def test_pulled_by_d_it_is_worth_d_more_and_pulled_back_it_reads_as_before(base, constant, sign, unit, by):
    text = f"{base} {sign} {constant:g} {unit}" if sign else base
    there = moved(text, "mm", by)
    assert worth(there) - worth(text) == pytest.approx(by, abs=1e-3)
    back = moved(there, "mm", -by)
    # in inches a thousandth of a millimetre is no round figure
    assert worth(back) == pytest.approx(worth(text), abs=1e-3)
    if unit == "mm":
        assert back == text or (sign and worth(text) == worth(base))
    assert there.startswith(base)


@pytest.mark.parametrize(
    ("text", "unit", "by", "after"),
    [
        ("left.right", "mm", 20, "left.right + 20 mm"),
        ("left.right + 20 mm", "mm", -20, "left.right"),
        ("left.right + 20 mm", "mm", -32.5, "left.right - 12.5 mm"),
        ("left.right + 20", "mm", 5, "left.right + 25"),
        ("left.right+20mm", "mm", 5, "left.right + 25 mm"),
        ("120", "mm", 3, "123"),
        ("120 mm", "mm", -130, "-10 mm"),
        ("-5 mm", "mm", 5, "0 mm"),
        ("1 in", "mm", 25.4, "2 in"),
        ("1", "in", 12.7, "1.5"),
        ('3"', "mm", 25.4, '4"'),
        ("2 cm", "mm", 5, "2.5 cm"),
        ("width", "mm", 4, "width + 4 mm"),
        ("width", "in", 25.4, "width + 1 in"),
        ("width / 2", "mm", -1, "width / 2 - 1 mm"),
        ("2 * 3 mm", "mm", 1, "2 * 3 mm + 1 mm"),
        ("width - gap", "mm", 1, "width - gap + 1 mm"),
        ("width - -5 mm", "mm", 1, "width - -5 mm + 1 mm"),
        ("left.right - 0.001 mm", "mm", 0.001, "left.right"),
    ],
)
def test_an_entry_is_written_as_a_maker_would_write_it(text, unit, by, after):
    assert moved(text, unit, by) == after
    assert worth(after, unit) == pytest.approx(worth(text, unit) + by, abs=1e-3)


def test_what_cannot_be_read_is_not_moved():
    with pytest.raises(ExpressionError):
        moved("left.right +", "mm", 1)


@pytest.mark.parametrize(("text", "size"), [("width", "width"), ("(width)", "width"), ("width + 0", ""), ("left.right", ""), ("3 mm", "")])
def test_just_a_size_is_known_as_one(text, size):
    assert trailing(text, "mm").size == size
