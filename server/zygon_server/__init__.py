"""The server: keeps designs, runs and workshops, and serves the core's answers. No geometry lives here."""
