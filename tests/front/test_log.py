"""Logs go to a file where one is named, and go on in a new one once that was moved away."""

import json
import os
import subprocess
import sys
from pathlib import Path

SERVER = Path(__file__).parents[2] / "server"
PROGRAM = """
import logging, os, sys
from zygon_log import set_up
set_up()
log = logging.getLogger("zygon.test")
log.info("first", extra={"request": "0123"})
logging.getLogger("elsewhere").info("not told")
os.environ["ZYGON_LOG"] and os.rename(os.environ["ZYGON_LOG"], os.environ["ZYGON_LOG"] + ".1")
log.warning("second")
logging.getLogger("elsewhere").warning("told")
"""


def said(env):
    return subprocess.run(
        [sys.executable, "-c", PROGRAM], cwd=SERVER, env={**os.environ, **env}, capture_output=True, text=True, check=True
    ).stderr


def lines(text):
    return [(r["from"], r["level"], r["message"]) for r in map(json.loads, text.splitlines())]


def test_a_file_may_be_moved_away_under_whoever_writes_to_it(tmp_path):
    path = tmp_path / "zygon.log"
    assert said({"ZYGON_LOG": str(path)}) == ""
    assert lines((tmp_path / "zygon.log.1").read_text()) == [("zygon.test", "info", "first")]
    assert lines(path.read_text()) == [("zygon.test", "warning", "second"), ("elsewhere", "warning", "told")]


def test_without_one_they_go_to_the_console():
    text = said({"ZYGON_LOG": ""})
    assert [m for _, _, m in lines(text)] == ["first", "second", "told"]
    assert json.loads(text.splitlines()[0])["request"] == "0123"
