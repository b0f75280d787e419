"""How often a name and password are tried: by name and address, with waits that grow, and by address alone for whoever tries names."""

from __future__ import annotations

from datetime import timedelta

from axes.models import AccessFailureLog
from django.conf import settings
from django.http import HttpRequest
from django.utils import timezone
from ninja.throttling import AnonRateThrottle

__all__ = ["LONGEST", "DoorRate", "address_of", "wait"]

#: The first wait, and the longest.
FIRST, LONGEST = timedelta(seconds=30), timedelta(hours=1)


def address_of(request: HttpRequest) -> str:
    """Where a request comes from, as the front door has it; the nearest of several hops is that of our own proxy's client."""
    told = request.headers.get("X-Forwarded-For", "").rpartition(",")[2].strip()
    return told or request.META.get("REMOTE_ADDR", "") or "127.0.0.1"


def wait(request: HttpRequest | None = None) -> timedelta:
    """How long nobody is let in by this name from this address: twice as long each time that all tries of a day were spent again."""
    name = getattr(request, "signing_in", "")
    if request is None or not name:
        return FIRST
    tried = AccessFailureLog.objects.filter(
        username=name, ip_address=address_of(request), attempt_time__gt=timezone.now() - timedelta(days=1)
    ).count()
    return min(FIRST * 2 ** min(max(tried // settings.AXES_FAILURE_LIMIT - 1, 0), 12), LONGEST)


class DoorRate(AnonRateThrottle):
    """Tries by address, whatever the names."""

    def get_ident(self, request: HttpRequest) -> str | None:
        return address_of(request)
