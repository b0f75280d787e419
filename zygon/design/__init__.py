"""The document: what a maker has said. Typed, validated, versioned; edits are patches with an inverse."""
