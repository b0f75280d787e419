"""``manage.py verify [BACKUP]``: whether the database, or one of its backups, is sound."""

from django.core.management.base import BaseCommand, CommandError

from zygon_server.keeping.backups import BackupError, find, live
from zygon_server.keeping.soundness import unsound


class Command(BaseCommand):
    """verify"""

    help = "Tell whether the database is sound: its file, what refers to what, and that every design is read and built."

    def add_arguments(self, parser) -> None:
        """The command's own switches."""
        parser.add_argument(
            "backup", nargs="?", default=None, help="a backup's folder or its name, or 'latest', in place of the database itself"
        )

    def handle(self, *, backup: str | None = None, **_) -> None:
        """Runs the command."""
        try:
            path = live() if backup is None else find("" if backup == "latest" else backup).database
        except BackupError as error:
            raise CommandError(str(error)) from error
        wrong = unsound(path)
        if wrong:
            raise CommandError("\n".join([f"{path} is not sound:", *wrong]))
        self.stdout.write(f"{path} is sound.")
