"""Topics of whole suspension ends: the cycle."""

from __future__ import annotations

from functools import lru_cache
from math import isfinite
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field, model_validator

from tirante.calc.registry import Working, step, topic
from tirante.calc.templates import FOLDER, template_of
from tirante.core.design.fields import Signed
from tirante.core.errors import InputError
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
    steer_mm: Values | None = Field(default=None, description="mm of rack travel, left positive (0)")
    steer_deg: Values | None = Field(
        default=None, description="deg of a steering arm in place of a rack, left positive (0)"
    )
    wheels: Annotated[tuple[Row, ...], Field(strict=False, max_length=MAX_ROWS)] | None = Field(
        default=None, description="of a beam axle: [left wheel's rise, right wheel's, steer] each, instead of the lists"
    )
    rows: Annotated[tuple[Row, ...], Field(strict=False, max_length=MAX_ROWS)] | None = Field(
        default=None, description="[travel, roll, steer] each, instead of the lists"
    )

    @model_validator(mode="after")
    def _one_way(self) -> CycleInput:
        if sum(given is not None for given in (self.travel_mm, self.rows, self.wheels)) != 1:
            raise ValueError("give travel_mm (with roll_deg and steer_mm as wanted), rows or wheels, one of them")
        wrong, right = ("steer_mm", "steer_deg") if self.steering else ("steer_deg", "steer_mm")
        if getattr(self, wrong) is not None:
            raise ValueError(f"{wrong}: this end steers by {'an arm' if self.steering else 'a rack'}; give {right}")
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
                "travel_mm": _number(found.travel_mm[i]), "roll_deg": _number(found.roll_deg[i]), found.steer_name: float(found.steer[i]),
                "status": found.status[i], "residual_mm": _number(found.residual_mm[i]),
                **{name: _number(column[i]) for name, column in found.columns.items()},
                "right": {name: _number(column[i]) for name, column in found.right.items()},
                "links": {
                    name: {key: _number(column[i]) for key, column in columns.items()} for name, columns in found.links.items()
                },
                **{
                    kind: {name: {key: _number(c[i]) for key, c in columns.items()} for name, columns in parts.items()}
                    for kind, parts in (
                        ("balls", found.balls), ("shafts", found.shafts), ("bars", found.bars), ("clearances", found.clearances),
                        ("limits", found.limits),
                    ) if parts
                },
            }
        )  # fmt: skip
    return out


@topic(
    "cycle",
    CycleInput,
    outputs={"positions": "each with its inputs, status, measures, right wheel, links and residual_mm"},
    example=_example(),
    sources=("iso-8855", "wheel-path", "mechanism"),
)
def run_cycle(data: CycleInput) -> tuple[dict[str, Any], Working]:
    """A suspension end moved through travel, roll and steer: every measure at every position."""
    # numpy comes in here, so that the small topics do not wait for it
    import numpy as np

    from tirante.core.suspension.cycle import by_wheel, cycle, positions

    end = End.model_construct(**{name: getattr(data, name) for name in End.model_fields})
    template = template_of(end)
    if data.rows is not None:
        rows = np.array(data.rows, dtype=float).reshape(-1, 3).T
    elif data.wheels is not None:
        if template.axle != "beam" or not template.rises:
            raise InputError(
                "Only a beam axle's wheels rise by themselves; give travel_mm or rows.", fields=("wheels",)
            )
        wheels = np.array(data.wheels, dtype=float).reshape(-1, 3).T
        rows = np.vstack([by_wheel(template, end, wheels), wheels[2]])
    else:
        assert data.travel_mm is not None
        rows = positions(data.travel_mm, data.roll_deg, data.steer_mm or data.steer_deg or (0.0,))
    found = cycle(template, end, rows)
    steps = [
        step("positions", "all constraints held: |d| = L, joints shared, drivers at their values", "mechanism",
             positions=rows.shape[1], residual_mm=_number(found.residual_mm.max())),
        step("angles", "camber −asin s_z, toe atan2(s_x, σ s_y), caster atan2(−k_x, k_z), kingpin atan2(−σ k_y, k_z)", "iso-8855"),
        step("paths", "roll centre y_c (dy_c/dt)/(dz_c/dt); anti = 100 · share · slope · wheelbase / CG height", "wheel-path"),
    ]  # fmt: skip
    return {"positions": as_rows(found)}, steps
