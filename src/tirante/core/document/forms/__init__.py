"""Forms as tables: what a person may set, with labels, units, limits and choices, drawn alike by any client."""
