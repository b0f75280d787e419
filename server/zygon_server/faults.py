"""What nobody foresaw, as an answer: always JSON with a code, a sentence and the request's name, and the traceback in the log."""

from __future__ import annotations

import errno
import logging

from django.db import DatabaseError
from django.http import HttpRequest, HttpResponse, JsonResponse

from zygon_server.seen import name_of

__all__ = ["bad_request", "forbidden", "missing", "unforeseen"]

log = logging.getLogger(__name__)
#: What a database says when it cannot be written, with the code and the sentence for it.
_WRITING = [
    ("locked", "busy", "The database is busy. This was not saved; try again in a moment."),
    ("busy", "busy", "The database is busy. This was not saved; try again in a moment."),
    (
        "disk is full",
        "disk_full",
        "The disk is full. This was not saved; what is saved can be read, and new work is kept once there is room.",
    ),
    ("disk i/o error", "disk_failed", "The disk cannot be written. This was not saved; what is saved can be read."),
    ("readonly database", "read_only", "The database can only be read now. This was not saved."),
    ("unable to open database", "no_database", "The database cannot be opened. Nothing was changed."),
]
_OUTDATED = "This page is out of date; load it again."


def unforeseen(request: HttpRequest, error: BaseException | None = None) -> HttpResponse:
    """An answer to an error that nothing else answers."""
    name = name_of(request)
    log.error("%s %s failed", request.method, request.path, exc_info=error or True, extra={"request": name, "user": _user(request)})
    if isinstance(error, DatabaseError):
        told = str(error).lower()
        for words, code, sentence in _WRITING:
            if words in told:
                return _answer(507 if code == "disk_full" else 503, code, sentence, name)
    if isinstance(error, OSError) and error.errno in (errno.ENOSPC, errno.EDQUOT):
        return _answer(507, "disk_full", _WRITING[2][2], name)
    if isinstance(error, OSError) and error.errno == errno.EROFS:
        return _answer(503, "read_only", _WRITING[4][2], name)
    sentence = f"Something went wrong in Zygon itself; its log tells what, under {name}. Nothing that was saved is lost."
    return _answer(500, "server_error", sentence, name)


def bad_request(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """A request that is none, or larger than what is taken."""
    log.warning("%s %s refused: %s", request.method, request.path, exception, extra={"request": name_of(request)})
    return _answer(400, "bad_request", "This request cannot be read, or holds more than is taken at once.", name_of(request))


def forbidden(request: HttpRequest, exception: Exception | None = None, reason: str = "", sentence: str = _OUTDATED) -> HttpResponse:
    """A request without the page's token, or that is not allowed otherwise, with the ``sentence`` for it."""
    log.warning("%s %s forbidden: %s", request.method, request.path, reason or exception, extra={"request": name_of(request)})
    return _answer(403, "not_allowed", sentence, name_of(request))


def missing(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """An address that nothing stands at."""
    return _answer(404, "not_found", "There is nothing at this address.", name_of(request))


def _answer(status: int, code: str, message: str, name: str) -> HttpResponse:
    return JsonResponse({"code": code, "message": message, "request": name}, status=status)


def _user(request: HttpRequest) -> str:
    user = getattr(request, "user", None)
    return user.get_username() if user is not None and user.is_authenticated else ""
