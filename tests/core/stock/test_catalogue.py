"""The catalogue against its standards' own rules, its bodies against an exact modeller, and what words find."""

import math

import pytest

from zygon.errors import ZygonError
from zygon.making.hardware.pieces import exact_hardware, mesh_of_hardware
from zygon.stock.hardware.catalogue import FAMILIES, by_designation, every, piece, search
from zygon.stock.hardware.holes import COUNTERBORE, clearance
from zygon.stock.hardware.nuts import NUTS, WASHERS, washer_size
from zygon.stock.hardware.screws import SCREWS
from zygon.stock.hardware.threads import METRIC, core_hole, diameter_of, threaded

EVERY = {(h.family, h.size): h for h in every()}
#: Those that are round about one axis.
SLICED = [k for k in EVERY if FAMILIES[k[0]].role not in ("hinge", "slide")]


def test_nuts_and_washers_are_those_of_their_standards():
    # ISO 4032, across flats and height; ISO 7089, d1 x d2 x h (from memory)
    assert {s: NUTS["hexagon_nut"].rows[s] for s in ("M5", "M6", "M8", "M10")} == {
        "M5": (8, 4.7),
        "M6": (10, 5.2),
        "M8": (13, 6.8),
        "M10": (16, 8.4),
    }
    assert {s: WASHERS["plain_washer"].rows[s] for s in ("M5", "M6", "M8", "M10")} == {
        "M5": (5.3, 10, 1),
        "M6": (6.4, 12, 1.6),
        "M8": (8.4, 16, 1.6),
        "M10": (10.5, 20, 2),
    }


def test_threads_have_the_coarse_pitches_and_the_core_holes_of_the_trade():
    # ISO 261 (from memory); core hole: diameter less pitch (common practice): the drills that every shop has
    assert {s: core_hole(s) for s in ("M3", "M4", "M5", "M6", "M8", "M10", "M12")} == {
        "M3": 2.5,
        "M4": 3.3,
        "M5": 4.2,
        "M6": 5.0,
        "M8": 6.75,
        "M10": 8.5,
        "M12": 10.25,
    }
    sizes = list(METRIC)
    assert sorted(sizes, key=diameter_of) == sizes and sorted(METRIC.values()) == list(METRIC.values())


@pytest.mark.parametrize("size", ["M4", "M5", "M8"])
def test_a_shank_begins_where_the_thread_of_its_standard_ends(size):
    # ISO 888: b = 2 d + 12 up to 125 mm of length, 6 more above (from memory)
    d = diameter_of(size)
    assert threaded(size, 100) == 2 * d + 12 and threaded(size, 125) == 2 * d + 12 and threaded(size, 130) == 2 * d + 18
    short = 2 * d + 12 + 5 * METRIC[size]
    assert threaded(size, short) == short and threaded(size, short + 0.1) == 2 * d + 12


def test_a_washer_is_found_for_every_screw():
    found = {s: washer_size(s) for s in ("M5", "6", "4.5", "ST2.9", "ST3.5", "ST4.2", "ST4.8", "ST5.5", "ST6.3")}
    assert found == {
        "M5": "M5",
        "6": "M6",
        "4.5": "M5",
        "ST2.9": "M3",
        "ST3.5": "M4",
        "ST4.2": "M4",
        "ST4.8": "M5",
        "ST5.5": "M6",
        "ST6.3": "M6",
    }
    assert all(washer_size(s) == s for s in WASHERS["plain_washer"].rows)


def test_heads_keep_the_proportions_of_their_standards():
    # ISO 10642: theoretical head 2.24 d; ISO 4762: height d; both from memory
    for size, (wide, _, _) in SCREWS["countersunk"].rows.items():
        assert wide == pytest.approx(2.24 * diameter_of(size))
    for size, (wide, high, _) in SCREWS["socket"].rows.items():
        assert high == diameter_of(size) and COUNTERBORE[f"{high:g}"] > wide
    for size in SCREWS["wood"].rows:  # DIN 7997: twice the diameter, 90 degrees (from memory)
        assert SCREWS["wood"].head(size)[0] == 2 * float(size)
    # across flats of a head and of its nut are the same spanner's
    assert all(NUTS["hexagon_nut"].rows[s][0] == row[0] for s, row in SCREWS["hexagon"].rows.items())


def test_washers_lie_under_heads_and_over_holes():
    for family in WASHERS.values():
        for size, (inner, outer, _) in family.rows.items():
            holes = [clearance(size[1:], fit) for fit in ("fine", "medium", "coarse")]
            assert diameter_of(size) < inner <= holes[1] and holes[2] < outer
            assert outer > SCREWS["socket"].rows[size][0]


@pytest.mark.parametrize("key", SLICED, ids=lambda k: f"{k[0]} {k[1]}")
def test_every_body_is_closed_and_as_large_as_its_slices(key):
    h = EVERY[key]
    mesh = mesh_of_hardware(h)
    own = sum(s.volume for s in h.slices)
    assert 0.94 * own < mesh.moments()[0] < 1.02 * own  # chords lie within, those of holes too
    low, high = mesh.positions[:, 2].min(), mesh.positions[:, 2].max()
    assert (low, high) == pytest.approx(h.span, abs=1e-6)
    assert h.mass == pytest.approx(own * h.density / 1000)
    if h.length is not None and FAMILIES[h.family].role == "screw":
        assert h.span[1] == h.length and (h.span[0] == 0) == SCREWS[h.family].flush


@pytest.mark.parametrize("key", [k for n, k in enumerate(SLICED) if n % 4 == 0], ids=lambda k: f"{k[0]} {k[1]}")
def test_an_exact_modeller_finds_the_same_volume(key):
    from zygon.making.flats.exact import volume

    h = EVERY[key]
    assert volume(exact_hardware(h)) == pytest.approx(sum(s.volume for s in h.slices), rel=1e-6)


def test_the_mass_of_a_screw_by_hand():
    # M6 x 40, head 10 x 6 with a hexagon of 5 half way down, steel
    head = math.pi / 4 * 100 * 6 - math.sqrt(3) / 2 * 25 * 3
    assert piece("socket", "M6", 40.0).mass == pytest.approx((head + math.pi / 4 * 36 * 40) * 7.85 / 1000)


def test_a_designation_is_of_one_piece():
    found = list(every())
    assert len({h.designation for h in found}) == len(found) > 1000
    for h in found[::37]:
        assert by_designation(h.designation) == h
    with pytest.raises(KeyError):
        by_designation("ISO 4762 - M5 x 61")


def test_lengths_are_those_that_are_sold():
    for h in every():
        if h.length is not None:
            assert h.length in FAMILIES[h.family].lengths_of(h.size)
    # a bolt with a shank has one in every length
    shanked = SCREWS["hexagon_shank"]
    assert all(shanked.thread_of(s, x) < x for s in shanked.rows for x in shanked.lengths_of(s))


@pytest.mark.parametrize(
    ("text", "first"),
    [
        ("M5 washer", "ISO 7089 - M5"),
        ("washer m5", "ISO 7089 - M5"),
        ("large washer M6", "ISO 7093-1 - M6"),
        ("dowel 8", "DIN 68150 - 8 x 25"),
        ("m6x20 countersunk", "ISO 10642 - M6 x 20"),
        ("ISO 4762 M5 x 60", "ISO 4762 - M5 x 60"),
        ("iso 7045 m3x12", "ISO 7045 - M3 x 12"),
        ("DIN 985 M8", "DIN 985 - M8"),
        ("wood screw 4x40", "DIN 7997 - 4 x 40"),
        ("608", "ISO 15 - 608"),
        ("nut M8", "ISO 4032 - M8"),
        ("rivet 4 x 10", "ISO 15977 - 4 x 10"),
        ("rivet nut M5", "rivet nut - M5"),
        ("ST4.2 16", "ISO 7049 - ST4.2 x 16"),
    ],
)
def test_words_and_sizes_find_what_is_meant(text, first):
    assert search(text)[0].designation == first


def test_all_that_is_found_has_every_word_and_size():
    for h in search("screw M6 x 30"):
        assert h.size == "M6" and h.length == 30 and "screw" in f"{FAMILIES[h.family].title} {FAMILIES[h.family].words}"
    assert {h.family for h in search("washer")} == set(WASHERS)


def test_what_fits_a_hole_comes_first():
    assert search("plain washer", near=5.5)[0].size == "M5" and search("plain washer", near=6.6)[0].size == "M6"
    found = [diameter_of(h.size) for h in search("plain washer", near=6.6)]
    assert found[:3] == [6, 5, 4] and found[-1] == 12  # what does not go in comes last


@pytest.mark.parametrize("text", ["", "   ", "M5.5 washer", "gizmo", "x" * 90, "washer M5 x 20 x 30", "5", "the"])
def test_what_names_no_hardware_is_said(text):
    if text == "5":  # a size alone finds what is made in it
        assert search(text)
        return
    with pytest.raises(ZygonError) as error:
        search(text)
    assert error.value.entry == "text" and error.value.rule
