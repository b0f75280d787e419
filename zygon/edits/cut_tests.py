"""Test pieces as ordinary parts beside the design: a comb of graded slots for the fits, a row of squares in a frame for the kerf.

Kerf first, then fit: the kerf piece tells what the cutter takes, the comb what clearance then feels how.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from zygon.design.document import Document
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.design.test_pieces import CombTest, KerfTest, RoundCombTest
from zygon.errors import DocumentError
from zygon.geometry.motion import three
from zygon.geometry.stroke_font import text_width
from zygon.making.result.built import Built
from zygon.stock.cutter import cut_width
from zygon.stock.fit import FIT_NAMES, FitName, FitTable, ShaftFitName, ShaftFits
from zygon.tolerance import EPS, WITHIN

__all__ = [
    "BESIDE",
    "add_comb",
    "add_kerf_test",
    "add_round_comb",
    "beside",
    "board_record",
    "checked_keys",
    "fits_from_comb",
    "fits_from_round_comb",
    "fresh_name",
    "kerf_from_slack",
    "label_record",
    "mm_entry",
    "remove_test",
    "test_of",
    "thickness_of",
]

#: Height of engraved labels, and room for them below the slots (mm).
LETTER = 5.0
LABEL_ROOM = 12.0
#: No kerf is found to be more than this (mm) wider than it was taken: then it is the measuring that went wrong.
MAX_GAIN = 5.0
#: Distance between test pieces and the design (mm).
BESIDE = 40.0


def mm_entry(value: float) -> dict[str, str]:
    """Millimetres as an entry."""
    return {"text": f"{round(value, 4):g} mm", "unit": "mm"}


def _text(text: str) -> dict[str, str]:
    return {"text": text, "unit": "mm"}


def checked_keys(document: Document, stock: str, cutter: str) -> tuple[float, str]:
    """The kerf now, and the stock's name as part of a part's. Raises DocumentError for unknown keys."""
    if stock not in document.sheets:
        raise DocumentError(
            f"There is no sheet stock with the key {stock!r}", entry="stock", value=stock, rule="a sheet stock of the design"
        )
    if cutter not in document.cutters:
        raise DocumentError(f"There is no cutter with the key {cutter!r}", entry="cutter", value=cutter, rule="a cutter of the design")
    return cut_width(document.cutters[cutter], stock), stock.replace("-", "_")


def beside(built: Built) -> tuple[float, float, float]:
    """Where test pieces begin: left of everything that stands there, on the ground."""
    solid = [p for p in built.made.values() if not p.body.empty]
    if not solid:
        return 0.0, 0.0, 0.0
    return three(min(p.reaches[0][i] for p in solid) for i in range(3))


def fresh_name(document: Document, wish: str) -> str:
    """A name that nothing of the design has yet."""
    taken = {r.name for r in (*document.parts.values(), *document.sizes.values())} | set(document.parts) | set(document.tests)
    return next(n for n in (wish, *(f"{wish}_{i}" for i in range(2, 1000))) if n not in taken)


def board_record(
    name: str,
    order: int,
    stock: str,
    at: tuple[float, float, float],
    size: tuple[float, float],
    features: dict[str, Any],
    quantity: int = 1,
) -> dict[str, Any]:
    """A lying board that takes no part in the design, as a record."""
    x, y, z = at
    return {
        "kind": "board",
        "name": name,
        "order": order,
        "stock": stock,
        "plane": "lying",
        "quantity": quantity,
        "aside": True,
        "position": {"face": "bottom", "at": mm_entry(z)},
        "spans": {"x": {"low": mm_entry(x), "high": mm_entry(x + size[0])}, "y": {"low": mm_entry(y), "high": mm_entry(y + size[1])}},
        "features": features,
    }


def label_record(text: str, u: float, v: float, order: int) -> dict[str, Any]:
    """An engraved label about a place from the left and the front edge (mm)."""
    return {
        "kind": "mark_text",
        "text": text,
        "height": mm_entry(LETTER),
        "order": order,
        "u": {"origin": "left", "offset": mm_entry(u)},
        "v": {"origin": "front", "offset": mm_entry(v)},
    }


def thickness_of(built: Built, stock: str) -> float:
    """A stock's thickness in mm: the measured one where there is one."""
    record = built.document.stocks[stock]
    return built.values[pointer("stocks", stock, "measured" if record.measured else "nominal")].value


def add_comb(built: Built, stock: str, cutter: str, start: float = -0.2, step: float = 0.1, number: int = 9) -> tuple[str, Patch]:
    """Label and patch that add a comb of ``number`` slots, from ``start`` mm of clearance on by ``step``, and its key.

    Raises DocumentError for unknown keys and for steps that make no comb.
    """
    document = built.document
    kerf, word = checked_keys(document, stock, cutter)
    if not 2 <= number <= 20 or not 0.01 <= step <= 1 or not -2 <= start <= 2:
        rule = "2 to 20 slots, steps from 0.01 to 1 mm, a first clearance from -2 to 2 mm"
        raise DocumentError(f"A comb has {rule}", entry="comb", value=[start, step, number], rule=rule)
    t = thickness_of(built, stock)
    name = fresh_name(document, f"comb_{word}")
    key_name = fresh_name(document, f"comb_key_{word}")
    if document.cutters[cutter].can.bit and t + start < kerf:  # its bit cuts no narrower slot
        start = math.ceil((kerf - t) / step - EPS) * step
    # room enough that the labels below stand apart
    land, deep = max(1.5 * t, text_width("+0.00", LETTER) + 4.0 - t), max(2 * t, 20.0)
    clearances = [round(start + i * step, 4) for i in range(number)]
    features: dict[str, Any] = {}
    at = land
    for i, c in enumerate(clearances):
        middle = at + (t + c) / 2
        features[f"slot_{i + 1}"] = {
            "kind": "rectangle",
            "name": f"slot {c:+.2f}",
            "order": 2 * i,
            "width": _text(f"{name}.thickness + ({c:g} mm)"),
            "height": mm_entry(2 * deep),
            "u": {"origin": "left", "offset": mm_entry(middle)},
            "v": {"origin": "back", "offset": mm_entry(0)},
        }
        features[f"label_{i + 1}"] = label_record(f"{c:+.2f}", middle, LABEL_ROOM / 2 + 1, 2 * i + 1)
        at += t + c + land
    size = (at, deep + LABEL_ROOM + max(t, 8.0))
    x, y, z = beside(built)
    order = max((p.order for p in document.parts.values()), default=-1) + 1
    corner = (x - BESIDE - size[0], y, z)
    comb = board_record(name, order, stock, corner, size, features)
    tab = board_record(
        key_name,
        order + 1,
        stock,
        (corner[0], y + size[1] + 15, z),
        (max(4 * t, 50.0), 40.0),
        {"label": label_record("KEY", max(2 * t, 25.0), 20.0, 0)},
    )
    test = CombTest(stock=stock, cutter=cutter, parts=[name, key_name], clearances=clearances, kerf=kerf)
    return f"Test comb for {document.stocks[stock].name}", [
        {"op": "add", "path": pointer("parts", name), "value": comb},
        {"op": "add", "path": pointer("parts", key_name), "value": tab},
        {"op": "add", "path": pointer("tests", name), "value": test.model_dump(mode="json")},
    ]


def add_round_comb(
    built: Built, stock: str, cutter: str, shaft: str, start: float = -0.1, step: float = 0.05, number: int = 9
) -> tuple[str, Patch]:
    """Label and patch that add a comb of ``number`` round holes for a shaft (a round bar by its key), from ``start`` mm of clearance on by ``step``.

    Raises DocumentError for unknown keys and for steps that make no comb.
    """
    document = built.document
    kerf, word = checked_keys(document, stock, cutter)
    bar = document.stocks.get(shaft)
    if bar is None or bar.kind != "bar" or bar.shape != "round":
        raise DocumentError("A comb of holes is for a round bar", entry="shaft", value=shaft, rule="a round bar of the design")
    if not 2 <= number <= 20 or not 0.01 <= step <= 1 or not -2 <= start <= 2:
        rule = "2 to 20 holes, steps from 0.01 to 1 mm, a first clearance from -2 to 2 mm"
        raise DocumentError(f"A comb has {rule}", entry="comb", value=[start, step, number], rule=rule)
    d = thickness_of(built, shaft)
    if d + start < max(kerf, EPS):
        raise DocumentError(
            f"A hole of {d + start:g} mm is narrower than the cut", entry="start", value=start, rule=f"holes of at least {kerf:g} mm"
        )
    clearances = [round(start + i * step, 4) for i in range(number)]
    wide = d + clearances[-1]
    # as much material about each hole as the rules of a design ask for
    land = max(document.rules.edge, document.rules.web, 1.0) * thickness_of(built, stock) + 0.5
    pitch = max(wide + land, text_width("+0.00", LETTER) + 4.0)
    name = fresh_name(document, f"hole_comb_{word}")
    features: dict[str, Any] = {}
    edge, up = max(land, 8.0), max(land, LABEL_ROOM) + wide / 2
    for i, c in enumerate(clearances):
        at = edge + pitch * i + wide / 2
        features[f"hole_{i + 1}"] = {
            "kind": "hole",
            "name": f"hole {c:+.2f}",
            "order": 2 * i,
            "diameter": mm_entry(d + c),
            "u": {"origin": "left", "offset": mm_entry(at)},
            "v": {"origin": "front", "offset": mm_entry(up)},
        }
        features[f"label_{i + 1}"] = label_record(f"{c:+.2f}", at, LABEL_ROOM / 2 + 1, 2 * i + 1)
    size = (2 * edge + pitch * (number - 1) + wide, up + wide / 2 + edge)
    x, y, z = beside(built)
    order = max((p.order for p in document.parts.values()), default=-1) + 1
    record = board_record(name, order, stock, (x - BESIDE - size[0], y, z), size, features)
    test = RoundCombTest(stock=stock, cutter=cutter, parts=[name], clearances=clearances, kerf=kerf, shaft=shaft)
    return f"Comb of holes for {bar.name} in {document.stocks[stock].name}", [
        {"op": "add", "path": pointer("parts", name), "value": record},
        {"op": "add", "path": pointer("tests", name), "value": test.model_dump(mode="json")},
    ]


def _check_chosen(test: Any, chosen: Mapping[Any, float], what: str) -> None:
    """Raises DocumentError for a clearance that a comb has not."""
    for name, clearance in chosen.items():
        if not any(abs(clearance - c) < WITHIN for c in test.clearances):
            rule = f"one of {', '.join(f'{c:+.2f}' for c in test.clearances)} mm"
            raise DocumentError(f"{name}: the comb has no {what} of {clearance:+.2f} mm", entry=name, value=clearance, rule=rule)


def _fits_of(document: Document, test: Any) -> tuple[str, FitTable] | None:
    """The fits of a test's stock on its cutter with their key; None where there are none yet."""
    return next(((k, f) for k, f in document.fits.items() if (f.stock, f.cutter) == (test.stock, test.cutter)), None)


def _fresh_fits(document: Document, test: Any) -> str:
    """A key for the first fits of a test's stock on its cutter."""
    return next(k for k in (test.stock, f"{test.stock}-{test.cutter}", *(f"fit{i}" for i in range(999))) if k not in document.fits)


def fits_from_round_comb(document: Document, key: str, chosen: dict[ShaftFitName, float]) -> tuple[str, Patch]:
    """Label and patch that set how a shaft lies in a stock from the holes that the maker chose, as clearances of the comb in mm.

    Raises DocumentError as ``fits_from_comb``.
    """
    test = test_of(document, key, "round_comb")
    kerf = same_kerf(document, test, key)
    if not chosen:
        raise DocumentError("Say of at least one hole how the shaft lies in it", entry="fits", rule="at least one fit")
    _check_chosen(test, chosen, "hole")
    if "fixed" in chosen and "running" in chosen and chosen["fixed"] >= chosen["running"]:
        rule = "a shaft that turns has a wider hole than one that is fixed"
        raise DocumentError(f"The fits are out of order: {rule}", entry="fits", value=[chosen["fixed"], chosen["running"]], rule=rule)
    found = _fits_of(document, test)
    before = found[1].shafts.get(test.shaft, ShaftFits()) if found else ShaftFits()
    tried: dict[str, Any] = {str(n): mm_entry(c) for n, c in chosen.items()}
    said = {**before.model_dump(mode="json"), **tried, "tested_kerf": kerf}
    label = f"{document.stocks[test.shaft].name} in {document.stocks[test.stock].name}, from the comb"
    if found is None:
        record = {"stock": test.stock, "cutter": test.cutter, "shafts": {test.shaft: said}}
        return label, [{"op": "add", "path": pointer("fits", _fresh_fits(document, test)), "value": record}]
    return label, [{"op": "add", "path": pointer("fits", found[0], "shafts", test.shaft), "value": said}]


def add_kerf_test(built: Built, stock: str, cutter: str, squares: int = 8, side: float = 20.0, play: float = 1.0) -> tuple[str, Patch]:
    """Label and patch that add a frame with a window for a row of squares, and the squares.

    The window is ``play`` mm longer than the row is drawn. Raises DocumentError for unknown keys and for rows that make no sense.
    """
    document = built.document
    kerf, word = checked_keys(document, stock, cutter)
    if not 2 <= squares <= 40 or not 5 <= side <= 200 or not 0 <= play <= 10:
        rule = "2 to 40 squares of 5 to 200 mm, with 0 to 10 mm of play"
        raise DocumentError(f"A kerf test has {rule}", entry="kerf", value=[squares, side, play], rule=rule)
    name, square = fresh_name(document, f"kerf_frame_{word}"), fresh_name(document, f"kerf_square_{word}")
    edge = 25.0
    size = (squares * side + play + 2 * edge, side + 1 + 2 * edge)
    window = {
        "kind": "rectangle",
        "name": "window",
        "order": 0,
        "width": mm_entry(squares * side + play),
        "height": mm_entry(side + 1),
        "u": {"origin": "centre", "offset": mm_entry(0)},
        "v": {"origin": "centre", "offset": mm_entry(0)},
    }
    features = {"window": window, "label": label_record(f"{squares} X {side:g} + {play:g} MM", size[0] / 2, edge / 2, 1)}
    x, y, z = beside(built)
    order = max((p.order for p in document.parts.values()), default=-1) + 1
    corner = (x - BESIDE - size[0], y, z)
    test = KerfTest(stock=stock, cutter=cutter, parts=[name, square], squares=squares, side=side, play=play, kerf=kerf)
    return f"Kerf test for {document.stocks[stock].name}", [
        {"op": "add", "path": pointer("parts", name), "value": board_record(name, order, stock, corner, size, features)},
        {
            "op": "add",
            "path": pointer("parts", square),
            "value": board_record(square, order + 1, stock, (corner[0], y + size[1] + 15, z), (side, side), {}, squares),
        },
        {"op": "add", "path": pointer("tests", name), "value": test.model_dump(mode="json")},
    ]


def test_of(document: Document, key: str, kind: str) -> Any:
    """A test piece of a kind. Raises DocumentError where there is none."""
    test = document.tests.get(key)
    if test is None or test.kind != kind:
        what = {"comb": "test comb", "round_comb": "comb of holes", "kerf": "kerf test", "bend": "bend test strip"}[kind]
        raise DocumentError(f"There is no {what} with the key {key!r}", entry=f"/tests/{key}", value=key, rule=f"a {what} of the design")
    return test


def same_kerf(document: Document, test: Any, key: str) -> float:
    """The kerf now. Raises DocumentError where it is no longer the one that the piece was made for."""
    now = cut_width(document.cutters[test.cutter], test.stock)
    if abs(now - test.kerf) > WITHIN:
        rule = f"cut with the kerf of {test.kerf:g} mm that it was made for; it is {now:g} mm now, so cut a new one"
        raise DocumentError(f"This piece was {rule}", entry=f"/tests/{key}", value=now, rule=rule, code="stale_test")
    return now


def fits_from_comb(document: Document, key: str, chosen: dict[FitName, float]) -> tuple[str, Patch]:
    """Label and patch that set fits from the slots that the maker chose, as clearances of the comb in mm.

    Raises DocumentError for a clearance that the comb has not, fits that are not in order, and a kerf that has changed since.
    """
    test = test_of(document, key, "comb")
    kerf = same_kerf(document, test, key)
    found = _fits_of(document, test)
    if not chosen:
        raise DocumentError("Say of at least one slot how it fits", entry="fits", rule="at least one fit")
    _check_chosen(test, chosen, "slot")
    ordered = [chosen[n] for n in FIT_NAMES if n in chosen]
    if ordered != sorted(ordered):
        rule = "press is the tightest, then snug, slip and loose"
        raise DocumentError(f"The fits are out of order: {rule}", entry="fits", value=ordered, rule=rule)
    values: dict[str, Any] = {str(n): mm_entry(c) for n, c in chosen.items()}
    stock = document.stocks[test.stock].name
    if found is None:
        record: dict[str, Any] = {"stock": test.stock, "cutter": test.cutter, **values, "tested_kerf": kerf, "tested": values}
        return f"Fits of {stock} from the comb", [{"op": "add", "path": pointer("fits", _fresh_fits(document, test)), "value": record}]
    patch: Patch = [{"op": "add", "path": pointer("fits", found[0], n), "value": v} for n, v in values.items()]
    patch.append({"op": "add", "path": pointer("fits", found[0], "tested_kerf"), "value": kerf})
    patch.append({"op": "add", "path": pointer("fits", found[0], "tested"), "value": values})
    return f"Fits of {stock} from the comb", patch


def kerf_from_slack(document: Document, key: str, slack: float) -> tuple[str, Patch]:
    """Label and patch that set a cutter's kerf in a stock from the total slack (mm) of the row of squares pushed together.

    Every square is too small by what the kerf was taken too small, and so is the frame's window too large: over n squares the slack
    beyond the drawn play is n + 1 times that. Raises DocumentError for a slack that no kerf gives.
    """
    test = test_of(document, key, "kerf")
    now = same_kerf(document, test, key)
    kerf = round(now + (slack - test.play) / (test.squares + 1), 4)
    if not math.isfinite(slack) or not 0 <= slack <= test.play + (test.squares + 1) * MAX_GAIN or kerf < 0:
        low, high = max(0.0, test.play - (test.squares + 1) * now), test.play + (test.squares + 1) * MAX_GAIN
        rule = f"from {low:g} to {high:g} mm"
        raise DocumentError(f"A gap of {slack:g} mm would make the kerf {kerf:g} mm; it is {rule}", entry="slack", value=slack, rule=rule)
    cutter = document.cutters[test.cutter]
    label = f"Kerf of {cutter.name} in {document.stocks[test.stock].name}: {kerf:g} mm"
    if cutter.can.bit:
        return label, [{"op": "add", "path": pointer("cutters", test.cutter, "bit"), "value": mm_entry(kerf)}]
    if test.stock in cutter.work:
        return label, [{"op": "add", "path": pointer("cutters", test.cutter, "work", test.stock, "kerf"), "value": mm_entry(kerf)}]
    return label, [{"op": "add", "path": pointer("cutters", test.cutter, "kerf"), "value": mm_entry(kerf)}]


def remove_test(document: Document, key: str) -> tuple[str, Patch]:
    """Label and patch that take a test piece's parts away."""
    if key not in document.tests:
        raise DocumentError(
            f"There is no test piece with the key {key!r}", entry=f"/tests/{key}", value=key, rule="a test piece of the design"
        )
    parts = [p for p in document.tests[key].parts if p in document.parts]
    return "Remove a test piece", [
        *({"op": "remove", "path": pointer("parts", p)} for p in parts),
        {"op": "remove", "path": pointer("tests", key)},
    ]
