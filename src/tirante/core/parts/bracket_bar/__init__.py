"""Bracket bars: dummy bars that hold a row of brackets on a member while they are tacked; a kind of part."""
