"""The server's errors, and the single place where errors become responses.

::

    ServerError
    ├── NotFound        404  nothing there for this maker (also where it is another's)
    ├── Stale           412  the edit was made on an older revision
    ├── Refused         422  the entry, the value and the rule are named
    ├── TooMany         429  tried too often
    └── NotAllowed      403
"""

from __future__ import annotations

from typing import Any

from django.core.exceptions import BadRequest, RequestDataTooBig, SuspiciousOperation
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse, UnreadablePostError
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, Throttled, ValidationError

from zygon.errors import ZygonError
from zygon.patience import GivenUp
from zygon_server import faults, wanted

__all__ = ["NotAllowed", "NotFound", "Refused", "ServerError", "Stale", "TooMany", "register"]


class ServerError(Exception):
    """Base: ``code`` is stable, ``message`` a sentence for a maker, ``more`` further fields of the response."""

    status = 400
    code = "error"

    def __init__(self, message: str, **more: Any) -> None:
        super().__init__(message)
        self.message = message
        self.more = {k: v for k, v in more.items() if k != "code"}
        self.code = more.get("code", self.code)


class NotFound(ServerError):
    """Nothing there, or nothing of this maker's."""

    status, code = 404, "not_found"


class Stale(ServerError):
    """The edit was made on an older revision than the head."""

    status, code = 412, "stale"


class Refused(ServerError):
    """A value that cannot stand."""

    status, code = 422, "refused"


class TooMany(ServerError):
    """Tried too often; later."""

    status, code = 429, "too_many"


class NotAllowed(ServerError):
    """Not for this maker, or switched off."""

    status, code = 403, "not_allowed"


def register(api: NinjaAPI) -> None:
    """Turns every kind of error into a response with code, message, entry, value and rule."""

    @api.exception_handler(ServerError)
    def server_error(_: HttpRequest, error: ServerError) -> HttpResponse:
        return JsonResponse({"code": error.code, "message": error.message, **error.more}, status=error.status)

    @api.exception_handler(ZygonError)
    def core_error(_: HttpRequest, error: ZygonError) -> HttpResponse:
        return JsonResponse(error.as_dict(), status=422)

    @api.exception_handler(GivenUp)
    def given_up(_: HttpRequest, error: GivenUp) -> HttpResponse:
        return wanted.answer(error)

    @api.exception_handler(ValidationError)
    def bad_request(_: HttpRequest, error: ValidationError) -> HttpResponse:
        first = error.errors[0]
        entry = ".".join(str(x) for x in first["loc"] if x != "body")
        if first["type"].startswith("union_tag"):
            # which of several records it is, is said by one of its fields
            entry = first["ctx"]["discriminator"].strip("'")
        message = f"{entry} is missing" if first["type"] in ("missing", "union_tag_not_found") else f"{entry}: {first['msg']}"
        return JsonResponse({"code": "bad_request", "message": message, "entry": entry, "rule": first["msg"], "value": None}, status=422)

    @api.exception_handler(AuthenticationError)
    def not_signed_in(_: HttpRequest, __: AuthenticationError) -> HttpResponse:
        return JsonResponse({"code": "signed_out", "message": "You are not signed in."}, status=401)

    @api.exception_handler(Http404)
    def missing(request: HttpRequest, error: Http404) -> HttpResponse:
        return faults.missing(request, error)

    @api.exception_handler(Exception)
    def whatever(request: HttpRequest, error: Exception) -> HttpResponse:
        if isinstance(error, RequestDataTooBig | SuspiciousOperation | BadRequest | MultiPartParserError | UnreadablePostError):
            return faults.bad_request(request, error)
        return faults.unforeseen(request, error)

    @api.exception_handler(Throttled)
    def too_often(_: HttpRequest, error: Throttled) -> HttpResponse:
        return JsonResponse({"code": "too_many", "message": "That was asked for too often. Wait a minute, then try again."}, status=429)

    @api.exception_handler(HttpError)
    def http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
        if isinstance(error.__cause__, ServerError):
            return server_error(request, error.__cause__)
        if isinstance(error.__cause__, ZygonError):
            return core_error(request, error.__cause__)
        return JsonResponse({"code": "http_error", "message": str(error)}, status=error.status_code)
