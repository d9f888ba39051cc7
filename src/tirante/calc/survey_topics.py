"""The topics of a car measured: a net of readings adjusted, and what to measure next."""

from __future__ import annotations

from math import degrees, isfinite, radians
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field, model_validator

from tirante.calc.fields import Input
from tirante.calc.registry import Working, step, topic
from tirante.core.survey.measure_next import can_be_taken, measure_next, worst_point
from tirante.core.survey.mirrored import mirrored
from tirante.core.survey.net import Adjusted, Net
from tirante.core.survey.readings import (
    AXES,
    Distance,
    Heading,
    Inclination,
    InView,
    Kind,
    Offset,
    Reading,
    Swing,
    ToFace,
    ToLine,
    is_angle,
)
from tirante.core.survey.suspects import Looked, look, worst_of

Name = Annotated[str, Field(min_length=1, max_length=80)]
At = Annotated[float, Field(ge=-100_000, le=100_000, allow_inf_nan=False)]
Place = tuple[At, At, At]
Sd = Annotated[float, Field(ge=0.001, le=1000, allow_inf_nan=False)]
Degrees = Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)]
MOST_POINTS, MOST_READINGS = 200, 1000


class SurveyInput(Input):
    datum: dict[Name, Place] = Field(
        default={}, max_length=MOST_POINTS, description="name: [x, y, z] mm, taken as true"
    )
    approximate: dict[Name, Place] = Field(
        min_length=1, max_length=MOST_POINTS, description="name: [x, y, z] mm, where each point is thought to be"
    )
    distances: list[tuple[Name, Name, At, Sd]] = Field(
        default=[], max_length=MOST_READINGS, description="[from, to, value_mm, sd_mm]"
    )
    offsets: list[tuple[Name, Literal["x", "y", "z"], At, Sd]] = Field(
        default=[],
        max_length=MOST_READINGS,
        description="[point, axis, value_mm, sd_mm]: height over the floor (z), left of the centre line (y), ahead of the cross line (x)",
    )
    steps: list[tuple[Name, Name, Literal["x", "y", "z"], At, Sd]] = Field(
        default=[],
        max_length=MOST_READINGS,
        description="[from, to, axis, value_mm, sd_mm]: how much farther along the axis the second point is",
    )
    angles: list[tuple[Name, Name, Literal["level", "front", "side", "top"], Degrees, Sd]] = Field(
        default=[],
        max_length=MOST_READINGS,
        description="[from, to, to what, value_deg, sd_deg]: to the level, or as a view shows it, from forward (front: from left) on",
    )
    lines: list[tuple[Name, Name, Name, At, Sd]] = Field(
        default=[],
        max_length=MOST_READINGS,
        description="[point, one, other, value_mm, sd_mm]: square to the axis through one and other",
    )
    faces: list[tuple[Name, Name, Name, At, Sd]] = Field(
        default=[],
        max_length=MOST_READINGS,
        description="[point, middle, out, value_mm, sd_mm]: off the flat face at middle, out straight out of it",
    )
    bars: list[tuple[Name, Name, Degrees, Sd]] = Field(
        default=[],
        max_length=MOST_READINGS,
        description="[face, out, value_deg, sd_deg]: where a toe bar on the face points, from straight ahead to the left",
    )
    swings: list[tuple[Name, Name, Annotated[float, Field(ge=2, le=45)], Degrees, Sd]] = Field(
        default=[],
        max_length=MOST_READINGS,
        description="[lower, upper, turn_deg, value_deg, sd_deg]: camber turned out less camber turned in, of a wheel that turns about the axis through both",
    )
    sds_known: bool = Field(
        default=True, description="false: only their ratios are, and the residuals are judged by Pope’s tau"
    )
    tape_sd_mm: Sd = Field(default=1.0, description="mm; of a distance that could be taken next")
    square_sd_mm: Sd = Field(default=1.5, description="mm; of a height or an offset that could be taken next")

    @model_validator(mode="after")
    def _read(self) -> SurveyInput:
        if not any(
            (self.distances, self.offsets, self.steps, self.angles, self.lines, self.faces, self.bars, self.swings)
        ):
            raise ValueError("nothing was read: give distances, offsets, steps, angles, lines, faces, bars or swings")
        return self


def _readings(data: SurveyInput) -> tuple[tuple[Reading, ...], list[list[str]]]:
    """What was read, in the order of the fields, and each as it is named in the answer."""
    found: list[tuple[Kind, float, float, list[str]]] = []
    found += [(Distance(one=a, other=b), value, sd, [a, b]) for a, b, value, sd in data.distances]
    found += [(Offset(point=a, axis=axis), value, sd, [a, axis]) for a, axis, value, sd in data.offsets]
    found += [(Offset(point=b, axis=axis, off=a), value, sd, [a, b, axis]) for a, b, axis, value, sd in data.steps]
    for a, b, to, value, sd in data.angles:
        kind: Kind = (
            Inclination(one=a, other=b) if to == "level" else InView(one=a, other=b, view=to, about=radians(value))
        )
        found.append((kind, radians(value), radians(sd), [a, b, to]))
    found += [(ToLine(point=p, one=a, other=b), value, sd, [p, a, b]) for p, a, b, value, sd in data.lines]
    found += [(ToFace(point=p, face=a, out=b), value, sd, [p, a, b]) for p, a, b, value, sd in data.faces]
    found += [(Heading(face=a, out=b), radians(value), radians(sd), [a, b]) for a, b, value, sd in data.bars]
    found += [(Swing(lower=a, upper=b, turn=radians(turn)), radians(value), radians(sd), [a, b]) for a, b, turn, value, sd in data.swings]  # fmt: skip
    readings = tuple(Reading(id=str(i), of=of, value=value, sd=sd) for i, (of, value, sd, _) in enumerate(found))
    return readings, [name for *_, name in found]


@topic(
    "survey",
    SurveyInput,
    outputs={
        "points": "name: [x, y, z] mm", "sd": "name: [x, y, z] mm; null where nothing determines it", "residuals": "computed less read (mm, deg), in the order distances, offsets, steps, angles, lines, faces, bars, swings",
        "redundancy": "of each reading, the share of a slip in it that its residual shows", "normalised": "of each reading; null where nothing checks it", "suspect": "of the reading that does not fit its points ([from, to]), or null",
        "dof": "readings more than are needed", "s0": "standard deviation of unit weight", "critical": "of a normalised residual, 5 % over the whole net", "fits": "the global test; null where nothing checks anything",
        "suspects": "all that do not fit, one after the other: points, read, expected, expected_sd, or (readings that a slip would show in alike)", "free": "points that the readings leave free, with the axes along which they do", "mirrored": "what could stand the other way round, and where",
        "next": "what to measure next: points, the worst point, its sd_mm (root of the sum of its variances) before and after (null: free)",
    },
    example={
        "datum": {"sill front": [0, 0, 0], "sill rear": [800, 0, 0], "tower": [400, 0, 600]}, "approximate": {"pivot": [300, 400, 150]},
        "distances": [["sill front", "pivot", 522.1, 1], ["sill rear", "pivot", 658.2, 1], ["tower", "pivot", 609.9, 1]], "offsets": [["pivot", "z", 151, 1.5]],
    },
    sources=("ghilani", "baarda", "pope", "sidak"),
)  # fmt: skip
def run_survey(data: SurveyInput) -> tuple[dict[str, Any], Working]:
    """Points of a car by all readings at once: where they are, how surely, which reading does not fit, what to measure next."""
    readings, names = _readings(data)
    net = Net(
        datum={name: np.array(at) for name, at in data.datum.items()}, approximate={name: np.array(at) for name, at in data.approximate.items()},
        readings=readings, sds_known=data.sds_known,
    )  # fmt: skip
    looked = look(net)
    found = looked.all or looked.good
    in_degrees = {one.id: is_angle(one.of) for one in readings}

    def shown(id_: str, value: float | None) -> float | None:
        return degrees(value) if value is not None and in_degrees[id_] else value

    by_id = {one.ids[0]: one for one in found.checked}
    rows = [by_id.get(one.id) for one in readings]
    worst = worst_of(found.checked)
    suspect = names[int(worst.ids[0])] if worst and abs(worst.normalised or 0) > found.critical else None
    if looked.all is None and looked.suspects:
        suspect = names[int(looked.suspects[0].ids[0])]
    out: dict[str, Any] = {
        "points": {name: [float(v) for v in at] for name, at in found.points.items()},
        "sd": {name: [float(v) if isfinite(v) else None for v in found.sd(name)] for name in found.points},
        "residuals": [shown(one.id, row.residual) if row else None for one, row in zip(readings, rows, strict=True)],
        "redundancy": [row.redundancy if row else None for row in rows], "normalised": [row.normalised if row else None for row in rows],
        "suspect": suspect, "dof": found.dof, "s0": found.s0, "critical": found.critical, "fits": found.fits,
        "suspects": [
            {"points": names[int(one.ids[0])], "read": shown(one.ids[0], one.read), "expected": shown(one.ids[0], one.expected), "expected_sd": shown(one.ids[0], one.expected_sd), "or": [names[int(id_)] for id_ in one.twins]}
            for one in looked.suspects
        ],
        "free": {name: [axis for axis, moves in zip(AXES, found.moves(name), strict=True) if moves] for name in found.names if found.moves(name).any()},
        "mirrored": [{name: [float(v) for v in at] for name, at in one.elsewhere.items()} for one in mirrored(_fitting(net, looked), looked.good)],
        "next": _next(data, looked.good, readings),
    }  # fmt: skip
    return out, [
        step("readings over their deviations", "min Σ (v / σ)²", "ghilani", readings=len(readings), unknown=3 * len(net.approximate) - len(found.free)),
        step("redundancy", "r = 1 − diag(A (AᵀPA)⁻¹ Aᵀ P)", "baarda", dof=found.dof),
        step("normalised residual", "w = v / (σ √r)" if data.sds_known else "τ = v / (s0 σ √r)", "baarda" if data.sds_known else "pope", critical=found.critical),
        step("level of each test", "1 − 0.95^(1/n)", "sidak", tests=sum(one.normalised is not None for one in found.checked)),
    ]  # fmt: skip


def _fitting(net: Net, looked: Looked) -> Net:
    """The net of those readings that fit."""
    out = {id_ for one in looked.suspects for id_ in one.ids}
    return Net(
        datum=net.datum, approximate={name: looked.good.points[name] for name in net.approximate}, sds_known=net.sds_known,
        readings=tuple(one for one in net.readings if one.id not in out),
    )  # fmt: skip


def _next(data: SurveyInput, found: Adjusted, readings: tuple[Reading, ...]) -> list[dict[str, Any]]:
    possible = list(can_be_taken(found.points, [one.of for one in readings], data.tape_sd_mm, data.square_sd_mm))
    point = worst_point(found)
    told = measure_next(found, possible, point)
    return [
        {
            "kind": "distance" if isinstance(one.of, Distance) else "offset",
            "points": [*one.of.points(), *([one.of.axis] if isinstance(one.of, Offset) else [])],
            "worst": one.point, "sd_before_mm": one.sd_before if isfinite(one.sd_before) else None, "sd_after_mm": one.sd_after if isfinite(one.sd_after) else None,
        }
        for one in told
    ]  # fmt: skip
