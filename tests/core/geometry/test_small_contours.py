"""Contours smaller than the chords that they are divided into."""

from __future__ import annotations

import pytest

from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import circle


@pytest.mark.parametrize("radius", [1.0, 0.1, 0.04, 0.005, 1e-4])
@pytest.mark.parametrize("sagitta", [0.001, 0.05, 1.0])
def test_a_circle_smaller_than_the_sagitta_keeps_an_area(radius, sagitta):
    """A hole hardly wider than the bit leaves such a path; a polygon of it wants three corners."""
    chords = circle(3.0, 4.0, radius).flatten(sagitta)
    assert len(chords) >= 3
    assert to_polygon(circle(3.0, 4.0, radius), sagitta).area > 0
