"""Welded arms of suspension ends."""
