"""Steering racks: bought whole, held by two feet."""
