"""Takes up runs whose worker died: once, or again and again beside the workers; there it keeps the house tidy too."""

import time

from django.core.management.base import BaseCommand
from django.db import OperationalError, close_old_connections

from zygon_server.keeping.routine import tidy
from zygon_server.nesting.beats import beating
from zygon_server.nesting.models import NestRun
from zygon_server.nesting.runs import reclaim, remind, wake

#: Seconds between two times that what is not needed any more is taken away, and from the start to the first.
TIDY, FIRST_TIDY = 3600.0, 60.0


class Command(BaseCommand):
    """reclaim_runs"""

    help = "Put runs of dead workers back into the queue and wake it."

    def add_arguments(self, parser) -> None:
        """--every SECONDS keeps on looking."""
        parser.add_argument("--every", type=float, default=0.0, help="seconds between two looks; once where not said")

    def handle(self, every: float = 0.0, **_) -> None:
        """Runs the command."""
        reclaim()
        # what was queued when the application stopped is woken at its start
        for quick in set(NestRun.objects.filter(status=NestRun.Status.QUEUED).values_list("quick", flat=True)):
            wake(quick=quick)
        if every:
            beating("reclaim")
        tidy_at = time.monotonic() + FIRST_TIDY
        while every:
            time.sleep(every)
            close_old_connections()
            try:
                reclaim()
                remind()
                if time.monotonic() >= tidy_at:
                    tidy_at = time.monotonic() + TIDY
                    tidy()
            except OperationalError as error:  # a locked database is looked at again, and brings nothing else down
                self.stderr.write(f"Runs of dead workers were not looked for: {error}")
