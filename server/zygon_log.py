"""Logs as lines of JSON, to the console; whoever started the process keeps them."""

from __future__ import annotations

import json
import logging
import sys
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


#: For ``logging.config.dictConfig``: INFO of our own, warnings of all others.
CONFIG: dict[str, Any] = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"lines": {"()": "zygon_log.Lines"}},
    "handlers": {"console": {"class": "logging.StreamHandler", "stream": "ext://sys.stderr", "formatter": "lines"}},
    "root": {"level": "WARNING", "handlers": ["console"]},
    "loggers": {"zygon": {"level": "INFO"}, "zygon_server": {"level": "INFO"}},
}


def set_up(level: int = logging.INFO) -> None:
    """The same for a process without Django."""
    handler = logging.StreamHandler(sys.stderr)
    handler.setFormatter(Lines())
    logging.basicConfig(level=logging.WARNING, handlers=[handler], force=True)
    logging.getLogger("zygon").setLevel(level)
