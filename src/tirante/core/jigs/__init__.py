"""Jigs that hold a part true while it is welded."""
