"""Flat pieces: the one contour there is, of exact lines and arcs."""
