"""A maker's own stocks, cutters and fits: the shelf that designs take copies from."""
