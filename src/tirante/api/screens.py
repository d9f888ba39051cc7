"""What gives first of each corner, and the fatigue screen."""

from __future__ import annotations

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.context import services, worked
from tirante.api.designs import DesignIn
from tirante.api.routing import operation
from tirante.core.checks.first_to_give import NOT_CHECKED_BESIDE
from tirante.core.checks.shown import command_line, shown_utilisation
from tirante.core.job.screens import FatigueScreen, corners

blueprint = Blueprint("screens", __name__)


class GivesOut(BaseModel):
    """A piece of a part, and how many times the worst load it bears."""

    part_id: str
    of: str = Field(description="name of the part")
    part: str = Field(description="what of it")
    check: str
    key: str = Field(description="of the check")
    case: str
    times: float
    how: str


class FatigueOut(BaseModel):
    """The screen of one part: everyday force range, worst detail and its share of the constant-amplitude limit."""

    part_id: str
    name: str
    range_n: float
    detail: str
    share: float
    shown: str
    cycles: float | None
    command: str = Field(description="the line that repeats it")


class CornerOut(BaseModel):
    """One end of the car: what gives first, and the fatigue screen."""

    name: str
    sentence: str
    brittle_first: bool
    gives: list[GivesOut]
    fatigue: list[FatigueOut]
    not_screened: list[str] = Field(description="parts with loads that nothing says the life of")


class FirstOut(BaseModel):
    """What gives first of each corner, and what is not checked beside it."""

    corners: list[CornerOut]
    not_checked: list[str]
    fatigue_note: str


@operation(blueprint, "POST", "/api/first-to-give", body=DesignIn, answer=FirstOut)
def first_to_give(data: DesignIn) -> FirstOut:
    """Of each corner the parts in the order in which they give, and a fatigue screen of everyday cycles."""
    job = worked(data.design)
    with services().gate_of(job).enter():
        found = corners(job)
    return FirstOut(
        corners=[
            CornerOut(
                name=one.name, sentence=one.order.sentence, brittle_first=one.order.brittle_first,
                gives=[GivesOut(**{field: getattr(row, field) for field in GivesOut.model_fields}) for row in one.order.gives],
                fatigue=[_screened(screen) for screen in one.fatigue], not_screened=list(one.not_screened),
            )
            for one in found
        ],
        not_checked=list(NOT_CHECKED_BESIDE),
        fatigue_note=(
            "A screen, not a life: the range between 1 g cornering each way, 1 g braking and 0.5 g driving at ride height, against "
            "constant-amplitude limits. Notches, corrosion, bent threads and poor welds are not in it."
        ),
    )  # fmt: skip


def _screened(one: FatigueScreen) -> FatigueOut:
    return FatigueOut(
        part_id=one.part_id, name=one.name, range_n=one.range, detail=one.detail, share=one.share, shown=shown_utilisation(one.share),
        cycles=one.cycles, command=command_line("fatigue", dict(one.data)),
    )  # fmt: skip
