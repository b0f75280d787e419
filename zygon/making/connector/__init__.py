"""Connectors: how they turn onto the lines of their point, and their bodies."""
