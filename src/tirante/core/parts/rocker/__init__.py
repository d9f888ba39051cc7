"""Rockers of plates."""
