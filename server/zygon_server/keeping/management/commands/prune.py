"""``manage.py prune``: takes away what is not needed any more, as the application does by itself every hour."""

from django.core.management.base import BaseCommand

from zygon_server.keeping.pruning import prune


class Command(BaseCommand):
    """prune"""

    help = "Take away sessions that expired, runs and tasks that ended long ago, and old tries to sign in."

    def handle(self, **_) -> None:
        """Runs the command."""
        self.stdout.write(", ".join(f"{n} {what}" for what, n in prune().items()))
