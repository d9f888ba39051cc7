"""Lengths as typed: read by the one parser, shown in both systems."""

from __future__ import annotations

from typing import Literal

from flask import Blueprint
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.routing import operation
from tirante.core.quantities import format_inch_fraction, format_length, parse_length

blueprint = Blueprint("lengths", __name__)


class LengthIn(BaseModel):
    """What was typed."""

    model_config = ConfigDict(extra="forbid", strict=True)
    text: str = Field(max_length=200)
    unit: Literal["mm", "in"] = Field(description="the page's")
    signed: bool = False
    decimals: int = Field(default=1, ge=0, le=3)
    inch_denominator: Literal[16, 32, 64] = 32


class LengthOut(BaseModel):
    """What it means."""

    mm: float
    typed: str
    unit: Literal["mm", "in"]
    in_mm: str
    in_inches: str = Field(description="nearest fraction")
    inches_decimal: str


@operation(blueprint, "POST", "/api/length", body=LengthIn, answer=LengthOut)
def read_length(data: LengthIn) -> LengthOut:
    """Read a length as a person types it."""
    found = parse_length(data.text, data.unit, signed=data.signed)
    return LengthOut(
        mm=found.mm, typed=found.typed, unit=found.unit, in_mm=format_length(found.mm, "mm", decimals=data.decimals),
        in_inches=format_inch_fraction(found.mm, data.inch_denominator), inches_decimal=format_length(found.mm, "in"),
    )  # fmt: skip
