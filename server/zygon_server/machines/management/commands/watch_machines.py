"""Takes over what the machines say, whether or not anybody looks at them."""

import time

from django.core.management.base import BaseCommand, CommandParser
from django.db import OperationalError, close_old_connections

from zygon_server.machines.known import machines
from zygon_server.machines.running import sync
from zygon_server.nesting.beats import beating


class Command(BaseCommand):
    """watch_machines"""

    help = "Take over what the machines say."

    def add_arguments(self, parser: CommandParser) -> None:
        """The command's own switch."""
        parser.add_argument("--every", type=float, default=2.0, help="seconds")

    def handle(self, *, every: float = 2.0, **_) -> None:
        """Runs the command."""
        beating("machines")
        while True:
            close_old_connections()
            try:
                for name in machines():
                    sync(name)
            except OperationalError as error:  # a locked database is looked at again
                self.stderr.write(f"The machines were not looked at: {error}")
            time.sleep(every)
