"""The data files that ship, read once: templates, additions, load sets."""
