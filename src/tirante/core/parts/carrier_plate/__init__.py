"""Plates on what carries a wheel: steering arms, plates of a kingpin."""
