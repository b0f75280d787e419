"""What is nothing, near enough or the same is said in one place, or by a name with its reason where only one module asks it."""

import re
import tokenize
from pathlib import Path

import zygon

ROOT = Path(zygon.__file__).parent
#: Sizes of units are no tolerances.
UNITS = ROOT / "exchange" / "read_dxf.py"


def test_no_tolerance_stands_in_the_middle_of_the_code():
    bare = []
    for file in ROOT.rglob("*.py"):
        if file in (ROOT / "tolerance.py", UNITS):
            continue
        lines = file.read_text().splitlines()
        with file.open("rb") as text:
            for token in tokenize.tokenize(text.readline):
                if token.type == tokenize.NUMBER and re.fullmatch(r"\d+(\.\d+)?e-\d+", token.string):
                    row = token.start[0] - 1
                    if not (re.match(r"[A-Z_]+ = ", lines[row]) and lines[row - 1].startswith("#: ")):
                        bare.append(f"{file.relative_to(ROOT)}:{row + 1}: {lines[row].strip()}")
    assert bare == []


def test_every_tolerance_has_its_reason():
    lines = (ROOT / "tolerance.py").read_text().splitlines()
    for row, line in enumerate(lines):
        if re.match(r"[A-Z_]+ = ", line):
            assert lines[row - 1].startswith("#: "), line
