"""Reading SVG shapes as runs of lines and arcs in mm, y up; circular arcs stay arcs, other curves are divided."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from pathlib import Path
from xml.etree.ElementTree import ParseError

from svgelements import SVG, Arc, Close, Group, Length, Line, Move, Shape, Text
from svgelements import Path as SvgPath

from zygon.errors import ImportFileError
from zygon.exchange.chain import Run
from zygon.geometry.arc import bulge_from_angle
from zygon.measure.units import INCH
from zygon.tolerance import EPS, SAGITTA, WITHIN

__all__ = ["svg_segments"]

PIXEL = INCH / 96  # CSS: 96 px are one inch
#: Curves that are no arcs are divided so that no chord is farther away than this (mm).
FLATTEN = 0.01


def svg_segments(path: Path) -> list[Run]:
    """Runs of all shapes of the page. Raises ImportFileError for a file that is no SVG."""
    try:
        page = SVG.parse(str(path), reify=True, ppi=96)
    except (ParseError, ValueError, KeyError, AttributeError) as error:
        raise ImportFileError(f"{path.name}: not an SVG that can be read ({error})", entry=str(path), rule="a valid SVG") from error
    scale = _scale(page)
    runs: list[Run] = []
    for element in _cut_shapes(page):
        for points, bulges in _runs(abs(SvgPath(element))):
            runs.append(([(x * scale, -y * scale) for x, y in points], bulges))
    return runs


def _cut_shapes(node) -> Iterator[Shape]:
    """The shapes below a node, but for what is classed as marks or notes."""
    attributes = node.values.get("attributes") or {}
    if str(attributes.get("class", "")) in ("mark", "note") or isinstance(node, Text):
        return
    if isinstance(node, Group):
        for child in node:
            yield from _cut_shapes(child)
    elif isinstance(node, Shape):
        yield node


def _scale(page: SVG) -> float:
    """Millimetres a unit of the parsed page. A page sized in mm or cm is scaled by that, since the parser rounds those units."""
    attributes = page.values.get("attributes") or {}
    width = re.fullmatch(r"\s*[\d.eE+-]+(mm|cm)\s*", str(attributes.get("width", "")))
    if width and attributes.get("viewBox"):
        return {"mm": 1.0, "cm": 10.0}[width[1]] / float(Length(f"1{width[1]}").value(ppi=96))
    return PIXEL


def _xy(p) -> tuple[float, float]:
    return float(p.x), float(p.y)


def _runs(path: SvgPath) -> list[Run]:
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
            n = max(4, math.ceil(math.sqrt(segment.length(error=SAGITTA) / FLATTEN / 8)) * 4)
            points += [_xy(segment.point(i / n)) for i in range(1, n + 1)]
            bulges += [0.0] * n
    if bulges:
        runs.append((points, bulges))
    return runs
