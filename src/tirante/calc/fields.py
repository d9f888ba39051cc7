"""Field types of calculation inputs: ranges that catch slips of units and typing, strict types, no NaN."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

_F: dict[str, Any] = {"allow_inf_nan": False}
Mm = Annotated[float, Field(gt=0, le=100_000, description="mm", **_F)]
MmOrZero = Annotated[float, Field(ge=0, le=100_000, description="mm", **_F)]
SignedMm = Annotated[float, Field(ge=-100_000, le=100_000, description="mm", **_F)]
Newton = Annotated[float, Field(ge=-1e9, le=1e9, description="N", **_F)]
Moment = Annotated[float, Field(ge=-1e12, le=1e12, description="N·mm", **_F)]
NewtonOrZero = Annotated[float, Field(ge=0, le=1e9, description="N", **_F)]
PositiveNewton = Annotated[float, Field(gt=0, le=1e9, description="N", **_F)]
Mpa = Annotated[float, Field(gt=0, le=10_000, description="MPa", **_F)]
Modulus = Annotated[float, Field(ge=1_000, le=1_000_000, description="MPa", **_F)]
Designation = Annotated[str, Field(min_length=2, max_length=40, description="3/4-16 UNF, M14x2")]


class Input(BaseModel):
    """Base of every input: unknown fields are refused by name, types are strict."""

    # built on first use, so that a small calculation does not wait for all the others
    model_config = ConfigDict(extra="forbid", frozen=True, strict=True, allow_inf_nan=False, defer_build=True)
