"""What each kind of cutter can do (common practice), and that nobody asks for the kind itself."""

import re
from pathlib import Path

import pytest

import zygon
from zygon.design.workshop import CUTTERS
from zygon.stock.cutter import Cutter

ABLE = {
    "laser": (False, True, False, True, 0.0, "beam", "kerf"),
    "router": (True, True, True, False, 0.0, "bit", "bit"),
    "saw": (True, False, False, False, 45.0, "blade", "blade"),
}


@pytest.mark.parametrize("kind", ABLE)
def test_each_kind_can_what_it_can(kind):
    can = Cutter.model_validate(CUTTERS[kind]).can
    assert (can.depth, can.inside, can.bit, can.slits, can.tilt, can.tool, can.width) == ABLE[kind]


def test_the_kind_is_asked_in_one_place_alone():
    root = Path(zygon.__file__).parent
    asked = re.compile(r"\bcutters?(?:\[[\w.]+\])?\.kind\b")
    assert [p.name for p in sorted(root.rglob("*.py")) if asked.search(p.read_text())] == []
