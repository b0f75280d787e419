"""Gestures by chance on rich designs: each gives a design that builds, or a reason in words, and taken back the document is as before to the byte.

``ZYGON_GESTURES=1000`` tries as many; a seed is printed with what failed.
"""

import json
import os
import random

import pytest

from zygon.design.examples import EXAMPLES
from zygon.design.patch import apply_patch
from zygon.design.starters import starter
from zygon.edits.axles import place_axle, place_bore
from zygon.edits.operations import OPERATIONS
from zygon.edits.placing import join_all, place_board
from zygon.edits.sliding import sliding_panel
from zygon.errors import ZygonError
from zygon.geometry.frame import AXES, FACES, frame_of
from zygon.making.asked.contacts import touches
from zygon.making.pipeline import build
from zygon.making.rooms.catches import catches
from zygon.making.rooms.feature_pulls import feature_pulls
from zygon.making.rooms.free import free_rooms
from zygon.making.rooms.pulls import pulls

DESIGNS = {
    **{k: EXAMPLES[k] for k in ("brood-box", "cupboard", "hive-floor", "frame-rack", "electronics-box", "splayed-stand")},
    **{k: lambda k=k: starter(k, k) for k in ("cabinet", "drawer-unit", "stool", "enclosure", "nothing")},
}
GESTURES = int(os.environ.get("ZYGON_GESTURES", "110"))
#: What an entry that a gesture wrote must never come to.
BROKEN = {"broken_expression", "cycle"}


def room_before_a_face(built, draw):
    """A part's face, a way to stand, a stock, and one of the rooms there with where it catches."""
    part = draw.choice(list(built.made))
    face = draw.choice([w for pair in FACES.values() for w in pair])
    plane = draw.choice(["lying", "facing_side", "facing_front"])
    stock = draw.choice(list(built.document.sheets))
    t = built.good.get(f"/stocks/{stock}/measured", built.good[f"/stocks/{stock}/nominal"])
    room = draw.choice(free_rooms(built, part, face, plane, t).rooms)
    return plane, stock, room, catches(built, room, plane, t)


def place(built, draw):
    plane, stock, room, caught = room_before_a_face(built, draw)
    frame = frame_of(plane)
    ends = {a: (room.bounds[a][0].entry, room.bounds[a][1].entry) for a in AXES}
    spans = {a: ends[a] for a in (frame.u, frame.v)}
    face, at = (FACES[frame.normal][0], ends[frame.normal][0])
    if caught:
        one = draw.choice(caught)
        face, at = one.face, one.entry
    way = draw.choice(["one", "pair", "many", "slide"])
    if way == "slide":
        walls = {FACES[a][i]: room.bounds[a][i].part for a in (frame.u, frame.v) for i in (0, 1) if room.bounds[a][i].part}
        return sliding_panel(built, stock, plane, spans, face, at, draw.choice([*FACES[frame.u], *FACES[frame.v]]), walls)
    number = draw.choice([2, 3, 7]) if way == "many" else 1
    return place_board(built, stock, plane, spans, face, at, number=number, between=ends[frame.normal], pair=way == "pair")


def drawer(built, draw):
    _, stock, room, _ = room_before_a_face(built, draw)
    ends = {a: (room.bounds[a][0].entry, room.bounds[a][1].entry) for a in AXES}
    out = draw.choice(["front", "back", "left", "right"])
    asked = {"operation": "place_drawer", "stock": stock, "bottom": stock, "room": ends, "out": out, "number": draw.choice([1, 1, 2, 4])}
    return OPERATIONS["place_drawer"].model_validate(asked).work(built)


def join(built, draw):
    part = draw.choice(list(built.made))
    found = [(part, t.part, draw.choice(t.offers)["kind"]) for t in touches(built, part)]
    if not found:
        return "nothing touched", []
    return join_all(built, found)


def axle(built, draw):
    part = draw.choice(list(built.made))
    at = tuple(draw.uniform(a, b) for a, b in zip(*built.made[part].reaches, strict=True))
    bars = [k for k, s in built.document.stocks.items() if s.kind == "bar"]
    return place_axle(built, draw.choice([*bars, "none"]), part, draw.choice([w for p in FACES.values() for w in p]), at, catch=9, step=5)


def bore(built, draw):
    part = draw.choice(list(built.made))
    at = tuple(draw.uniform(a, b) for a, b in zip(*built.made[part].reaches, strict=True))
    label, patch = place_bore(built, part, draw.choice([w for p in FACES.values() for w in p]), at, catch=9, step=5)
    if draw.random() < 0.5:  # and it leans
        record = patch[0]["value"]
        entry = {"unit": built.document.unit}
        record |= {
            "lean": {"text": f"{draw.uniform(-40, 40):.1f} deg", **entry},
            "toward": {"text": f"{draw.uniform(0, 360):.0f} deg", **entry},
        }
        record["at"][record["axis"]] = {"text": "10 mm", **entry}
        record["parts"] = {k: {**p, "action": draw.choice(["cut", "drill", "mark", "leave"])} for k, p in record["parts"].items()}
    return label, patch


def pull(built, draw):
    found = pulls(built, draw.choice(list(built.made)))
    if not found:
        return "nothing to pull", []
    one = draw.choice(found)
    if one.catches and draw.random() < 0.4:
        caught = draw.choice(one.catches)
        by = caught.value - one.value
        text = caught.entry if one.whole else one.text.with_constant(one.text.constant + by)
    else:
        text = one.text.with_constant(one.text.constant + draw.choice([-40, -7.5, 1, 12.34, 60]))
    return f"pull {one.face}", [{"op": "replace", "path": f"{one.pointer}/text", "value": text}]


def drag(built, draw):
    having = [(k, f) for k, p in built.document.plates().items() if k in built.flats for f in p.features]
    if not having:
        return "no feature", []
    found = feature_pulls(built, *draw.choice(having))
    patch = []
    for one in found.pulls:
        text = one.text.with_constant(one.text.constant + one.sign * draw.choice([-20, 0.5, 15]))
        patch.append({"op": "replace", "path": f"{one.pointer}/offset/text", "value": text})
    return "drag", patch


KINDS = [place, place, place, drawer, join, join, axle, bore, bore, pull, pull, drag]


@pytest.mark.parametrize("seed", range(GESTURES))
def test_a_gesture_gives_a_design_that_builds_or_a_reason(seed):
    draw = random.Random(seed)
    name = draw.choice(list(DESIGNS))
    document = DESIGNS[name]()
    built = build(document)
    if not built.made:
        with pytest.raises(ZygonError):
            free_rooms(built, "gone", "left", "lying", 12.0)
        return
    for _ in range(2):
        kind = draw.choice(KINDS)
        said = (seed, name, kind.__name__)
        try:
            label, patch = kind(built, draw)
        except ZygonError as refused:
            assert len(str(refused)) > 8 and "None" not in str(refused), (said, str(refused))
            continue
        before = json.dumps(document.dump())
        try:
            after, data, inverse = apply_patch(document.dump(), patch)
        except ZygonError as refused:  # as where a design has as many parts as it may have
            assert "at most" in str(refused), (said, label, str(refused))
            continue
        made = build(after)
        known = {(f.code, f.entry) for f in built.faults}
        broken = [f for f in made.faults if f.code in BROKEN and (f.code, f.entry) not in known]
        assert not broken, (said, label, [(f.entry, f.message) for f in broken])
        back, _, _ = apply_patch(data, inverse)
        assert json.dumps(back.dump()) == before, (said, label)
        document, built = after, made
