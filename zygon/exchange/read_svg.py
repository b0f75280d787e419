"""Reading SVG shapes as runs of lines and arcs in mm, y up; circular arcs stay arcs, other curves are divided."""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Iterator
from io import BytesIO
from itertools import pairwise
from pathlib import Path
from typing import Any
from xml.etree import ElementTree
from xml.etree.ElementTree import Element

from svgelements import SVG, Arc, Close, Group, Length, Line, Move, PathSegment, Shape, Use

from zygon.errors import ImportFileError
from zygon.exchange.chain import LayeredRun, Run
from zygon.geometry.arc import bulge_from_angle
from zygon.limits import FARTHEST, MAX_VERTICES
from zygon.measure.units import INCH
from zygon.tolerance import EPS, WITHIN

__all__ = ["svg_segments"]

NOT_CUT = ("mark", "note")
PIXEL = INCH / 96  # CSS: 96 px are one inch
#: Curves that are no arcs are divided so that no chord is farther away than this (mm).
FLATTEN = 0.01
#: Groups in groups; a drawing has a handful.
DEEPEST = 200
#: Where and how large shapes are.
PLACES = ("x", "y", "width", "height", "cx", "cy", "r", "rx", "ry", "x1", "y1", "x2", "y2", "points", "d")
#: Shown by what refers to them alone.
REFERRED = ("mask", "marker", "clipPath", "pattern")
HREF = "{http://www.w3.org/1999/xlink}href"


def svg_segments(path: Path) -> list[LayeredRun]:
    """Runs of all shapes of the page, each with its layer: the group that it lies in, else the class or the colour that it is drawn in. Raises ImportFileError for what is too much; and whatever the library does in a file that is no SVG."""
    root = _refuse_endless(path)
    page = SVG.parse(_only_drawn(root) or str(path), reify=True, ppi=96, **_other_side(root))
    scale = _scale(root)
    runs: list[LayeredRun] = []
    left = MAX_VERTICES
    for layer, element in _shapes(page, ""):
        for points, bulges in _runs(element.segments(), scale, left):
            left -= len(bulges)
            runs.append((layer, ([(x * scale, -y * scale) for x, y in points], bulges)))
    return runs


def _refuse_endless(path: Path) -> Element:
    """The page's element. Refuses a file whose groups are too deep, or whose uses give too many elements, or lead back to themselves."""
    depth = 0
    for event, node in ElementTree.iterparse(path, events=("start", "end")):
        depth += 1 if event == "start" else -1
        if depth > DEEPEST:
            raise ImportFileError(f"its elements lie more than {DEEPEST} deep in one another", value=depth, rule="depth of elements")
        root = node
    named = {node.get("id"): node for node in root.iter() if node.get("id")}
    counts: dict[Any, int] = {}
    open_: set[Any] = set()

    def count(node: Any) -> int:
        """How many elements there are when each use stands for what it names."""
        if node in counts:
            return counts[node]
        if node in open_:
            raise ImportFileError(f"{node.get('id')!r} uses itself", value=node.get("id"), rule="uses of others")
        open_.add(node)
        total = 1 + sum(map(count, node))
        used = named.get((node.get("href") or node.get(HREF) or "").removeprefix("#")) if node.tag.endswith("use") else None
        if used is not None:
            total += count(used)
        open_.discard(node)
        if total > MAX_VERTICES:
            raise ImportFileError(f"its uses give more than {MAX_VERTICES} elements", value=total, rule="elements")
        counts[node] = total
        return total

    count(root)
    return root


def _shapes(node: Any, layer: str) -> Iterator[tuple[str, Shape]]:
    """The shapes below a node, each with its layer."""
    attributes = node.values.get("attributes") or {}
    own = str(attributes.get("class", ""))
    if isinstance(node, Group | Use):
        if isinstance(node, Group) and not isinstance(node, SVG):
            layer = layer or str(node.id or own or "")
        for child in node:
            yield from _shapes(child, own if own in NOT_CUT else layer)
    elif isinstance(node, Shape):
        colour = getattr(node.stroke, "hex", None)
        yield own if own in NOT_CUT else layer or own or (f"lines {colour}" if colour else "fills"), node


def _only_drawn(root: Element) -> BytesIO | None:
    """The page without what is drawn by nobody but whoever refers to it, and which the parser would draw by itself; None where there is nothing of it.

    Raises ImportFileError for a symbol with a view box, which its uses would scale, and for a page within the page, which the parser puts elsewhere.
    """
    if any(node.tag.rpartition("}")[2] == "svg" for node in root.iter() if node is not root):
        raise ImportFileError("a page (svg) stands within the page; write it out as shapes", value="svg", rule="one page")
    # a group has no place of its own; the parser would hand it down to its shapes
    placed = [
        node for node in root.iter() if node.tag.rpartition("}")[2] == "g" and [node.attrib.pop(a) for a in PLACES if a in node.attrib]
    ]
    # a path without data draws nothing (SVG 2, 9.3.2); the parser falls over it
    bare = [node for node in root.iter() if node.tag.rpartition("}")[2] == "path" and "d" not in node.attrib]
    for node in bare:
        node.set("d", "")
    hidden = [(parent, node) for parent in root.iter() for node in parent if node.tag.rpartition("}")[2] in (*REFERRED, "symbol")]
    for parent, node in hidden:
        if node.tag.endswith("symbol"):
            if node.get("viewBox"):
                name = node.get("id", "")
                raise ImportFileError(
                    f"the symbol {name!r} has a view box of its own; write it out as shapes", value=name, rule="symbols without a view box"
                )
            node.tag = node.tag.replace("symbol", "g")
            kept = Element(node.tag.removesuffix("g") + "defs")
            kept.append(node)
            parent.insert(list(parent).index(node), kept)
        parent.remove(node)
    return BytesIO(ElementTree.tostring(root)) if hidden or placed or bare else None


def _given(root: Element, side: str) -> str:
    """A side of the page as it is written; '' where it is not, or is a share of whatever shows the page."""
    text = root.get(side, "").strip()
    return "" if text.endswith("%") else text


def _other_side(root: Element) -> dict[str, float]:
    """In pixels the side that a page of one side alone has by its view box, whose shape it keeps (CSS Images, default sizing); the parser would take that of the box."""
    width, height = _given(root, "width"), _given(root, "height")
    box = [float(x) for x in re.findall(r"[-+]?[\d.]+(?:[eE][-+]?\d+)?", root.get("viewBox", ""))]
    if len(box) != 4 or min(box[2:]) <= 0 or bool(width) == bool(height):
        return {}
    given = float(Length(width or height).value(ppi=96))
    return {"height": given * box[3] / box[2]} if width else {"width": given * box[2] / box[3]}


def _scale(root: Element) -> float:
    """Millimetres a unit of the parsed page. A page sized in mm or cm is scaled by that, since the parser rounds those units."""
    size = re.fullmatch(r"[\d.eE+-]+(mm|cm)", _given(root, "width") or _given(root, "height"))
    if size and root.get("viewBox"):
        return {"mm": 1.0, "cm": 10.0}[size[1]] / float(Length(f"1{size[1]}").value(ppi=96))
    return PIXEL


def _xy(p) -> tuple[float, float]:
    return float(p.x), float(p.y)


def _longest(curve: Any) -> float:
    """What a curve is at most as long as: the polygon of its control points; an elliptic arc as one of its greater radius."""
    if isinstance(curve, Arc):
        return float(max(curve.rx, curve.ry) * abs(curve.sweep))
    corners = [
        _xy(p) for p in (curve.start, *(getattr(curve, n, None) for n in ("control", "control1", "control2")), curve.end) if p is not None
    ]
    return sum(math.dist(p, q) for p, q in pairwise(corners))


def _runs(path: Iterable[PathSegment], scale: float, most: int) -> list[Run]:
    """Lines and arcs of a path in its own units, ``scale`` mm each. Raises ImportFileError where its curves would give more than ``most`` corners."""
    runs: list[Run] = []
    points: list[tuple[float, float]] = []
    bulges: list[float] = []
    for segment in path:
        if isinstance(segment, Move):
            if bulges:
                runs.append((points, bulges))
            points, bulges = [_xy(segment.end)] if segment.end is not None else [], []
        elif isinstance(segment, Arc) and abs(segment.rx - segment.ry) < WITHIN * max(segment.rx, EPS):
            # halves, so that a full turn has two ends too; turning y up again turns the sweep round
            middle = segment.point(0.5)
            points += [_xy(middle), _xy(segment.end)]
            bulges += [bulge_from_angle(-segment.sweep / 2)] * 2
        elif isinstance(segment, (Line, Close)):
            if segment.end is not None and math.dist(points[-1], _xy(segment.end)) > EPS:
                points.append(_xy(segment.end))
                bulges.append(0.0)
        else:
            around = _longest(segment)
            if not around * scale <= FARTHEST:
                raise ImportFileError(
                    f"a curve is {around * scale:g} mm long; at most {FARTHEST:g} mm are read",
                    value=around * scale,
                    rule="length of curves",
                )
            n = max(4, math.ceil(math.sqrt(around / FLATTEN / 8)) * 4)
            if len(bulges) + n > most:
                raise ImportFileError(f"its curves have more than {MAX_VERTICES} corners", value=n, rule="vertices")
            points += [_xy(segment.point(i / n)) for i in range(1, n + 1)]
            bulges += [0.0] * n
    if bulges:
        runs.append((points, bulges))
    return runs
