"""How many examples the property tests draw: few and always the same, or with ZYGON_EXPLORE=1 many and new ones."""

import itertools
import os
from collections.abc import Sequence
from typing import Any

__all__ = ["EXPLORE", "diagonal", "drawn"]

EXPLORE = os.environ.get("ZYGON_EXPLORE") == "1"


def drawn(few: int) -> int:
    """So many examples in every run; ten times as many where new ones are looked for."""
    return few * 10 if EXPLORE else few


def diagonal(every: int, *lists: Sequence[Any]) -> list[tuple[Any, ...]]:
    """The cases of a product that lie on every so-manieth diagonal, so that each value of each list stays among them; all of them to explore."""
    numbered = itertools.product(*(enumerate(values) for values in lists))
    return [tuple(v for _, v in case) for case in numbered if EXPLORE or sum(n for n, _ in case) % every == 0]
