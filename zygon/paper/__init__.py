"""Papers of a design: sheets with frame and title block, views, dimensions that are bound to the design, tables, and what they are written to."""
