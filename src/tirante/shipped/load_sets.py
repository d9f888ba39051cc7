"""The load sets that ship."""

from __future__ import annotations

from pathlib import Path

from tirante.core.document.load_cases import LoadSet


def read_load_sets(folder: Path) -> dict[str, LoadSet]:
    """Every load set of a folder by its name, the mildest first."""
    found = [LoadSet.model_validate_json(path.read_bytes()) for path in sorted(folder.glob("*.json"))]
    return {one.name: one for one in sorted(found, key=lambda one: max(case.vertical for case in one.cases))}
