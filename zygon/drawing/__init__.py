"""Drawings that keep their sense: what their relations ask, solved; what is loose and what contradicts; the outlines that come out."""
