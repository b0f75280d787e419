"""What one maker may keep and ask for, so that there is room and time for the others. The figures are settings (QUOTAS, RATES)."""

from __future__ import annotations

from datetime import timedelta

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser
from django.db.models import Func, IntegerField, Q, Sum
from django.http import HttpRequest
from django.utils import timezone
from ninja.throttling import AuthRateThrottle

from zygon_server.designs.models import Design, Edit, IssuedSet, Picture
from zygon_server.elsewhere.models import OutsideOrder
from zygon_server.errors import Refused, TooMany
from zygon_server.machines.models import JobSide
from zygon_server.nesting.models import NestRun, Subject
from zygon_server.workshop.models import PaperTemplate

__all__ = ["Rate", "kept_bytes", "may_keep", "may_keep_another", "may_search"]

Status = NestRun.Status


def may_keep_another(user: AbstractBaseUser) -> None:
    """Refused where a maker has as many designs, or as much in them, as one may have."""
    most = settings.QUOTAS["designs"]
    if Design.objects.filter(owner=user, deleted=None).count() >= most:
        told = f"You have {most:,} designs, which is the most that one maker keeps here; delete some that you need no more."
        raise Refused(told, code="quota", entry="designs", value=most, rule=f"at most {most} designs")
    may_keep(user)


def may_keep(user: AbstractBaseUser) -> None:
    """Refused where a maker's designs with their histories take up as much room as one may have."""
    most = settings.QUOTAS["megabytes"]
    if kept_bytes(user) > most * 1_000_000:
        told = f"Your designs and their histories take up {most:,} MB, which is the most that one maker keeps here; delete some for good that you need no more."
        raise Refused(told, code="quota", entry="designs", value=most, rule=f"at most {most} MB")


def kept_bytes(user: AbstractBaseUser) -> int:
    """How much a maker's designs, edits, pictures, issued papers, templates' logos, sheets at machines and orders take up."""
    designs = Design.objects.filter(owner=user).aggregate(n=Sum(_Length("document")))["n"]
    edits = Edit.objects.filter(design__owner=user).aggregate(n=Sum(_Length("patch") + _Length("inverse")))["n"]
    pictures = Picture.objects.filter(design__owner=user).aggregate(n=Sum(_Length("data")))["n"]
    issued = IssuedSet.objects.filter(design__owner=user).aggregate(n=Sum(_Length("data")))["n"]
    logos = PaperTemplate.objects.filter(owner=user).aggregate(n=Sum(_Length("logo")))["n"]
    jobs = JobSide.objects.filter(job__owner=user).aggregate(n=Sum(_Length("text") + _Length("shown")))["n"]
    orders = OutsideOrder.objects.filter(owner=user).aggregate(n=Sum(_Length("data")))["n"]
    return (orders or 0) + (jobs or 0) + (designs or 0) + (edits or 0) + (pictures or 0) + (issued or 0) + (logos or 0)


def may_search(user: AbstractBaseUser, subject: Subject) -> None:
    """TooMany where a maker has as many searches going on, or had as many hours of them within a day, as one may have.

    One of the same ``subject`` ends as the new one begins, and quick runs are not counted.
    """
    own = NestRun.objects.filter(Q(design__owner=user) | Q(batch__owner=user), quick=False)
    same = {"design": subject} if isinstance(subject, Design) else {"batch": subject}
    at_once, hours = settings.QUOTAS["searches"], settings.QUOTAS["search_hours"]
    if own.exclude(**same).filter(status__in=(Status.QUEUED, Status.RUNNING), cancel=False).count() >= at_once:
        raise TooMany(
            f"{at_once} of your searches are going on; stop one, or wait until one ends.", entry="search", rule=f"at most {at_once} at once"
        )
    now = timezone.now()
    lasted = own.filter(created__gt=now - timedelta(days=1)).values_list("seconds", "created", "finished")
    # a search that was stopped took less than it was given, and one that waited for its turn more
    if sum(min(given, ((finished or now) - created).total_seconds()) for given, created, finished in lasted) > hours * 3600:
        raise TooMany(
            f"Your searches took {hours:g} hours within a day, which is the most that one maker has here.",
            entry="search",
            rule=f"at most {hours:g} hours a day",
        )


class Rate(AuthRateThrottle):
    """How often a maker may ask for something dear, by the name that it has in the settings' RATES."""

    def __init__(self, scope: str) -> None:
        self.scope = scope
        super().__init__("1/s")

    def allow_request(self, request: HttpRequest) -> bool:
        rate = settings.RATES.get(self.scope)
        if not rate:
            return True
        self.num_requests, self.duration = self.parse_rate(rate)
        return super().allow_request(request)


class _Length(Func):
    """Of a value as it is kept, in characters."""

    function, output_field = "LENGTH", IntegerField()

    def as_postgresql(self, compiler, connection, **more):
        return self.as_sql(compiler, connection, template="LENGTH((%(expressions)s)::text)", **more)
