"""Work that is not wanted any more ends between two of its pieces, leaves nothing behind, and goes on where it was."""

import threading

import pytest

from zygon.check.run import check
from zygon.design.examples import brood_box
from zygon.design.patch import patched
from zygon.making.pipeline import build
from zygon.patience import GivenUp, asked_by, still_wanted


class Asked:
    """Counts how often it is asked, and gives up at the ``last`` time."""

    def __init__(self, last=10**9):
        self.times, self.last = 0, last

    def __call__(self):
        self.times += 1
        if self.times == self.last:
            raise GivenUp


def wide(mm):
    return patched(brood_box().dump(), [{"op": "replace", "path": "/sizes/width/entry/text", "value": f"{mm} mm"}])


def test_a_design_asks_often_while_it_is_built_and_checked():
    asked = Asked()
    with asked_by(asked):
        built = build(wide(431.25))
        building = asked.times
        check(built)
    assert building >= len(built.rebuilt) > 5
    assert asked.times >= building + len(built.made)


@pytest.mark.parametrize("share", [0.0, 0.3, 0.6, 0.95])
def test_what_was_given_up_is_made_as_if_it_had_not_been(share):
    width = 433.5 + share
    counted = Asked()
    with asked_by(counted):
        wanted = check(build(wide(width + 40)))  # of the same parts, so about as often
    with pytest.raises(GivenUp), asked_by(Asked(1 + int(share * counted.times * 0.9))):
        check(build(wide(width)))
    again = check(build(wide(width)))
    assert [p.id for p in again] == [p.id for p in wanted]


def test_nobody_is_asked_afterwards_nor_in_another_thread():
    asked = Asked()
    with asked_by(asked):
        other = threading.Thread(target=still_wanted)
        other.start()
        other.join()
    still_wanted()
    assert asked.times == 0


def test_the_inner_one_is_asked_and_then_the_outer_one_again():
    outer, inner = Asked(), Asked()
    with asked_by(outer):
        with pytest.raises(GivenUp), asked_by(inner):
            still_wanted()
            raise GivenUp
        still_wanted()
    assert (outer.times, inner.times) == (1, 1)
