"""Hardware by its standards: tables, bodies, and the holes that it asks for. Millimetres."""
