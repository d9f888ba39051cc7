"""What the uncertainty of a survey means for the car: how surely camber, toe, roll centre and the lengths of parts are known by it.

Parts are made to the layout's lengths; where its points truly are is known as the survey knows them. Each measure's slopes by the places are
those of the solved mechanism with lengths kept, a length's those of the distance between its two points; both with the survey's whole
covariance, so that what several points share counts once.

Source:
    Propagation of variances (a textbook of adjustment computation, Ghilani, from memory).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from math import isfinite, sqrt
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.end import End
from tirante.core.errors import TiranteError
from tirante.core.job.alignment import adjusters_of
from tirante.core.job.surveyed import Surveyed, place_key
from tirante.core.job.worked import Worked
from tirante.core.parts.adjusters import JobAdjuster
from tirante.core.suspension.assemble import right_corner
from tirante.core.suspension.cycle import Solved, SolvedSide, roll_centre, solved_cycle
from tirante.core.suspension.one_error import AXES, Error, can_be_read, errors_of, nudged
from tirante.core.suspension.shown.lengths import lengths

Array = NDArray[np.float64]
Side = Literal["left", "right"]
STEP = 0.05  # mm, of a slope by central differences
SURE = 1.96  # deviations within which 95 % lie
UNHEEDED = 0.5  # mm: a length that nothing takes up and that is known to this is told as such and no more; common practice, no source
TOLD = ("camber_deg", "toe_deg", "caster_deg", "kingpin_inclination_deg", "pinion_change_deg", "axle_steer_deg")


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasureKnown:
    """A measure at ride height, and its standard deviation by the survey; of a beam's right wheel as “right …”."""

    name: str
    value: float
    sd: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LengthKnown:
    """A length that is made after the layout's points [mm]."""

    end_id: str
    side: Literal["left", "right", ""]  # "" where there is but one
    part: str  # as its end calls it
    a: str
    b: str
    mm: float
    sd: float | None  # None: one of its points is not surveyed
    lacking: tuple[str, ...]  # points that are not
    part_id: str | None = None
    shorter: float | None = None  # what its adjuster takes up; None: nothing does
    longer: float | None = None

    @property
    def takes_up(self) -> float | None:
        """What its adjuster takes up either way [mm]; None: nothing does."""
        return None if self.shorter is None or self.longer is None else min(self.shorter, self.longer)

    @property
    def beyond(self) -> bool:
        """Whether it is less certain than what can be taken up."""
        if self.sd is None:
            return False
        return self.sd * SURE > max(self.takes_up or 0.0, UNHEEDED)


@dataclass(frozen=True, slots=True, kw_only=True)
class EndKnown:
    """An end, of an independent one a wheel, by the survey."""

    end_id: str
    side: Literal["left", "right", ""]  # "" of a beam
    measures: tuple[MeasureKnown, ...]
    counted: int  # places whose uncertainty counts
    taken_as_true: tuple[str, ...]  # places that are not surveyed


def survey_means(
    job: Worked, survey: Surveyed
) -> tuple[tuple[EndKnown, ...], tuple[LengthKnown, ...], tuple[tuple[str, str], ...]]:
    """How surely measures and lengths are known, of every end that has a surveyed point; and of which nothing can be told, each with the reason.

    Args:
        job: worked out.
        survey: of the car.
    """
    ends: list[EndKnown] = []
    found: list[LengthKnown] = []
    lost: list[tuple[str, str]] = []
    if survey.found is None:
        return (), (), ()
    for one in job.design.ends:
        if not any(key.startswith(f"end:{one.id}:") for key in survey.found.names):
            continue
        try:
            ends += _measures(job, one.id, survey)
            found += _lengths(job, one.id, survey)
        except TiranteError as error:
            lost.append((one.id, error.message))
    return tuple(ends), tuple(found), tuple(lost)


def _sides(job: Worked, end_id: str) -> tuple[Side, ...]:
    return ("left",) if job.template(end_id).axle == "beam" else ("left", "right")


def named_places(job: Worked, end_id: str, side: Side) -> Iterator[tuple[str, str]]:
    """Points as an end's mechanism calls them, each with its key in the survey; of a beam both sides.

    Args:
        job: worked out.
        end_id: of the end.
        side: of an independent end, which corner.
    """
    template, end = job.template(end_id), job.ends[end_id]
    pairs = {point.name for point in template.points if point.pair}
    for name in end.points:
        if template.axle != "beam":
            yield name, place_key(end_id, end, name, side)
        elif name in pairs:
            for each in ("left", "right"):
                yield f"{name}_{each}", place_key(end_id, end, name, each)
        else:
            yield name, f"end:{end_id}:{name}:own"


def _determined(survey: Surveyed, key: str) -> bool:
    assert survey.found
    return key in survey.found.names and not survey.found.moves(key).any()


def _covariance(survey: Surveyed, keys: Sequence[str], mirrored: bool) -> Array:
    """Of x, y, z of some points, in their order; mirrored, as a right corner is that is looked at as a left one."""
    assert survey.found
    rows = [3 * survey.found.names.index(key) + axis for key in keys for axis in range(3)]
    flip = np.array([(-1.0 if mirrored and axis == 1 else 1.0) for _ in keys for axis in range(3)])
    found: Array = survey.found.covariance[np.ix_(rows, rows)] * np.outer(flip, flip)
    return found


def _measures(job: Worked, end_id: str, survey: Surveyed) -> list[EndKnown]:
    template, standing = job.template(end_id), job.ends[end_id]
    beam = template.axle == "beam"
    out = []
    for side in _sides(job, end_id):
        end: End = right_corner(standing) if side == "right" else standing
        done = solved_cycle(template, end, np.zeros((3, 1)))
        done = replace(done, right=None)
        keys = dict(named_places(job, end_id, side))
        sought = errors_of(done.left.assembled)
        places = [error for error in sought.errors if error.kind == "place"]
        surveyed = [error for error in places if _determined(survey, keys.get(error.name, ""))]
        spots = list(dict.fromkeys((error.name, error.on) for error in surveyed))
        slid = [name.partition(" on ")[0] for name in sought.left_out]
        missing = [*(error.name for error in places if error not in surveyed), *slid]
        if not spots:
            continue
        base = _read(done, done.left)
        errors = [Error(kind="place", name=name, on=on, axis=axis) for name, on in spots for axis in AXES]
        low, high = (nudged(done.left, errors, by) for by in (-STEP, STEP))
        slopes = {name: np.zeros(len(errors)) for name in base}
        stuck: list[str] = []  # what cannot be moved by itself: its uncertainty does not count, and it is named
        for k, (less, more) in enumerate(zip(low, high, strict=True)):
            if less is None or more is None:
                stuck.append(errors[k].name)
                continue
            a, b = _read(done, less), _read(done, more)
            for name in base:
                slopes[name][k] = (b[name] - a[name]) / (2 * STEP)
        # a point on two bodies is one place of the survey: what it is off by moves it on both
        rows = [keys[name] for name, _ in spots]
        unique = list(dict.fromkeys(rows))
        gather = np.zeros((3 * len(spots), 3 * len(unique)))
        for i, key in enumerate(rows):
            j = unique.index(key)
            gather[3 * i : 3 * i + 3, 3 * j : 3 * j + 3] = np.eye(3)
        spread = gather @ _covariance(survey, unique, side == "right") @ gather.T
        told = [
            MeasureKnown(name=name, value=value, sd=sqrt(max(float(slopes[name] @ spread @ slopes[name]), 0.0)))
            for name, value in base.items() if isfinite(value) and np.isfinite(slopes[name]).all()
        ]  # fmt: skip
        out.append(
            EndKnown(
                end_id=end_id,
                side="" if beam else side,
                measures=tuple(told),
                counted=len(unique),
                taken_as_true=tuple(dict.fromkeys([*missing, *stuck])),
            )
        )
    return out


def _read(done: Solved, side: SolvedSide) -> dict[str, float]:
    there = can_be_read(side)
    found = {name: float(value[0]) for name, value in there.items() if name.removeprefix("right ") in TOLD}
    return found | {"roll_centre_mm": float(roll_centre(replace(done, left=side))[0][0])}


def _lengths(job: Worked, end_id: str, survey: Surveyed) -> list[LengthKnown]:
    assert survey.found
    template, end = job.template(end_id), job.ends[end_id]
    beam = template.axle == "beam"
    pairs = {point.name for point in template.points if point.pair}
    adjusters = _adjusters(job, end_id)
    made = {
        one.stands_for.replace("_", " "): one.id for one in job.design.parts if one.of_end == end_id and one.stands_for
    }
    out = []
    for row in lengths(template, end):
        both: tuple[tuple[Side, float | None], ...] = (("left", row.left), ("right", row.right))
        for side, mm in both:
            if mm is None:
                continue
            other: Side = "right" if (row.b_side == "right") != (side == "right") else "left"
            keys = [
                f"end:{end_id}:{name}:own" if beam and name not in pairs else place_key(end_id, end, name, at)
                for name, at in ((row.a, side), (row.b, other))
            ]  # fmt: skip
            lacking = tuple(
                name for name, key in zip((row.a, row.b), keys, strict=True) if not _determined(survey, key)
            )
            sd = None if lacking else _length_sd(survey, keys)
            called = row.part if row.is_link else f"{row.a} – {row.b}"
            one = adjusters.get(f"{called}, {side}") or adjusters.get(called)
            out.append(
                LengthKnown(
                    end_id=end_id, part=row.part, a=row.a, b=row.b, side=side if row.right is not None else "", mm=mm, sd=sd, lacking=lacking, part_id=one.part_id if one else made.get(row.part),
                    shorter=one.shorter * one.adjuster.mm if one else None, longer=one.longer * one.adjuster.mm if one else None,
                )
            )  # fmt: skip
    return out


def _length_sd(survey: Surveyed, keys: Sequence[str]) -> float:
    assert survey.found
    a, b = (survey.found.points[key] for key in keys)
    along = (b - a) / max(float(np.linalg.norm(b - a)), 1e-9)
    slopes = np.concatenate([-along, along])
    return sqrt(max(float(slopes @ _covariance(survey, keys, False) @ slopes), 0.0))


def _adjusters(job: Worked, end_id: str) -> dict[str, JobAdjuster]:
    """By the name of what they lengthen."""
    found: dict[str, JobAdjuster] = {}
    for one in adjusters_of(job, end_id)[0]:
        found.setdefault(one.adjuster.link, one)
    return found
