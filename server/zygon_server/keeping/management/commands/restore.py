"""``manage.py restore [BACKUP]``: puts a backup back, once the application is stopped."""

from django.core.management.base import BaseCommand, CommandError

from zygon_server.keeping.backups import BackupError, find, restore
from zygon_server.keeping.running import RunsAlreadyError
from zygon_server.keeping.soundness import unsound


class Command(BaseCommand):
    """restore"""

    help = "Put a backup back; what is there now is kept beside the backups."
    requires_migrations_checks = False

    def add_arguments(self, parser) -> None:
        """The command's own switches."""
        parser.add_argument("backup", nargs="?", default="", help="its folder or the folder's name; the latest where none is given")
        parser.add_argument("--unsound", action="store_true", help="put it back although something in it is not sound")

    def handle(self, *, backup: str = "", unsound: bool = False, **_) -> None:
        """Runs the command."""
        try:
            _refuse_unsound(backup, allowed=unsound)
            chosen, kept = restore(backup)
        except (BackupError, RunsAlreadyError) as error:
            raise CommandError(str(error)) from error
        self.stdout.write(f"{chosen.folder.name} is back. What was there until now is kept in {kept}.\nNow run: manage.py upgrade")


def _refuse_unsound(backup: str, *, allowed: bool) -> None:
    wrong = unsound(find(backup).database)
    if wrong and not allowed:
        raise BackupError("\n".join([*wrong[:10], "It was not put back; --unsound puts it back all the same."]))
