"""Hub stands: a kind of part."""
