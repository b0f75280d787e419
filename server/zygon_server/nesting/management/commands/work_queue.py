"""A worker of the queue that tells that it is alive."""

import faulthandler
import signal

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import connections

from zygon_server.nesting.beats import beating


class Command(BaseCommand):
    """work_queue"""

    help = "Work the queue off, wherever it is, and beat under a name."

    def add_arguments(self, parser) -> None:
        """What the worker is called, and what it works on."""
        parser.add_argument("name", help="what the worker is called")
        parser.add_argument("--queue-name", default="default", help="default for searches, quick for quick runs")
        parser.add_argument("--interval", type=float, default=1.0, help="seconds between two looks, where the queue is in the database")

    def handle(self, *, name: str, queue_name: str, interval: float, skip_checks: bool = True, **_) -> None:
        """Runs the command."""
        # kill -USR1 tells in the log what a worker is at
        faulthandler.register(signal.SIGUSR1, all_threads=True)
        beating(name)
        if settings.TASKS["default"]["BACKEND"] == "django_tasks_rq.RQBackend":
            connections.close_all()  # each job has a process of its own, which must not share what this one opened
            call_command("rqworker", queue_name, job_class="django_tasks_rq.Job", skip_checks=skip_checks)
        else:
            call_command("db_worker", queue_name=queue_name, interval=interval, skip_checks=skip_checks)
