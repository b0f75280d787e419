"""Flats and stock to sheets: true shapes laid out, and an independent checker of layouts."""
