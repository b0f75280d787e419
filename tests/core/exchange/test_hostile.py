"""Files that are made to hang or fell whoever reads them: each is refused at once, with the file's name and the rule."""

import math

import ezdxf
import pytest

from zygon.errors import ImportFileError
from zygon.exchange.chain import JOIN, chained
from zygon.exchange.read import read_regions
from zygon.exchange.step import read_step

PAGE = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="100mm" height="100mm" viewBox="0 0 100 100">{}</svg>'
DOUBLED = "".join(f'<g id="g{n}"><use href="#g{n - 1}"/><use href="#g{n - 1}"/></g>' for n in range(1, 30))
SVGS = {
    "a curve without end": ('<path d="M0 0C1e300 0 0 1e300 9 9"/>', "finite|long"),
    "an arc as wide as a country": ('<path d="M0 0A1e9 2e9 0 1 1 9 9z"/>', "drawing"),
    "radii that overflow": ('<circle r="1e308" cx="1e308" cy="1"/>', "drawing"),
    "a use of itself": ('<g id="a"><use href="#a"/></g>', "'a' uses itself"),
    "uses in a ring": ('<g id="a"><use xlink:href="#b"/></g><g id="b"><use href="#a"/></g>', "uses itself"),
    "uses that double": (f'<defs><rect id="g0" width="5" height="5"/>{DOUBLED}</defs><use href="#g29"/>', "elements"),
    "deep groups": ("<g>" * 20_000 + "</g>" * 20_000, "deep in one another"),
    "a path that begins with a line": ('<path d="L 1 1 Z"/>', "drawing"),
    "a turn by a letter": ('<rect width="5" height="5" transform="rotate(a)"/>', "drawing"),
    "a mile of figures": (f'<rect width="{"9" * 5000}" height="5"/>', "drawing"),
    "nothing at all": ("", "no closed outline"),
}


@pytest.mark.parametrize("what", SVGS)
def test_a_hostile_svg_is_refused(tmp_path, what):
    drawn, told = SVGS[what]
    path = tmp_path / "drawing.svg"
    path.write_text(PAGE.format(drawn))
    with pytest.raises(ImportFileError, match=told) as raised:
        read_regions(path)
    assert (
        raised.value.message.startswith("drawing.svg: ")
        and len(raised.value.message) < 250
        and raised.value.entry == path.name
        and raised.value.rule
    )


def itself(space, doc):
    block = doc.blocks.new("B")
    for n in range(20):
        block.add_blockref("B", (n, 0))
    space.add_blockref("B", (0, 0))


def doubled(space, doc):
    doc.blocks.new("B0").add_circle((0, 0), 2)
    for n in range(1, 30):
        for x in (0, 10):
            doc.blocks.new(f"B{n}") if x == 0 else None
            doc.blocks[f"B{n}"].add_blockref(f"B{n - 1}", (x, 0))
    space.add_blockref("B29", (0, 0))


DXFS = {
    "a block in itself": (itself, "the block B inserts itself"),
    "blocks that double": (doubled, "inserted more than 10000 times"),
    "an ellipse of a million kilometres": (lambda space, _: space.add_ellipse((0, 0), (1e12, 0), 0.5), "long"),
    "a circle beyond all": (lambda space, _: space.add_circle((0, 0), 1e300), "origin"),
    "a spline far out": (lambda space, _: space.add_spline([(0, 0), (1e15, 1), (3, 1e15), (9, 9)]), "long"),
    "a place that is none": (lambda space, _: space.add_lwpolyline([(0, 0), (5, 0), (math.nan, 5)], close=True), "finite"),
}


@pytest.mark.parametrize("what", DXFS)
def test_a_hostile_dxf_is_refused(tmp_path, what):
    draw, told = DXFS[what]
    path = tmp_path / "drawing.dxf"
    doc = ezdxf.new()
    draw(doc.modelspace(), doc)
    doc.saveas(path)
    with pytest.raises(ImportFileError, match=told) as raised:
        read_regions(path)
    assert raised.value.message.startswith("drawing.dxf: ") and raised.value.entry == path.name and raised.value.rule


@pytest.mark.parametrize(
    "content", [b"", b"\x00" * 999, b"0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n", b"0\nSECTION\n" * 5000, "grün".encode("utf-16")]
)
@pytest.mark.parametrize("suffix", ["dxf", "svg"])
def test_what_is_no_drawing_is_refused(tmp_path, suffix, content):
    path = tmp_path / f"drawing.{suffix}"
    path.write_bytes(content)
    with pytest.raises(ImportFileError, match=f"drawing.{suffix}: ") as raised:
        read_regions(path)
    assert raised.value.rule


@pytest.mark.parametrize("depth", [101, 200_000])
def test_lists_in_lists_do_not_end_the_process(tmp_path, depth):
    path = tmp_path / "solid.step"
    path.write_text(f"ISO-10303-21;HEADER;ENDSEC;DATA;#1=A('((('{'(' * depth}{')' * depth});ENDSEC;END-ISO-10303-21;")
    with pytest.raises(ImportFileError, match=f"solid.step: its lists lie {depth + 1} deep") as raised:
        read_step(path, "solid.step")
    assert raised.value.value == depth + 1


def test_loose_lines_are_joined_whatever_their_order():
    """Three thousand squares, each of four lines that run either way: every one is found, none with its neighbour's lines."""
    lines = []
    for n in range(3000):
        x, y = n % 60 * 7.0, n // 60 * 7.0
        corners = [(x, y), (x + 5, y), (x + 5, y + 5 + n / 3000), (x, y + 5)]
        for i in range(4):
            ends = [corners[i], corners[(i + 1) % 4]]
            lines.append((ends[:: -1 if (n + i) % 3 else 1], [0.0]))
    shuffled = [lines[i * 7919 % len(lines)] for i in range(len(lines))]
    found, left = chained(shuffled)
    assert left == [] and len(found) == 3000
    assert sorted(round(abs(c.area), 6) for c in found) == pytest.approx([25 + n * 2.5 / 3000 for n in range(3000)])


@pytest.mark.parametrize("gap", [0.9, 1.1])
@pytest.mark.parametrize("at", [0.0, -JOIN / 2, 12345.678])
def test_ends_are_joined_up_to_the_limit_wherever_they_lie(gap, at):
    away = JOIN * gap
    run = [([(at, at), (at + 10, at)], [0.0]), ([(at + 10 + away, at), (at + 5, at + 8)], [0.0]), ([(at + 5, at + 8), (at, at)], [0.0])]
    found, left = chained(run)
    assert (len(found), not left) == ((1, True) if gap < 1 else (0, False))


def test_nested_outlines_are_regions_and_holes_by_turns(tmp_path):
    """Forty squares in one another beside a few hundred: each second one is a part, and has the next as its hole."""
    doc = ezdxf.new()
    doc.header["$INSUNITS"] = 4
    space = doc.modelspace()
    for n in range(40):
        space.add_lwpolyline([(n, n), (100 - n, n), (100 - n, 100 - n), (n, 100 - n)], close=True)
    for n in range(300):
        space.add_lwpolyline([(200 + 3 * n, 0), (202 + 3 * n, 0), (202 + 3 * n, 1), (200 + 3 * n, 1)], close=True)
    doc.saveas(tmp_path / "d.dxf")
    regions = read_regions(tmp_path / "d.dxf")
    assert len(regions) == 320
    areas = [[round(abs(c.area), 6) for c in (r.outer, *r.inner)] for r in regions]
    assert areas == [[(100 - 4 * n) ** 2, (98 - 4 * n) ** 2] for n in range(20)] + [[2.0]] * 300


@pytest.mark.parametrize("way", [(0, 1), (0, -1), (1, 0), (-1, 0), (1, 1), (-1, 1), (1, -1), (-1, -1)])
@pytest.mark.parametrize("cell", [(3.0, 3.0), (-7.5, 11.0), (0.0, 0.0), (40.0, -2.0)])
def test_ends_on_both_sides_of_a_square_s_edge_meet(way, cell):
    """Ends are looked up by squares of two reaches: an end a hair beside a square's edge meets one on its other side, whichever way it lies."""
    x, y = (c * 2 * JOIN for c in cell)
    near = JOIN * 0.3
    a, b = (x - way[0] * near, y - way[1] * near), (x + way[0] * near, y + way[1] * near)
    run = [([a, (x + 10, y)], [0.0]), ([(x + 10, y), (x + 5, y + 8)], [0.0]), ([(x + 5, y + 8), b], [0.0])]
    for some in (run, run[::-1], [run[1], run[0], run[2]]):
        found, left = chained(some)
        assert len(found) == 1 and not left
