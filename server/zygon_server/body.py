"""The one reader of the bodies that the API is sent: JSON within bounds, texts in one form, numbers that are numbers."""

from __future__ import annotations

import json
import math
from typing import Any

from django.http import HttpRequest
from ninja.parser import Parser

from zygon.design.text import printable
from zygon_server.errors import Refused

__all__ = ["Body"]

#: Digits of the longest number that anything here could mean.
DIGITS = 40
#: Taken as they are typed.
SECRETS = ("password", "old", "new")


class Body(Parser):
    """Raises Refused, or the core's UnprintableError; ninja hides both behind an error of its own, which ``errors.register`` looks behind."""

    def parse_body(self, request: HttpRequest) -> Any:
        try:
            data = json.loads(request.body, parse_int=_whole, parse_float=_finite, parse_constant=_finite)
            return printable(data, secrets=SECRETS)
        except RecursionError:
            raise Refused(
                "This cannot be read: its values lie too deep in one another.", code="bad_request", entry="body", value=None, rule="JSON"
            ) from None
        except (UnicodeDecodeError, json.JSONDecodeError) as error:
            raise Refused(f"This is no JSON: {error}.", code="bad_request", entry="body", value=None, rule="JSON in UTF-8") from None


def _whole(text: str) -> int:
    if len(text) > DIGITS:
        raise _odd(text)
    return int(text)


def _finite(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise _odd(text)
    return value


def _odd(text: str) -> Refused:
    return Refused(
        f"{text[:20]} is no number that can be meant.",
        code="bad_request",
        entry="body",
        value=text[:40],
        rule=f"finite numbers of at most {DIGITS} digits",
    )
