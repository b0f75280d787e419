"""Files in and out, open formats only: DXF, SVG, CSV, ZIP."""
