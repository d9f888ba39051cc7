"""A check as it is shown: rounded to the safe side, with its state, source and the line that repeats it."""

from __future__ import annotations

import json
import shlex
from math import ceil
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from tirante.core.checks.result import CheckResult
from tirante.core.sources import SOURCES

Status = Literal["incomplete", "stop", "attention", "ok"]


class Out(BaseModel):
    """Base of results."""

    model_config = ConfigDict(frozen=True)


class CheckOut(Out):
    """A check, ready to show: utilisation 1 is the limit."""

    key: str
    name: str
    part: str
    demand: float
    capacity: float
    unit: str
    utilisation: float | None
    shown: str  # utilisation rounded up
    state: Literal["ok", "attention", "stop", "not asked"]
    case: str | None
    at: str  # the travel position of the case, in words; empty for a typed one
    factor: float
    factor_name: str
    formula: str
    source: str
    source_status: str
    note: str
    topic: str | None
    topic_input: dict[str, Any] | None
    output: str | None
    figure: str | None
    command: str | None


ATTENTION_FROM = 0.85  # utilisation from which a passing check is pointed out


def shown_utilisation(value: float | None) -> str:
    """Two decimals, rounded up, so that 1.004 never shows as 1.00."""
    if value is None:
        return "–"
    if value > 99:
        return ">99"
    return f"{ceil(value * 100 - 1e-9) / 100:.2f}"


def command_line(topic: str, payload: dict[str, Any]) -> str:
    """The line that reproduces a figure."""
    return f"echo {shlex.quote(json.dumps(payload, ensure_ascii=False))} | ./tirante calc {topic}"


def check_out(result: CheckResult) -> CheckOut:
    """A check, ready to show."""
    if result.utilisation is None:
        state = "not asked"
    elif not result.passed:
        state = "stop"
    else:
        state = "attention" if result.utilisation >= ATTENTION_FROM and result.key != "engagement" else "ok"
    source = SOURCES[result.source]
    reproduce = result.reproduce
    return CheckOut(
        key=result.key, name=result.name, part=result.part, demand=result.demand, capacity=result.capacity,
        unit=result.unit, utilisation=result.utilisation, shown=shown_utilisation(result.utilisation),
        state=state, case=result.case, at=result.at, factor=result.factor, factor_name=result.factor_name,  # type: ignore[arg-type]
        formula=result.formula, source=source.title, source_status=source.status, note=result.note,
        topic=reproduce.topic if reproduce else None, topic_input=reproduce.input if reproduce else None,
        output=reproduce.output if reproduce else None, figure=reproduce.figure if reproduce else None,
        command=command_line(reproduce.topic, reproduce.input) if reproduce else None,
    )  # fmt: skip
