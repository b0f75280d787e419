"""A wall's cuts and lips on the wall across the plate: the part comes to be its own mirror image, over every edge; what is there stays, what cannot be is said."""

import pytest

from tests.core.making.joints.pairs import solid
from zygon.check.run import check
from zygon.design.draft import Draft
from zygon.design.patch import patched
from zygon.edits.flanges import mirror_wall
from zygon.errors import DocumentError
from zygon.making.pipeline import build

ACROSS = {"left": ("right", 0), "right": ("left", 0), "front": ("back", 1), "back": ("front", 1)}
CUTS = {
    "hole": {"diameter": "6"},
    "slot": {"length": "22", "width": "6", "angle": "20 deg"},
    "rectangle": {"width": "14", "height": "9", "angle": "-30 deg"},
}


def tray(edge, *, both):
    d = Draft("tray", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 220), (0, 220), up="a")
    d.fold("p", corner="open")
    d.flange("p", "one", edge, "60")
    if both:
        d.flange("p", "two", ACROSS[edge][0], "60")
    return d


def mirrored_volume(built, axis):
    """The volume that a part has in common with its mirror image across its plate's middle."""
    body = solid(built.made["p"])
    way = [0.0, 0.0, 0.0]
    way[axis] = 1.0
    image = body.translate([-110 * w for w in way]).mirror(way).translate([110 * w for w in way])
    return body.volume(), (body ^ image).volume()


def made(d, key="one", feature=""):
    built = build(d.document())
    label, patch = mirror_wall(built.document, "p", key, feature)
    after = build(patched(built.document.dump(), patch))
    assert not after.faults and not [p for p in check(after) if p.fault.severity == "error"]
    return label, patch, after


@pytest.mark.parametrize("both", [False, True])
@pytest.mark.parametrize("origin", ["low", "high", "centre"])
@pytest.mark.parametrize("kind", CUTS)
@pytest.mark.parametrize("edge", ACROSS)
def test_with_its_cuts_mirrored_the_part_is_its_own_image(edge, kind, origin, both):
    d = tray(edge, both=both)
    d.flange_feature("p", "one", "cut", kind, (origin, "33"), ("root", "21"), **CUTS[kind])
    if kind == "hole":
        d.flange_feature("p", "one", "row", kind, (origin, "45"), ("end", "12"), diameter="4", number="3", spacing="11")
    _, patch, after = made(d)
    if both:
        whole, common = mirrored_volume(after, ACROSS[edge][1])
        assert common == pytest.approx(whole, rel=1e-4)
        with pytest.raises(DocumentError, match="has all that"):
            mirror_wall(after.document, "p", "one")
    else:
        assert [op["path"] for op in patch] == ["/parts/p/folding/flanges/one/mirrored"]
        whole, common = mirrored_volume(after, ACROSS[edge][1])
        assert common == pytest.approx(whole, rel=1e-4)


@pytest.mark.parametrize("edge", ACROSS)
def test_lips_go_along_with_what_is_cut_into_them(edge):
    d = tray(edge, both=True)
    d.flange("p", "lip", "end", "18", on="one", extent="inset", first="31", second="70")
    d.flange_feature("p", "lip", "h", "hole", ("low", "14"), ("root", "9"), diameter="4")
    d.flange("p", "side", "low", "11", on="one", extent="centred", first="20", second="7")
    _, _, after = made(d)
    whole, common = mirrored_volume(after, ACROSS[edge][1])
    assert common == pytest.approx(whole, rel=1e-4)
    flanges = after.document.parts["p"].folding.flanges
    assert sorted(f.edge for f in flanges.values() if f.on == "two") == ["end", "high"]


def test_one_cut_alone_and_what_is_there_stays():
    d = tray("left", both=True)
    d.flange_feature("p", "one", "a", "hole", ("low", "33"), ("root", "21"), diameter="6")
    d.flange_feature("p", "one", "b", "hole", ("low", "90"), ("root", "21"), diameter="8")
    d.flange_feature("p", "two", "a", "slot", ("centre", "0"), ("root", "30"), length="30", width="5")
    label, _, after = made(d, feature="b")
    assert label == "tray: b of left flange on the right too" or "b of" in label
    cuts = after.document.parts["p"].folding.flanges["two"].features
    assert {k: f.kind for k, f in cuts.items()} == {"a": "slot", "b": "hole"}
    assert (cuts["b"].u.origin, cuts["b"].u.offset.text) == ("high", "90")


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda d: (d, "gone", ""), "no flange gone"),
        (lambda d: (d.flange("p", "lip", "end", "12", on="one"), "lip", ""), "stands on another flange"),
        (lambda d: (d, "one", "hole"), "has no hole"),
        (
            lambda d: (d.flange("p", "lip", "end", "12", on="one", extent="between", first="10", second="50"), "one", ""),
            "begins so far from its low end",
        ),
    ],
)
def test_what_cannot_be_mirrored_is_said(change, said):
    d, key, feature = change(tray("left", both=True))
    with pytest.raises(DocumentError, match=said):
        mirror_wall(d.document(), "p", key, feature)


def test_a_wall_that_slants_has_none_across():
    d = tray("left", both=False)
    d.feature("p", "c", "corner", ("centre", 0), ("centre", 0), corner="left-front", style="cut", size="40")
    d.flange("p", "slant", "left-front", "30")
    with pytest.raises(DocumentError, match="slants, and has no wall across"):
        mirror_wall(d.document(), "p", "slant")


def test_a_wall_that_stands_on_both_halves_is_not_mirrored_again():
    d = tray("left", both=False)
    d.data["parts"]["p"]["folding"]["flanges"]["one"]["mirrored"] = "u"
    with pytest.raises(DocumentError, match="both halves already"):
        mirror_wall(d.document(), "p", "one")
