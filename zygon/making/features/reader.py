"""The reader that one feature's entries are read with: values, and faults under its title."""

from __future__ import annotations

from typing import Any

from zygon.design.pointer import pointer
from zygon.making.blanks.blank import Blank
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.measure.display import format_length
from zygon.measure.quantity import Kind
from zygon.owner import feature_id
from zygon.tolerance import CONTACT

__all__ = ["Reader"]


class Reader:
    """Reads one feature's entries; remembers whether all were good."""

    def __init__(self, values: Values, blank: Blank, key: str, feature: Any) -> None:
        self.values, self.blank, self.key, self.feature = values, blank, key, feature
        self.owner = feature_id(blank.record_key, key)
        self.title = f"{blank.record.name}, {feature.name or feature.kind.replace('_', ' ')}"

    def where(self, *path: str) -> str:
        return pointer("parts", self.blank.key, "features", self.key, *path)

    def read(self, field: str, kind: Kind = "length") -> float:
        scope = EntryScope(self.values, stock=self.blank.record.stock)
        return self.values.read(getattr(self.feature, field), self.where(field), kind, scope, part=self.blank.key, owner=self.owner)

    def positive(self, field: str) -> float:
        value = self.read(field)
        if value <= CONTACT and not self.values.values[self.where(field)].stale:
            shown = format_length(value, self.values.document.display)
            self.fault(field, f"a {field} of {shown}", f"a {field} is greater than 0", shown)
        return value

    def fault(self, field: str, message: str, rule: str, value: str, code: str = "bad_value") -> None:
        self.values.fault_entry(self.where(field), code, f"{self.title}: {message}", rule, value, self.blank.key, self.owner)

    def depth(self) -> float:
        """The depth, which leaves something of the board; 0 with a fault where it does not."""
        depth, t = self.positive("depth"), self.blank.thickness
        if depth >= t - CONTACT:
            shown, rule = (format_length(x, self.values.document.display) for x in (depth, t))
            self.fault("depth", f"{shown} deep comes out on the other side", f"less than the board's {rule}", shown, "too_deep")
            return 0.0
        return max(depth, 0.0)
