"""A JSON field that keeps the order of its keys in every database: a design's parts come in the order in which they were made."""

from __future__ import annotations

import json
from functools import partial
from typing import TYPE_CHECKING, Any

from django.db import models

__all__ = ["OrderedJSON"]


class OrderedJSON(models.JSONField):
    """As Django's own, but for PostgreSQL, whose ``jsonb`` sorts keys: there it is of the type ``json``, which keeps the text."""

    if TYPE_CHECKING:  # what a row has under a field's name is its value

        def __get__(self, row: Any, owner: Any = None) -> Any: ...

        def __set__(self, row: Any, value: Any) -> None: ...

    def db_type(self, connection: Any) -> str | None:
        return "json" if connection.vendor == "postgresql" else super().db_type(connection)

    def get_db_prep_value(self, value: Any, connection: Any, prepared: bool = False) -> Any:
        if value is None or connection.vendor != "postgresql" or hasattr(value, "as_sql"):
            return super().get_db_prep_value(value, connection, prepared)
        from psycopg.types.json import Json

        return Json(value, dumps=partial(json.dumps, cls=self.encoder))

    def from_db_value(self, value: Any, expression: Any, connection: Any) -> Any:
        if value is None or connection.vendor != "postgresql":
            return super().from_db_value(value, expression, connection)
        return json.loads(value) if isinstance(value, str) else value
