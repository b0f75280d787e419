"""Bent sheet: allowances, faces and bends of a folded part, reliefs, corners, and the solid that the flat folds into."""
