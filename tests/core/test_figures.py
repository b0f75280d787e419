"""The figures of many odd designs are what they were: a net under every rule, for what no other test looks at.

Where a change is meant to change figures, ``ZYGON_WRITE_FIGURES=1 pytest tests/core/test_figures.py`` writes them anew; the difference is read before it is kept.
"""

import json
import math
import os
import random
from pathlib import Path

import pytest

from tests.core.build.joints.pairs import MEETING, pair
from tests.core.figures import figures_of
from tests.core.test_robustness import DOCUMENTS, laid_out
from zygon.build.pipeline import build
from zygon.design.draft import Draft
from zygon.design.examples import EXAMPLES
from zygon.design.operations import entries
from zygon.design.patch import apply_patch
from zygon.design.starters import starter
from zygon.design.upgrade import load
from zygon.errors import ZygonError

KEPT = Path(__file__).parent / "fixtures" / "figures"
SIZES = ["0", "-5 mm", "3.3 mm", "30 mm", "80 mm", "15 mm", "200 mm", "1 mm", "45 deg", "120 deg", "7.5", "400 mm", "width / 3"]


def joined(kind, hand):
    """Two boards of unlike thickness, length and fit; with hand, a mirror image beside them and all of it turned."""
    meeting = MEETING[kind]
    d = pair(kind, 9.7, 14.3, 137.0, cutter="router" if hand else "", **({} if kind in ("butt", "face_glue") else {"fit": "0.13"}))
    if hand:
        d.mirror("image", "x", "-20 mm", "part:a", "part:b")
    d.feature("a", "hole", "hole", ("centre", "11"), ("centre", "-7"), diameter="6.4")
    return d.document().dump() | {"name": f"{kind} {meeting}"}


def worked(up):
    """Everything that can be worked into a board, on both faces, off the middle."""
    d = Draft("worked", "ply12", "ply6", cutter="router")
    d.board("p", "ply12", "lying", 0, (0, 420), (0, 310), up=up)
    d.feature("p", "blind", "hole", ("left", 31), ("front", 47), diameter="9", depth="4.2", face="top", mirrored="u")
    d.feature("p", "below", "hole", ("left", 131), ("back", 41), diameter="11", depth="3.1", face="bottom")
    d.feature(
        "p", "pocket", "pocket", ("left", 90), ("front", 120), width="60", height="33", depth="5", radius="7", angle="20 deg", face="top"
    )
    d.feature("p", "groove", "groove", ("left", 0), ("front", 210), along="u", width="9.3", depth="4", face="bottom")
    d.feature(
        "p", "rebate", "rebate", ("centre", 0), ("centre", 0), edge="back", width="13", depth="6", stop_low="20", stop_high="35", face="top"
    )
    d.feature("p", "slot", "slot", ("right", 70), ("front", 60), length="44", width="8", angle="35 deg")
    d.feature("p", "cut", "rectangle", ("right", 120), ("front", 150), width="50", height="31", radius="4", angle="-12 deg")
    d.feature("p", "sieve", "perforation", ("right", 60), ("back", 70), width="70", height="48", diameter="5", pitch="9")
    d.feature("p", "corner", "corner", ("centre", 0), ("centre", 0), corner="left-front", style="cut", size="22", size_2="13")
    d.feature("p", "round", "corner", ("centre", 0), ("centre", 0), corner="right-back", style="round", size="17")
    d.feature(
        "p",
        "notch",
        "edge_notch",
        ("centre", 0),
        ("centre", 0),
        edge="right",
        width="30",
        depth="12",
        shape="square",
        radius="3",
    )
    d.feature("p", "line", "mark_line", ("left", 200), ("front", 30), length="60", angle="15 deg")
    d.feature("p", "text", "mark_text", ("left", 200), ("front", 260), text="No 7", height="9")
    d.board("q", "ply6", "facing_side", 200, (30, 260), (20, 160))
    d.feature("q", "edge", "edge_hole", ("centre", 0), ("centre", 0), edge="front", diameter="4", depth="21", height="2.5")
    return d


def folded(edge, toward, corner):
    """A plate with flanges of unlike lengths and angles round a corner, a hem, an offset and a lip, a hole in a flange, and a late line."""
    beside = {"left": "front", "front": "right", "right": "back", "back": "left"}[edge]
    over = {"left": "right", "right": "left", "front": "back", "back": "front"}[edge]
    d = Draft("folded", "galv20")
    d.board("p", "galv20", "lying", 0, (0, 230), (0, 170), up="a")
    d.fold("p")
    d.flange("p", "one", edge, "41", angle="90 deg", toward=toward)
    d.flange("p", "two", beside, "33", angle="77 deg", toward=toward)
    d.flange("p", "lip", "end", "15", angle="105 deg", toward=toward, on="one")
    d.flange("p", "hem", over, "9", kind="hem", gap="0.4", style="open", toward="b" if toward == "a" else "a")
    d.flange_feature("p", "one", "hole", "hole", ("low", 37), ("root", 17), diameter="6.5")
    d.feature("p", "hole", "hole", ("left", 60), ("front", 90), diameter="12", mirrored="u")
    if corner:
        d.data["parts"]["p"]["folding"]["corners"] = {"c": {"a": "one", "b": "two", "style": corner, "gap": d.entry("0.7 mm")}}
    return d


def perturbed(n):
    """A design with a few of its entries spoilt, drawn by number."""
    chance = random.Random(n)
    data = DOCUMENTS[n % len(DOCUMENTS)]
    places = [p for p, _ in entries(data)]
    for _ in range(50):
        patch = [
            {"op": "replace", "path": f"{chance.choice(places)}/text", "value": chance.choice(SIZES)} for _ in range(chance.randint(1, 3))
        ]
        try:
            return data, apply_patch(data, patch)[0]
        except ZygonError:
            continue
    raise AssertionError("every change is refused")


WHOLE = {
    **{f"example {k}": lambda k=k: EXAMPLES[k]().dump() for k in EXAMPLES},
    **{f"joint {k} {h}": lambda k=k, h=h: joined(k, h) for k in MEETING for h in (0, 1)},
    **{f"starter {k}": lambda k=k: starter(k, "Odd").dump() for k in ("closed-box", "tray", "shelf-case", "folded-box")},
    "laid out": laid_out,
    **{f"worked {up}": lambda up=up: worked(up).document().dump() for up in "ab"},
    **{
        f"folded {e} {t} {c}": lambda e=e, t=t, c=c: folded(e, t, c).document().dump()
        for e, t, c in (
            ("left", "a", ""),
            ("front", "b", "closed"),
            ("right", "a", "a_covers"),
            ("back", "b", "b_covers"),
            ("left", "b", "open"),
        )
    },
}


def compared(name, found):
    """Writes the figures, or tells where they are not what was kept."""
    path = KEPT / f"{name.replace(' ', '-')}.json"
    if os.environ.get("ZYGON_WRITE_FIGURES") == "1":
        KEPT.mkdir(exist_ok=True)
        rows = [
            f"{json.dumps(o)}: {{\n" + ",\n".join(f" {json.dumps(p)}: {json.dumps(v)}" for p, v in sorted(f.items())) + "\n}"
            for o, f in found.items()
        ]
        path.write_text("{\n" + ",\n".join(rows) + "\n}\n")
        return
    kept = json.loads(path.read_text())
    assert found.keys() == kept.keys()
    for output, figures in kept.items():
        now = found[output]
        assert now.keys() == figures.keys(), (output, sorted(now.keys() ^ figures.keys())[:8])
        for place, figure in figures.items():
            same = len(figure) == len(now[place]) and all(
                math.isclose(a, b, rel_tol=1e-6, abs_tol=2e-3) for a, b in zip(figure, now[place], strict=True)
            )
            assert same, (output, place, figure, now[place])


@pytest.mark.parametrize("name", list(WHOLE))
def test_a_design_gives_out_what_it_gave_out(name):
    compared(name, figures_of(load(WHOLE[name]())))


@pytest.mark.parametrize("n", range(66))
def test_a_spoilt_design_is_told_what_it_was_told(n):
    data, document = perturbed(n)
    compared(f"spoilt {n}", figures_of(document, build(load(data)).good, files=False))
