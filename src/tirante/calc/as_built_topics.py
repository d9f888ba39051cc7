"""Topics of a car as it is built: which dimension explains what was read of it."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated, Any, Literal

from pydantic import Field

from tirante.calc.end_topics import Row
from tirante.calc.registry import Working, step, topic
from tirante.core.document.end import End
from tirante.core.document.fields import Document, Signed
from tirante.core.errors import InputError
from tirante.shipped import the_shelf
from tirante.shipped.templates import DATA

Sd = Annotated[float, Field(ge=0, le=100)]


class AngleRead(Document):
    """One reading of an angle, or of how far a wheel has come."""

    position: Annotated[int, Field(ge=0, le=49)] = Field(description="which of the positions, from 0")
    measure: Annotated[str, Field(min_length=1, max_length=60)]
    wheel: Literal["left", "right"] = Field(default="left", description="of a beam: whose")
    value: Signed
    sd: Annotated[float, Field(gt=0, le=100)] | None = Field(default=None, description="null: 0.1 deg, 1 mm")


class ReconcileInput(End):
    """An end, where it stood when it was read, and what was read."""

    positions: Annotated[tuple[Row, ...], Field(strict=False, min_length=1, max_length=50)] = Field(
        description="[travel mm, roll deg, steer] each, as heights told it"
    )
    readings: Annotated[tuple[AngleRead, ...], Field(strict=False, min_length=2, max_length=400)]
    corner: Literal["left", "right"] = Field(
        default="left", description="of an independent end, the wheel that was read"
    )
    could_read: Annotated[tuple[Row, ...], Field(strict=False, max_length=20)] | None = Field(
        default=None, description="positions that could be read next; null: between those read and beyond them"
    )
    height_sd_mm: Sd = Field(default=1.0, description="mm; of each wheel’s height, at each position by itself")
    survey_sd_mm: Sd = Field(default=1.0, description="mm; of each place along each axis")
    point_sd_mm: dict[Annotated[str, Field(max_length=80)], tuple[Sd, Sd, Sd]] = Field(
        default={}, description="point: [x, y, z] mm, where a survey says"
    )
    length_sd_mm: Sd = Field(default=0.5, description="mm; of made lengths")
    steer_sd: Sd = Field(default=0.0, description="mm of rack, deg of a steering arm: of where the steering stood")
    most_mm: Annotated[float, Field(gt=0, le=200)] = Field(
        default=25.0, description="mm; no larger error is looked for"
    )


# camber, toe and caster at three heights
EXAMPLE_READ = ((1.5, -3.1, 3.8), (0.4, -2.2, 3.9), (-0.9, -1.2, 4.1))


@lru_cache(maxsize=1)
def _example() -> dict[str, Any]:
    """A double wishbone whose lower ball joint stands 6 mm too far out on its upright, read to a tenth of a degree."""
    import json

    end = json.loads((DATA / "ends" / "double-wishbone.json").read_text())
    return {
        **end, "positions": [[travel, 0, 0] for travel in (-50, 0, 50)],
        "readings": [
            {"position": i, "measure": measure, "value": value}
            for i, read in enumerate(EXAMPLE_READ) for measure, value in zip(("camber_deg", "toe_deg", "caster_deg"), read, strict=True)
        ],
    }  # fmt: skip


@topic(
    "reconcile",
    ReconcileInput,
    outputs={
        "verdict": "fits, one_error, cannot_tell or not_one_error", "says": "it in a sentence or two", "model": "of every reading, what the model says", "misfit": "read less model",
        "chi2": "of the model as it is", "dof": "readings", "errors": "likeliest first: error, kind (length, place, heights), name, on, axis, size_mm, sd_mm, chi2 (that it leaves), possible, named, twin, says, bench",
        "next": "readings that would tell the named apart: measure, travel_mm, roll_deg, steer, expected by error, sd, tells", "tape": "errors that no angle tells apart: measure these themselves",
        "unseen": "errors that would not show in these readings", "left_out": "what is not looked for: why",
    },
    example=_example(),
    sources=("mechanism", "ghilani", "wilks", "sidak"),
)  # fmt: skip
def run_reconcile(data: ReconcileInput) -> tuple[dict[str, Any], Working]:
    """Which dimension is it: the one error of a length or a place that explains the angles read at known heights."""
    import numpy as np

    from tirante.core.suspension.error_words import at_the_bench, told, what
    from tirante.core.suspension.which_error import Read, Reconciled, Sds, could_be_read, says, which_error

    end = End.model_construct(**{name: getattr(data, name) for name in End.model_fields})
    template = the_shelf().template_of(end)
    rows = np.array(data.positions, dtype=float).T
    if rows[2].any() and not template.steered:
        raise InputError(
            f"positions: a {template.title.lower()} has no steering, so it would do nothing; give 0.", code="no_effect", fields=("positions",)
        )  # fmt: skip
    beam = template.axle == "beam"
    if unknown := [name for name in data.point_sd_mm if name not in end.points]:
        raise InputError(
            f"There is no point “{unknown[0]}” here. There are: {', '.join(end.points)}.", code="unknown_point", fields=(f"point_sd_mm.{unknown[0]}",)
        )  # fmt: skip
    readings = []
    for i, one in enumerate(data.readings):
        if one.position >= rows.shape[1]:
            raise InputError(
                f"There is no position {one.position}; they are counted from 0 to {rows.shape[1] - 1}.", code="out_of_range", fields=(f"readings.{i}.position",), value=one.position,
            )  # fmt: skip
        name = f"right {one.measure}" if beam and one.wheel == "right" else one.measure
        readings.append(
            Read(
                position=one.position,
                measure=name,
                value=one.value,
                sd=one.sd or (0.1 if name.endswith("_deg") else 1.0),
            )
        )
    further = np.array(data.could_read, dtype=float).reshape(-1, 3).T if data.could_read is not None else could_be_read(rows, template, end)  # fmt: skip
    model = Reconciled(template, end, rows, further, right=data.corner == "right")
    sds = Sds(
        height=data.height_sd_mm,
        place=data.survey_sd_mm,
        length=data.length_sd_mm,
        steer=data.steer_sd,
        places=data.point_sd_mm,
    )
    found = which_error(model, readings, sds, most_mm=data.most_mm)
    out = {
        "verdict": found.told.verdict, "says": says(found), "model": found.model.tolist(), "misfit": found.misfit.tolist(), "chi2": found.told.before, "dof": found.told.readings,
        "errors": [
            {
                "error": found.error(one).key, "kind": found.error(one).kind, "name": found.error(one).name, "on": found.error(one).on, "axis": found.error(one).axis,
                "size_mm": found.size(one), "sd_mm": one.sd, "chi2": one.left, "possible": one.possible, "named": one.index in found.told.named, "twin": one.index in found.told.twins,
                "says": told(found.error(one), found.size(one)), "bench": at_the_bench(found.error(one), found.size(one)),
            }
            for one in found.told.ranked
        ],
        "next": [
            {
                "measure": one.measure, "travel_mm": one.position[0], "roll_deg": one.position[1], "steer": one.position[2], "sd": one.sd, "tells": [error.key for error in one.tells],
                "expected": {error.key: value for error, value in one.expected.items()},
            }
            for one in found.further
        ],
        "tape": [{"error": error.key, "says": what(error)} for error in found.tape], "unseen": [found.sought.errors[i].key for i in found.told.unseen],
        "left_out": found.sought.left_out,
    }  # fmt: skip
    steps = [
        step("covariance", "Σ = S + J_p S_p J_pᵀ + J_h S_h J_hᵀ", "ghilani", readings=len(readings), chi2=found.told.before),
        step("errors", "χ²(c) = min over s of |L⁻¹ (y − f_c(s))|², the mechanism solved with each", "mechanism", errors=len(found.sought.errors)),
        step("named", "χ²(c) − χ²(best) < 3.84", "wilks", named=len(found.told.named)),
    ]  # fmt: skip
    return out, steps
