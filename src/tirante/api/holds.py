"""What is to be settled of a job beside its links: arms that do not hold or are not complete, load cases that are not carried."""

from __future__ import annotations

from typing import Literal

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.context import services
from tirante.api.designs import DesignIn
from tirante.api.routing import operation
from tirante.core.checks.shown import check_out
from tirante.core.document.design import Design
from tirante.core.errors import InputError
from tirante.core.job.arms import WorkedArm, worked_arm
from tirante.core.job.loads import loads_of

blueprint = Blueprint("holds", __name__)


class HoldOut(BaseModel):
    """Something to settle, and where."""

    part: str
    what: str
    detail: str
    state: Literal["stop", "attention", "incomplete"]
    rank: float = Field(description="the worse, the higher")
    station: Literal["members", "loads"]
    id: str = Field(description="of the arm, or of the suspension end")
    selection: str


class HoldsOut(BaseModel):
    """All of them."""

    holds: list[HoldOut]


@operation(blueprint, "POST", "/api/holds", body=DesignIn, answer=HoldsOut)
def holds(data: DesignIn) -> HoldsOut:
    """Arms and load cases of a job that want attention."""
    found: list[HoldOut] = []
    for arm in data.design.arms:  # one at a time: what somebody waits for goes between
        with services().gate.enter():
            found += _of_arm(worked_arm(arm, data.design))
    with services().gate.enter():
        found += _of_loads(data.design)
    return HoldsOut(holds=sorted(found, key=lambda hold: -hold.rank))


def _of_arm(worked: WorkedArm) -> list[HoldOut]:
    arm = worked.arm
    out = [
        HoldOut(
            part=arm.name, what=fault.message, detail="not complete", state="incomplete", rank=0.5, station="members", id=arm.id,
            selection=f"field:{fault.field}",
        )
        for fault in worked.faults
    ]  # fmt: skip
    for check in map(check_out, worked.checks):
        if check.state in ("stop", "attention"):
            over = 1e6 if check.state == "stop" else 0.0
            out.append(
                HoldOut(
                    part=arm.name, what=f"{check.name} {check.shown}", detail=check.case or check.part, state=check.state,
                    rank=over + min(check.utilisation or 1.0, 1e5), station="members", id=arm.id, selection=f"check:{check.key}",
                )
            )  # fmt: skip
    return out


def _of_loads(design: Design) -> list[HoldOut]:
    """Cases that an end could not carry; an end that cannot be put together says so at Layout."""
    out = []
    for end in design.ends:
        found = loads_of(design, end)
        if isinstance(found, InputError):
            continue
        # one case for both ways round
        faults = {one.case.name: one.fault for one in found.cases if one.fault}
        out += [
            HoldOut(
                part=f"{end.name}, “{name}”", what=fault, detail="this case is not carried; the others stand", state="incomplete", rank=0.6,
                station="loads", id=end.id, selection=f"case:{name}",
            )
            for name, fault in faults.items()
        ]  # fmt: skip
    return out
