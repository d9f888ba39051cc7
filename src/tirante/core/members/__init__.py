"""Straight members and what joins them: tube, columns, threads, the link stack, rod ends and their welds."""
