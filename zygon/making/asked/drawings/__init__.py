"""Drawings as they lie in a document, and all that they may refer to; asked while they are drawn: a module for each thing that is drawn on."""
