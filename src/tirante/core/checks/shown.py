"""A check as it is shown: rounded to the safe side, with its state, source and the line that repeats it."""

from __future__ import annotations

import json
import shlex
from collections.abc import Sequence
from math import ceil, floor, log10
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from tirante.core.checks.kinds import CheckKind, kind_of, tells_life
from tirante.core.checks.result import CheckResult
from tirante.core.loads.case_seen import NotCarried
from tirante.core.members.fatigue import FOR_EVER
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
    gives: Literal["bends", "lets go"] | None
    cure: str
    shows: list[str]  # what it is about on a drawing
    warns: bool  # whether it counts as a weakness when it passes


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
    kind = kind_of(result.key)
    if result.utilisation is None:
        state = "not asked"
    elif not result.passed:
        state = "stop"
    else:
        state = "attention" if result.utilisation >= ATTENTION_FROM and kind.warns else "ok"
    source = SOURCES[result.source]
    reproduce = result.reproduce
    return CheckOut(
        key=result.key, name=result.name, part=result.part, demand=result.demand, capacity=result.capacity,
        unit=result.unit, utilisation=result.utilisation, shown=shown_utilisation(result.utilisation),
        state=state, case=result.case, at=result.at, factor=result.factor, factor_name=result.factor_name,  # type: ignore[arg-type]
        formula=result.formula, source=source.title, source_status=source.status, note=result.note,
        topic=reproduce.topic if reproduce else None, topic_input=reproduce.input if reproduce else None,
        output=reproduce.output if reproduce else None, figure=reproduce.figure if reproduce else None,
        command=command_line(reproduce.topic, reproduce.input) if reproduce else None, gives=kind.gives, cure=kind.cure,
        shows=_shows(kind, result), warns=kind.warns,
    )  # fmt: skip


def _shows(kind: CheckKind, result: CheckResult) -> list[str]:
    """What a check lights on a drawing: itself, and what it is about; of an end the letter that it was made at."""
    end = result.part.removeprefix("end ").lower() if result.part.startswith("end ") else None
    return [f"check:{result.key}", *(ref.format(end=end) for ref in kind.shows if end or "{end}" not in ref)]


class Headline(Out):
    """What a part comes to, in a sentence."""

    status: Status
    text: str
    governing: str | None  # key of the check that it names


def left_out(not_carried: Sequence[NotCarried]) -> str:
    """The sentences that stand beside whatever was worked out without some load cases; empty where all were carried."""
    refused = [one for one in not_carried if one.refuses]
    lacking = list(dict.fromkeys(one.case for one in not_carried if not one.refuses))
    told = [f"“{refused[0].case}” is refused: {refused[0].why}"] if refused else []
    if len(refused) > 1:
        told.append(f"{len(refused) - 1} more case{'s are' if len(refused) > 2 else ' is'} refused.")
    if lacking:
        named = ", ".join(f"“{name}”" for name in lacking[:2]) + (
            f" and {len(lacking) - 2} more" if len(lacking) > 2 else ""
        )
        told.append(f"Not judged in {named}; why is listed beside the checks.")
    return " ".join(told)


def headline(checks: list[CheckOut], not_carried: Sequence[NotCarried] = ()) -> Headline:
    """The sentence at the head of a part. “It holds” is said only when every case was carried and none refuses it.

    Args:
        checks: weakest first.
        not_carried: load cases that it should have seen and that could not be carried, or that nothing may be relied on in.
    """
    asked = [c for c in checks if c.utilisation is not None]
    beside = left_out(not_carried)
    after = f" {beside}" if beside else ""
    refused = any(one.refuses for one in not_carried)
    if not any(c.case for c in asked):
        return Headline(
            status="stop" if refused else "incomplete",
            text=beside if refused else f"No load is entered, so nothing says whether it holds.{after}", governing=None,
        )  # fmt: skip
    worst = asked[0]
    if worst.state == "stop":
        failing = sum(1 for c in asked if c.state == "stop")
        more = f", and {failing - 1} more" if failing > 1 else ""
        return Headline(
            status="stop", text=f"{worst.name} is over: {_of_one(worst)}{more}.{after}", governing=worst.key
        )
    worst = next((c for c in asked if c.warns), worst)
    weakest = f"{worst.name}, {_of_one(worst)}"
    days = next((c for c in asked if tells_life(c.key)), None)
    lasts = f" It lasts {_cycles(days.capacity)} everyday cycles." if days else ""
    if refused:
        return Headline(status="stop", text=f"{beside} Weakest in the rest: {weakest}.", governing=worst.key)
    if beside:
        status: Status = "attention" if worst.state == "attention" else "incomplete"
        return Headline(status=status, text=f"{beside} Weakest in the rest: {weakest}.", governing=worst.key)
    if worst.state == "attention":
        return Headline(
            status="attention", text=f"{worst.name} is close: {_of_one(worst)}.{lasts}", governing=worst.key
        )
    return Headline(status="ok", text=f"It holds. Weakest: {weakest}.{lasts}", governing=worst.key)


def _cycles(count: float) -> str:
    """Two figures of it: more would be more than is known."""
    if count >= FOR_EVER:
        return "any number of"
    size = 10 ** (floor(log10(count)) - 1)
    return f"about {floor(count / size) * size:,.0f}"


def _of_one(check: CheckOut) -> str:
    return f"{check.shown} of 1.00" + (f" in “{check.case}”" if check.case else "")
