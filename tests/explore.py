"""How many examples the property tests draw: few and always the same, or with ZYGON_EXPLORE=1 many and new ones."""

import os

__all__ = ["EXPLORE", "drawn"]

EXPLORE = os.environ.get("ZYGON_EXPLORE") == "1"


def drawn(few: int) -> int:
    """So many examples in every run; ten times as many where new ones are looked for."""
    return few * 10 if EXPLORE else few
