"""The data files that ship, read once and handed in as one shelf: templates, additions, load sets."""

from __future__ import annotations

from functools import cache

from tirante.core.suspension.shelf import Shelf
from tirante.shipped.load_sets import read_load_sets
from tirante.shipped.templates import DATA, read_additions, read_templates


@cache
def the_shelf() -> Shelf:
    """What ships."""
    return Shelf(
        templates=read_templates(DATA / "templates"), additions=read_additions(DATA / "additions"),
        load_sets=read_load_sets(DATA / "loads"),
    )  # fmt: skip
