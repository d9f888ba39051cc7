"""What the page does with a job between two calls: parts by name and kind, patches put in."""

from __future__ import annotations

import json
from typing import Any


def of_kind(design: dict[str, Any], kind: str) -> list[dict[str, Any]]:
    """The design's own parts of a kind, to be changed in place."""
    return [part for part in design["parts"] if part["kind"] == kind]


def where(design: dict[str, Any], part_id: str) -> int:
    """Its place in the design's list, as an error names it."""
    return next(i for i, part in enumerate(design["parts"]) if part["id"] == part_id)


def named(found: Any, name: str) -> dict[str, Any]:
    """A part of an answer by its name."""
    part: dict[str, Any] = next(part for part in found["parts"] if part["name"] == name)
    return part


def put(design: dict[str, Any], patch: Any) -> dict[str, Any]:
    """The design with a patch in it: parts, joints and rows in the place of those with their ids, or added."""
    made: dict[str, Any] = json.loads(json.dumps(design))

    def over(old: list[Any], new: list[Any], key: str) -> list[Any]:
        every = {one[key]: one for one in (*old, *new)}
        return list(every.values())

    made["parts"] = over(made["parts"], patch["parts"], "id")
    made["joints"] = over(made["joints"], patch["joints"], "id")
    for table, rows in patch["rows"].items():
        made["catalogue"][table] = over(made["catalogue"][table], rows, "key")
    return made
