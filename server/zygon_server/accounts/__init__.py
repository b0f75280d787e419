"""Signing in and out with Django's sessions."""
