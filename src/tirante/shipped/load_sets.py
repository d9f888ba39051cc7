"""The load sets that ship."""

from __future__ import annotations

from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING

from tirante.core.document.load_cases import LoadSet

if TYPE_CHECKING:
    pass


SETS = Path(__file__).resolve().parents[3] / "data" / "loads"


@cache
def shipped_load_sets() -> dict[str, LoadSet]:
    """The load sets that ship, by name."""
    found = {
        one.name: one for one in (LoadSet.model_validate_json(p.read_bytes()) for p in sorted(SETS.glob("*.json")))
    }
    mildest = sorted(found.values(), key=lambda one: max(case.vertical for case in one.cases))
    return {one.name: one for one in mildest}
