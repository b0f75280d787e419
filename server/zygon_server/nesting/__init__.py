"""Nest runs: rows of our own with lease, heartbeat, progress and cancel; the queue only wakes the worker."""
