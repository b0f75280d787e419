"""``zygon moves``: what moves in a design file, as text and as JSON."""

import json

import pytest

from zygon.cli import main
from zygon.design.examples import EXAMPLES


@pytest.fixture
def chest(tmp_path):
    path = tmp_path / "chest.json"
    path.write_text(json.dumps(EXAMPLES["tool-chest"]().dump()))
    return path


def test_it_tells_things_freedoms_axes_ranges_and_stops(chest, capsys):
    assert main(["moves", str(chest), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert {"left", "right", "back"} <= set(told["still"])
    assert len(told["things"]) == 3
    lid = next(m for m in told["moves"] if m["kind"] == "turns")
    assert lid["unit"] == "deg"
    assert lid["axis"]["way"] == [-1.0, 0.0, 0.0]
    assert [s["why"] for s in lid["stops"]] == ["strikes", "limit"]
    assert lid["stops"][0]["parts"] == ["lid", "left"]
    assert lid["stops"][1]["by"] == pytest.approx(105)
    drawer = next(m for m in told["moves"] if m["kind"] == "slides")
    assert [s["by"] for s in drawer["stops"]] == [0.0, 350.0]


def test_it_says_the_same_in_words_with_end_play(tmp_path, capsys):
    path = tmp_path / "crank.json"
    path.write_text(json.dumps(EXAMPLES["hand-crank"]().dump()))
    assert main(["moves", str(path)]) == 0
    out = capsys.readouterr().out
    assert "stands still: floor, left, right, bearing_left, bearing_right" in out
    assert "turns: shaft, crank, handle · in left, right, bearing_left, bearing_right" in out
    assert "turns all round; 2.4 mm of end play" in out
    assert "1.2 mm to the left: shaft strikes bearing_right" in out


def test_a_file_that_is_none_ends_with_two(tmp_path, capsys):
    path = tmp_path / "none.json"
    path.write_text("{")
    assert main(["moves", str(path), "--json"]) == 2
    assert "error" in json.loads(capsys.readouterr().err)
