"""Text in a table that a spreadsheet may open: nothing in it is taken for a formula, and what is read back is what was written."""

from __future__ import annotations

FORMULA = ("=", "+", "-", "@", "\t", "\r")  # what a spreadsheet begins one with


def _begins_one(text: str) -> bool:
    return text.lstrip("'")[:1] in FORMULA and bool(text)


def safe_cell(text: str) -> str:
    """A cell that no spreadsheet takes for a formula: a quote before what would begin one."""
    return f"'{text}" if _begins_one(text) else text


def plain_cell(text: str) -> str:
    """What `safe_cell` was given."""
    return text[1:] if text[:1] == "'" and _begins_one(text) else text
