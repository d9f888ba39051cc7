"""The turn sheet: what a turn of each adjuster does, the shortest set of turns to what is wanted, the thread over the range."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.context import services, worked
from tirante.api.designs import DrawFault
from tirante.api.ends import OfEndIn, end_of
from tirante.api.routing import operation
from tirante.core.checks.shown import command_line
from tirante.core.document.end import End
from tirante.core.errors import InputError
from tirante.core.job.alignment import adjusters_of, sheet_of, thread_budget, turned_to
from tirante.core.parts.adjusters import EndLeft, JobAdjuster

blueprint = Blueprint("alignment", __name__)


class WantedIn(BaseModel):
    """A measure to be brought from as measured to as wanted."""

    measure: Annotated[str, Field(max_length=60)]
    measured: Annotated[float, Field(ge=-1000, le=1000, allow_inf_nan=False)]
    wanted: Annotated[float, Field(ge=-1000, le=1000, allow_inf_nan=False)]
    within: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)] = 0.1


class TurnsIn(OfEndIn):
    """What is wanted of the alignment, and over what range it is to be adjustable."""

    wanted: Annotated[list[WantedIn], Field(max_length=6, default_factory=list)]
    ranges: dict[Annotated[str, Field(max_length=60)], Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]] = (
        Field(default={}, description="of measures, plus and minus from as built")
    )


class TurnerOut(BaseModel):
    """A link of the job, and what one turn longer (pair) or half a turn (one end) does."""

    name: str
    part_id: str
    unit: Literal["turn", "half turn"]
    mm: float
    shorter: float
    longer: float
    change: dict[str, float]


class EndLeftOut(BaseModel):
    """A threaded end at one end of the range [mm]."""

    end: str
    engagement_mm: float
    needed_mm: float
    showing_mm: float
    depth_left_mm: float | None
    ok: bool


class BudgetOut(BaseModel):
    """What a link is asked over the wanted range."""

    name: str
    part_id: str
    unit: str
    shortest: float
    longest: float
    at_shortest: list[EndLeftOut]
    at_longest: list[EndLeftOut]
    ok: bool


class TurnOut(BaseModel):
    """Turns of one adjuster, longer positive."""

    name: str
    turns: float
    unit: str


class TurnSheetOut(BaseModel):
    """What each adjuster does, the shortest set of turns to what is wanted, and the thread over the range."""

    faults: list[DrawFault]
    measures: dict[str, str]
    adjusters: list[TurnerOut]
    fixed: list[str] = Field(description="links of the end that do not adjust or are not built yet, and why")
    turns: list[TurnOut]
    reached: bool | None
    misses: dict[str, float]
    also: dict[str, float] = Field(description="what else these turns change, of the left wheel or the axle")
    budget: list[BudgetOut]
    command: str | None = Field(description="the line that repeats what a turn of each adjuster does")


RIGHT_TOE = "right_toe_deg"
MEASURES = {
    "camber_deg": "camber", "toe_deg": "toe-in", "caster_deg": "caster", "pinion_change_deg": "pinion, nose up", "half_track_change_mm": "half track",
    "wheelbase_change_mm": "wheel ahead", "lateral_shift_mm": "axle to the left", "axle_steer_deg": "axle steer",
}  # fmt: skip
# of a beam, whose wheels one adjuster moves both: each wheel's, and what they come to together
OF_BEAM = {
    "total_toe_deg": "toe-in, both together", "straight_ahead_deg": "both to the left", "toe_deg": "toe-in, left", RIGHT_TOE: "toe-in, right",
} | {name: text for name, text in MEASURES.items() if name != "toe_deg"}  # fmt: skip


@operation(blueprint, "POST", "/api/turn-sheet", body=TurnsIn, answer=TurnSheetOut)
def turn_sheet_of(data: TurnsIn) -> TurnSheetOut:
    """What one turn of each of the job's adjusters does, and the shortest way to what is wanted."""
    from tirante.core.suspension.turns import Wanted

    end, job = end_of(data), worked(data.design)
    try:
        with services().gate.enter():
            done = job.at_ride(end.id)
            adjusters, fixed = adjusters_of(job, end.id)
            sheet = sheet_of(job, end.id, [one.adjuster for one in adjusters])
            turns = None
            names = OF_BEAM if done.left.assembled.beam else MEASURES
            wanted = [
                Wanted(
                    measure="toe_deg" if w.measure == RIGHT_TOE else w.measure, change=w.wanted - w.measured, within=w.within,
                    right=w.measure == RIGHT_TOE,
                )
                for w in data.wanted if w.measure in names
            ]  # fmt: skip
            if wanted:
                room = {one.adjuster.link: one.room for one in adjusters}
                turns = turned_to(done, sheet, wanted, room)
            ranges = {
                name: value for name, value in data.ranges.items() if name in names and name != RIGHT_TOE and value > 0
            }
            budget = thread_budget(done, sheet, adjusters, ranges, job.settings)[0] if ranges else []
    except InputError as error:
        faults = [DrawFault(field=field, message=error.message) for field in error.fields or ("",)]
        return TurnSheetOut(
            faults=faults, measures=MEASURES, adjusters=[], fixed=[], turns=[], reached=None, misses={}, also={}, budget=[], command=None
        )  # fmt: skip
    units = {one.adjuster.link: one.adjuster.unit for one in adjusters}
    called = {one.adjuster.link: one.name if " – " in one.adjuster.link else one.adjuster.link for one in adjusters}
    changes = [
        one.change | ({RIGHT_TOE: one.right["toe_deg"]} if RIGHT_TOE in names and "toe_deg" in one.right else {})
        for one in sheet
    ]
    shown = {name for change in changes for name, value in change.items() if name in names and abs(value) > 5e-4}
    return TurnSheetOut(
        faults=[], measures={name: text for name, text in names.items() if name in shown},
        adjusters=[
            TurnerOut(
                name=called[own.adjuster.link], part_id=own.part_id, unit=own.adjuster.unit, mm=own.adjuster.mm, shorter=own.shorter,  # type: ignore[arg-type]
                longer=own.longer, change={name: change[name] for name in names if name in change and name in shown},
            )
            for own, change in zip(adjusters, changes, strict=True)
        ],
        fixed=fixed,
        turns=[TurnOut(name=called[name], turns=count, unit=units[name]) for name, count in turns.turns.items() if count] if turns else [],
        reached=turns.reached if turns else None, misses={RIGHT_TOE if name == "right toe_deg" else name: by for name, by in turns.misses_by.items()} if turns else {},
        also={name: value for name, value in turns.also.items() if name in names and abs(value) >= (0.1 if name.endswith("_mm") else 0.01)} if turns else {},
        budget=[
            BudgetOut(
                name=called[one.adjuster.adjuster.link], part_id=one.adjuster.part_id, unit=one.adjuster.adjuster.unit, shortest=one.shortest,
                longest=one.longest, at_shortest=[_left(e) for e in one.at_shortest], at_longest=[_left(e) for e in one.at_longest],
                ok=one.ok,
            )
            for one in budget
        ],
        command=command_line("turns", _repeats(job.ends[end.id], adjusters)) if adjusters else None,
    )  # fmt: skip


def _repeats(standing: End, adjusters: list[JobAdjuster]) -> dict[str, Any]:
    """The sheet, as `calc turns` takes it."""
    given = {}
    for one in adjusters:
        if one.adjuster.kind == "one_end":
            given[one.adjuster.link] = {"kind": "one_end", "pitch_mm": 2 * one.adjuster.mm}
        else:
            pitches = [end.thread.pitch for end in one.assembly.threaded]
            given[one.adjuster.link] = {"kind": "pair", "pitch_mm": pitches[0], "pitch_b_mm": pitches[1]}
    return {**standing.model_dump(mode="json", exclude_none=True), "travel_mm": 0.0, "adjusters": given}


def _left(end: EndLeft) -> EndLeftOut:
    return EndLeftOut(
        end=end.end,
        engagement_mm=end.engagement,
        needed_mm=end.needed,
        showing_mm=end.showing,
        depth_left_mm=end.depth_left,
        ok=end.ok,
    )
