"""Hangers as a kind of part."""
