"""A crank on a shaft: over axes and ends, tight on both, and refused where it cannot be."""

import pytest

from tests.core.making.kinds.test_rods_in_bores import WORDS, codes, holes, walls
from zygon.design.patch import patched
from zygon.edits.cranks import add_crank
from zygon.errors import DocumentError
from zygon.making.assembly.hold import drops
from zygon.making.pipeline import build


@pytest.mark.parametrize("end", "ab")
@pytest.mark.parametrize("axis", "xyz")
def test_an_arm_flush_with_the_end_and_a_handle_off_it(axis, end):
    document = walls(axis, low="-30 mm", high="30 mm").document()
    label, patch = add_crank(build(document), "rod", end, "ply12", "steel8", "70 mm")
    assert label == "Crank on rod" and len(patch) == 4  # the arm, the handle, the arm in the rod's bore, the handle's bore
    built = build(patched(document.dump(), patch))
    assert not built.faults
    k, high = "xyz".index(axis), end == "b"
    arm, handle, rod = (built.made[n] for n in ("crank", "handle", "rod"))
    assert arm.reaches[high][k] == pytest.approx(rod.reaches[high][k])
    assert holes(built, "crank") == [("through", pytest.approx(8.0))] * 2
    middle = [sum(c) / 2 for c in zip(*handle.reaches, strict=True)]
    own = [sum(c) / 2 for c in zip(*rod.reaches, strict=True)]
    off = [abs(a - b) for i, (a, b) in enumerate(zip(middle, own, strict=True)) if i != k]
    assert sorted(off) == pytest.approx([0, 70])
    # the handle stands out on the far side
    assert (handle.reaches[high][k] - arm.reaches[high][k]) * (1 if high else -1) == pytest.approx(90)
    assert "overlap" not in codes(built) and not {d.part for d in drops(built)} & {"crank", "handle"}


def test_the_throw_may_be_a_size_and_moves_the_handle():
    d = walls(high="30 mm").size("throw", "60 mm")
    document = d.document()
    document = patched(document.dump(), add_crank(build(document), "rod", "b", "ply12", "steel8", "throw")[1])
    data = document.dump()
    data["sizes"]["throw"]["entry"]["text"] = "85 mm"
    one, other = build(document), build(patched(data, []))
    assert other.made["handle"].reaches[0][2] - one.made["handle"].reaches[0][2] == pytest.approx(25)
    assert other.made["crank"].reaches[1][2] - one.made["crank"].reaches[1][2] == pytest.approx(25)


@pytest.mark.parametrize(
    ("rod", "stock", "handle", "said"),
    [("one", "ply12", "steel8", "put on a rod"), ("rod", "steel8", "steel8", "cut from sheet"), ("rod", "ply12", "ply12", "round bar")],
)
def test_what_is_no_shaft_no_sheet_or_no_bar_is_refused(rod, stock, handle, said):
    with pytest.raises(DocumentError, match=said):
        add_crank(build(walls().document()), rod, "b", stock, handle, "60 mm")


def test_words_of_the_faces_are_the_axis_own():
    assert set(WORDS) == set("xyz")
