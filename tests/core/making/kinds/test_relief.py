"""What a round bit asks for on a board: reliefs by its radius, of the joints that the board is in."""

import pytest

from tests.core.making.joints.pairs import pair
from zygon.limits import MAX_BIT
from zygon.making.datums.solving import solve
from zygon.making.kinds.parts import _relief


def relief(cutter, key="a", **fields):
    draft = pair("finger", cutter="router")
    draft.data["cutter"] = cutter
    draft.data["cutters"][cutter] |= {k: draft.entry(v) for k, v in fields.items()}
    draft.board("c", next(iter(draft.data["stocks"])), "lying", 400, (0, 100), (0, 100))
    return _relief(solve(draft.document()), key, 12.0)


@pytest.mark.parametrize("bit", [3.0, 6.35, MAX_BIT / 2, MAX_BIT - 0.01, MAX_BIT])
def test_it_is_half_of_the_bit_with_the_joint_s_own_relief(bit):
    found = relief("router", bit=f"{bit} mm")
    assert found.radius == pytest.approx(bit / 2)
    assert found.styles == (("joint:a-b", "dog_bone"),)


def test_finer_bits_are_there_for_what_the_first_does_not_get_into():
    assert relief("router", bit="6 mm").finer == (1.5,) and relief("router", bit="2 mm").finer == ()


def test_no_bit_none_too_wide_and_no_joint_have_none():
    assert relief("router", bit=f"{MAX_BIT + 0.01} mm") is None
    assert relief("router", bit="6 mm +") is None
    assert relief("laser") is None
    assert relief("router", key="c", bit="6 mm").styles == ()
