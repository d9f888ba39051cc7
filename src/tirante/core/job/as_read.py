"""What was read of a car as it is built, end by end: what the model says there, and which dimension would explain the difference."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import atan2, cos, degrees, floor, isfinite, radians, sin

import numpy as np

from tirante import ENGINE_VERSION
from tirante.core.document.built import OF_AXLE, AngleTaken, BuiltEntry
from tirante.core.document.design import TravelBox
from tirante.core.document.survey import TakenBack
from tirante.core.errors import TiranteError
from tirante.core.job.alignment import adjusters_of
from tirante.core.job.survey_means import named_places
from tirante.core.job.surveyed import Surveyed
from tirante.core.job.worked import Worked
from tirante.core.parts.adjusters import JobAdjuster, ends_at
from tirante.core.parts.part import fingerprint
from tirante.core.survey.floor import Floor
from tirante.core.suspension.error_words import at_the_bench
from tirante.core.suspension.one_error import Error
from tirante.core.suspension.which_error import Found, Read, Reconciled, Sds, could_be_read, which_error
from tirante.core.tolerance.explain import Explained

Triple = tuple[float, float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class AngleSeen:
    """A reading, what the model says there, and what it would with the likeliest error in it; None where it is not worked out."""

    taken: AngleTaken
    back: TakenBack | None
    leaned: float | None = (
        0.0  # [deg] of the floor's lean, that was taken out of it; None: it stood on a floor that is not known
    )
    model: float | None = None
    explained: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Group:
    """What was read of an end; of an independent one, of one wheel."""

    end_id: str
    wheel: str  # "" of a beam
    readings: tuple[AngleSeen, ...]
    found: Found | None
    model: Reconciled | None
    lost: str  # why nothing could be told
    sure: Mapping[str, Triple]  # points whose deviations the survey says


def as_read(job: Worked, entries: Sequence[BuiltEntry], survey: Surveyed) -> tuple[Group, ...]:
    """All that was read, by end and wheel.

    Args:
        job: worked out.
        entries: as they came.
        survey: of the same car, for how surely its points are known.
    """
    back = {one.entry: one for one in entries if isinstance(one, TakenBack)}
    by: dict[tuple[str, str], list[AngleTaken]] = {}
    for one in entries:
        if isinstance(one, AngleTaken):
            known = one.end in job.ends
            beam = known and job.template(one.end).axle == "beam"
            by.setdefault((one.end, "" if beam else one.wheel), []).append(one)
    return tuple(_group(job, end, wheel, taken, back, survey) for (end, wheel), taken in by.items())


def _group(
    job: Worked, end_id: str, wheel: str, taken: Sequence[AngleTaken], back: Mapping[str, TakenBack], survey: Surveyed
) -> Group:
    out_of_it = {one.id: leaned(job, one, survey.floor) for one in taken}
    seen = [AngleSeen(taken=one, back=back.get(one.id), leaned=out_of_it[one.id]) for one in taken]
    if end_id not in job.ends:
        lost = "This end is no end of the job any more."
        return Group(end_id=end_id, wheel=wheel, readings=tuple(seen), found=None, model=None, lost=lost, sure={})
    counted = [one for one in taken if one.id not in back]
    sure = _sure(job, end_id, wheel, survey)
    key = fingerprint([
        ENGINE_VERSION, job.ends[end_id].model_dump_json(), wheel, [one.model_dump_json() for one in counted], [out_of_it[one.id] for one in counted], sorted(sure.items()),
    ])  # fmt: skip

    def work() -> tuple[Reconciled | None, Found | None, str]:
        try:
            return _worked(job, end_id, wheel, counted, out_of_it, sure)
        except TiranteError as error:
            return None, None, error.message

    model, found, lost = job.memory.get("which error", key, work)
    if model is None:
        return Group(end_id=end_id, wheel=wheel, readings=tuple(seen), found=None, model=None, lost=lost, sure=sure)
    places = _positions(counted)
    best = likeliest(found)
    told = None
    if found and best:
        told = found.model + best.response[: len(found.model)]
    out = []
    number = {one.id: i for i, one in enumerate(counted)}
    for one in seen:
        if one.back:
            out.append(one)
            continue
        column = model.base.get(name_of(one.taken, wheel))
        value = float(column[places.index(_position(one.taken))]) if column is not None else float("nan")
        explained = float(told[number[one.taken.id]]) if told is not None else None
        out.append(replace(one, model=value if isfinite(value) else None, explained=explained))
    return Group(end_id=end_id, wheel=wheel, readings=tuple(out), found=found, model=model, lost=lost, sure=sure)


TO_GRAVITY = ("inclinometer", "caster gauge")  # what feels how the floor leans


def leaned(job: Worked, one: AngleTaken, under: Floor | None) -> float | None:
    """What the floor's lean puts into an angle that was read to the level [deg]; it counts without. None: on which floor it stood is not known.

    Camber and kingpin inclination are seen along the car, caster and pinion across it; toe, axle steer and a change of pinion feel nothing of it.

    Args:
        job: worked out.
        one: the reading.
        under: how the survey's floor leans; None: its heights were not taken.
    """
    name = one.measure
    if (
        not one.on_floor
        or one.instrument not in TO_GRAVITY
        or name not in ("camber_deg", "kingpin_inclination_deg", "caster_deg", "pinion_deg")
    ):
        return 0.0
    if under is None:
        return None
    a = radians(one.deg)
    if name in ("camber_deg", "kingpin_inclination_deg"):
        out = 1.0 if one.wheel == "left" else -1.0
        top = out if name == "camber_deg" else -out  # camber leans outboard, the steering axis inboard
        _, y, z = under.to_gravity(np.array([0.0, top * sin(a), cos(a)]))
        seen = atan2(top * float(y), float(z))
    elif name == "caster_deg":
        x, _, z = under.to_gravity(np.array([-sin(a), 0.0, cos(a)]))
        seen = atan2(-float(x), float(z))
    else:
        ahead = (
            -1.0 if one.end in job.ends and job.ends[one.end].end == "front" else 1.0
        )  # where a pinion's nose points
        x, _, z = under.to_gravity(np.array([ahead * cos(a), 0.0, sin(a)]))
        seen = atan2(float(z), ahead * float(x))
    return degrees(seen) - one.deg


def _worked(
    job: Worked,
    end_id: str,
    wheel: str,
    counted: Sequence[AngleTaken],
    out_of_it: Mapping[str, float | None],
    sure: Mapping[str, Triple],
) -> tuple[Reconciled | None, Found | None, str]:
    if not counted:
        return None, None, "Everything that was read of it was taken back."
    end, template = job.ends[end_id], job.template(end_id)
    places = _positions(counted)
    rows = np.array(places, dtype=float).T
    model = Reconciled(
        template, end, rows, could_be_read(rows, template, end, _box(job, end_id)), right=wheel == "right"
    )
    for one in counted:
        if name_of(one, wheel) not in model.base:
            return (
                model,
                None,
                f"This end has no {one.measure.removesuffix('_deg').replace('_', ' ')}: take that reading back.",
            )
    if len(counted) < 2:
        return (
            model,
            None,
            "One reading tells nothing of where an error is. Read it at another height too, or another angle.",
        )
    readings = [
        Read(
            position=places.index(_position(one)),
            measure=name_of(one, wheel),
            value=one.deg - (out_of_it[one.id] or 0.0),
            sd=one.deviation,
        )
        for one in counted
    ]
    return model, which_error(model, readings, Sds(places=sure)), ""


def _box(job: Worked, end_id: str) -> TravelBox:
    """How far the end goes."""
    return next(one.box for one in job.design.ends if one.id == end_id)


def _position(one: AngleTaken) -> Triple:
    return one.risen.mm, one.roll_deg, one.steer


def _positions(taken: Sequence[AngleTaken]) -> list[Triple]:
    return list(dict.fromkeys(_position(one) for one in taken))


def name_of(one: AngleTaken, wheel: str) -> str:
    """A reading's measure as the end's mechanism calls it.

    Args:
        one: the reading.
        wheel: of its group; none of a beam, whose two wheels are in one group.
    """
    return f"right {one.measure}" if not wheel and one.wheel == "right" and one.measure not in OF_AXLE else one.measure


def likeliest(found: Found | None) -> Explained | None:
    """The error that is drawn: the likeliest of those that are named.

    Args:
        found: what came of the readings.
    """
    if found is None or found.told.verdict in ("fits", "not_one_error") or not found.told.named:
        return None
    return next(one for one in found.told.ranked if one.index == found.told.named[0])


def _sure(job: Worked, end_id: str, wheel: str, survey: Surveyed) -> dict[str, Triple]:
    """How surely the survey knows an end's points, as they are called in its mechanism: on a beam with their side."""
    if survey.found is None:
        return {}
    out: dict[str, Triple] = {}
    for name, key in named_places(job, end_id, "right" if wheel == "right" else "left"):
        if key in survey.found.names:
            x, y, z = (float(v) for v in survey.found.sd(key))
            if all(isfinite(v) for v in (x, y, z)):
                out[name] = (x, y, z)
    return out


def bench_words(job: Worked, end_id: str, error: Error, mm: float, wheel: str = "") -> str:
    """What brings the car to the model, by the parts that are there: turns where something turns.

    Args:
        job: worked out.
        end_id: of the end.
        error: which.
        mm: its size.
        wheel: of an independent end, which was read.
    """
    adjuster = _adjuster(job, end_id, error)
    if adjuster is None:
        return at_the_bench(error, mm)
    side = wheel or error.name.rpartition(", ")[2]
    called = f"{adjuster.name} on the {side}" if side in ("left", "right") else adjuster.name
    step = 0.25 if adjuster.adjuster.kind == "pair" else 1.0
    turns = round(-mm / adjuster.adjuster.mm / step) * step
    if turns == 0:
        return (
            f"Less than {'a quarter turn' if step < 1 else 'a half turn'} of {called}: leave it, or measure it again."
        )
    many = f"{abs(turns):.2f}".rstrip("0").rstrip(".")
    way = "longer" if turns > 0 else "shorter"
    turned = f"{many} {adjuster.adjuster.unit}{'' if many == '1' else 's'} {way}"
    low, high = adjuster.room
    # it may have been turned so, and then comes back to what it was drawn with; or cut so, and then stands turned: both must hold
    left = [*ends_at(adjuster, 0.0, job.settings), *ends_at(adjuster, turns, job.settings)]
    if not low - 1e-9 <= turns <= high + 1e-9 or not all(one.ok for one in left):
        return (
            f"{called} would have to be turned {turned}, more than its thread allows: make it {abs(mm):.1f} mm {way}."
        )
    rest = -mm - turns * adjuster.adjuster.mm
    stays = f"; {abs(rest):.1f} mm of it stays" if abs(rest) > 0.3 else ""
    least = min(one.engagement for one in left)
    return f"Turn {called} {turned}{stays}. {floor(least * 10) / 10:.1f} mm or more of thread is then in, whether it was turned or cut so, which is enough."


def _adjuster(job: Worked, end_id: str, error: Error) -> JobAdjuster | None:
    if error.kind != "length":
        return None
    try:
        adjusters = adjusters_of(job, end_id)[0]
    except TiranteError:
        return None
    return next((one for one in adjusters if one.adjuster.link == error.name), None)
