"""Welded frames of tubes under load cases: what arms of any layout share."""
