"""What a simulated machine did, kept as it happens: a line of JSON each, so that a machine that dies leaves what it had cut."""

from __future__ import annotations

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

__all__ = ["Journal"]


class Journal:
    """A file that only grows. Records: ``begin``, ``end``, ``stop`` with a run; ``cut`` of a run: the move of its program, from and to which share of it, where that ended, whether it was on."""

    def __init__(self, path: Path) -> None:
        self.path = path
        path.parent.mkdir(parents=True, exist_ok=True)

    def write(self, what: str, **said: Any) -> None:
        """Keeps a record at once."""
        with self.path.open("a", encoding="utf-8") as file:
            file.write(json.dumps({"what": what, **said}) + "\n")

    def settle(self) -> None:
        """Makes one record of what was written of the same move piece by piece; the file is swapped as a whole."""
        kept: list[dict[str, Any]] = []
        for r in self.records():
            last = kept[-1] if kept else {}
            if r["what"] == "cut" and all(r[k] == last.get(k) for k in ("what", "run", "move", "on")) and r["from"] == last["to"]:
                last |= {"to": r["to"], "at": r["at"]}
            else:
                kept.append(r)
        beside = self.path.with_suffix(".settled")
        beside.write_text("".join(json.dumps(r) + "\n" for r in kept), encoding="utf-8")
        beside.replace(self.path)

    def records(self) -> Iterator[dict[str, Any]]:
        """All records; a last one that was broken off is left out."""
        if not self.path.exists():
            return
        for line in self.path.read_text(encoding="utf-8").splitlines():
            try:
                yield json.loads(line)
            except ValueError:
                continue
