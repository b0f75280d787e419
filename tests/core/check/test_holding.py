"""Where a support may stand under a part, at the limit and from every side, and when a mend counts as one."""

from types import SimpleNamespace

import pytest

from zygon.check import holding
from zygon.check.holding import _free, _stands_on, _works
from zygon.making.result.fault import Mend

#: Of a part in the room, and of what it would drop onto: unlike along every axis.
PART = ((100.0, 40.0, 300.0), (260.0, 100.0, 312.0))
ONTO = ((90.0, 20.0, 100.0), (250.0, 120.0, 112.0))


def made(key, reaches, shift=(0.0, 0.0, 0.0), empty=False):
    return SimpleNamespace(key=key, reaches=reaches, place=SimpleNamespace(shift=shift), body=SimpleNamespace(empty=empty))


@pytest.mark.parametrize(("across", "low", "high"), [("x", 90.0, 250.0), ("y", 20.0, 120.0)])
@pytest.mark.parametrize("shift", [0.0, 7.0])
def test_a_support_stands_where_its_middle_lies_over_what_bears_it(across, low, high, shift):
    part = made("p", PART, (shift, shift, 0.0))
    stands = [_stands_on(made("o", ONTO), part, across, at - shift) for at in (low - 0.01, low, low + 0.01, high - 0.01, high, high + 0.01)]
    assert stands == [False, False, True, True, False, False]


@pytest.mark.parametrize(("across", "other"), [("x", 1), ("y", 0)])
def test_the_middle_of_the_part_lies_over_it_too(across, other):
    middle = (PART[0][other] + PART[1][other]) / 2
    at = (PART[0][1 - other] + PART[1][1 - other]) / 2
    for gap, stands in ((-0.01, True), (0.0, False), (0.01, False)):
        beside = [list(ONTO[0]), list(ONTO[1])]
        beside[0][other] = middle + gap
        beside[1][other] = middle + 300
        assert _stands_on(made("o", beside), made("p", PART), across, at) is stands
        beside[0][other] = middle - 300
        beside[1][other] = middle - gap
        assert _stands_on(made("o", beside), made("p", PART), across, at) is stands


@pytest.mark.parametrize("across", ["x", "y"])
@pytest.mark.parametrize(("bite", "free"), [(0.009, True), (0.011, False)])
@pytest.mark.parametrize("side", range(6))
def test_nothing_stands_in_the_strip_by_more_than_a_hundredth_of_a_millimetre(across, bite, free, side):
    i = "xyz".index(across)
    strip = (150.0, 162.0) if across == "x" else (60.0, 72.0)
    drop = SimpleNamespace(onto="o", height=188.0)
    # the room that the support takes: the strip, as long as the part, from what it stands on to the part's underside
    low, high = list(PART[0]), list(PART[1])
    low[i], high[i] = strip
    low[2], high[2] = PART[0][2] - drop.height, PART[0][2]
    k, above = divmod(side, 2)
    # beside that room on one side, reaching into it by so much
    olow, ohigh = [x - 50 for x in low], [x + 50 for x in high]
    if above:
        olow[k] = high[k] - bite
    else:
        ohigh[k] = low[k] + bite
    other = made("q", (tuple(olow), tuple(ohigh)))

    def is_free(*others):
        built = SimpleNamespace(made={o.key: o for o in (made("p", PART), made("o", ONTO), *others)})
        return _free(built, made("p", PART), drop, across, strip)

    assert is_free()
    assert is_free(other) is free
    assert is_free(made("q", (tuple(olow), tuple(ohigh)), empty=True))


@pytest.mark.parametrize(
    ("drops", "faults", "overlaps", "works"),
    [
        ([], 0, 1, True),
        ([], 1, 1, True),
        ([], 2, 1, False),
        (["p"], 0, 1, False),
        (["q"], 1, 0, True),
        ([], 1, 2, False),
        (["p"], 2, 2, False),
    ],
)
def test_a_mend_works_where_the_part_is_held_and_nothing_new_is_wrong(drops, faults, overlaps, works, monkeypatch):
    before = SimpleNamespace(document=SimpleNamespace(dump=dict), good={}, faults=["one"])
    after = SimpleNamespace(faults=["f"] * faults)
    monkeypatch.setattr(holding, "patched", lambda data, patch: patch)
    monkeypatch.setattr(holding, "build", lambda document, good: after)
    monkeypatch.setattr(holding, "drops", lambda built: [SimpleNamespace(part=k) for k in drops])
    monkeypatch.setattr(holding, "overlap_faults", lambda built: ["o"] * (overlaps if built is after else 1))
    assert _works(before, made("p", PART), Mend("m", [])) is works
