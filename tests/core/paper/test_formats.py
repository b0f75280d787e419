"""Sizes of paper, frames and scales against the standards, and the lettering's room."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zygon.errors import ZygonError
from zygon.paper.formats import FORMATS, area_of, size_of
from zygon.paper.letters import missing, width_of, wrapped
from zygon.paper.scales import SCALES, read_scale, scale_words
from zygon.paper.spread import spread


@pytest.mark.parametrize(
    ("name", "size"),
    [("A4", (210, 297)), ("A3", (420, 297)), ("A2", (594, 420)), ("A1", (841, 594)), ("A0", (1189, 841))],  # ISO 216
)
def test_paper_has_the_size_of_the_standard(name, size):
    assert size_of(name) == size


def test_inch_paper_has_the_sizes_of_its_series():
    """ANSI Y14.1: A 8.5 x 11, each next one twice the area (memory)."""
    areas = [math.prod(size_of(n)) / 25.4**2 for n in ("ANSI A", "ANSI B", "ANSI C", "ANSI D")]
    assert areas == pytest.approx([93.5, 187, 374, 748])


@pytest.mark.parametrize("name", FORMATS)
def test_a_frame_leaves_20_mm_to_bind_and_10_elsewhere(name):
    """ISO 5457."""
    width, height = size_of(name)
    assert area_of(name) == (20, 10, width - 10, height - 10)


def test_scales_are_one_two_and_five_times_powers_of_ten():
    """ISO 5455."""
    for scale in SCALES:
        mantissa = 10 ** (math.log10(max(scale, 1 / scale)) % 1)
        assert min(abs(mantissa - m) for m in (1, 2, 5, 10)) < 1e-9


@pytest.mark.parametrize(("text", "scale"), [("1:5", 0.2), ("1 : 2", 0.5), ("2:1", 2.0), ("1/10", 0.1), ("1:2.5", 0.4)])
def test_a_scale_is_read_as_it_is_written(text, scale):
    assert read_scale(text) == pytest.approx(scale)
    assert read_scale(scale_words(read_scale(text))) == pytest.approx(scale)


@pytest.mark.parametrize("text", ["", "5", "1:0", "0:1", "a:b", "1:99999", "1000:1", "-1:5", "1:5:2", "nan:1"])
def test_what_is_no_scale_is_refused_with_the_rule(text):
    with pytest.raises(ZygonError) as error:
        read_scale(text)
    assert error.value.code == "bad_scale" and "1 : 5" in error.value.rule


def test_words_take_the_room_that_the_font_gives_them():
    from fontTools.ttLib import TTFont

    from zygon.paper import letters

    font = TTFont(__import__("io").BytesIO(letters.font_bytes()))
    text = "⌀ 12.5 Łódź ▲"
    advance = sum(font["hmtx"][font.getBestCmap()[ord(c)]][0] for c in text)
    assert width_of(text, 3.5) == pytest.approx(advance / font["OS/2"].sCapHeight * 3.5)
    assert missing(text) is None and missing("a Ж") == "Ж"


@given(st.text("abc wWi.\n", max_size=200), st.floats(8, 80))
def test_wrapped_words_keep_to_their_room_and_lose_no_letter(text, room):
    lines = wrapped(text, 2.5, room)
    assert "".join(lines).replace(" ", "") == text.replace(" ", "").replace("\n", "")
    assert all(width_of(line, 2.5) <= room + 1e-9 or len(line.strip()) <= 1 for line in lines)


@given(st.lists(st.tuples(st.floats(0, 100), st.floats(0.5, 20)), min_size=1, max_size=12))
def test_labels_are_moved_apart_and_keep_their_order(labels):
    labels.sort()
    wanted, sizes = [p for p, _ in labels], [s for _, s in labels]
    found = spread(wanted, sizes, 1.0)
    for i in range(len(found) - 1):
        assert found[i + 1] - found[i] >= (sizes[i] + sizes[i + 1]) / 2 + 1.0 - 1e-9
    # nothing moves where nothing touches
    if all(b - a >= (s + t) / 2 + 1 for a, b, s, t in zip(wanted, wanted[1:], sizes, sizes[1:], strict=False)):
        assert found == pytest.approx(wanted)
    # a cluster's middle stays: the sum of what is moved is nothing over each run that touches
    assert sum(found) == pytest.approx(sum(wanted))
