"""A pytest plugin: plants a mistake before its module is loaded, for code that runs only then, such as tables that are built once.

The mistake is told by ``ZYGON_MISTAKE`` (file, start, end, text instead, as JSON); nothing is written, compiled modules are neither read nor kept.
"""

from __future__ import annotations

import json
import os
import sys
from importlib.machinery import SourceFileLoader
from pathlib import Path

__all__ = ["MISTAKE"]

#: The variable of the environment that tells the mistake.
MISTAKE = "ZYGON_MISTAKE"


def _plant(file: str, start: int, end: int, after: str) -> None:
    as_it_is = SourceFileLoader.get_code
    wanted = Path(file)

    def get_code(self: SourceFileLoader, fullname: str):
        path = Path(self.get_filename(fullname))
        if path != wanted:
            return as_it_is(self, fullname)
        source = path.read_bytes()
        return compile(source[:start] + after.encode() + source[end:], str(path), "exec", dont_inherit=True)

    SourceFileLoader.get_code = get_code  # type: ignore[method-assign, assignment]


if MISTAKE in os.environ:
    sys.dont_write_bytecode = True
    _plant(*json.loads(os.environ[MISTAKE]))
