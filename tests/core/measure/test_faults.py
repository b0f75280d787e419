"""A broken entry is told with the very piece of it that is at fault, and as plain data."""

import pytest

from zygon.errors import DocumentError, ExpressionError
from zygon.measure.evaluate import NoScope, evaluate
from zygon.measure.syntax import parse


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


def where(node):
    """Every node of a tree with the piece of the entry that it was read from."""
    found = [node]
    for name in ("left", "right", "operand"):
        if hasattr(node, name):
            found += where(getattr(node, name))
    for argument in getattr(node, "arguments", ()):
        found += where(argument)
    return found


@pytest.mark.parametrize("before", ["", "  ", "4 + "])
@pytest.mark.parametrize(
    "piece",
    ["width", "front.left", "tray.lip.inner", "min(width, 3)", "5'-3 1/2\"", "2 1/2", "7 mm", "1-1/2 in", "-width", "sqrt(front.top - 3)"],
)
def test_every_node_knows_where_it_stands(before, piece):
    text = f"{before}{piece}"
    nodes = where(parse(text))
    last = nodes[-1] if before == "4 + " and len(nodes) == 3 else None
    pieces = {text[n.start : n.end] for n in nodes}
    # a sign belongs to what follows it, and is not part of it; a call is pointed at by its name
    assert piece.removeprefix("-").partition("(")[0] in pieces, pieces
    if last is not None:
        assert last.start == len(before)
    for n in nodes:
        assert 0 <= n.start < n.end <= len(text)


@pytest.mark.parametrize(("text", "piece"), [("4*2-1/4", "2-1/4"), ("1 + 4 * 2-1/4 in", "2-1/4 in"), ("8/2 1/2 mm", "2 1/2 mm")])
def test_what_can_be_read_in_two_ways_is_pointed_at(text, piece):
    with pytest.raises(ExpressionError) as raised:
        parse(text)
    assert raised.value.value == text[raised.value.start : raised.value.end] == piece


@pytest.mark.parametrize("name", ["floor", "ceil", "abs", "sqrt", "sin", "cos", "tan"])
@pytest.mark.parametrize("given", [0, 2, 3])
def test_a_function_of_one_value_takes_one(name, given):
    with pytest.raises(ExpressionError) as raised:
        evaluate(f"{name}({', '.join('1' * given)})", "mm", "number", NoScope())
    assert raised.value.reason in (f"{name} takes one value, not {given}", ") is not expected here")


@pytest.mark.parametrize(("text", "value"), [("sqrt(16)", 4.0), ("2 + sqrt(4)", 4.0), ("3 * sqrt(4)", 6.0), ("sqrt(4 mm * 9 mm)", 6.0)])
def test_a_root_of_a_bare_number_is_bare(text, value):
    assert evaluate(text, "in", "length", NoScope()).value == pytest.approx(value * (25.4 if "mm" not in text else 1))


@pytest.mark.parametrize(
    "text",
    ["2 + sin(30 deg)", "sin(30 deg) + 2", "2 * cos(1 deg)", "cos(1 deg) * 2", "3 / tan(45 deg)", "tan(45 deg) / 3", "sin(1 deg) - 2"],
)
def test_what_is_a_plain_number_is_no_length_however_it_is_combined(text):
    with pytest.raises(ExpressionError, match="this gives a number where a length is wanted"):
        evaluate(text, "mm", "length", NoScope())
    evaluate(text, "mm", "number", NoScope())


@pytest.mark.parametrize("step", ["0", "-1", "0 mm"])
@pytest.mark.parametrize("name", ["round"])
def test_a_step_is_greater_than_nought(name, step):
    with pytest.raises(ExpressionError, match="the step has to be greater than 0"):
        evaluate(f"{name}(5{' mm' if 'mm' in step else ''}, {step})", "mm", "length" if "mm" in step else "number", NoScope())
