"""Which member runs on where several end: changed by one press, for every one of them, in whatever section."""

import itertools

import pytest

from tests.core.making.tube.frames import key, stocked
from zygon.check.run import check
from zygon.design.patch import patched
from zygon.edits.frames import join_members
from zygon.edits.run_on import run_on
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.screen.members import member_data

#: Corners of two and of three, square and not: where the lines go from a point.
CORNERS = {
    "of two": [(400, 0, 0), (0, 0, 400)],
    "of three": [(400, 0, 0), (0, 400, 0), (0, 0, 400)],
    "leaning": [(400, 0, 0), (0, 400, 0), (150, 120, 400)],
}


def corner(section, ways, back: int):
    """Members from one point; those of ``back`` (bits) have it as their end B."""
    d = stocked(section)
    points = {"o": ("0", "0", "0")} | {f"p{n}": tuple(f"{x:g}" for x in way) for n, way in enumerate(ways)}
    d.frame("f", points, {f"l{n}": (f"p{n}", "o") if back >> n & 1 else ("o", f"p{n}") for n in range(len(ways))})
    for n in range(len(ways)):
        d.member(f"m{n}", key(section), "f", f"l{n}", against="y" if ways[n][2] else "z")
    return d.document()


def at_point(back: int, n: int):
    return "b" if back >> n & 1 else "a"


def cut(built, n: int, back: int) -> bool:
    part = built.made[f"m{n}"]
    return member_data(built, part, part.body)["ends"][0 if at_point(back, n) == "a" else 1]["gives_way"]


@pytest.mark.parametrize("wish", ["", "mitre"])
@pytest.mark.parametrize("section", ["square tube", "round tube"])
@pytest.mark.parametrize("ways", CORNERS)
def test_each_runs_on_in_turn_and_the_others_lie_on_it(ways, section, wish):
    for back in (0b101,) if section == "round tube" else (0,) if wish else (0, 0b101):
        document = corner(section, CORNERS[ways], back)
        document = patched(document.dump(), join_members(build(document), corner=wish)[1])
        for n in [*range(len(CORNERS[ways])), 0]:
            built = build(document)
            label, patch = run_on(built, f"m{n}", at_point(back, n))
            assert label == f"m{n} runs on at {at_point(back, n).upper()}"
            document = patched(document.dump(), patch)
            after = build(document)
            assert not after.faults and not {p.fault.code for p in check(after)} & {"overlap", "ends_short"}
            assert [cut(after, k, back) for k in range(len(CORNERS[ways]))] == [k != n for k in range(len(CORNERS[ways]))]
            assert all(j.kind in ("member_butt", "member_cope") for j in after.joints.values())


def test_what_lies_beside_stays_as_it_is():
    """A rail on the side of the first, and a corner at its other end, keep their joints."""
    d = stocked("square tube")
    points = {
        "o": ("0", "0", "0"),
        "p": ("400", "0", "0"),
        "q": ("0", "0", "400"),
        "r": ("400", "0", "300"),
        "s": ("200", "0", "0"),
        "t": ("200", "300", "0"),
    }
    d.frame("f", points, {"l": ("o", "p"), "m": ("o", "q"), "n": ("p", "r"), "k": ("s", "t")})
    for name, line in (("bar", "l"), ("post", "m"), ("other", "n"), ("rail", "k")):
        d.member(name, "square_tube", "f", line, against="y" if line in "mn" else "z")
    document = patched(d.document().dump(), join_members(build(d.document()))[1])
    before = {k: (j.kind, j.a, j.b) for k, j in document.joints.items()}
    after = patched(document.dump(), run_on(build(document), "post", "a")[1])
    kept = {k: (j.kind, j.a, j.b) for k, j in after.joints.items()}
    changed = {k for k in {*before, *kept} if before.get(k) != kept.get(k)}
    assert all({"bar", "post"} == {*(before.get(k) or kept[k])[1:]} for k in changed) and changed
    assert not build(after).faults


@pytest.mark.parametrize(("member", "end", "words"), [("m0", "b", "Nothing ends where m0 does at B"), ("m9", "a", "There is no member m9")])
def test_where_nothing_else_ends_it_says_so(member, end, words):
    document = corner("square tube", CORNERS["of two"], 0)
    with pytest.raises(DocumentError, match=words):
        run_on(build(document), member, end)


def test_all_pairs_of_a_corner_are_joined_once():
    document = corner("square tube", CORNERS["of three"], 0)
    document = patched(document.dump(), join_members(build(document))[1])
    for n, _ in itertools.product(range(3), range(2)):
        document = patched(document.dump(), run_on(build(document), f"m{n}", "a")[1])
        pairs = [frozenset((j.a, j.b)) for j in document.joints.values()]
        assert len(pairs) == len(set(pairs))
