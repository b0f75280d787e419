"""A worker of the queue that tells that it is alive."""

import faulthandler
import signal

from django_tasks_db.management.commands.db_worker import Command as Worker

from zygon_server.nesting.beats import beating


class Command(Worker):
    """work_queue"""

    help = "Work the queue off, as db_worker does, and beat under a name."

    def add_arguments(self, parser) -> None:
        """Those of db_worker, and the name first."""
        parser.add_argument("name", help="what the worker is called")
        super().add_arguments(parser)

    def handle(self, **options) -> None:
        """Runs the command."""
        # kill -USR1 tells in the log what a worker is at
        faulthandler.register(signal.SIGUSR1, all_threads=True)
        beating(options.pop("name"))
        super().handle(**options)
