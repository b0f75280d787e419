"""The benchmarks still run, in their short form: every line is printed as it is measured, with a figure in it."""

import re
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]


@pytest.mark.parametrize(("script", "lines", "word"), [("run.py", 24, "memory, greatest"), ("nest.py", 4, "memory, greatest")])
def test_a_benchmark_prints_a_line_a_measurement(script, lines, word):
    done = subprocess.run(
        [sys.executable, ROOT / "bench" / script, "--short"], cwd=ROOT, capture_output=True, text=True, timeout=240, check=False
    )
    assert done.returncode == 0, done.stderr[-2000:]
    printed = [line for line in done.stdout.splitlines() if line.strip()]
    assert len(printed) >= lines and word in done.stdout
    assert all(re.search(r"\d", line) for line in printed if not line.startswith("instance"))
