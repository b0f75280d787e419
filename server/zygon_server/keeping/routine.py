"""What is done by itself: every hour what is not needed goes, and once a day there is a backup, where the application is in production."""

from __future__ import annotations

import logging
from datetime import UTC, datetime, timedelta

from django.conf import settings

from zygon_server.keeping.backups import BackupError, backup, backups
from zygon_server.keeping.pruning import prune

__all__ = ["tidy"]

log = logging.getLogger(__name__)
DAILY = timedelta(hours=24)


def tidy() -> None:
    """One round. A backup that cannot be taken is told in the log, and tried again the next hour."""
    gone = {what: n for what, n in prune().items() if n}
    if gone:
        log.info("taken away: %s", ", ".join(f"{n} {what}" for what, n in gone.items()))
    if not settings.PRODUCTION:
        return
    latest = next(iter(backups()), None)
    if latest is None or datetime.now(UTC) - datetime.fromisoformat(latest.made) >= DAILY:
        try:
            log.info("backup taken: %s", backup(reason="daily").folder)
        except BackupError as error:
            log.error("%s", error)
