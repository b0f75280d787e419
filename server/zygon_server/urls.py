"""Addresses: the API, and the one page of the interface for everything else."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from zygon_server.api import api
from zygon_server.health import health, metrics
from zygon_server.page import built_assets


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The interface's page, with its nonce and its built scripts and styles."""
    context = {"nonce": request.style_nonce, **built_assets()}
    response = render(request, "page.html", context)
    response.headers["Cache-Control"] = "no-store"
    return response


handler400, handler403, handler404, handler500 = (f"zygon_server.faults.{n}" for n in ("bad_request", "forbidden", "missing", "unforeseen"))
urlpatterns = [path("api/", api.urls), path("health", health), path("metrics", metrics), re_path(r"^(?!api/|static/).*$", page)]
