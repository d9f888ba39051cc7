"""Axle saddles and trusses: the plates of a box on a tube, and what all that stands on it does to them."""
