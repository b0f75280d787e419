"""Reading outlines from DXF and SVG: closed contours in mm with true arcs, sorted into regions with holes."""

from __future__ import annotations

import math
from pathlib import Path

import shapely

from zygon.design.limits import MAX_UPLOAD_BYTES, MAX_VERTICES
from zygon.errors import ImportFileError
from zygon.exchange.chain import Run, chained
from zygon.exchange.read_dxf import dxf_segments
from zygon.exchange.read_svg import svg_segments
from zygon.geometry.boolean import Region, to_polygon
from zygon.geometry.contour import Contour

__all__ = ["MEND", "read_contours", "read_regions"]

#: Ends of outlines up to this far apart (mm) are joined.
MEND = 0.2


def read_contours(path: Path) -> list[Contour]:
    """All closed contours of a file. Raises ImportFileError naming the file and what is wrong with it."""
    suffix = path.suffix.lower()
    if suffix not in (".dxf", ".svg"):
        raise ImportFileError(
            f"{path.name}: {suffix or 'no ending'} is not a kind of file that is read; DXF and SVG are",
            entry=str(path),
            value=suffix,
            rule="DXF or SVG",
        )
    try:
        if path.stat().st_size > MAX_UPLOAD_BYTES:
            raise ImportFileError(f"{path.name}: larger than {MAX_UPLOAD_BYTES // 1_000_000} MB", entry=str(path), rule="file size")
        runs = dxf_segments(path) if suffix == ".dxf" else svg_segments(path)
    except OSError as error:
        raise ImportFileError(
            f"{path.name}: cannot be read ({error.strerror or error})", entry=str(path), rule="a readable file"
        ) from error
    contours, open_ = chained(runs, MEND)
    count = sum(len(c.points) for c in contours)
    if count > MAX_VERTICES:
        raise ImportFileError(
            f"{path.name}: {count} corners; at most {MAX_VERTICES} are read", entry=str(path), value=count, rule="vertices"
        )
    if any(not math.isfinite(v) for c in contours for p in c.points for v in p):
        raise ImportFileError(f"{path.name}: a coordinate is no finite number", entry=str(path), rule="finite coordinates")
    if not contours:
        for run in open_:
            if len(run[1]) > 1:
                raise _open_fault(path, run)
        raise ImportFileError(f"{path.name}: no closed outline found", entry=str(path), value=0, rule="at least one closed outline")
    # a line within an outline is a mark on it; one beyond all of them is an outline that does not close
    whole = [to_polygon(c, 0.05).buffer(MEND) for c in contours]
    for run in open_:
        if len(run[1]) > 1 and not any(w.covers(shapely.LineString(run[0])) for w in whole):
            raise _open_fault(path, run)
    return contours


def _open_fault(path: Path, run: Run) -> ImportFileError:
    (x, y), gap = run[0][0], math.dist(run[0][0], run[0][-1])
    return ImportFileError(
        f"{path.name}: the outline near {x + 0.0:.1f}, {y + 0.0:.1f} is open; its ends are {gap:.2f} mm apart, and up to {MEND:g} mm are mended",
        entry=str(path), value=round(gap, 3), rule=f"closed outlines, or gaps of up to {MEND:g} mm",
    )  # fmt: skip


def read_regions(path: Path) -> list[Region]:
    """The outlines of a file with their holes, largest first. Raises ImportFileError."""
    contours = sorted(read_contours(path), key=lambda c: -abs(c.area))
    polygons = [to_polygon(c, 0.01) for c in contours]
    for contour, polygon in zip(contours, polygons, strict=True):
        if not polygon.is_valid:
            x, y = contour.points[0]
            raise ImportFileError(f"{path.name}: the outline near {x:.1f}, {y:.1f} crosses itself", entry=str(path), rule="simple outlines")
    inside = [[j for j in range(len(contours)) if j != i and polygons[j].contains(polygons[i].representative_point())
               and polygons[j].area > polygons[i].area] for i in range(len(contours))]  # fmt: skip
    regions = []
    for i, contour in enumerate(contours):
        if len(inside[i]) % 2 == 0:
            holes = [contours[k].wound(ccw=False) for k in range(len(contours)) if i in inside[k] and len(inside[k]) == len(inside[i]) + 1]
            regions.append(Region(contour.wound(ccw=True), tuple(holes)))
    return regions
