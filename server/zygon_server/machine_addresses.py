"""Where the machines are, as the environment says. Imports nothing of Django."""

from __future__ import annotations

import re

__all__ = ["read_machines"]

ONE = re.compile(r"([a-z][a-z0-9_-]{0,39})=([A-Za-z0-9.-]+):(\d{1,5})")


def read_machines(text: str) -> dict[str, tuple[str, int]]:
    """Addresses by name, as ``ZYGON_MACHINES`` gives them (``laser=127.0.0.1:8701,router=…``). Raises ValueError for what is none."""
    found: dict[str, tuple[str, int]] = {}
    for one in filter(None, (x.strip() for x in text.split(","))):
        said = ONE.fullmatch(one)
        if not said or not 0 < int(said[3]) < 65536 or said[1] in found:
            raise ValueError(f"ZYGON_MACHINES: “{one}” is no machine like laser=127.0.0.1:8701, each name once")
        found[said[1]] = (said[2], int(said[3]))
    return found
