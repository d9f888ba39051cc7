"""Dummy dampers: a kind of part."""
