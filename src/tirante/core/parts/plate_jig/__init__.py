"""Jigs on a plate or a rail: a kind of part that holds another while it is welded."""
