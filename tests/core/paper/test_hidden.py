"""What is seen and what is hidden: against rays through boxes, against projected meshes, and view against view."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.paper.sheets import NAMES, built_example, seen
from tests.explore import drawn
from zygon.geometry.boolean import Region
from zygon.geometry.contour import rectangle
from zygon.making.kinds.registry import meshes_of
from zygon.making.result.body import Prism
from zygon.paper.compose import asked_for
from zygon.paper.hidden import COARSE, FINE, Asked, Thing, _by_mesh, _exactly, _solid, look_at, placed_in
from zygon.paper.ink import Arc, Curve, Line
from zygon.paper.looks import LOOKS, place_about
from zygon.paper.solid_views import alone, everything
from zygon.paper.strokes import tidied
from zygon.paper.subjects import subjects

BOX = st.tuples(*[st.integers(0, 12)] * 3, *[st.integers(1, 6)] * 3)


def box(n: int, x: float, y: float, z: float, a: float, b: float, c: float) -> Thing:
    body = Prism(Region(rectangle(0, 0, a, b), ()), c, f"box {a} {b} {c}")
    return Thing(f"box{n}", "rod", body, ((1, 0, 0, x), (0, 1, 0, y), (0, 0, 1, z)))


def points_on(strokes, pen: str, step: float = 0.23) -> np.ndarray:
    """Places along the lines of a pen."""
    found = []
    for s in strokes:
        if s.pen == pen and isinstance(s, Line):
            n = max(2, int(math.dist(s.p, s.q) / step))
            found += [(s.p[0] + (s.q[0] - s.p[0]) * k / n, s.p[1] + (s.q[1] - s.p[1]) * k / n) for k in range(n + 1)]
    return np.array(found).reshape(-1, 2)


def edge_points(boxes, step: float = 0.23):
    """Places on the edges of boxes."""
    for x, y, z, a, b, c in boxes:
        low, size = np.array((x, y, z), float), np.array((a, b, c), float)
        for axis in range(3):
            others = [k for k in range(3) if k != axis]
            for i in (0, 1):
                for j in (0, 1):
                    start = low.copy()
                    start[others[0]] += i * size[others[0]]
                    start[others[1]] += j * size[others[1]]
                    for t in np.arange(0.11, size[axis], step):
                        p = start.copy()
                        p[axis] += t
                        yield p


def is_visible(p: np.ndarray, toward: np.ndarray, boxes) -> bool | None:
    """Whether nothing stands between a place and the eye: the ray from it meets no box's inside. None where it only grazes one."""
    for x, y, z, a, b, c in boxes:
        low, high = np.array((x, y, z), float), np.array((x + a, y + b, z + c), float)
        for grown, answer in ((-0.02, False), (0.02, None)):
            with np.errstate(divide="ignore", invalid="ignore"):
                one, other = (low - grown - p) / toward, (high + grown - p) / toward
            first, last = np.fmin(one, other), np.fmax(one, other)
            flat = np.abs(toward) < 1e-12
            beside = flat & ((p <= low - grown) | (p >= high + grown))
            if beside.any():
                continue
            start, end = first[~flat].max(), last[~flat].min()
            if end > max(start, 0.05) + 1e-9:
                if answer is None:
                    return None
                return False
    return True


@given(st.lists(BOX, min_size=1, max_size=5), st.sampled_from(sorted(LOOKS)))
@settings(max_examples=drawn(30))
def test_edges_of_boxes_are_drawn_where_no_ray_to_the_eye_meets_anything(boxes, name):
    """Boxes that stand apart, or through one another, of which the ray test knows the edges that each has by itself."""
    apart = []
    for b in boxes:  # those that meet others are left out: where they meet there are no edges
        lo, hi = np.array(b[:3]), np.array(b[:3]) + np.array(b[3:])
        if all((lo > np.array(o[:3]) + np.array(o[3:])).any() or (hi < np.array(o[:3])).any() for o in apart):
            apart.append(b)
    look = LOOKS[name]
    found = look_at(Asked(tuple(box(n, *b) for n, b in enumerate(apart)), look, hidden=True))
    visible, hidden = points_on(found.strokes, "visible", 0.05), points_on(found.strokes, "hidden", 0.05)
    toward = np.array(look.toward)
    for p in edge_points(apart):
        at = np.array(look.seen(tuple(p)))
        clear = is_visible(p, toward, apart)
        if clear is None:
            continue
        near = np.hypot(*(visible - at).T).min() if len(visible) else math.inf
        if clear:
            assert near < 0.06, (p, name)
        else:
            drawn_hidden = np.hypot(*(hidden - at).T).min() if len(hidden) else math.inf
            assert min(near, drawn_hidden) < 0.06, (p, name)
    # and nothing is drawn that is no edge which is seen
    edges = [(np.array(look.seen(tuple(p))), is_visible(p, toward, apart)) for p in edge_points(apart, 0.11)]
    places = np.array([e for e, v in edges if v is not False])
    for at in points_on(found.strokes, "visible", 0.4):
        assert np.hypot(*(places - at).T).min() < 0.25, (at, name)


@pytest.mark.parametrize("name", NAMES)
def test_views_of_every_example_agree_in_width_height_and_depth(name):
    built = built_example(name)
    for subject in subjects(built):
        views = {look: seen(asked).bounds for look, asked in asked_for(built, subject).items()}
        wide = {look: (b[2] - b[0], b[3] - b[1]) for look, b in views.items()}
        if {"front", "top"} <= set(wide):
            assert wide["front"][0] == pytest.approx(wide["top"][0], abs=0.05)
        if {"front", "left"} <= set(wide):
            assert wide["front"][1] == pytest.approx(wide["left"][1], abs=0.05)
        if {"left", "top"} <= set(wide):
            assert wide["left"][0] == pytest.approx(wide["top"][1], abs=0.05)


def outline_of(strokes) -> shapely.Geometry:
    """What the strokes enclose, outermost."""
    lines = []
    for s in strokes:
        if s.pen == "hidden":
            continue
        if isinstance(s, Line):
            lines.append(shapely.LineString((s.p, s.q)))
        elif isinstance(s, Curve):
            lines.append(shapely.LineString(s.points))
        else:
            n = max(8, int(abs(s.sweep) * 60))
            lines.append(shapely.LineString([s.at(k / n) for k in range(n + 1)]))
    walls = shapely.unary_union([line.buffer(0.03) for line in lines])
    return shapely.unary_union([shapely.Polygon(p.exterior) for p in shapely.get_parts(walls)])


@pytest.mark.parametrize(
    ("name", "key"),
    [("hand-crank", "shaft"), ("hand-crank", "handle"), ("smoker-hook", "hook"), ("tube-stand", "rail_low_front"), ("roof", "roof")],
)
@pytest.mark.parametrize("look", sorted(LOOKS))
def test_what_the_lines_enclose_is_the_shadow_of_the_mesh(name, key, look):
    """The independent mesh of each kind of solid, projected triangle by triangle, covers what the drawn lines enclose."""
    built = built_example(name)
    part = built.made[next(k for k in built.made if k == key)]
    found = seen(Asked((Thing(key, part.record.kind, part.body, part.matrix[:3]),), LOOKS[look], False))
    m, eye = np.array(part.matrix), LOOKS[look]
    shadow = []
    for mesh in meshes_of(part):
        at = mesh.positions @ m[:3, :3].T + m[:3, 3]
        flat = np.column_stack((at @ eye.right, at @ eye.up))
        for t in mesh.triangles:
            triangle = shapely.Polygon(flat[t])
            if triangle.area > 1e-9:
                shadow.append(triangle)
    cast = shapely.unary_union([t.buffer(0.01) for t in shadow])
    cast = shapely.unary_union([shapely.Polygon(p.exterior) for p in shapely.get_parts(cast)])
    drawn_ = outline_of(found.strokes)
    assert shapely.difference(cast, drawn_.buffer(0.15)).area < 0.02, "something of the solid lies outside of its lines"
    assert shapely.difference(drawn_, cast.buffer(0.15)).area < 0.02, "lines lie outside of the solid"


@pytest.mark.parametrize("look", sorted(LOOKS))
def test_by_mesh_and_exactly_the_same_is_seen(look):
    """A folded part with round holes both ways: straight lines to the hundredth, circles where they are seen square."""
    built = built_example("frame-rests")
    part = next(p for p in built.flats.values() if p.flat.fold)
    asked = alone(part, [look], hidden=False)[look]
    solid = _solid(asked.things[0])
    exact = tidied(_exactly([(part.key, placed_in(asked.things[0], solid))], asked))
    for fine in (FINE, COARSE):
        meshed = tidied(_by_mesh([(asked.things[0], solid)], asked, fine))
        for one, other in ((exact, meshed), (meshed, exact)):
            walls = shapely.unary_union([_line(s).buffer(0.15) for s in other if s.pen == "visible"])
            missed = sum(shapely.difference(_line(s), walls).length for s in one if s.pen == "visible")
            assert missed < 0.6, (look, fine)


@pytest.mark.parametrize("look", ["front", "corner", "under back left"])
@pytest.mark.parametrize("name", ["carrying-bail", "fold-down-leg", "hive-floor", "splayed-stand", "stand", "hand-crank"])
def test_of_many_parts_the_same_is_seen_by_mesh_and_exactly(name, look):
    """Open CASCADE's own hidden-line removal as referee, where its edges are lines and circles: parts that touch, stand in one another, lie before one another."""
    asked = everything(built_example(name), [look], hidden=False)[look]
    solids = [(t, _solid(t)) for t in asked.things]
    exact = tidied(_exactly([(t.key, placed_in(t, solid)) for t, solid in solids], asked))
    meshed = tidied(_by_mesh(solids, asked, FINE))
    for one, other in ((exact, meshed), (meshed, exact)):
        walls = shapely.unary_union([_line(s).buffer(0.15) for s in other])
        missed = [shapely.difference(_line(s), walls).length for s in one if s.pen == "visible"]
        # where a rod stands on a face the circle between them is drawn by one and not by the other
        assert sum(missed) < 5.0, (name, look)


@pytest.mark.parametrize("look", sorted(LOOKS))
def test_the_outlines_of_tubes_are_drawn_where_no_ray_to_the_eye_meets_anything(look):
    """Straight round tubes that lie on one another: their outlines stand by a radius beside their axes; rays go through the meshes of the picture, which are others."""
    built = built_example("tube-stand")
    eye = LOOKS[look]
    found = look_at(everything(built, [look], hidden=False)[look])
    drawn_ = shapely.unary_union([_line(s) for s in found.strokes if s.pen == "visible"])
    view = np.array((eye.right, eye.up, eye.toward))
    corners = []
    for part in built.made.values():
        m = np.array(part.matrix)
        for mesh in meshes_of(part):
            corners.append(((mesh.positions @ m[:3, :3].T + m[:3, 3]) @ view.T)[mesh.triangles])
    facets = np.concatenate(corners)
    tried = 0
    for part in built.made.values():
        if getattr(part.body, "section", None) is None:
            continue
        m, radius = np.array(part.matrix), part.body.section.height / 2
        axis = view @ m[:3, 2]
        flat = math.hypot(*axis[:2])
        if flat < 1e-9:
            continue
        beside = np.array((-axis[1], axis[0], 0.0)) / flat * radius
        for share in np.linspace(0.12, 0.88, 9):
            middle = view @ (m[:3, 3] + m[:3, 2] * part.body.length * share)
            for side in (-1, 1):
                at = middle + side * beside
                # a ray a little outside of the tube itself, and one a little inside
                if not _met(facets, at + beside * side * 0.004, 0.5) and not _met(facets, at - beside * side * 0.01, radius):
                    tried += 1
                    assert shapely.distance(drawn_, shapely.Point(at[:2])) < 0.05, (part.key, look, share)
    assert tried > 30


def _met(facets: np.ndarray, at: np.ndarray, before: float) -> bool:
    """Whether a facet lies more than so far before a place, as the eye looks."""
    u, w = facets[:, 1] - facets[:, 0], facets[:, 2] - facets[:, 0]
    area = u[:, 0] * w[:, 1] - u[:, 1] * w[:, 0]
    x, y = (at[:2] - facets[:, 0, :2]).T
    with np.errstate(divide="ignore", invalid="ignore"):
        s, r = (x * w[:, 1] - y * w[:, 0]) / area, (u[:, 0] * y - u[:, 1] * x) / area
        inside = (s >= 0) & (r >= 0) & (s + r <= 1) & (np.abs(area) > 1e-9)
    return bool((facets[inside, 0, 2] + s[inside] * u[inside, 2] + r[inside] * w[inside, 2] > at[2] + before).any())


def _line(s) -> shapely.LineString:
    if isinstance(s, Line):
        return shapely.LineString((s.p, s.q))
    if isinstance(s, Curve):
        return shapely.LineString(s.points)
    n = max(8, int(abs(s.sweep) * 40))
    return shapely.LineString([s.at(k / n) for k in range(n + 1)])


def test_a_hole_that_is_seen_square_is_a_circle():
    built = built_example("smoker-hook")
    part = built.made["bracket"]
    found = seen(alone(part, ["front"], hidden=True)["front"])
    rounds = [s for s in found.strokes if isinstance(s, Arc) and s.pen == "visible" and s.full]
    assert len(rounds) == 1
    diameters = {round(2 * c.as_circle[2], 4) for c in part.flat.inside if c.as_circle}
    assert round(2 * rounds[0].radius, 4) in diameters


def test_the_seam_of_a_round_bar_is_no_line():
    built = built_example("hand-crank")
    handle = next(p for p in built.made.values() if p.path == "handle")
    found = seen(alone(handle, ["front"], hidden=False)["front"])
    assert not [s for s in found.strokes if s.pen == "smooth"]


@pytest.mark.parametrize("angle", ["first", "third"])
def test_views_lie_as_their_projection_has_them(angle):
    """ISO 5456-2: in first angle what is seen from the left lies to the right, from above underneath; in third angle the other way."""
    sign = 1 if angle == "first" else -1
    assert place_about("left", angle) == (sign, 0)
    assert place_about("right", angle) == (-sign, 0)
    assert place_about("top", angle) == (0, -sign)
    assert place_about("bottom", angle) == (0, sign)


@pytest.mark.parametrize("name", sorted(LOOKS))
def test_looks_are_square_and_right_handed(name):
    look = LOOKS[name]
    axes = np.array([look.right, look.up, look.toward])
    assert axes @ axes.T == pytest.approx(np.eye(3), abs=1e-12)
    ways = {"front": (0, -1, 0), "back": (0, 1, 0), "left": (-1, 0, 0), "right": (1, 0, 0), "top": (0, 0, 1), "bottom": (0, 0, -1)}
    # from a corner isometric: all three axes equally short
    side = 1 / math.sqrt(3)
    eye = (-side if "left" in name else side, side if "back" in name else -side, -side if name.startswith("under") else side)
    assert look.toward == pytest.approx(ways.get(name, eye))
    assert look.up[2] > 0 or name in ("top", "bottom")
