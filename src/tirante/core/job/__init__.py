"""A design worked out: the order of the stages and the one memory of results."""
