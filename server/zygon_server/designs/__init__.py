"""Designs and their edits."""
