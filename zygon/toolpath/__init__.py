"""Tool paths: what a cutter's head does to a sheet as nested. Leads, order, micro-joints; programs of them are in ``zygon.program``."""
