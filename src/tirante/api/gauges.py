"""Gauges of this machine, as the page reads them: on loopback alone."""

from __future__ import annotations

from flask import Blueprint
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import services
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.core.errors import InputError
from tirante.gauges.read import read

blueprint = Blueprint("gauges", __name__)


class GaugesOut(BaseModel):
    """The gauges that may be read here, by name."""

    gauges: list[str]


class FigureOfGaugeOut(BaseModel):
    """A figure that a gauge shows."""

    name: str
    value: float
    unit: str = Field(description="mm, deg or kg")
    said: str = Field(description="the line as it came")


class GaugeOut(BaseModel):
    """What a gauge shows now."""

    gauge: str
    figures: list[FigureOfGaugeOut]


class ReadGauge(BaseModel):
    """Nothing is asked."""

    model_config = ConfigDict(extra="forbid", strict=True)


@operation(blueprint, "GET", "/api/gauges", answer=GaugesOut)
def gauges() -> GaugesOut:
    """The gauges that may be read here; whether one is switched on shows when it is read."""
    return GaugesOut(gauges=sorted(services().gauges))


@operation(blueprint, "POST", "/api/gauges/<gauge>/read", body=ReadGauge, answer=GaugeOut)
def read_gauge(gauge: str, data: ReadGauge) -> GaugeOut:
    """What a gauge shows now. Nothing is kept."""
    del data
    port = services().gauges.get(gauge)
    if port is None:
        raise Refused(404, "not_found", f"There is no gauge of that name here. There are: {', '.join(sorted(services().gauges))}.")  # fmt: skip
    try:
        found = read(gauge, port)
    except InputError as error:
        raise Refused(409, error.code, error.message, "gauge") from error
    return GaugeOut(gauge=gauge, figures=[FigureOfGaugeOut(name=one.name, value=one.value, unit=one.unit, said=one.said) for one in found])  # fmt: skip
