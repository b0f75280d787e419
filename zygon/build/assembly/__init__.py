"""Putting together: which way parts can slide (sweep), in what order (plan), and what holds them up (hold)."""
