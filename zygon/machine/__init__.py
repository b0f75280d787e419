"""The machine outside: what is said to one, and a simulated one that ships with the application."""
