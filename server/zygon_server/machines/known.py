"""Which machines there are: those that the settings name, each with the line to it."""

from __future__ import annotations

from collections.abc import Mapping

from django.conf import settings

from zygon_server.errors import NotFound
from zygon_server.machines.link import Link
from zygon_server.machines.simulated import SimulatedLink

__all__ = ["link_to", "machines"]


def machines() -> Mapping[str, tuple[str, int]]:
    """Their addresses by name, in the order of the settings."""
    return settings.MACHINES


def link_to(name: str) -> Link:
    """The line to a machine; NotFound where there is none of that name."""
    if name not in machines():
        raise NotFound(f"There is no machine “{name}”.")
    return SimulatedLink(*machines()[name])
