"""Acts on drawings, each as one edit: begun, drawn on, related, dragged, trimmed, mirrored; what comes out is solved, and kept where it lies."""
