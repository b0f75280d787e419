"""The kinds of sheets, a module each: what stands on one, set out or ready to be."""
