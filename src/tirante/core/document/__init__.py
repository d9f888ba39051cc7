"""What a user saves, and nothing else: the design, its parts, ends, car, loads, settings and the catalogue rows it uses."""
