"""Whether a database is sound: its file, what refers to what, and every design in it, which has to be read and built."""

from __future__ import annotations

import json
import sqlite3
from contextlib import closing
from pathlib import Path

from zygon.design.upgrade import load
from zygon.errors import ZygonError
from zygon.making.pipeline import build

__all__ = ["unsound"]


def unsound(database: Path) -> list[str]:
    """What is wrong with a database's file, in sentences; [] where it is sound. Nothing is written."""
    try:
        with closing(sqlite3.connect(f"file:{database}?mode=ro", uri=True, timeout=60)) as open_:
            found = [f"The file is damaged: {row[0]}." for row in open_.execute("PRAGMA integrity_check(20)") if row[0] != "ok"]
            if found:
                return found
            found += [
                f"A row of {row[0]} refers to one of {row[2]} that is not there." for row in open_.execute("PRAGMA foreign_key_check")
            ]
            for key, name, document, good in open_.execute("SELECT id, name, document, good FROM designs_design ORDER BY name"):
                found += _design(key, name, document, good)
            return found
    except sqlite3.Error as error:
        return [f"The file is no database of Zygon's: {error}."]


def _design(key: str, name: str, document: str, good: str) -> list[str]:
    try:
        build(load(json.loads(document)), json.loads(good))
    except ZygonError as error:
        return [f"{name} ({key}) cannot be read: {error.message}."]
    except Exception as error:  # whatever it is, it is this design's, and the others are looked at too
        return [f"{name} ({key}) cannot be built: {type(error).__name__}: {error}."]
    return []
