"""Signing in, and the demo workshop's account."""

from __future__ import annotations

import logging
from datetime import timedelta

from django.conf import settings
from django.contrib.auth import authenticate, get_user_model, login, update_session_auth_hash
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.http import HttpRequest

from zygon_server.accounts.throttle import address_of, wait
from zygon_server.errors import NotAllowed, Refused, TooMany
from zygon_server.seen import name_of

__all__ = ["DEMO_USER", "change_password", "enter_demo", "sign_in"]

log = logging.getLogger(__name__)

DEMO_USER = "thistledown"


def sign_in(request: HttpRequest, username: str, password: str) -> None:
    """Signs a maker in; Refused where name and password do not belong together."""
    username = username.strip()
    request.signing_in = username
    user = authenticate(request, username=username, password=password)
    if getattr(request, "axes_locked_out", False):
        log.warning("sign-in held back", extra={"user": username, "address": address_of(request), "request": name_of(request)})
        raise TooMany(
            f"Too many tries with this name. Wait {_said(wait(request))}, then try again.",
            entry="password",
            rule="a few tries, then a wait",
        )
    if user is None:
        log.warning("sign-in refused", extra={"user": username, "address": address_of(request), "request": name_of(request)})
        raise Refused("That name and password do not belong together.", entry="password", rule="an account's name and its password")
    login(request, user)
    log.info("signed in", extra={"user": username, "address": address_of(request), "request": name_of(request)})


def change_password(request: HttpRequest, old: str, new: str) -> None:
    """Gives whoever is signed in another password; Refused where the old one is wrong, or the new one too easy to guess."""
    user = request.user
    if not user.check_password(old):
        raise Refused("That is not the password of now.", entry="old", rule="the password of now")
    try:
        validate_password(new, user)
    except ValidationError as error:
        raise Refused(" ".join(error.messages), entry="new", rule="long, not common, not like the name") from None
    user.set_password(new)
    user.save(update_fields=["password"])
    update_session_auth_hash(request, user)
    log.info("password changed", extra={"user": user.get_username(), "request": name_of(request)})


def _said(time: timedelta) -> str:
    seconds = int(time.total_seconds())
    return f"{seconds} seconds" if seconds < 60 else "1 minute" if seconds < 120 else f"{seconds // 60} minutes"


def enter_demo(request: HttpRequest) -> None:
    """Signs in as the demo workshop; NotAllowed unless the demo switched it on."""
    if not settings.DEMO:
        raise NotAllowed("The demo workshop is not open on this server.")
    user = get_user_model().objects.filter(username=DEMO_USER).first()
    if user is None:
        raise NotAllowed("The demo data is not loaded.")
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
