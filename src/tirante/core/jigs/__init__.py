"""How what is welded is held: what a jig takes hold of, in which plane, where its posts stand, and how the wrong hand is told."""
