"""``manage.py backup``: takes one while everybody works, or lists them."""

from pathlib import Path

from django.core.management.base import BaseCommand, CommandError

from zygon_server.keeping.backups import KEPT, BackupError, backup, backups


class Command(BaseCommand):
    """backup"""

    help = "Take a backup of the database and the key, while everybody works."

    def add_arguments(self, parser) -> None:
        """The command's own switches."""
        parser.add_argument("--to", type=Path, help="a folder, best on another disk; ZYGON_BACKUPS or var/backups otherwise")
        parser.add_argument("--keep", type=int, default=KEPT, help=f"older ones than the latest so many go ({KEPT}); 0 keeps all")
        parser.add_argument("--list", action="store_true", help="tell which there are")

    def handle(self, *, to: Path | None = None, keep: int = KEPT, list: bool = False, **_) -> None:
        """Runs the command."""
        if list:
            for one in backups(to):
                self.stdout.write(f"{one.folder}  {one.reason}".rstrip())
            return
        try:
            self.stdout.write(str(backup(to, keep).folder))
        except BackupError as error:
            raise CommandError(str(error)) from error
