"""Zygon's core: every rule and computation for parts cut from sheet; imports neither the web nor the server."""

__version__ = "0.1.0"
#: Changes whenever the same document may build to something else; part of every memo key.
KERNEL = 2
