"""Takes up runs that an earlier worker left behind; run before the worker starts."""

from django.core.management.base import BaseCommand

from zygon_server.nesting.models import NestRun
from zygon_server.nesting.service import reclaim, wake


class Command(BaseCommand):
    """reclaim_runs"""

    help = "Put runs of dead workers back into the queue and wake it."

    def handle(self, **_) -> None:
        """Runs the command."""
        reclaim()
        for quick in set(NestRun.objects.filter(status=NestRun.Status.QUEUED).values_list("quick", flat=True)):
            wake(quick=quick)
