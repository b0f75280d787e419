"""The range test: every size walked through its range, alone and with those that act on the same things, and where the design breaks."""
