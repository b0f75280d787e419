"""Connectors that go into tubes: plugs, couplings, elbows and corners whose spigots fill the bores."""

import itertools
import math

import pytest

from tests.core.making.connector.test_connectors import DEEP, INNER, LINES, LONG, WALL, codes, connector, star, with_connector
from zygon.check.connectors import connector_faults
from zygon.design.patch import patched
from zygon.errors import DocumentError
from zygon.exchange.tubes import write_saw_list
from zygon.making.flats.exact import volume as exact_volume
from zygon.making.kinds.registry import exact_of, meshes_of, volume_of_part
from zygon.making.pipeline import build
from zygon.making.solids.solids import gap_between, in_common


def made(shape, section="thin round tube", **more):
    return build(with_connector(star(LINES[shape], section=section, **more), shape))


def changed(built, socket, **fields):
    key = connector(built).key
    patch = [{"op": "add", "path": f"/parts/{key}/sockets/{socket}/{f}", "value": v} for f, v in fields.items()]
    return build(patched(built.document.dump(), patch))


@pytest.mark.parametrize("section", ["thin round tube", "square tube", "rectangular tube"])
@pytest.mark.parametrize("shape", INNER)
def test_a_spigot_fills_the_bore_but_for_its_fit_and_the_tube_comes_up_to_the_shoulder(shape, section):
    built = made(shape, section)
    assert not built.faults and not set(codes(built)) - {"drop", "unheld", "tips"}
    part = connector(built)
    for seat in built.seats:
        sleeve, tube = part.body.of(seat.socket), built.made[seat.member]
        bore = tube.body.section
        assert seat.gap == pytest.approx(0.2) and sleeve.inside and sleeve.deep == DEEP
        assert sleeve.inner.extents == pytest.approx([x - 2 * bore.wall - 0.2 for x in bore.extents])
        # a tenth of a millimetre all round, by the manifold library; the tube's end stands on the shoulder
        assert in_common(part, tube) is None or in_common(part, tube).depth < 0.01
        assert tube.body.length == pytest.approx(LONG - sleeve.back)
        assert gap_between(part, tube, 1.0) <= 0.101
    # tubes do not run into each other
    for a, b in itertools.combinations([p for p in built.made.values() if p is not part], 2):
        assert in_common(a, b) is None
    # one piece, and the same to both libraries
    assert volume_of_part(part) == pytest.approx(exact_volume(exact_of(part)), rel=4e-3)
    assert meshes_of(part)[0].moments()[0] > 0 and {f"edge:socket_{s.key}" for s in part.body.sleeves} <= set(meshes_of(part)[0].owners)


def test_the_saw_list_says_what_an_end_goes_over():
    assert "square, 30 mm over a spigot of inner_elbow" in write_saw_list(made("inner_elbow"))


def test_a_plug_is_a_flange_and_a_spigot():
    """By hand: a flange as wide as the tube and as thick as the wall that is said, and a rod in its bore."""
    part = connector(made("plug"))
    bore = 33.7 - 2 * 1.5 - 0.2
    expected = math.pi / 4 * (33.7**2 * WALL + bore**2 * DEEP)
    assert exact_volume(exact_of(part)) == pytest.approx(expected, rel=1e-9)
    (sleeve,) = part.body.sleeves
    assert (sleeve.start, sleeve.back, sleeve.out) == (-WALL, 0.0, DEEP)
    low, high = part.reaches
    assert (low[2], high[2]) == pytest.approx((-WALL, DEEP), abs=1e-6)


def test_an_inner_corner_of_square_tubes_is_a_block_as_wide_as_they_are():
    part = connector(made("inner_corner", "square tube"))
    low, _ = part.reaches
    assert low == pytest.approx((-20, -20, -20), abs=1e-6)


@pytest.mark.parametrize("shape", INNER)
def test_what_is_no_tube_takes_no_spigot(shape):
    for section in ("round bar", "angle"):
        with pytest.raises(DocumentError, match="goes into tubes, and l0 is none"):
            with_connector(star(LINES[shape], section=section), shape)
    # said where the tube becomes a bar afterwards
    built = made(shape)
    stock = built.document.parts["l0"].stock
    bar = build(patched(built.document.dump(), [{"op": "remove", "path": f"/stocks/{stock}/wall"}]))
    assert any("a spigot for l0, which is no tube" in f.message and f.entry.endswith("/inside") for f in bar.faults)


@pytest.mark.parametrize(
    ("across", "code", "says"),
    [
        ("30.7 mm", None, ""),
        ("31 mm", "socket_size", "does not go in"),
        ("29 mm", "socket_size", "is loose in it"),
        ("0.2 mm", "no_place", "wider than 0"),
    ],
)
def test_a_spigot_of_a_stated_size_is_compared_with_the_bore(across, code, says):
    built = changed(made("inner_coupling"), "s1", across={"text": across})
    own = [f for f in (*built.faults, *connector_faults(built)) if f.entry and "/sockets/s1/" in f.entry]
    assert (own == []) is (code is None) and all(says in f.message + f.rule for f in own)


def test_a_spigot_is_no_sleeve_that_something_runs_through_and_the_ends_say_what_is_said():
    built = made("inner_elbow")
    with pytest.raises(DocumentError, match="a spigot goes into the end of one"):
        changed(built, "s1", through=True)
    # a stated stand-off is where its tip is
    out = changed(built, "s1", out={"text": "80 mm"})
    seat = next(s for s in out.seats if s.socket == "s1")
    assert out.made[seat.member].body.length == pytest.approx(LONG - (80 - DEEP))


def test_mirrored_ones_are_the_same_piece_or_its_other_hand():
    document = with_connector(star(["right", "back", "up"]), "inner_corner")
    body = connector(build(document)).body
    assert body.mirrored.alike == body.other_hand and body.alike == body.mirrored.other_hand
    sleeves = connector(build(with_connector(star(["right", "back", "up"]), "corner"))).body
    assert sleeves.alike != body.alike


def test_the_spigot_s_section_is_the_bore_with_its_corners():
    part = connector(made("plug", "square tube"))
    (sleeve,) = part.body.sleeves
    # the stock's outer corner less its wall and half the fit
    tube = next(p for p in made("plug", "square tube").made.values() if p.record.kind == "member").body.section
    assert sleeve.inner.extents == pytest.approx((33.8, 33.8)) and sleeve.inner.corner == pytest.approx(tube.corner - 3.1)
