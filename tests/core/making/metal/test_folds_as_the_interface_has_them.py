"""The interface lays a folded part's net by its own arithmetic while it is folded and unfolded. Both are held to one fixture, which this writes.

``ZYGON_WRITE_FIGURES=1`` writes it anew; ``web/src/stations/build/folding.test.ts`` reads it.
"""

import json
import os
from pathlib import Path

import numpy as np
import pytest

from tests.core.making.metal.trays import entry, flange, folded
from zygon.making.flats.flat import fold_net
from zygon.making.metal.folded_mesh import laid
from zygon.screen.skin import skin_data

KEPT = Path(__file__).parents[2] / "fixtures" / "folds.json"
PARTS = {
    "walls": {
        "one": flange("left", 21, angle="63 deg"),
        "two": flange("front", 17, toward="b", angle="118 deg", order=1),
        "lip": flange("end", 9, on="one", order=2),
    },
    "hem and step": {
        "hem": {**flange("right", 11, kind="hem"), "style": "teardrop", "gap": entry(0.6)},
        "step": {**flange("back", 23, kind="offset", order=1), "height": entry(7), "angle": entry("70 deg")},
    },
    "stiffened": {"one": {**flange("back", 26), "gussets": {"number": 2, "width": entry(7), "depth": entry(9)}}},
}
SHARES = (0.0, 0.37, 1.0)


def found():
    """By part: its skin as the interface is told it, and where its corners come to lie at each share, and with each bend another share of the way."""
    told = {}
    for name, flanges in PARTS.items():
        flat = folded(flanges, width=90, depth=60, thickness=1.3).flats["p"].flat
        fold = flat.fold
        net = fold_net(flat, fold)
        each = [(len(fold.bends) - i) / len(fold.bends) for i in range(len(fold.bends))]
        rows = []
        for shares in [[s] * len(fold.bends) for s in SHARES] + [each]:
            low, high = laid(net, fold, flat.thickness, tuple(shares))
            rows.append({"shares": shares, "at": np.round(np.vstack((low, high)), 5).reshape(-1).tolist()})
        told[name] = {"skin": json.loads(json.dumps(skin_data(flat), default=list)), "laid": rows}
    return told


def numbers(data):
    """Every number of plain data, in its order."""
    if isinstance(data, dict | list):
        return [x for inner in (data.values() if isinstance(data, dict) else data) for x in numbers(inner)]
    return [data] if isinstance(data, int | float) else []


def test_a_net_is_laid_as_the_interface_is_tested_to_lay_it():
    now = found()
    if os.environ.get("ZYGON_WRITE_FIGURES"):
        KEPT.write_text(json.dumps(now, separators=(",", ":")) + "\n")
    kept = json.loads(KEPT.read_text())
    assert set(kept) == set(now)
    for name, part in now.items():
        assert kept[name]["skin"].keys() == part["skin"].keys()
        assert numbers(kept[name]["skin"]) == pytest.approx(numbers(part["skin"]), abs=2e-5)
        for old, new in zip(kept[name]["laid"], part["laid"], strict=True):
            assert old["shares"] == pytest.approx(new["shares"]) and old["at"] == pytest.approx(new["at"], abs=2e-5)
