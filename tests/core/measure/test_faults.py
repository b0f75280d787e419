"""A broken entry is told with the very piece of it that is at fault, and as plain data."""

import pytest

from zygon.errors import DocumentError, ExpressionError
from zygon.measure.evaluate import NoScope, evaluate


@pytest.mark.parametrize(
    ("text", "piece", "start"), [("12 + gpa", "gpa", 5), ("gpa * 2", "gpa", 0), ("3 * (12 + nobody.top) / 2", "nobody.top", 10)]
)
def test_the_piece_at_fault_is_told(text, piece, start):
    with pytest.raises(ExpressionError) as raised:
        evaluate(text, "mm", "length", NoScope())
    error = raised.value
    assert (error.value, error.start, error.entry, error.text, error.code) == (piece, start, text, text, "broken_expression")
    assert error.message == f"{text}: {error.reason}" and error.rule == error.reason and error.readings == ()
    assert error.as_dict() == {
        "code": "broken_expression",
        "message": error.message,
        "entry": text,
        "value": piece,
        "rule": error.reason,
        "start": start,
        "end": start + len(piece),
    }


def test_without_an_end_the_rest_is_at_fault_and_a_code_of_its_own_is_kept():
    error = ExpressionError("why", "abcdef", 2, readings=("x", "y"))
    assert (error.value, error.start, error.readings) == ("cdef", 2, ("x", "y")) and ExpressionError("why", "abcdef", 1, 3).value == "bc"
    assert DocumentError("m", entry="e", value=3, rule="r").as_dict() == {
        "code": DocumentError.code,
        "message": "m",
        "entry": "e",
        "value": 3,
        "rule": "r",
    }
    assert DocumentError("m", code="special").code == "special" and DocumentError.code != "special"
