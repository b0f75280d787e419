"""Signing in, and the demo workshop's account."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth import authenticate, get_user_model, login
from django.http import HttpRequest

from zygon_server.errors import NotAllowed, Refused

__all__ = ["DEMO_USER", "enter_demo", "sign_in"]

DEMO_USER = "thistledown"


def sign_in(request: HttpRequest, username: str, password: str) -> None:
    """Signs a maker in; Refused where name and password do not belong together."""
    user = authenticate(request, username=username, password=password)
    if user is None:
        raise Refused("That name and password do not belong together.", entry="password", rule="an account's name and its password")
    login(request, user)


def enter_demo(request: HttpRequest) -> None:
    """Signs in as the demo workshop; NotAllowed unless the demo switched it on."""
    if not settings.DEMO:
        raise NotAllowed("The demo workshop is not open on this server.")
    user = get_user_model().objects.filter(username=DEMO_USER).first()
    if user is None:
        raise NotAllowed("The demo data is not loaded.")
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
