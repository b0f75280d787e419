"""Turned parts: half-profiles drawn round an axis, and what is bored, milled and cut into them."""
