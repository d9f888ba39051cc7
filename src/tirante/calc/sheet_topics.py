"""Topics of folded sheet: bend, joggle, springback."""

from __future__ import annotations

from math import degrees, radians
from typing import Annotated, Any

from pydantic import Field, model_validator

from tirante.calc.fields import Input, Mm, MmOrZero, Modulus, Mpa
from tirante.calc.registry import Working, step, topic
from tirante.core.sheet.bend import bent, k_of_test
from tirante.core.sheet.joggle import joggle
from tirante.core.sheet.springback import by_elasticity, by_test

Result = tuple[dict[str, Any], Working]
BendAngle = Annotated[float, Field(gt=0, lt=180, description="deg; from flat", allow_inf_nan=False)]
KFactor = Annotated[
    float,
    Field(ge=0, le=0.5, description="of the thickness, from the inside face; else by DIN 6935", allow_inf_nan=False),
]


class BendInput(Input):
    thickness_mm: Mm
    radius_mm: MmOrZero = Field(description="mm; inside")
    angle_deg: BendAngle
    k_factor: KFactor | None = None


@topic(
    "bend",
    BendInput,
    outputs={
        "allowance_mm": "of the flat that the bend takes, θ (R + K t)", "setback_mm": "(R + t) tan(θ/2), to the sharp corner outside",
        "deduction_mm": "2 setback − allowance", "k_factor": "taken",
    },
    example={"thickness_mm": 3, "radius_mm": 4, "angle_deg": 90},
    sources=("din-6935", "geometry"),
)  # fmt: skip
def run_bend(data: BendInput) -> Result:
    """Bend of sheet: allowance, set-back, deduction."""
    one = bent(data.thickness_mm, data.radius_mm, radians(data.angle_deg), data.k_factor)
    out = {"allowance_mm": one.allowance, "setback_mm": one.setback, "deduction_mm": one.deduction, "k_factor": one.k}
    own = data.k_factor is not None
    return out, [
        step("neutral fibre", "from a test bend" if own else "0.325 + 0.25 lg(R/t), at most 0.5", "trade" if own else "din-6935", K=one.k),
        step("allowance", "θ (R + K t)", "geometry", theta_rad=one.angle, R_mm=one.radius, t_mm=one.thickness, allowance_mm=one.allowance),
        step("set-back and deduction", "(R + t) tan(θ/2); 2 · set-back − allowance", "geometry", setback_mm=one.setback,
             deduction_mm=one.deduction),
    ]  # fmt: skip


class JoggleInput(Input):
    thickness_mm: Mm
    radius_mm: MmOrZero = Field(description="mm; inside, of both bends")
    angle_deg: Annotated[float, Field(gt=0, le=90, description="deg; of each bend, from flat", allow_inf_nan=False)]
    offset_mm: Mm = Field(description="mm; face to the same face")
    leg_a_mm: MmOrZero = Field(description="mm; flat, to where the first bend begins")
    leg_b_mm: MmOrZero = Field(description="mm; flat, from where the second bend ends")
    k_factor: KFactor | None = None


@topic(
    "joggle",
    JoggleInput,
    outputs={
        "straight_mm": "between the bends; below 0 there is no room for them", "flat_mm": "length before it is bent",
        "run_mm": "along the legs' way, from the first bend's beginning to the second's end", "feasible": "whether there is room for both bends",
        "k_factor": "taken",
    },
    example={"thickness_mm": 3, "radius_mm": 4, "angle_deg": 45, "offset_mm": 20, "leg_a_mm": 40, "leg_b_mm": 50},
    sources=("din-6935", "geometry"),
)  # fmt: skip
def run_joggle(data: JoggleInput) -> Result:
    """Two equal and opposite bends for an offset."""
    one = joggle(
        data.thickness_mm,
        data.radius_mm,
        radians(data.angle_deg),
        data.offset_mm,
        data.leg_a_mm,
        data.leg_b_mm,
        data.k_factor,
    )
    out = {
        "straight_mm": one.straight,
        "flat_mm": one.flat,
        "run_mm": one.run,
        "feasible": one.feasible,
        "k_factor": one.bend.k,
    }
    return out, [
        step("straight", "(offset − 2 (R + t/2) (1 − cos θ)) / sin θ", "geometry", offset_mm=one.offset, straight_mm=one.straight),
        step("flat", "both legs + 2 · allowance + straight", "geometry", allowance_mm=one.bend.allowance, K=one.bend.k, flat_mm=one.flat),
    ]  # fmt: skip


class SpringbackInput(Input):
    angle_deg: BendAngle = Field(description="deg; from flat, that is to be left")
    thickness_mm: Mm | None = None
    radius_mm: Mm | None = Field(default=None, description="mm; inside, that is to be left")
    yield_mpa: Mpa | None = None
    e_mpa: Modulus = 205000.0
    test_set_deg: BendAngle | None = Field(default=None, description="deg; to which a test bend was set")
    test_left_deg: BendAngle | None = Field(default=None, description="deg; that was left of it")
    test_flat_mm: Mm | None = Field(default=None, description="mm; length of the test strip, for K")
    test_leg_a_mm: Mm | None = Field(default=None, description="mm; its leg outside, to the sharp corner")
    test_leg_b_mm: Mm | None = None

    @model_validator(mode="after")
    def _whole(self) -> SpringbackInput:
        test = ("test_set_deg", "test_left_deg")
        sheet = ("thickness_mm", "radius_mm", "yield_mpa")
        strip = ("test_flat_mm", "test_leg_a_mm", "test_leg_b_mm")

        def lacking(names: tuple[str, ...]) -> str | None:
            return next((name for name in names if getattr(self, name) is None), None)

        begun = any(getattr(self, name) is not None for name in test)
        missing = lacking(test)
        if missing and (begun or lacking(sheet)):
            raise ValueError(
                f"{missing}: give test_set_deg and test_left_deg of a test bend, or thickness_mm, radius_mm and yield_mpa"
            )
        if any(getattr(self, name) is not None for name in strip):
            missing = lacking((*strip, *test, *sheet[:2]))
            if missing:
                raise ValueError(
                    f"{missing}: K needs the strip's length, both legs, the test's angles, thickness_mm and radius_mm"
                )
        return self


@topic(
    "springback",
    SpringbackInput,
    outputs={
        "set_deg": "to which the bend is made", "over_deg": "beyond what is to be left", "ratio": "of angle left to angle set",
        "set_radius_mm": "inside, under load; null by a test bend", "k_factor": "from the test strip, where its lengths are given", "by": "test or elasticity",
    },
    example={"angle_deg": 90, "test_set_deg": 92, "test_left_deg": 90},
    sources=("springback",),
)  # fmt: skip
def run_springback(data: SpringbackInput) -> Result:
    """Angle to set so that the wanted one is left, from a test bend or the sheet's strength."""
    by = "test"
    if data.test_set_deg is not None and data.test_left_deg is not None:
        found = by_test(radians(data.angle_deg), radians(data.test_set_deg), radians(data.test_left_deg))
    else:
        assert data.thickness_mm
        assert data.radius_mm
        assert data.yield_mpa
        by = "elasticity"
        found = by_elasticity(data.thickness_mm, data.radius_mm, radians(data.angle_deg), data.yield_mpa, data.e_mpa)
    k = None
    if (
        data.test_flat_mm
        and data.test_leg_a_mm
        and data.test_leg_b_mm
        and data.test_left_deg
        and data.thickness_mm
        and data.radius_mm
    ):
        k = k_of_test(
            data.thickness_mm,
            data.radius_mm,
            radians(data.test_left_deg),
            data.test_flat_mm,
            data.test_leg_a_mm,
            data.test_leg_b_mm,
        )
    out = {
        "set_deg": degrees(found.angle), "over_deg": degrees(found.angle) - data.angle_deg, "ratio": found.ratio,
        "set_radius_mm": None if by == "test" else found.radius, "k_factor": k, "by": by,
    }  # fmt: skip
    formula = (
        "angle / (left / set)"
        if by == "test"
        else "Ri/Rf = 4 x³ − 3 x + 1, x = Ri Y / (E t); angle (Rf + t/2) / (Ri + t/2)"
    )
    return out, [
        step("set angle", formula, "trade" if by == "test" else "springback", set_deg=out["set_deg"], ratio=found.ratio)
    ]
