"""Suspension ends: templates, a new end, its study along the travel, and its drawing at a position."""

from __future__ import annotations

from functools import lru_cache
from math import isfinite
from threading import Lock
from typing import Annotated, Any, Literal

from flask import Blueprint
from pydantic import BaseModel, ConfigDict, Field

from tirante.api.context import services
from tirante.api.designs import DesignIn, DesignOut, DrawFault, DrawOut
from tirante.api.problems import Refused
from tirante.api.routing import operation
from tirante.calc.templates import FOLDER, shipped_templates, template_named
from tirante.core.design.fields import Id, Key, Name
from tirante.core.design.model import SuspensionEnd
from tirante.core.drawing.sheet import Numbers
from tirante.core.errors import InputError
from tirante.core.suspension.end import End
from tirante.core.suspension.points_csv import read_points, write_points
from tirante.documents.cycle_table import cycle_csv
from tirante.storage.jobs import NotFound

blueprint = Blueprint("ends", __name__)
_strict = ConfigDict(extra="forbid", strict=True)
Travel = Annotated[float, Field(ge=-1000, le=1000, allow_inf_nan=False)]
Angle = Annotated[float, Field(ge=-30, le=30, allow_inf_nan=False)]


class TemplatePointOut(BaseModel):
    """A named point, what it is and how it is measured on a car."""

    name: str
    what: str
    measure: str


class TemplateOut(BaseModel):
    """A kind of suspension."""

    name: str
    title: str
    axle: Literal["independent", "beam"]
    steered: bool
    points: list[TemplatePointOut]


class TemplatesOut(BaseModel):
    """All kinds."""

    templates: list[TemplateOut]


class NewEndIn(DesignIn):
    """An end to add, from a template."""

    id: Id
    name: Name
    template: Key


class StudyIn(DesignIn):
    """Which end, leaning and steered how."""

    end_id: Id
    roll_deg: Angle = 0.0
    steer_mm: Travel = 0.0


class EndDrawIn(StudyIn):
    """At which travel, in which unit."""

    travel_mm: Travel = 0.0
    unit: Literal["mm", "in"] = "mm"


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
    unit: str
    low: float | None
    high: float | None
    why: str


class PointsCsvIn(BaseModel):
    """A file's text."""

    model_config = _strict
    text: str = Field(max_length=900_000)


class PointsOut(BaseModel):
    """Points read from a file [mm]."""

    points: dict[str, list[float]]


class LengthRow(BaseModel):
    """A link of the end, centre to centre."""

    name: str
    length_mm: float


class StudyOut(BaseModel):
    """An end along its travel; or what makes it impossible, by field."""

    faults: list[DrawFault]
    travel_mm: list[float]
    reached: list[bool]
    columns: dict[str, list[float | None]]
    events: list[EventOut]
    bump: str
    droop: str
    lowest_mm: float
    highest_mm: float
    ride: list[RideValue]
    lengths: list[LengthRow]


NAMES = {
    "camber_deg": "Camber", "toe_deg": "Toe", "caster_deg": "Caster", "kingpin_inclination_deg": "Kingpin inclination",
    "scrub_radius_mm": "Scrub radius", "mechanical_trail_mm": "Mechanical trail", "roll_centre_path_mm": "Roll centre, by path",
    "roll_centre_drawn_mm": "Roll centre, drawn", "roll_centre_mm": "Roll centre", "roll_axis_deg": "Roll axis",
    "anti_dive_percent": "Anti-dive", "anti_lift_percent": "Anti-lift", "anti_squat_percent": "Anti-squat",
    "motion_ratio": "Motion ratio", "lateral_shift_mm": "Side shift", "axle_steer_deg": "Axle steer",
    "pinion_change_deg": "Pinion change", "damper_length_mm": "Damper length",
}  # fmt: skip
_SHORT = {"lateral_shift_mm": "shift", "axle_steer_deg": "steer", "pinion_change_deg": "pinion"}
_PLOTS = {
    "independent": ("camber_deg", "toe_deg", "caster_deg", "roll_centre_path_mm"),
    "beam": ("lateral_shift_mm", "axle_steer_deg", "pinion_change_deg", "roll_centre_mm"),
}


def _unit(key: str) -> str:
    return "°" if key.endswith("_deg") else " mm" if key.endswith("_mm") else " %" if key.endswith("_percent") else ""


def _end(data: StudyIn) -> SuspensionEnd:
    found = next((end for end in data.design.ends if end.id == data.end_id), None)
    if found is None:
        raise NotFound(data.end_id)
    return found


@operation(blueprint, "GET", "/api/templates", answer=TemplatesOut)
def list_templates() -> TemplatesOut:
    """The kinds of suspension, with their points."""
    return TemplatesOut(
        templates=[
            TemplateOut(
                name=t.name, title=t.title, axle=t.axle, steered=t.steered,
                points=[TemplatePointOut(name=p.name, what=p.what, measure=p.measure) for p in t.points],
            )
            for t in shipped_templates().values()
        ]
    )  # fmt: skip


@operation(blueprint, "POST", "/api/ends", body=NewEndIn, answer=DesignOut)
def new_end(data: NewEndIn) -> DesignOut:
    """The design with a new end, its points those of the template's example."""
    if any(end.id == data.id for end in data.design.ends):
        return DesignOut(design=data.design)
    template = template_named(data.template)
    if len(data.design.ends) >= 8:
        raise Refused(422, "too_many", "A job holds eight ends.", "design.ends")
    example = End.model_validate_json((FOLDER.parent / "ends" / f"{template.name}.json").read_bytes())
    end = SuspensionEnd(id=data.id, name=data.name, end=example)
    return DesignOut(design=data.design.model_copy(update={"ends": (*data.design.ends, end)}))


_one_at_a_time = Lock()


def _study(end_json: str, box: tuple[float, float], roll: float, steer: float) -> Any:
    """A study, worked out once however many ask for it at the same time."""
    with _one_at_a_time:
        return _worked_out(end_json, box, roll, steer)


@lru_cache(maxsize=64)
def _worked_out(end_json: str, box: tuple[float, float], roll: float, steer: float) -> Any:
    from tirante.core.suspension.study import study

    end = End.model_validate_json(end_json)
    return study(template_named(end.template), end, box[0], box[1], roll, steer)


def _value(value: Any) -> float | None:
    return float(value) if isfinite(value) else None


def _nothing(error: InputError) -> StudyOut:
    faults = [DrawFault(field=field, message=error.message) for field in error.fields or ("",)]
    return StudyOut(
        faults=faults, travel_mm=[], reached=[], columns={}, events=[], bump="", droop="", lowest_mm=0.0, highest_mm=0.0, ride=[],
        lengths=[],
    )  # fmt: skip


@operation(blueprint, "POST", "/api/points/read", body=PointsCsvIn, answer=PointsOut)
def read_points_csv(data: PointsCsvIn) -> PointsOut:
    """Points from CSV; every bad row by line and column, or all of them."""
    return PointsOut(points={name: list(place) for name, place in read_points(data.text).items()})


@operation(blueprint, "POST", "/api/points/write", body=StudyIn, answer=PointsCsvIn)
def write_points_csv(data: StudyIn) -> PointsCsvIn:
    """The points of an end as CSV."""
    return PointsCsvIn(text=write_points({n: (p[0], p[1], p[2]) for n, p in _end(data).end.points.items()}))


@operation(blueprint, "POST", "/api/study/table", body=StudyIn, answer=PointsCsvIn)
def study_table(data: StudyIn) -> PointsCsvIn:
    """Every measure along the travel as CSV, of the left wheel or the axle."""
    end = _end(data)
    found = _study(end.end.model_dump_json(), (end.box.bump_mm, end.box.droop_mm), data.roll_deg, data.steer_mm).found
    return PointsCsvIn(text=cycle_csv(found))


@operation(blueprint, "POST", "/api/study", body=StudyIn, answer=StudyOut)
def study_end(data: StudyIn) -> StudyOut:
    """An end moved through its travel: measures, events, what stops it."""
    from tirante.core.suspension.study import USUAL

    end = _end(data)
    try:
        with services().gate.enter():
            found = _study(end.end.model_dump_json(), (end.box.bump_mm, end.box.droop_mm), data.roll_deg, data.steer_mm)
    except InputError as error:
        return _nothing(error)
    ride = []
    for key, name in NAMES.items():
        column = found.at_ride.columns.get(key)
        value = _value(column[0]) if column is not None else None
        if value is None:
            continue
        low, high, why = USUAL.get(key, (None, None, ""))
        ride.append(RideValue(key=key, name=name, value=value, unit=_unit(key), low=low, high=high, why=why))
    cycle = found.found
    return StudyOut(
        faults=[], travel_mm=[float(t) for t in cycle.travel_mm], reached=[s == "converged" for s in cycle.status],
        columns={k: [_value(v) for v in cycle.columns[k]] for k in NAMES if k in cycle.columns},
        events=[EventOut(travel_mm=e.travel, kind=e.kind, what=e.what, short=e.short) for e in found.events],
        bump=found.bump, droop=found.droop, lowest_mm=found.lowest, highest_mm=found.highest, ride=ride,
        lengths=[LengthRow(name=name, length_mm=float(c["length_mm"][0])) for name, c in found.at_ride.links.items()],
    )  # fmt: skip


@operation(blueprint, "POST", "/api/study/drawing", body=EndDrawIn, answer=DrawOut)
def draw_end(data: EndDrawIn) -> DrawOut:
    """The end at a position: three views with the ghost at ride height, and its plots."""
    import numpy as np

    from tirante.core.drawing.views.end_view import Plot, end_sheet
    from tirante.core.suspension.posture import postures

    end = _end(data)
    settings = data.design.settings
    numbers = Numbers(unit=data.unit, decimals=settings.decimals, inch_denominator=settings.inch_denominator)
    try:
        with services().gate.enter():
            template = template_named(end.end.template)
            found = _study(end.end.model_dump_json(), (end.box.bump_mm, end.box.droop_mm), data.roll_deg, data.steer_mm)
            rows = np.array([[data.travel_mm, 0.0], [data.roll_deg, 0.0], [data.steer_mm, 0.0]])
            now, ride = postures(template, end.end, rows)
    except InputError as error:
        return DrawOut(drawing=None, faults=[DrawFault(field=f, message=error.message) for f in error.fields or ("",)])
    if ride is None or now is None:
        message = "It cannot be put together at this position. Move back toward ride height, or change a point."
        return DrawOut(drawing=None, faults=[DrawFault(field="travel_mm", message=message)])
    cycle = found.found
    travel = tuple(float(t) for t in cycle.travel_mm)

    def at(column: Any) -> float | None:
        return _value(np.interp(data.travel_mm, cycle.travel_mm, column)) if np.isfinite(column).all() else None

    plots = tuple(
        Plot(
            name=_SHORT.get(key, NAMES[key].split(",")[0].lower()), unit=_unit(key).strip() if _unit(key) == "°" else "",
            values=tuple(_value(v) for v in cycle.columns[key]), now=at(cycle.columns[key]), signed=key.endswith("_deg"),
        )
        for key in _PLOTS[template.axle] if key in cycle.columns
    )  # fmt: skip
    key = "roll_centre_path_mm" if template.axle == "independent" else "roll_centre_mm"
    marks = tuple(
        (e.travel, e.short.split()[-1] if e.kind == "stop" else "", "ink" if e.kind == "stop" else "amber")
        for e in found.events
    )
    drawing = end_sheet(
        end.name, now, ride, plots, travel, data.travel_mm, marks, at(cycle.columns[key]), numbers,  # type: ignore[arg-type]
    )  # fmt: skip
    return DrawOut(drawing=drawing, faults=[])
