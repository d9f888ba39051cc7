"""Topics of whole suspension ends: the cycle."""

from __future__ import annotations

from functools import lru_cache
from math import isfinite
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field, model_validator

from tirante.calc.registry import Working, step, topic
from tirante.calc.templates import FOLDER, template_named
from tirante.core.design.fields import Signed
from tirante.core.suspension.end import End

if TYPE_CHECKING:
    from tirante.core.suspension.cycle import Cycle

Row = Annotated[tuple[Signed, Signed, Signed], Field(strict=False)]
MAX_ROWS = 200_000
Values = Annotated[tuple[Signed, ...], Field(strict=False, min_length=1, max_length=2001)]


class CycleInput(End):
    """An end with the positions to solve."""

    travel_mm: Values | None = Field(default=None, description="mm, bump positive")
    roll_deg: Values = Field(default=(0.0,), description="deg, body leaning right positive")
    steer_mm: Values = Field(default=(0.0,), description="mm of rack travel, left positive")
    rows: Annotated[tuple[Row, ...], Field(strict=False, max_length=MAX_ROWS)] | None = Field(
        default=None, description="[travel, roll, steer] each, instead of the lists"
    )

    @model_validator(mode="after")
    def _one_way(self) -> CycleInput:
        if (self.travel_mm is None) == (self.rows is None):
            raise ValueError("give travel_mm (with roll_deg and steer_mm as wanted), or rows, one of the two")
        return self


@lru_cache(maxsize=1)
def _example() -> dict[str, Any]:
    import json

    end = json.loads((FOLDER.parent / "ends" / "double-wishbone.json").read_text())
    return {**end, "travel_mm": [-60, 0, 60], "roll_deg": [0], "steer_mm": [0]}


def _number(value: float) -> float | None:
    return float(value) if isfinite(value) else None


def as_rows(found: Cycle) -> list[dict[str, Any]]:
    """A dict a position: inputs, status, measures; the right wheel and the links inside."""
    out = []
    for i in range(len(found.travel_mm)):
        out.append(
            {
                "travel_mm": float(found.travel_mm[i]), "roll_deg": float(found.roll_deg[i]), "steer_mm": float(found.steer_mm[i]),
                "status": found.status[i], "residual_mm": _number(found.residual_mm[i]),
                **{name: _number(column[i]) for name, column in found.columns.items()},
                "right": {name: _number(column[i]) for name, column in found.right.items()},
                "links": {
                    name: {key: _number(column[i]) for key, column in columns.items()} for name, columns in found.links.items()
                },
            }
        )  # fmt: skip
    return out


@topic(
    "cycle",
    CycleInput,
    outputs={"positions": "each with its inputs, status, measures, right wheel, links and residual_mm"},
    example=_example(),
    sources=("iso-8855", "mechanism"),
)
def run_cycle(data: CycleInput) -> tuple[dict[str, Any], Working]:
    """A suspension end moved through travel, roll and steer: every measure at every position."""
    # numpy comes in here, so that the small topics do not wait for it
    import numpy as np

    from tirante.core.suspension.cycle import cycle, positions

    if data.rows is not None:
        rows = np.array(data.rows, dtype=float).reshape(-1, 3).T
    else:
        assert data.travel_mm is not None
        rows = positions(data.travel_mm, data.roll_deg, data.steer_mm)
    fields = {name: getattr(data, name) for name in End.model_fields}
    found = cycle(template_named(data.template), End.model_construct(**fields), rows)
    steps = [
        step("positions", "all constraints held: |d| = L, joints shared, drivers at their values", "mechanism",
             positions=rows.shape[1], residual_mm=float(np.nanmax(found.residual_mm))),
        step("measures", "definitions of camber, toe, caster …", "iso-8855"),
    ]  # fmt: skip
    return {"positions": as_rows(found)}, steps
