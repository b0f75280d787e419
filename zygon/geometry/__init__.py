"""Paths of true lines and arcs, booleans, offsets, frames, meshes. Millimetres and radians."""
