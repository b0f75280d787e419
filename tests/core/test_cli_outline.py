"""``zygon outline``: a drawing on its own, told in JSON and in words, and one line where it cannot be read."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Any

import pytest

from zygon.cli import main


def tri(**more: Any) -> dict[str, Any]:
    points = {"a": {"x": 0, "y": 0}, "b": {"x": 50, "y": 1}, "c": {"x": 20, "y": 30}}
    curves = {
        "l": {"kind": "line", "a": "a", "b": "b"},
        "m": {"kind": "line", "a": "b", "b": "c"},
        "n": {"kind": "line", "a": "c", "b": "a"},
    }
    said = [
        ("h", "held", ["a"], None),
        ("lv", "level", ["l"], None),
        ("d1", "distance", ["l"], "30"),
        ("d2", "distance", ["m"], "40 mm"),
        ("d3", "distance", ["n"], "2 in - 0.8"),
    ]
    relations = {
        k: {"kind": kind, "of": of, "order": n, **({"entry": {"text": text}} if text else {})} for n, (k, kind, of, text) in enumerate(said)
    }
    return {"points": points, "curves": curves, "relations": relations, **more}


def outline(tmp_path: Path, capsys: pytest.CaptureFixture[str], data: Any, *more: str) -> tuple[int, str, str]:
    path = tmp_path / "drawing.json"
    path.write_text(data if isinstance(data, str) else json.dumps(data))
    code = main(["outline", str(path), *more])
    out = capsys.readouterr()
    return code, out.out, out.err


def test_a_drawing_is_solved_and_told(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    code, out, _ = outline(tmp_path, capsys, tri(), "--json")
    told = json.loads(out)
    assert code == 0
    assert told["points"] == {"a": [0, 0], "b": [30, 0], "c": [30, 40]}
    assert told["freedoms"] == {"count": 0, "points": {}, "radii": []}
    assert [round(o["area"], 6) for o in told["outlines"]] == [600]
    assert told["dimensions"]["d3"] == 50
    code, out, _ = outline(tmp_path, capsys, tri())
    assert code == 0 and "nothing is loose" in out and "600.000 mm²" in out


def test_freedoms_contradictions_and_what_is_said_twice_are_told_in_words(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    data = tri()
    del data["relations"]["lv"]
    data["relations"]["an"] = {"kind": "angle", "of": ["l", "m"], "entry": {"text": "90 deg"}, "order": 9}
    told = json.loads(outline(tmp_path, capsys, data, "--json")[1])
    assert told["freedoms"]["count"] == 1 and set(told["freedoms"]["points"]) == {"b", "c"}
    way = told["freedoms"]["points"]["b"]["way"]
    assert math.hypot(*way) == pytest.approx(1)
    assert told["twice"] == [{"relation": "an", "by": ["d1", "d2", "d3"], "words": "angle between line 1 and line 2, 90 deg"}]
    data["relations"]["an"]["entry"]["text"] = "80 deg"
    told = json.loads(outline(tmp_path, capsys, data, "--json")[1])
    [found] = told["contradictions"]
    assert found["relations"] == ["d1", "d2", "d3", "an"] and found["left_out"] == "an"
    assert found["words"][0] == "length of line 1, 30"
    assert "contradict: length of line 1, 30; " in outline(tmp_path, capsys, data)[1]


@pytest.mark.parametrize("change, words", [
    ("{", "not JSON"),
    ({"points": 3}, "/points"),
    (tri(points={"a": {"x": 1e99, "y": 0}}), "/points/a/x"),
    (tri(curves={"l": {"kind": "line", "a": "a", "b": "gone"}}), "there is no point with the key 'gone'"),
    (tri(relations={"r": {"kind": "distance", "of": ["l"]}}), "a dimension has an entry"),
    (tri(relations={"r": {"kind": "distance", "of": ["l"], "entry": {"text": "wide"}}}), "/relations/r/entry"),
    (tri(relations={"r": {"kind": "distance", "of": ["l"], "entry": {"text": "-3"}}}), "a distance is not negative"),
    (tri(relations={"r": {"kind": "angle", "of": ["l", "m"], "entry": {"text": "200 deg"}}}), "from 0 to 180"),
    (tri(extra=1), "/extra"),
])  # fmt: skip
def test_what_cannot_be_read_is_one_line_and_exit_2(change: Any, words: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    code, out, err = outline(tmp_path, capsys, change)
    assert code == 2 and out == ""
    assert err.count("\n") == 1 and words in err
    code, _, err = outline(tmp_path, capsys, change, "--json")
    assert code == 2 and json.loads(err)["error"]["message"]


def test_a_file_that_is_not_there(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["outline", "gone.json"]) == 2
    assert "gone.json" in capsys.readouterr().err
