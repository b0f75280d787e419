"""How wide a bit is engaged in each move of a program: what it takes that was still there, across its way."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from zygon.program.material import ways_of
from zygon.program.read import Move
from zygon.toolpath.routed import RoutedPaths

__all__ = ["engaged"]

#: The sheet is looked at in squares of so many to a bit's diameter, none smaller than this (mm), and no more than so many in all.
ACROSS, SMALLEST, MOST = 24, 0.1, 12_000_000
#: What is higher than where the bit is by no more than this (mm) is gone.
GONE = 0.02


def engaged(moves: Sequence[Move], paths: RoutedPaths) -> list[float]:
    """mm across the way of each move, at most its bit's diameter; 0 where nothing is taken. Of V bits, which are as wide as they are deep, 0 too."""
    face = paths.thickness if paths.routing.zero == "bed" else 0.0
    wide = {b.number: b.diameter for b in paths.bits.values() if b.kind != "v"}
    cutting = [m.kind in ("line", "arc") and m.tool in wide and min(m.p[2], m.q[2]) < face - GONE for m in moves]
    found = [0.0] * len(moves)
    if not any(cutting):
        return found
    sheet = _Sheet([m for m, c in zip(moves, cutting, strict=True) if c], wide)
    for k, (m, c) in enumerate(zip(moves, cutting, strict=True)):
        if c:
            d = wide[m.tool]
            area = sheet.taken(m, d / 2, face)
            flat = math.dist(m.p[:2], m.q[:2]) if m.kind == "line" else m.length
            found[k] = min(d, area / flat) if flat > sheet.square else (d if area > sheet.square * d else 0.0)
    return found


class _Sheet:
    """How high the sheet still is, in squares."""

    def __init__(self, moves: Sequence[Move], wide: dict[int, float]) -> None:
        places = np.array([p for m in moves for p in ways_of(m)])
        r = max(wide.values()) / 2 + 1
        self.low = places.min(axis=0) - r
        reach = places.max(axis=0) + r - self.low
        self.square = max(SMALLEST, min(wide.values()) / ACROSS, math.sqrt(float(reach[0] * reach[1]) / MOST))
        self.high = np.zeros(tuple(np.ceil(reach / self.square).astype(int) + 1), np.float32)

    def taken(self, m: Move, r: float, face: float) -> float:
        """The area (mm²) that a move lowers, lowered."""
        places = ways_of(m)
        ends = list(zip(places, places[1:], strict=False)) or [(places[0], places[0])]
        rise, count = (m.q[2] - m.p[2]) / len(ends), 0
        for k, (p, q) in enumerate(ends):
            steps = max(1, math.ceil(math.dist(p, q) / (8 * r)))
            for n in range(steps):
                a, b = ([p[i] + (q[i] - p[i]) * (n + j) / steps for i in (0, 1)] for j in (0, 1))
                z = m.p[2] - face + rise * (k + (n + (1 if rise < 0 else 0)) / steps)
                count += self._lowered(np.array(a), np.array(b), r, z)
        return float(count * self.square**2)

    def _lowered(self, a: np.ndarray, b: np.ndarray, r: float, z: float) -> int:
        i0, j0 = np.maximum(0, np.floor((np.minimum(a, b) - r - self.low) / self.square).astype(int))
        i1, j1 = np.ceil((np.maximum(a, b) + r - self.low) / self.square).astype(int) + 1
        x = (np.arange(i0, i1) + 0.5) * self.square + self.low[0] - a[0]
        y = (np.arange(j0, j1) + 0.5) * self.square + self.low[1] - a[1]
        dx, dy = b - a
        long = dx * dx + dy * dy
        share = np.clip((x[:, None] * dx + y[None, :] * dy) / long, 0, 1) if long else np.zeros((len(x), len(y)))
        far = (x[:, None] - share * dx) ** 2 + (y[None, :] - share * dy) ** 2
        window = self.high[i0:i1, j0:j1]
        new = (far[: window.shape[0], : window.shape[1]] <= r * r) & (window > z + GONE)
        window[new] = z
        return int(new.sum())
