"""Set jigs: one jig for a range of links, its carriage set by a scale; a kind of part."""
