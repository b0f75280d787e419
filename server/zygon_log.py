"""Logs as lines of JSON, to the console or, where ZYGON_LOG names one, to a file that may be rotated under it (deploy/logrotate.conf)."""

from __future__ import annotations

import json
import logging
import logging.config
import os
from datetime import UTC, datetime
from typing import Any

__all__ = ["CONFIG", "Lines", "set_up"]

#: What a record carries by itself; all else was given with it.
_OWN = {*vars(logging.makeLogRecord({})), "message", "asctime", "taskName"}


class Lines(logging.Formatter):
    """A record as one line of JSON: time, level, logger, message, what was given with it, and the traceback."""

    def format(self, record: logging.LogRecord) -> str:
        told: dict[str, Any] = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname.lower(),
            "from": record.name,
            "message": record.getMessage(),
        }
        # objects are told by their words only: requests carry what is nobody's business
        told |= {k: v for k, v in vars(record).items() if k not in _OWN and isinstance(v, str | int | float | bool | None)}
        if record.exc_info:
            told["traceback"] = self.formatException(record.exc_info)
        return json.dumps(told, ensure_ascii=True)


def _handler() -> dict[str, Any]:
    """To a file that is opened anew once it was moved away, since several processes write to it; or to the console."""
    path = os.environ.get("ZYGON_LOG")
    to = (
        {"class": "logging.handlers.WatchedFileHandler", "filename": path}
        if path
        else {"class": "logging.StreamHandler", "stream": "ext://sys.stderr"}
    )
    return {**to, "formatter": "lines"}


#: For ``logging.config.dictConfig``: INFO of our own, warnings of all others.
CONFIG: dict[str, Any] = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"lines": {"()": "zygon_log.Lines"}},
    "handlers": {"console": _handler()},
    "root": {"level": "WARNING", "handlers": ["console"]},
    "loggers": {"zygon": {"level": "INFO"}, "zygon_server": {"level": "INFO"}},
}


def set_up(level: int = logging.INFO) -> None:
    """The same for a process without Django."""
    logging.config.dictConfig({**CONFIG, "loggers": {"zygon": {"level": logging.getLevelName(level)}}})
