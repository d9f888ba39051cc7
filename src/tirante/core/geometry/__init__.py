"""Geometry of solids at many positions at once: `distance` between capsules, blocks, walls and points."""
