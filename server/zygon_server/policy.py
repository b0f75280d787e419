"""The content security policy, with the style nonce that the interface's kit takes."""

from __future__ import annotations

import secrets
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

__all__ = ["ContentSecurityPolicy"]


class ContentSecurityPolicy:
    """Middleware: everything comes from here; styles made at run time carry the request's nonce."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        request.style_nonce = secrets.token_urlsafe(16)
        response = self.get_response(request)
        response.headers.setdefault(
            "Content-Security-Policy",
            "default-src 'self'; script-src 'self'; "
            f"style-src 'self' 'nonce-{request.style_nonce}'; "
            "img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; worker-src 'self'; "
            "object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
        )
        return response
