"""``manage.py upgrade``: brings the database up to date, after a backup where there is something to lose."""

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from zygon_server.keeping.backups import BackupError, backup


class Command(BaseCommand):
    """upgrade"""

    help = "Bring the database up to date; where it holds anything and changes, a backup is taken first."
    requires_migrations_checks = False

    def handle(self, *, verbosity: int = 1, **_) -> None:
        """Runs the command."""
        executor = MigrationExecutor(connection)
        waiting = executor.migration_plan(executor.loader.graph.leaf_nodes())
        if waiting and connection.vendor == "sqlite" and connection.introspection.table_names():
            try:
                taken = backup(reason=f"before {len(waiting)} changes of the database")
            except BackupError as error:
                raise CommandError(f"{error} Nothing was changed.") from error
            self.stdout.write(f"A backup was taken: {taken.folder}")
        call_command("migrate", interactive=False, verbosity=max(verbosity - 1, 0))
