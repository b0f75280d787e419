"""Keeps processes going: starts them, starts what dies again, and stops all of them with itself."""
