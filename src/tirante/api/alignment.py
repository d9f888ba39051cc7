"""Members beside the single link: the whole job sized, the turn sheet, thread over the range, what gives first, fatigue."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from time import perf_counter
from typing import Annotated, Any, Literal

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.context import services, shop_catalogue
from tirante.api.designs import BareDesign, DesignIn, DrawFault
from tirante.api.ends import OfEndIn, end_of
from tirante.api.routing import operation
from tirante.api.searches import searches
from tirante.calc import calculate
from tirante.core.checks.first_to_give import NOT_CHECKED_BESIDE, order_of
from tirante.core.checks.shown import CheckOut, check_out, command_line, shown_utilisation
from tirante.core.document.adopt import adopt, adopt_arm
from tirante.core.document.catalogue import Catalogue
from tirante.core.document.design import Design
from tirante.core.document.end import End
from tirante.core.document.fields import Id
from tirante.core.document.parts.arm import Arm
from tirante.core.document.parts.common import OfEnd
from tirante.core.document.parts.link import Link
from tirante.core.errors import InputError
from tirante.core.job.alignment import EndLeft, JobAdjuster, job_adjuster, thread_budget, turned_to
from tirante.core.job.arms import at_ride, sized_arm, worked_arm
from tirante.core.job.evaluate import evaluate
from tirante.core.job.loads import everyday_ranges
from tirante.core.job.size_all import LinkSized, size_all
from tirante.core.loads.seen import sides_of
from tirante.core.parts.link.built import Built, build
from tirante.core.suspension.turns import Adjuster, Turned

blueprint = Blueprint("alignment", __name__)


class SizeAllIn(DesignIn):
    """The job, and what is to be least."""

    aim: Literal["mass", "cost", "stocks"] = "mass"
    search_id: Id | None = Field(default=None, description="made by the client, to ask how far it is and to stop it")


class LinkSizedOut(BaseModel):
    """One link or arm of the job."""

    link_id: str
    kind: Literal["link", "arm"]
    name: str
    sized: bool
    tube: str
    grade: str
    joint: str | None
    mass_kg: float | None
    worst: str
    runner_up: str
    advice: str


class SizeAllOut(BaseModel):
    """The job sized: the design with every link so built, and what was found."""

    design: BareDesign
    links: list[LinkSizedOut]
    stocks: int
    mass_kg: float
    considered: int
    judged: int
    seconds: float
    stopped: bool = Field(description="before all parts were sized")


@operation(blueprint, "POST", "/api/size-all", body=SizeAllIn, answer=SizeAllOut)
def size_the_job(data: SizeAllIn) -> SizeAllOut:
    """Every link and arm sized together for least mass, least cost or the fewest different stocks."""
    catalogue, design = shop_catalogue(), data.design
    began, of = perf_counter(), len(data.design.links) + len(data.design.arms)
    step = searches().progress(data.search_id)
    with services().gate.enter():
        found = size_all(
            design.links, design.settings, catalogue, data.aim, progress=lambda done, _: step(done, of)
        )  # fmt: skip
        rows = []
        names = {link.id: link.name for link in design.links}
        for one in found.links:
            row, design = _link_sized(one, names[one.link_id], design, catalogue)
            rows.append(row)
        weighed = found.mass
        stocks = {
            (link.tube, link.grade) for link in design.links if any(r.link_id == link.id and r.sized for r in rows)
        }
        shelf = _of_stocks(catalogue, stocks) if data.aim == "stocks" else catalogue
        judged = considered = 0
        for done, arm in enumerate(data.design.arms, len(data.design.links)):
            if len(found.links) < len(data.design.links) or not step(done, of):
                break
            row, design, tried = _arm_sized(arm, design, shelf, catalogue, data.aim)
            rows.append(row)
            considered, judged, weighed = considered + tried, judged + tried, weighed + (row.mass_kg or 0.0)
            now = next(one for one in design.arms if one.id == arm.id)
            stocks |= {(now.tube, now.grade)} if row.sized else set()
    return SizeAllOut(
        design=design, links=rows, stocks=len(stocks), mass_kg=weighed, considered=found.considered + considered,
        judged=found.judged + judged, seconds=perf_counter() - began, stopped=len(rows) < of,
    )  # fmt: skip


def _link_sized(one: LinkSized, name: str, design: Design, catalogue: Catalogue) -> tuple[LinkSizedOut, Design]:
    winner = one.sizing.winner if one.sizing else None
    second = one.sizing.runner_up if one.sizing else None
    if winner:
        design = adopt(design, winner.candidate.link, catalogue)
    assembly = winner.candidate.assembly if winner else None
    row = LinkSizedOut(
        link_id=one.link_id, kind="link", name=name, sized=winner is not None, tube=assembly.tube.label if assembly else "",
        grade=assembly.grade.label if assembly else "",
        joint=assembly.threaded[0].joint.label if assembly and assembly.threaded else None,
        mass_kg=winner.candidate.mass if winner else None,
        worst=f"{winner.worst.name} {shown_utilisation(winner.worst.utilisation)}" if winner else "",
        runner_up=second.candidate.assembly.tube.label if second else "",
        advice=(one.sizing.advice if one.sizing else None) or one.fault or "",
    )  # fmt: skip
    return row, design


def _of_stocks(catalogue: Catalogue, stocks: set[tuple[str | None, str | None]]) -> Catalogue:
    """The shelf with no tube or grade but those that links already use."""
    tubes, grades = {tube for tube, _ in stocks}, {grade for _, grade in stocks}
    return catalogue.model_copy(
        update={
            "tubes": tuple(row for row in catalogue.tubes if row.key in tubes),
            "grades": tuple(row for row in catalogue.grades if row.key in grades),
        }
    )


def _arm_sized(
    arm: Arm, design: Design, shelf: Catalogue, catalogue: Catalogue, aim: str
) -> tuple[LinkSizedOut, Design, int]:
    """An arm from the shelf, or from the whole catalogue when nothing on it holds."""
    tried = 0
    try:
        found = sized_arm(arm, design, shelf, aim)
        tried += found.found.considered
        if found.arm is None and shelf is not catalogue:
            found = sized_arm(arm, design, catalogue, aim)
            tried += found.found.considered
    except InputError as error:
        fault = LinkSizedOut(
            link_id=arm.id, kind="arm", name=arm.name, sized=False, tube="", grade="", joint=None, mass_kg=None, worst="", runner_up="",
            advice=error.message,
        )  # fmt: skip
        return fault, design, tried
    one = found.found
    sized = found.arm is not None and one.tube is not None and one.grade is not None and one.result is not None
    if found.arm is not None:
        design = adopt_arm(design, found.arm, catalogue)
    row = LinkSizedOut(
        link_id=arm.id, kind="arm", name=arm.name, sized=sized, tube=one.tube.label if one.tube and sized else "",
        grade=one.grade.label if one.grade and sized else "", joint=None, mass_kg=one.result.mass_kg if one.result and sized else None,
        worst=f"{one.result.worst_what} {shown_utilisation(one.result.worst)}" if one.result and sized else "", runner_up=one.runner_up,
        advice=found.advice,
    )  # fmt: skip
    return row, design, tried


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


class AdjusterOut(BaseModel):
    """A link of the job, and what one turn longer (pair) or half a turn (one end) does."""

    name: str
    link_id: str
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
    link_id: str
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
    adjusters: list[AdjusterOut]
    fixed: list[str] = Field(description="links of the end that do not adjust or are not built yet, and why")
    turns: list[TurnOut]
    reached: bool | None
    misses: dict[str, float]
    budget: list[BudgetOut]
    command: str | None = Field(description="the line that repeats what a turn of each adjuster does")


MEASURES = {
    "camber_deg": "camber", "toe_deg": "toe-in", "caster_deg": "caster", "pinion_change_deg": "pinion, nose up", "half_track_change_mm": "half track",
    "wheelbase_change_mm": "wheel ahead", "lateral_shift_mm": "axle to the left", "axle_steer_deg": "axle steer",
}  # fmt: skip


def _adjusters(data: OfEndIn, names: list[str]) -> tuple[list[JobAdjuster], list[str]]:
    found: list[JobAdjuster] = []
    fixed: list[str] = []
    for link in data.design.links:
        if not isinstance(link.between, OfEnd) or link.between.end_id != data.end_id:
            continue
        if link.boxed:
            fixed.append(f"{link.name}: boxed, does not adjust")
            continue
        built = build(link, data.design)
        if not isinstance(built, Built):
            fixed.append(f"{link.name}: not complete yet")
            continue
        own = [
            job_adjuster(link, built.assembly, built.stack, name) for name in sides_of(link, link.between.link, names)
        ]
        own = [one for one in own if one is not None]
        if not own:
            fixed.append(f"{link.name}: does not adjust")
        found += [one for one in own if one is not None]
    for arm in data.design.arms:
        if arm.end_id == data.end_id:
            own_arm, why = _of_arm(arm, data.design, set(names))
            found += own_arm
            fixed += why
    return found, fixed


def _of_arm(arm: Arm, design: Design, names: set[str]) -> tuple[list[JobAdjuster], list[str]]:
    """Both sides of an arm on rod ends, each turned by half turns; the arm comes off its pivots for it."""
    if arm.pivots != "rod ends":
        return [], [f"{arm.name}: does not adjust"]
    worked = worked_arm(arm, design)
    if not worked.sides or worked.result is None:
        return [], [f"{arm.name}: not complete yet"]
    made = [
        job_adjuster(side.link, side.assembly, side.stack, f"{side.pivot} – {worked.result.places.outer_point}")
        for side in worked.sides
    ]
    own = [one for one in made if one is not None and one.adjuster.link in names]
    return own, [] if own else [f"{arm.name}: the mechanism holds its sides as they are"]


@lru_cache(maxsize=16)
def _sheet(end_json: str, adjusters: tuple[Adjuster, ...]) -> list[Turned]:
    """What each does, worked out once while only what is wanted changes."""
    from tirante.core.suspension.turns import turn_sheet

    return turn_sheet(at_ride(end_json), adjusters)


@operation(blueprint, "POST", "/api/turn-sheet", body=TurnsIn, answer=TurnSheetOut)
def turn_sheet_of(data: TurnsIn) -> TurnSheetOut:
    """What one turn of each of the job's adjusters does, and the shortest way to what is wanted."""
    from tirante.core.suspension.changed import arm_sides
    from tirante.core.suspension.turns import Wanted

    end = end_of(data)
    standing = data.design.standing(end)
    try:
        with services().gate.enter():
            text = standing.model_dump_json()
            done = at_ride(text)
            names = [link.name for link in done.left.assembled.links] + list(arm_sides(done.left.assembled))
            adjusters, fixed = _adjusters(data, names)
            sheet = _sheet(text, tuple(one.adjuster for one in adjusters))
            turns = None
            wanted = [
                Wanted(measure=w.measure, change=w.wanted - w.measured, within=w.within) for w in data.wanted
                if w.measure in MEASURES
            ]  # fmt: skip
            if wanted:
                room = {one.adjuster.link: one.room for one in adjusters}
                turns = turned_to(done, sheet, wanted, room)
            ranges = {name: value for name, value in data.ranges.items() if name in MEASURES and value > 0}
            budget = thread_budget(done, sheet, adjusters, ranges, data.design.settings)[0] if ranges else []
    except InputError as error:
        faults = [DrawFault(field=field, message=error.message) for field in error.fields or ("",)]
        return TurnSheetOut(
            faults=faults,
            measures=MEASURES,
            adjusters=[],
            fixed=[],
            turns=[],
            reached=None,
            misses={},
            budget=[],
            command=None,
        )
    units = {one.adjuster.link: one.adjuster.unit for one in adjusters}
    called = {
        one.adjuster.link: one.link.name if " – " in one.adjuster.link else one.adjuster.link for one in adjusters
    }
    shown = {name for one in sheet for name, value in one.change.items() if name in MEASURES and abs(value) > 5e-4}
    return TurnSheetOut(
        faults=[], measures={name: text for name, text in MEASURES.items() if name in shown},
        adjusters=[
            AdjusterOut(
                name=called[own.adjuster.link], link_id=own.link.id, unit=own.adjuster.unit, mm=own.adjuster.mm, shorter=own.shorter,  # type: ignore[arg-type]
                longer=own.longer, change={name: one.change[name] for name in MEASURES if name in one.change and name in shown},
            )
            for own, one in zip(adjusters, sheet, strict=True)
        ],
        fixed=fixed,
        turns=[TurnOut(name=called[name], turns=count, unit=units[name]) for name, count in turns.turns.items() if count] if turns else [],
        reached=turns.reached if turns else None, misses=turns.misses_by if turns else {},
        budget=[
            BudgetOut(
                name=called[one.adjuster.adjuster.link], link_id=one.adjuster.link.id, unit=one.adjuster.adjuster.unit, shortest=one.shortest,
                longest=one.longest, at_shortest=[_left(e) for e in one.at_shortest], at_longest=[_left(e) for e in one.at_longest],
                ok=one.ok,
            )
            for one in budget
        ],
        command=command_line("turns", _repeats(standing, adjusters)) if adjusters else None,
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


class GivesOut(BaseModel):
    """A part, and how many times the worst load it bears."""

    link_id: str
    kind: Literal["link", "arm"]
    link: str
    part: str
    check: str
    key: str = Field(description="of the check")
    case: str
    times: float
    how: str


class FatigueOut(BaseModel):
    """The screen of one link: everyday force range, worst detail and its share of the constant-amplitude limit."""

    link_id: str
    link: str
    range_n: float
    detail: str
    share: float
    shown: str
    cycles: float | None
    command: str = Field(description="the line that repeats it")


@dataclass(frozen=True, slots=True)
class _CheckedArm:
    arm: Arm
    checks: list[CheckOut]

    @property
    def id(self) -> str:
        return self.arm.id

    @property
    def name(self) -> str:
        return self.arm.name


class CornerOut(BaseModel):
    """One end of the car: what gives first, and the fatigue screen."""

    name: str
    sentence: str
    brittle_first: bool
    gives: list[GivesOut]
    fatigue: list[FatigueOut]


class FirstOut(BaseModel):
    """What gives first of each corner, and what is not checked beside it."""

    corners: list[CornerOut]
    not_checked: list[str]
    fatigue_note: str


@operation(blueprint, "POST", "/api/first-to-give", body=DesignIn, answer=FirstOut)
def first_to_give(data: DesignIn) -> FirstOut:
    """Of each corner the parts in the order in which they give, and a fatigue screen of everyday cycles."""
    design = data.design
    with services().gate.enter():
        links = evaluate(design).links
        corners = []
        groups = [
            (
                end.name,
                {link.id for link in design.links if isinstance(link.between, OfEnd) and link.between.end_id == end.id},
            )
            for end in design.ends
        ]
        tied = {own for _, ids in groups for own in ids}
        groups.append(("Other links", {link.id for link in design.links if link.id not in tied}))
        arms = {
            arm.id: _CheckedArm(arm, [check_out(one) for one in worked_arm(arm, design).checks]) for arm in design.arms
        }
        of_arms = {end.name: [one for one in arms.values() if one.arm.end_id == end.id] for end in design.ends}
        ranges = everyday_ranges(design)
        for name, ids in groups:
            own = of_arms.get(name, [])
            if not ids and not own:
                continue
            order = order_of([*(link for link in links if link.id in ids), *own])
            corners.append(
                CornerOut(
                    name=name, sentence=order.sentence, brittle_first=order.brittle_first,
                    gives=[
                        GivesOut(kind="arm" if one.link_id in arms else "link", **{f: getattr(one, f) for f in GivesOut.model_fields if f != "kind"})
                        for one in order.gives
                    ],
                    fatigue=[screen for link in design.links if link.id in ids and (screen := _screened(link, design, ranges.get(link.id)))],
                )
            )  # fmt: skip
    return FirstOut(
        corners=corners, not_checked=list(NOT_CHECKED_BESIDE),
        fatigue_note=(
            "A screen, not a life: the range between 1 g cornering each way, 1 g braking and 0.5 g driving at ride height, against "
            "constant-amplitude limits. Notches, corrosion, bent threads and poor welds are not in it."
        ),
    )  # fmt: skip


def _screened(link: Link, design: Design, force_range: float | None) -> FatigueOut | None:
    built = build(link, design)
    if force_range is None or not isinstance(built, Built) or not built.assembly.threaded:
        return None
    end = built.assembly.threaded[0]
    data = {
        "range_n": force_range, "designation": end.joint.designation, "od_mm": built.assembly.tube.od_mm,
        "wall_mm": built.assembly.tube.wall_mm, "leg_mm": link.welding.leg_mm or 0.1,
    }  # fmt: skip
    found = calculate("fatigue", data)
    detail = found["governing"]
    share = found[f"{detail}_utilisation"]
    words = {"thread": "thread root", "toe": "tube at the insert’s weld", "throat": "insert’s weld"}
    return FatigueOut(
        link_id=link.id, link=link.name, range_n=force_range, detail=words[detail], share=share, shown=shown_utilisation(share),
        cycles=found["cycles"], command=command_line("fatigue", data),
    )  # fmt: skip
