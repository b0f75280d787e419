"""What papers are written to: PDF, SVG, DXF. One module a format."""
