"""Tube ends that meet round surfaces: where the wall meets them (`meeting`), and the hole saw that comes nearest (`hole_saw`)."""
