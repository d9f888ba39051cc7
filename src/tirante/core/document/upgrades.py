"""Reading a design of any version, and writing one."""

from __future__ import annotations

import json
from typing import Any

from tirante.core.document.design import SCHEMA_VERSION, Design, tied


# --- reading and writing --------------------------------------------------------------------------------------------
def _add_ends(raw: dict[str, Any]) -> dict[str, Any]:
    """1 → 2: suspension ends."""
    return {**raw, "schema_version": 2, "ends": []}


def _one_car(raw: dict[str, Any]) -> dict[str, Any]:
    """2 → 3: the vehicle belongs to the job. Where two ends said different things, the first is kept."""
    car: dict[str, Any] = {}
    ends = []
    for one in raw["ends"]:
        vehicle = one["end"].get("vehicle")
        where = one["end"].get("end", "front")
        if vehicle:
            share, driven = vehicle.get("brake_share", 0.5), vehicle.get("drive_share", 0.0)
            car.setdefault("wheelbase_mm", vehicle["wheelbase_mm"])
            car.setdefault("cg_height_mm", vehicle["cg_height_mm"])
            car.setdefault("brake_front_share", share if where == "front" else round(1 - share, 12))
            car.setdefault("drive_front_share", driven if where == "front" else round(1 - driven, 12))
            car.setdefault(f"brakes_{where}", vehicle.get("brakes", "outboard"))
            car.setdefault(f"drive_{where}", vehicle.get("drive"))
        ends.append({**one, "end": {**one["end"], "vehicle": None}})
    return {**raw, "schema_version": 3, "ends": ends, "car": car}


_UPGRADES: dict[int, Any] = {
    1: _add_ends,
    2: _one_car,
}  # version → function to the next; a stored example of every version is a test


def load_design(text: str | bytes) -> Design:
    """Read a design of any version.

    Raises:
        ValidationError: by field, for what does not fit the format.
    """
    try:
        version = json.loads(text).get("schema_version", SCHEMA_VERSION)
    except (ValueError, AttributeError, RecursionError):
        version = SCHEMA_VERSION
    if version in _UPGRADES:
        raw = json.loads(text)
        while raw["schema_version"] in _UPGRADES:
            raw = _UPGRADES[raw["schema_version"]](raw)
        text = json.dumps(raw)
    return tied(Design.model_validate_json(text))


def dump_design(design: Design) -> str:
    """The design as JSON text: fixed order, two spaces, a final newline; the same design gives the same bytes."""
    return json.dumps(design.model_dump(mode="json"), ensure_ascii=False, indent=2) + "\n"
