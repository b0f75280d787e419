"""Hardware that lies in a design by itself: its body as it stands and is moved, what it is let into."""
