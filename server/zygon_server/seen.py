"""Middleware: every request has a name, which its answer, and all that is logged about it, carries."""

from __future__ import annotations

import re
import secrets
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

__all__ = ["Named", "name_of"]

HEADER = "X-Request-Id"


class Named:
    """Gives each request the name that the front door gave it, or one of its own, and lets nothing of the API be kept unless it says so itself."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        given = request.headers.get(HEADER, "")
        request.META["zygon.request"] = given if re.fullmatch(r"[0-9a-f]{8,32}", given) else secrets.token_hex(8)
        response = self.get_response(request)
        response.headers[HEADER] = name_of(request)
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response


def name_of(request: HttpRequest) -> str:
    """The request's name."""
    return str(request.META.get("zygon.request", ""))
