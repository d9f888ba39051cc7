"""Welded arms of any layout."""
