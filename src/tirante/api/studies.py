"""An end in motion: its study along the travel, its drawing at a position, bind map, free motions and 3D scene."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict, replace
from math import ceil, isfinite
from typing import TYPE_CHECKING, Annotated, Literal, TypeVar

from flask import Blueprint
from pydantic import BaseModel, Field

from tirante.api.context import services, worked
from tirante.api.designs import DrawFault, DrawOut, PartIn, saved_part
from tirante.api.ends import OfEndIn, PointsCsvIn, end_of
from tirante.api.routing import operation
from tirante.core.document.design import Design, SuspensionEnd
from tirante.core.document.end import LinkBend, Ride
from tirante.core.document.fields import Key
from tirante.core.document.parts.common import OfEnd
from tirante.core.document.parts.link import Link
from tirante.core.document.shape import Shape
from tirante.core.drawing.model import Drawing
from tirante.core.drawing.scene import Scene
from tirante.core.errors import InputError
from tirante.core.job.studies import as_built_of, bind_map_of, joint_advice_of, solved_at, still_moves_of, study_of
from tirante.core.parts.numbers import numbers_of
from tirante.documents.cycle_table import cycle_csv

if TYPE_CHECKING:
    from tirante.core.job.worked import Worked
    from tirante.core.suspension.shown.drawn import Plotted
    from tirante.core.suspension.study import Study

blueprint = Blueprint("studies", __name__)
T = TypeVar("T", bound=BaseModel)
Travel = Annotated[float, Field(ge=-1000, le=1000, allow_inf_nan=False)]
Angle = Annotated[float, Field(ge=-30, le=30, allow_inf_nan=False)]
Unit = Literal["mm", "in"]
LinkName = Annotated[str, Field(max_length=80)]
Tilt = Annotated[float, Field(gt=0, le=180, allow_inf_nan=False)]


class WatchedIn(OfEndIn):
    """An end, with what its links' joints allow where the design comes without the parts that say it (`Evaluation.ends`)."""

    limits: dict[LinkName, dict[Literal["a", "b"], Tilt | None]] | None = Field(
        default=None,
        max_length=60,
        description="by link and end of it, °; null for a joint: not watched. Left out: by the design's own parts",
    )
    bends: dict[LinkName, LinkBend | None] | None = Field(
        default=None, max_length=60, description="by link, null: straight. Left out: by the design's own parts"
    )
    shapes: dict[LinkName, Shape] | None = Field(
        default=None, max_length=80, description="what its members look like. Left out: by the design's own parts"
    )


class StudyIn(WatchedIn):
    """Which end, leaning and steered how."""

    roll_deg: Angle = 0.0
    steer: Travel = Field(default=0.0, description="mm of the rack, or deg of the steering arm")


class PositionIn(StudyIn):
    """At which travel, in which unit."""

    travel_mm: Travel = 0.0
    unit: Unit = "mm"


class EndDrawIn(PositionIn):
    """Whether to be moved by hand."""

    handles: bool = Field(default=False, description="mark its points, to be moved by hand, where it stands at rest")


class ViewPlaceOut(BaseModel):
    """Where a view stands on the drawing: sheet = origin + scale · flip · car across, and + scale · car up."""

    box: tuple[float, float, float, float] = Field(description="x, y, width, height on the sheet, y up, mm")
    origin: tuple[float, float]
    scale: float
    across: int = Field(description="axis of the car to the right: 0 x, 1 y, 2 z")
    flip: float
    up: int


class EndDrawOut(BaseModel):
    """The three views of an end, or what stands in their way; where its points may be moved, how a place on the sheet is one in the car."""

    drawing: Drawing | None
    faults: list[DrawFault]
    views: list[ViewPlaceOut] = []


class PlotsIn(PositionIn):
    """Which measures against what, beside which other revision."""

    plots: Annotated[list[Key], Field(max_length=4)] = Field(default=[], description="measures; none: the usual four")
    along: Literal["travel", "roll", "steer"] = "travel"
    other: Design | None = Field(default=None, description="another revision: faint in the plots")


class TableIn(StudyIn):
    """Along what the table runs; the other two stay where they are."""

    travel_mm: Travel = 0.0
    along: Literal["travel", "roll", "steer"] = "travel"


class EventOut(BaseModel):
    """Something on the way."""

    travel_mm: float
    kind: Literal["stop", "attention"]
    what: str
    short: str


class RideValue(BaseModel):
    """A measure at ride height beside its usual range (common practice, no source)."""

    key: str
    name: str
    value: float
    unit: Literal["°", "mm", "%", ""]
    low: float | None
    high: float | None
    what: str = Field(description="what it is, in a sentence")
    why: str = Field(description="what more or less of it does")


class EndLengthOut(BaseModel):
    """A length that is made after: of a link, or a side of an arm's triangle with the angle opposite."""

    part: str
    what: str
    left_mm: float
    right_mm: float | None
    angle_deg: float | None
    is_link: bool


class StudyOut(BaseModel):
    """An end along its travel; or what makes it impossible, by field."""

    faults: list[DrawFault]
    travel_mm: list[float]
    reached: list[bool]
    columns: dict[str, list[float | None]]
    measures: dict[str, str] = Field(description="every measure that can be plotted, with its name")
    events: list[EventOut]
    bump: str
    droop: str
    lowest_mm: float
    highest_mm: float
    ride: list[RideValue]
    lengths: list[EndLengthOut]


class WheelsIn(OfEndIn):
    """How far each wheel of a beam axle is up."""

    left_mm: Travel
    right_mm: Travel
    steer: Travel = 0.0


class WheelsOut(BaseModel):
    """The axle's travel and roll for that; or why it cannot be."""

    travel_mm: float | None
    roll_deg: float | None
    faults: list[DrawFault]


class BindIn(WatchedIn):
    """Which joint to show over the box; none: the worst."""

    joint: str | None = Field(default=None, max_length=120)
    unit: Unit = "mm"


class JointOut(BaseModel):
    """A joint over the whole box."""

    name: str
    hinged: bool
    worst_deg: float
    limit_deg: float | None
    share: float | None = Field(description="of its limit")
    state: Literal["ok", "attention", "stop", "not asked"]
    travel_mm: float
    roll_deg: float
    steer: float
    advice: list[str]


class BindOut(BaseModel):
    """Every joint over the whole travel, roll and steer, the worst first; one of them drawn."""

    faults: list[DrawFault]
    joints: list[JointOut]
    unwatched: list[str]
    unreached: int
    shown: str | None
    drawing: Drawing | None


class StillIn(OfEndIn):
    """What is in place, which free motion to show, and how far along it (−1 to 1)."""

    in_place: Annotated[list[Annotated[str, Field(max_length=120)]], Field(max_length=80)]
    motion: Annotated[int, Field(ge=0, le=60)] = 0
    phase: Annotated[float, Field(ge=-1, le=1, allow_inf_nan=False)] = 0.0
    unit: Unit = "mm"


class MockedOut(BaseModel):
    """A part or temporary stop."""

    name: str
    kind: Literal["part", "stop"]
    in_place: bool
    leaves: int | None = Field(description="ways to move that are left with it; null where it takes none away")


class StillOut(BaseModel):
    """What the parts in place leave free."""

    faults: list[DrawFault]
    parts: list[MockedOut]
    degrees: int
    motions: list[str]
    says: str
    drawing: Drawing | None


class AsBuiltIn(OfEndIn):
    """Which of its motions to show, and how far along it (−1 to 1)."""

    motion: Annotated[int, Field(ge=0, le=240)] = 0
    phase: Annotated[float, Field(ge=-1, le=1, allow_inf_nan=False)] = 0.0
    unit: Unit = "mm"


class AsBuiltOut(BaseModel):
    """How far an end's kind is built."""

    faults: list[DrawFault]
    whole: bool = Field(description="it moves as a suspension does, and nothing else of it moves")
    beside: int = Field(description="ways to move beside its travel")
    says: str
    motions: list[str] = Field(description="those; of a whole one its travel")
    drawing: Drawing | None


class SceneOut(BaseModel):
    """The 3D scene; or what makes the end impossible."""

    faults: list[DrawFault]
    scene: Scene | None


def _watched(data: WatchedIn) -> Worked:
    """The design, its joints allowing what was said with it."""
    job = worked(data.design)
    if data.limits is not None:
        job.given_limits = {link: {str(at): limit for at, limit in ends.items()} for link, ends in data.limits.items()}
    job.given_bends = data.bends
    job.given_shapes = data.shapes
    return job


def _value(value: float) -> float | None:
    return float(value) if isfinite(value) else None


def _faults(error: InputError) -> list[DrawFault]:
    return [DrawFault(field=field, message=error.message) for field in error.fields or ("",)]


def _or_faults(answer: Callable[[], T], empty: Callable[[list[DrawFault]], T], *, quick: bool = False) -> T:
    """An answer worked out behind the gate; or what stands in its way, by field."""
    try:
        with (services().quick if quick else services().gate).enter():
            return answer()
    except InputError as error:
        return empty(_faults(error))


@operation(blueprint, "POST", "/api/study/table", body=TableIn, answer=PointsCsvIn)
def study_table(data: TableIn) -> PointsCsvIn:
    """Every measure along the travel, roll or steer as CSV, of the left wheel or the axle."""
    from tirante.core.suspension.shown.drawn import swept

    end = end_of(data)
    found = study_of(_watched(data), end.id, data.roll_deg, data.steer)
    return PointsCsvIn(text=cycle_csv(swept(found, _along(end, data.along), data.travel_mm, data.roll_deg, data.steer)))


@operation(blueprint, "POST", "/api/study", body=StudyIn, answer=StudyOut)
def study_end(data: StudyIn) -> StudyOut:
    """An end moved through its travel: measures, events, what stops it."""
    end = end_of(data)

    def nothing(faults: list[DrawFault]) -> StudyOut:
        return StudyOut(
            faults=faults, travel_mm=[], reached=[], columns={}, measures={}, events=[], bump="", droop="", lowest_mm=0.0, highest_mm=0.0, ride=[],
            lengths=[],
        )  # fmt: skip

    return _or_faults(
        lambda: _study_out(data.design, end, study_of(_watched(data), end.id, data.roll_deg, data.steer)), nothing
    )


def _study_out(design: Design, end: SuspensionEnd, found: Study) -> StudyOut:
    from tirante.core.suspension.shown.lengths import lengths
    from tirante.core.suspension.shown.measures_shown import BY_KEY, at_ride

    ride = []
    template = services().shelf.template_of(end.end)
    # a rack that is never moved steers nothing: a rear's toe link stands on one all the same
    steered = end.end.steering is not None or (template.steered and end.box.steer_mm > 0)
    for m, value in at_ride(found):
        low, high = m.usual(design.car.use, steered=steered) or (None, None)
        why = "it is not judged: this wheel is not steered" if m.of_steering and not steered else m.why
        ride.append(
            RideValue(key=m.key, name=m.name, value=value, unit=m.unit, low=low, high=high, what=m.what, why=why)
        )
    called = {point.name: point.what for point in template.points}
    rows = [
        EndLengthOut(
            part=row.part, what=f"{called.get(row.a, row.a)} – {called.get(row.b, row.b)}", left_mm=row.left, right_mm=row.right,
            angle_deg=row.angle_deg, is_link=row.is_link,
        )
        for row in lengths(template, design.standing(end))
    ]  # fmt: skip
    cycle = found.found
    return StudyOut(
        faults=[], travel_mm=[float(t) for t in cycle.travel_mm], reached=[s == "converged" for s in cycle.status],
        columns={k: [_value(v) for v in cycle.columns[k]] for k in BY_KEY if k in cycle.columns},
        measures={k: BY_KEY[k].name for k in BY_KEY if k in cycle.columns},
        events=[EventOut(travel_mm=e.travel, kind=e.kind, what=e.what, short=e.short) for e in found.events],
        bump=found.bump, droop=found.droop, lowest_mm=found.lowest, highest_mm=found.highest, ride=ride, lengths=rows,
    )  # fmt: skip


@operation(blueprint, "POST", "/api/study/drawing", body=EndDrawIn, answer=EndDrawOut)
def draw_end_at(data: EndDrawIn) -> EndDrawOut:
    """The end at a position: three views with the ghost at ride height."""
    from tirante.core.suspension.shown.drawn import draw_views

    end = end_of(data)

    def answer() -> EndDrawOut:
        job = _watched(data)
        done = solved_at(job, end.id, data.travel_mm, data.roll_deg, data.steer)
        # a point is where it was taken: it is moved where the end stands so
        at_rest = data.travel_mm == data.roll_deg == data.steer == 0.0 and job.ends[end.id].ride == Ride()
        numbers = numbers_of(data.design.settings, data.unit)
        drawn = draw_views(end.name, done, numbers, job.shapes(end.id), handles=data.handles and at_rest)
        if drawn is None:
            message = "It cannot be put together at this position. Move back toward ride height, or change a point."
            return EndDrawOut(drawing=None, faults=[DrawFault(field="travel_mm", message=message)])
        places = [ViewPlaceOut(**asdict(place)) for place in drawn[1]] if data.handles and at_rest else []
        return EndDrawOut(drawing=drawn[0], faults=[], views=places)

    return _or_faults(answer, lambda faults: EndDrawOut(drawing=None, faults=faults), quick=True)


@operation(blueprint, "POST", "/api/study/plots", body=PlotsIn, answer=DrawOut)
def plot_end(data: PlotsIn) -> DrawOut:
    """The end's measures along its travel, roll or steer."""
    from tirante.core.suspension.shown.drawn import draw_plots

    end = end_of(data)

    def answer() -> DrawOut:
        found = study_of(_watched(data), end.id, data.roll_deg, data.steer)
        numbers = numbers_of(data.design.settings, data.unit)
        drawing = draw_plots(
            end.name, services().shelf.template_of(end.end), found, numbers, data.travel_mm, data.roll_deg, data.steer, _other(data), _plotted(data, end),
        )  # fmt: skip
        return DrawOut(drawing=drawing, faults=[])

    return _or_faults(answer, lambda faults: DrawOut(drawing=None, faults=faults))


def _plotted(data: PlotsIn, end: SuspensionEnd) -> Plotted:
    from tirante.core.suspension.shown.measures_shown import BY_KEY

    unknown = [key for key in data.plots if key not in BY_KEY]
    if unknown:
        raise InputError(f"There is no measure {', '.join(unknown)}.", code="unknown_measure", fields=("plots",))
    return replace(_along(end, data.along), keys=tuple(data.plots))


def _along(end: SuspensionEnd, along: Literal["travel", "roll", "steer"]) -> Plotted:
    """How far an end is swept along its travel, roll or steer."""
    from tirante.core.suspension.shown.drawn import Plotted

    arm = end.end.steering is not None
    reach = end.box.roll_deg if along == "roll" else end.box.steer_deg if arm else end.box.steer_mm
    return Plotted(along=along, reach=reach, steer_unit="°" if arm else "mm")


def _other(data: PlotsIn) -> Study | None:
    """The same end in another revision; None where it was not there, or could not be put together."""
    if data.other is None:
        return None
    one = next((end for end in data.other.ends if end.id == data.end_id), None)
    try:
        return study_of(worked(data.other), one.id, data.roll_deg, data.steer) if one else None
    except InputError:
        return None


@operation(blueprint, "POST", "/api/study/wheels", body=WheelsIn, answer=WheelsOut)
def study_wheels(data: WheelsIn) -> WheelsOut:
    """The travel and roll of a beam axle that lift each wheel by so much."""
    import numpy as np

    from tirante.core.suspension.cycle import by_wheel

    end = end_of(data)
    template = services().shelf.template_of(end.end)

    def answer() -> WheelsOut:
        if template.axle != "beam" or not template.rises:
            raise InputError("Only a beam axle’s wheels rise by themselves.", code="not_a_beam", fields=("end_id",))
        rows = np.array([[data.left_mm], [data.right_mm], [data.steer]])
        travel, roll = by_wheel(template, data.design.standing(end), rows)[:, 0]
        if not isfinite(travel):
            raise InputError(
                "The axle cannot stand so. Lift a wheel less.", code="out_of_range", fields=("left_mm", "right_mm")
            )
        return WheelsOut(travel_mm=float(travel), roll_deg=float(roll), faults=[])

    return _or_faults(answer, lambda faults: WheelsOut(travel_mm=None, roll_deg=None, faults=faults))


@operation(blueprint, "POST", "/api/study/bind-map", body=BindIn, answer=BindOut)
def study_bind(data: BindIn) -> BindOut:
    """Every joint over the whole travel, roll and steer."""
    from tirante.core.suspension.bind_map import state_of
    from tirante.core.suspension.shown.bind_view import bind_sheet

    end = end_of(data)

    def answer() -> BindOut:
        job = _watched(data)
        found = bind_map_of(job, end.id)
        shown = next((j for j in found.joints if j.name == data.joint), found.joints[0] if found.joints else None)
        advice: list[str] = []
        if shown and shown.link and state_of(shown) in ("attention", "stop"):
            advice = [one.text for one in joint_advice_of(job, end.id, shown.link, shown.which)]
        numbers = numbers_of(data.design.settings, data.unit)
        turns = "°" if end.end.steering else "mm"
        return BindOut(
            faults=[], unwatched=list(found.unwatched), unreached=found.unreached, shown=shown.name if shown else None,
            drawing=bind_sheet(shown.name, shown.over_travel(found), numbers, turns) if shown else None,
            joints=[
                JointOut(
                    name=j.name, hinged=j.hinged, worst_deg=j.worst, limit_deg=j.limit, share=j.share, state=state_of(j), travel_mm=j.travel,
                    roll_deg=j.roll, steer=j.steer, advice=advice if j is shown else [],
                )
                for j in found.joints
            ],
        )  # fmt: skip

    return _or_faults(
        answer, lambda faults: BindOut(faults=faults, joints=[], unwatched=[], unreached=0, shown=None, drawing=None)
    )


@operation(blueprint, "POST", "/api/study/as-built", body=AsBuiltIn, answer=AsBuiltOut)
def study_as_built(data: AsBuiltIn) -> AsBuiltOut:
    """How far an end's kind is built: what still moves beside its travel, and what holds one motion twice."""
    from tirante.core.suspension.shown.kind_view import kind_sheet

    end = end_of(data)

    def answer() -> AsBuiltOut:
        job = worked(data.design)
        found = as_built_of(job, end.id)
        drawing = kind_sheet(
            end.name, job.template(end.id), job.ends[end.id], found, numbers_of(data.design.settings, data.unit), data.motion, data.phase
        )  # fmt: skip
        return AsBuiltOut(
            faults=[], whole=found.whole, beside=found.beside, says=found.says, motions=[motion.what for motion in found.motions], drawing=drawing
        )  # fmt: skip

    return _or_faults(
        answer, lambda faults: AsBuiltOut(faults=faults, whole=False, beside=0, says="", motions=[], drawing=None)
    )


@operation(blueprint, "POST", "/api/study/still-moves", body=StillIn, answer=StillOut)
def study_still_moves(data: StillIn) -> StillOut:
    """The freedom that the parts in place leave, one of its motions drawn, and what would take it away."""
    from tirante.core.suspension.shown.end_view import WIDTH, views_sheet
    from tirante.core.suspension.shown.posture import motion_posture

    end = end_of(data)

    def answer() -> StillOut:
        found = still_moves_of(worked(data.design), end.id, data.in_place)
        leaves = {one.name: one.leaves for one in found.takes_away}
        drawing = None
        if found.frames is not None:
            motion = found.motions[min(data.motion, len(found.motions) - 1)].frames if found.motions else found.frames
            lanes = motion.poses.lanes
            middle = found.middle(motion)
            way = (lanes - 1 - middle) if data.phase > 0 else middle
            lane = middle + round(data.phase * way)
            now, ride = (motion_posture(found.assembled, motion, i) for i in (lane, middle))
            drawing = views_sheet(end.name, now, ride, None, numbers_of(data.design.settings, data.unit), WIDTH)
        return StillOut(
            faults=[], degrees=found.degrees, motions=[motion.what for motion in found.motions], says=found.says, drawing=drawing,
            parts=[
                MockedOut(name=p.name, kind=p.kind, in_place=p.name in found.in_place, leaves=leaves.get(p.name)) for p in found.parts
            ],
        )  # fmt: skip

    return _or_faults(
        answer, lambda faults: StillOut(faults=faults, parts=[], degrees=0, motions=[], says="", drawing=None)
    )


class BendOut(BaseModel):
    """How far a link must be bent off its line to clear what it comes near to."""

    offset_mm: float | None = Field(description="rounded up to whole millimetres; none where nothing asks for a bend")
    says: str


@operation(blueprint, "POST", "/api/study/bend", body=PartIn, answer=BendOut)
def bend_of_link(data: PartIn) -> BendOut:
    """The bend of a link that gives it the clearance wanted over the travel of its end."""
    from tirante.core.suspension.clearance import bend_to_clear

    link = saved_part(worked(data.design), data.part_id)
    between = link.between if isinstance(link, Link) else None
    end = data.design.end(link.of_end)
    if not isinstance(link, Link) or not isinstance(between, OfEnd) or end is None:
        return BendOut(
            offset_mm=None,
            says="It belongs to no suspension end, so nothing is known of what it comes near to. Type the offset.",
        )
    leg = link.bent.from_ends.mm / between.mm if link.bent and link.bent.from_ends else None

    def answer() -> BendOut:
        done = study_of(worked(data.design), end.id, 0.0, 0.0).done
        every = [
            found for side in done.sides if (found := bend_to_clear(side.assembled, side.solved, between.link, leg))
        ]
        if not every:
            return BendOut(
                offset_mm=None,
                says="Nothing to clear is entered at Layout for this end. Enter it there, or type the offset.",
            )
        worst = max(every, key=lambda found: (found.offset, -found.clearance))
        where = f"{worst.clearance:.1f} mm from the {worst.obstacle} at {done.rows[0, worst.lane]:+.0f} mm of travel"
        if worst.offset <= 0:
            return BendOut(
                offset_mm=None,
                says=f"Straight, it comes no nearer than {where}; {worst.wanted:g} mm are wanted. It needs no bend.",
            )
        if worst.clearance <= 0:
            return BendOut(
                offset_mm=None,
                says=f"Straight, it comes {where}: it touches or runs through it. Move a pivot, or type an offset you have measured.",
            )
        offset = float(ceil(worst.offset))
        return BendOut(
            offset_mm=offset,
            says=f"Straight, it comes {where}, {worst.share:.0%} of the way along; {worst.wanted:g} mm are wanted. Bent {offset:g} mm straight "
            "away from it, it clears. Hang the bend so; the bent link is not moved through the travel again here.",
        )  # fmt: skip

    return _or_faults(answer, lambda faults: BendOut(offset_mm=None, says=faults[0].message))


@operation(blueprint, "POST", "/api/study/scene", body=StudyIn, answer=SceneOut)
def study_scene(data: StudyIn) -> SceneOut:
    """The 3D scene along the travel."""
    from tirante.core.suspension.shown.scene import scene

    end = end_of(data)

    def answer() -> SceneOut:
        return SceneOut(faults=[], scene=scene(study_of(_watched(data), end.id, data.roll_deg, data.steer).done))

    return _or_faults(answer, lambda faults: SceneOut(faults=faults, scene=None))
