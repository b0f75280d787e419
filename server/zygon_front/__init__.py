"""The front door: takes requests whole, however slowly they come, and hands each to the process that works on its design."""
