"""Tubes, bars and rods: how their ends meet others, how those ends lie flat, and how they are bent."""
