"""Reading outlines from DXF and SVG: closed contours in mm with true arcs, sorted into regions with holes."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import chain
from pathlib import Path

import numpy as np
import shapely

from zygon.errors import ImportFileError
from zygon.exchange.chain import LayeredRun, Run, chained
from zygon.exchange.mended import Mended, once
from zygon.exchange.read_dxf import dxf_segments
from zygon.exchange.read_svg import svg_segments
from zygon.geometry.boolean import Region, to_polygons
from zygon.geometry.chords import with_arcs
from zygon.geometry.contour import Contour, Point
from zygon.limits import FARTHEST, MAX_CONTOURS, MAX_UPLOAD_BYTES, MAX_VERTICES

__all__ = ["MEND", "FileOutlines", "Layer", "read_contours", "read_outlines", "read_regions"]

#: Ends of outlines up to this far apart (mm) are joined.
MEND = 0.2
#: Pairs of outlines of which one lies in the other.
MAX_NESTED = 1_000_000
#: So many outlines are looked up at once.
TOGETHER = 200


#: Layers of what is engraved or noted, which are not cut unless they are chosen.
NOT_CUT = ("MARK", "NOTE")


@dataclass(frozen=True)
class Layer:
    """A layer of a drawing: how many curves are on it, and whether it was read."""

    name: str
    curves: int
    read: bool


@dataclass(frozen=True)
class FileOutlines:
    """The outlines of a file with their holes, largest first; its layers; and what was mended."""

    regions: tuple[Region, ...]
    layers: tuple[Layer, ...]
    mended: tuple[Mended, ...]


def read_contours(path: Path, name: str = "") -> list[Contour]:
    """All closed contours of a file. Raises ImportFileError naming the file, as itself or as ``name``, and what is wrong with it."""
    name = name or path.name
    layered = _layered(path, name)
    return _contours(name, [run for layer, run in layered if layer.upper() not in NOT_CUT], [])


def _layered(path: Path, name: str) -> list[LayeredRun]:
    suffix = path.suffix.lower()
    if suffix not in (".dxf", ".svg"):
        raise ImportFileError(
            f"{name}: {suffix or 'no ending'} is not a kind of file that is read; DXF and SVG are",
            entry=name,
            value=suffix,
            rule="DXF or SVG",
        )
    layered = _runs(path, name, {".dxf": dxf_segments, ".svg": svg_segments}[suffix])
    _bounded(name, [run for _, run in layered])
    return layered


def _contours(name: str, runs: list[Run], mended: list[Mended]) -> list[Contour]:
    gaps: list[tuple[Point, float]] = []
    contours, open_ = chained(runs, MEND, gaps)
    if gaps:
        mended.append(Mended("gaps closed", len(gaps), gaps[0][0], max(g for _, g in gaps)))
    if len(contours) > MAX_CONTOURS:
        raise ImportFileError(
            f"{name}: {len(contours)} outlines; at most {MAX_CONTOURS} are read", entry=name, value=len(contours), rule="outlines"
        )
    alone = len(open_)
    open_ = [run for run in open_ if len(run[1]) > 1]
    if not contours:
        if open_:
            raise _open_fault(name, open_[0])
        raise ImportFileError(f"{name}: no closed outline found", entry=name, value=0, rule="at least one closed outline")
    if open_:
        # a line within an outline is a mark on it; one beyond all of them is an outline that does not close
        whole = shapely.STRtree(shapely.buffer(to_polygons(contours, 0.05), MEND))
        marks = set(whole.query([shapely.LineString(run[0]) for run in open_], predicate="covered_by")[0].tolist())
        beyond = next((run for n, run in enumerate(open_) if n not in marks), None)
        if beyond:
            raise _open_fault(name, beyond)
        mended.append(Mended("open lines within outlines left out", len(open_), open_[0][0][0]))
    if alone > len(open_):
        mended.append(Mended("single lines left out", alone - len(open_), (0.0, 0.0)))
    return contours


def _runs(path: Path, name: str, read: Callable[[Path], list[LayeredRun]]) -> list[LayeredRun]:
    """What a reader finds in a file; whatever it raises, as an ImportFileError that names the file."""
    try:
        if path.stat().st_size > MAX_UPLOAD_BYTES:
            raise ImportFileError(f"larger than {MAX_UPLOAD_BYTES // 1_000_000} MB", rule="file size")
        return read(path)
    except ImportFileError as error:
        raise ImportFileError(f"{name}: {error.message}", entry=name, value=error.value, rule=error.rule) from error
    except OSError as error:
        raise ImportFileError(f"{name}: cannot be read ({error.strerror or error})", entry=name, rule="a readable file") from error
    # the libraries raise whatever their steps come upon, from a missing key to a division by zero
    except Exception as error:
        kind = {".dxf": "a DXF", ".svg": "an SVG"}[path.suffix.lower()]
        told = " ".join(str(error).split()) or type(error).__name__
        raise ImportFileError(
            f"{name}: not {kind} that can be read ({told[:120]})", entry=name, rule=f"a valid {kind.split()[1]}"
        ) from error


def _bounded(name: str, runs: list[Run]) -> None:
    """Refuses what is too much, or too far away, to be a drawing of parts."""
    count = sum(len(bulges) for _, bulges in runs)
    if count > MAX_VERTICES:
        raise ImportFileError(f"{name}: {count} corners; at most {MAX_VERTICES} are read", entry=name, value=count, rule="vertices")
    places = np.fromiter(chain.from_iterable(p for points, _ in runs for p in points), float)
    bent = np.fromiter(chain.from_iterable(bulges for _, bulges in runs), float)
    if not (np.isfinite(places).all() and np.isfinite(bent).all()):
        raise ImportFileError(f"{name}: a coordinate is no finite number", entry=name, rule="finite coordinates")
    far = float(abs(places).max(initial=0.0))
    if far > FARTHEST:
        raise ImportFileError(
            f"{name}: a coordinate lies {far:g} mm from the drawing's origin; at most {FARTHEST:g} mm are read",
            entry=name,
            value=far,
            rule="coordinates",
        )


def _open_fault(name: str, run: Run) -> ImportFileError:
    (x, y), gap = run[0][0], math.dist(run[0][0], run[0][-1])
    return ImportFileError(
        f"{name}: the outline near {x + 0.0:.1f}, {y + 0.0:.1f} is open; its ends are {gap:.2f} mm apart, and up to {MEND:g} mm are mended",
        entry=name,
        value=round(gap, 3),
        rule=f"closed outlines, or gaps of up to {MEND:g} mm",
    )


def read_regions(path: Path, name: str = "") -> list[Region]:
    """The outlines of a file with their holes, largest first. Raises ImportFileError naming the file, as itself or as ``name``."""
    name = name or path.name
    return _regions(name, read_contours(path, name))


def read_outlines(path: Path, name: str = "", layers: Sequence[str] | None = None, arcs: bool = True) -> FileOutlines:
    """The outlines of a file, on the layers that are named (all that are cut where none are), mended; ``arcs`` are found in short chords.

    Raises ImportFileError naming the file, as itself or as ``name``.
    """
    name = name or path.name
    layered = _layered(path, name)
    counts = Counter(layer for layer, _ in layered)
    chosen = {k for k in counts if (k.upper() not in NOT_CUT if layers is None else k in layers)}
    if layers is not None and not chosen:
        rule = f"one of {', '.join(list(counts)[:12])}"
        raise ImportFileError(f"{name}: none of its layers is chosen", entry="layers", value=", ".join(layers)[:200], rule=rule)
    mended: list[Mended] = []
    runs, doubled = once([run for layer, run in layered if layer in chosen])
    if doubled:
        mended.append(Mended("doubled lines left out", len(doubled), doubled[0]))
    contours = _contours(name, runs, mended)
    if arcs:
        found = [with_arcs(c) for c in contours]
        contours = [c for c, _ in found]
        chords = sum(n for _, n in found)
        if chords:
            mended.append(Mended("chords made arcs", chords, next(c.points[0] for c, n in found if n)))
    shown = tuple(Layer(k, n, k in chosen) for k, n in counts.items())
    return FileOutlines(tuple(_regions(name, contours)), shown, tuple(mended))


def _regions(name: str, found: list[Contour]) -> list[Region]:
    contours = sorted(found, key=lambda c: -abs(c.area))
    polygons = to_polygons(contours, 0.01)
    for n in np.flatnonzero(~shapely.is_valid(polygons))[:1]:
        x, y = contours[n].points[0]
        raise ImportFileError(f"{name}: the outline near {x:.1f}, {y:.1f} crosses itself", entry=name, rule="simple outlines")
    inside = _nested(name, polygons)
    holes: dict[int, list[Contour]] = {}
    for k, around in enumerate(inside):
        for i in around:
            if len(around) == len(inside[i]) + 1:
                holes.setdefault(i, []).append(contours[k].wound(ccw=False))
    return [Region(c.wound(ccw=True), tuple(holes.get(i, ()))) for i, c in enumerate(contours) if len(inside[i]) % 2 == 0]


def _nested(name: str, polygons: np.ndarray) -> list[list[int]]:
    """For each polygon those that it lies in."""
    tree, area = shapely.STRtree(polygons), shapely.area(polygons)
    points = shapely.point_on_surface(polygons)
    inside: list[list[int]] = [[] for _ in polygons]
    total = 0
    for first in range(0, len(polygons), TOGETHER):
        for n, j in tree.query(points[first : first + TOGETHER], predicate="within").T.tolist():
            if area[j] > area[first + n]:
                inside[first + n].append(j)
                total += 1
        if total > MAX_NESTED:
            raise ImportFileError(
                f"{name}: its outlines lie within one another too often; at most {MAX_NESTED} pairs are read",
                entry=name,
                value=total,
                rule="outlines within outlines",
            )
    return inside
