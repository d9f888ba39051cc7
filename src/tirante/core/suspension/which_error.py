"""Which dimension is it: from angles read on a car at known heights, the errors of lengths and places that would explain them.

Every made length, every place of a joint along each axis of the car and the zero of the heights is put into the mechanism by itself and
solved; what the survey, the heights and made lengths are uncertain by anyhow is taken as such.

Source:
    `core/tolerance/explain`; slopes by the mechanism solved anew (derived).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from math import isfinite

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.design import TravelBox
from tirante.core.document.end import End
from tirante.core.document.template import Template
from tirante.core.errors import InputError
from tirante.core.mechanism.solve import solve
from tirante.core.suspension.assemble import right_corner
from tirante.core.suspension.cycle import SolvedSide, solved_cycle
from tirante.core.suspension.error_words import told as told_of
from tirante.core.suspension.one_error import Error, Sought, can_be_read, errors_of, nudged, with_errors
from tirante.core.tolerance.explain import Explained, Further, Told, explain, one_more

Array = NDArray[np.float64]
STEP = 0.05  # mm, of a slope by central differences: one step of Newton’s leaves its square
DRIVE_STEP = 0.5  # mm or of roll deg


@dataclass(frozen=True, slots=True, kw_only=True)
class Read:
    """One reading: which measure, at which of the positions, and how surely."""

    position: int
    measure: str
    value: float
    sd: float


MOST_MM = 25.0  # no larger error is looked for, unless one is asked for; common practice, no source


@dataclass(frozen=True, slots=True, kw_only=True)
class Sds:
    """What is uncertain beside the angles themselves [mm]; of a steering arm [deg]."""

    height: float = 1.0  # of each wheel’s, at each position by itself
    place: float = 1.0  # of each place along each axis, as surveyed
    length: float = 0.5  # of made lengths
    steer: float = 0.0  # of where the steering stood
    places: Mapping[str, tuple[float, float, float]] | None = None  # by point, where a survey says


@dataclass(frozen=True, slots=True, kw_only=True)
class MoreRead:
    """A further reading, and what it would show by each error; or a length or place to be taken by tape."""

    measure: str
    position: tuple[float, float, float]  # travel, roll, steer
    tells: tuple[Error, ...]
    expected: dict[Error, float]  # what would be read
    sd: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """What came of it."""

    told: Told
    sought: Sought
    model: Array  # of every reading
    misfit: Array
    further: tuple[MoreRead, ...]
    tape: tuple[Error, ...]  # that no angle tells from the likeliest: to be taken themselves
    mirrored: bool  # of a right corner, that is looked at as a left one

    def error(self, one: Explained) -> Error:
        """Which error that is."""
        return self.sought.errors[one.index]

    def size(self, one: Explained) -> float:
        """How large it is [mm], a place's in the axes of the car."""
        return -one.size if self.mirrored and self.error(one).axis == "y" else one.size


class Reconciled:
    """An end, or of an independent one a corner, at the positions that were read and at some that could be.

    Args:
        template: of the end.
        end: as it stands in the car.
        rows: travel [mm], roll [deg], steer [mm, deg] of every position read (3, n).
        further: positions that could be read too (3, m).
        right: of an independent end, look at the right corner.

    Raises:
        InputError: as `solved_cycle`; one of the positions read cannot be reached.
    """

    def __init__(self, template: Template, end: End, rows: Array, further: Array, *, right: bool = False) -> None:
        self.mirrored = right and template.axle != "beam"
        if self.mirrored:
            end, rows, further = right_corner(end), rows * _MIRRORED, further * _MIRRORED
        self.rows, self.taken = np.hstack([rows, further]), rows.shape[1]
        done = solved_cycle(template, end, self.rows)
        status = done.left.solved.status
        if (status[: self.taken] != 0).any():
            where = int(np.flatnonzero(status[: self.taken])[0])
            raise InputError(
                f"The model cannot be put together at position {where + 1}. Look at its travel, roll and steer, or at the end’s points.",
                code="not_assembled", fields=(f"positions.{where}",),
            )  # fmt: skip
        good = np.flatnonzero(status == 0)
        self.rows = self.rows[:, good]
        self.side: SolvedSide = replace(done.left, solved=done.left.solved.take(good))
        self.sought = errors_of(self.side.assembled)
        self.base = can_be_read(self.side)

    def row(self, position: int) -> Array:
        """Travel, roll and steer of a position, as they are on the car."""
        found: Array = self.rows[:, position]
        return found * _MIRRORED[:, 0] if self.mirrored else found

    @property
    def measures(self) -> tuple[str, ...]:
        """What can be read."""
        return tuple(self.base)

    @cached_property
    def _slopes(self) -> dict[str, Array]:
        """By measure, at every position by every error [per mm] (positions, errors); an error that has none both ways is nan."""
        found = {name: np.full((self.rows.shape[1], len(self.sought.errors)), np.nan) for name in self.base}
        ways = [nudged(self.side, self.sought.errors, by) for by in (-STEP, STEP)]
        for k, both in enumerate(zip(*ways, strict=True)):
            told = [can_be_read(one) for one in both if one is not None]
            if len(told) == 2:
                for name in found:
                    found[name][:, k] = (told[1][name] - told[0][name]) / (2 * STEP)
        return found

    @cached_property
    def _by_drive(self) -> list[dict[str, Array]]:
        """By driver, slope of each measure at every position."""
        system, drives = self.side.solved.system, self.side.solved.drives
        found = []
        for k, name in enumerate(system.mechanism.drivers):
            step = np.radians(DRIVE_STEP) if self._is_angle(name) else DRIVE_STEP
            ways = []
            for by in (-step, step):
                moved = drives.copy()
                moved[k] += by
                ways.append(can_be_read(replace(self.side, solved=solve(system, moved, start=self.side.solved.poses))))
            found.append({m: (ways[1][m] - ways[0][m]) / (2 * step) for m in self.base})
        return found

    def _is_angle(self, driver: str) -> bool:
        return driver == "roll" or (driver == "steer" and self.side.assembled.turns)

    def covariance(self, readings: Sequence[tuple[int, str, float]], sds: Sds) -> Array:
        """Of readings against the model: their own, the heights', the survey's, made lengths'.

        Args:
            readings: position, measure and own deviation of each.
            sds: of the rest.
        """
        found = np.diag([sd**2 for *_, sd in readings])
        slopes = self.slopes(readings)
        spread = np.array([self._sd(error, sds) for error in self.sought.errors])
        known = np.nan_to_num(slopes) * spread
        found += known @ known.T
        at = np.array([position for position, *_ in readings])
        same = at[:, None] == at[None, :]
        for column in self._heights(readings, sds):
            found += np.where(same, np.outer(column, column), 0.0)
        return found

    def _heights(self, readings: Sequence[tuple[int, str, float]], sds: Sds) -> list[Array]:
        """Change of the readings by one deviation of each height, and of where the steering stood."""
        drivers = self.side.solved.system.mechanism.drivers
        by = {
            name: np.array([one[measure][position] for position, measure, _ in readings])
            for name, one in zip(drivers, self._by_drive, strict=True)
        }  # fmt: skip
        still = np.zeros(len(readings))
        travel = by.get("travel", still)
        if self.side.assembled.beam:
            track = self.side.assembled.wheel_centre.at[1] - self.side.assembled.wheel_centre_right.at[1]
            found = [(travel / 2 + sign * by["roll"] / track) * sds.height for sign in (1.0, -1.0)]
        else:
            found = [travel * sds.height]
        steer = np.radians(sds.steer) if self.side.assembled.turns else sds.steer
        return [*found, by.get("steer", still) * steer]

    def _sd(self, error: Error, sds: Sds) -> float:
        if error.kind == "length":
            return sds.length
        if error.kind == "heights":
            return 0.0
        places = sds.places or {}
        given = places.get(error.name) or places.get(error.name.removesuffix("_left").removesuffix("_right"))
        return given["xyz".index(error.axis or "x")] if given else sds.place

    def slopes(self, readings: Sequence[tuple[int, str, float]]) -> Array:
        """Of readings by every error (n, errors)."""
        return np.array([self._slopes[measure][position] for position, measure, _ in readings])

    def change(self, readings: Sequence[tuple[int, str, float]], by: Mapping[Error, float]) -> Array | None:
        """Of readings by errors of so much, solved; None where it cannot be put together so."""
        after = with_errors(self.side, by)
        if after is None:
            return None
        told = can_be_read(after)
        found = np.array([told[m][p] - self.base[m][p] for p, m, _ in readings])
        return found if np.isfinite(found).all() else None


_MIRRORED = np.array([[1.0], [-1.0], [-1.0]])


def which_error(model: Reconciled, readings: Sequence[Read], sds: Sds, *, most_mm: float = MOST_MM) -> Found:
    """Rank the errors by how well each by itself explains what was read, and say what would tell the likeliest apart.

    Args:
        model: at the positions that were read, those first.
        readings: at least two.
        sds: of what is uncertain anyhow.
        most_mm: no error is looked for that would have to be larger.

    Raises:
        InputError: a measure that this end has not; too few readings.
    """
    for i, one in enumerate(readings):
        if one.measure not in model.base:
            raise InputError(
                f"“{one.measure}” is not read of this end. There are: {', '.join(model.base)}.",
                code="unknown_measure", fields=(f"readings.{i}",), value=one.measure,
            )  # fmt: skip
        if not isfinite(float(model.base[one.measure][one.position])):
            raise InputError(
                f"The model has no {one.measure} at position {one.position + 1}. Leave that reading out.",
                code="no_value", fields=(f"readings.{i}",),
            )  # fmt: skip
    if len(readings) < 2:
        raise InputError("One reading tells nothing of where an error is. Give two or more.", code="too_few", fields=("readings",))  # fmt: skip
    taken = [(one.position, one.measure, one.sd) for one in readings]
    value_of = np.array([float(model.base[one.measure][one.position]) for one in readings])
    misfit = np.array([one.value for one in readings]) - value_of
    usual = {one.measure: one.sd for one in readings}
    more = [
        (p, m, usual.get(m, usual.get(m.removeprefix("right "), 0.1 if m.endswith("deg") else 1.0)))
        for p in range(model.rows.shape[1]) for m in model.measures
        if all((p, m) != (q, k) for q, k, _ in taken) and isfinite(float(model.base[m][p])) and _can_be_taken(m)
    ]  # fmt: skip
    every = [*taken, *more]
    covariance, slopes = model.covariance(every, sds), model.slopes(every)
    n = len(taken)
    lacking: NDArray[np.bool_] = np.asarray(np.isnan(slopes).any(axis=0))
    errors = model.sought.errors
    left_out = model.sought.left_out | {
        errors[i].key: "with it the model cannot be put together" for i in np.flatnonzero(lacking)
    }
    sought = Sought(errors=tuple(e for e, no in zip(errors, lacking, strict=True) if not no), left_out=left_out)
    slopes = slopes[:, ~lacking]

    def respond(index: int, size: float) -> Array | None:
        return model.change(every, {sought.errors[index]: size})

    told = explain(misfit, covariance[:n, :n], slopes[:n], respond, most=most_mm)
    further: list[Further] = []
    if told.verdict == "cannot_tell":
        further = one_more(told, misfit, covariance, slopes, range(n, len(every)))
    chosen = [
        MoreRead(
            measure=every[one.index][1], position=_plain(model.row(every[one.index][0])), tells=tuple(sought.errors[i] for i in one.told),
            expected={sought.errors[i]: float(model.base[every[one.index][1]][every[one.index][0]]) + by for i, by in one.expected.items()}, sd=one.sd,
        )
        for one in further[:5]
    ]  # fmt: skip
    tells = {error for one in chosen[:1] for error in one.tells}
    tape = tuple(e for i in told.named if told.verdict == "cannot_tell" and (e := sought.errors[i]) not in tells)
    return Found(
        told=told,
        sought=sought,
        model=value_of,
        misfit=misfit,
        further=tuple(chosen),
        tape=tape,
        mirrored=model.mirrored,
    )


def could_be_read(rows: Array, template: Template, end: End, box: TravelBox | None = None) -> Array:
    """Positions that could be read beside those that were (3, m): half as far again up and down, and where it steers both ways.

    Args:
        rows: that were read.
        template: of the end.
        end: as it stands.
        box: how far it goes, where that is known: nothing beyond is advised.
    """
    reach = max(float(np.abs(rows[0]).max()), 40.0)
    found = [(-1.5 * reach, 0.0, 0.0), (-reach / 2, 0.0, 0.0), (reach / 2, 0.0, 0.0), (1.5 * reach, 0.0, 0.0)]
    if template.axle == "beam":
        found += [(0.0, 4.0, 0.0), (0.0, -4.0, 0.0)]
    if template.steered:
        turn = 15.0 if end.steering else 25.0
        found += [(0.0, 0.0, turn), (0.0, 0.0, -turn)]
    if box:
        turns = box.steer_deg if end.steering else box.steer_mm
        held = [
            (
                min(max(travel, -box.droop_mm), box.bump_mm),
                min(max(roll, -box.roll_deg), box.roll_deg),
                min(max(steer, -turns), turns),
            )
            for travel, roll, steer in found
        ]
        found = list(dict.fromkeys(held))
    taken = {tuple(row) for row in rows.T}
    return np.array([one for one in found if one not in taken]).T.reshape(3, -1)


def says(found: Found) -> str:
    """What came of it, in a sentence or two."""
    told, named = found.told, [found.sought.errors[i] for i in found.told.named]
    by_index = {one.index: one for one in told.ranked}
    sizes = [by_index[i] for i in told.named]
    if told.verdict == "fits":
        said = "The readings agree with the model within what they, the heights and the survey are uncertain by: they show no error."
        return (
            f"{said} Were it one, it would likeliest be: {told_of(named[0], found.size(sizes[0]))}." if named else said
        )
    if told.verdict == "not_one_error":
        return "Not one error: no length and no place by itself explains these readings. Look for two errors, a bent part, a slip in a reading, or another position than was written down."
    first = f"{told_of(named[0], found.size(sizes[0]))} (± {sizes[0].sd:.1f} mm)"
    first = first[0].upper() + first[1:]
    if told.verdict == "one_error":
        return f"{first}. No other length or place by itself explains the readings as well."
    others = "; ".join(told_of(error, found.size(one)) for error, one in zip(named[1:4], sizes[1:4], strict=True))
    more = f"; and {len(named) - 4} more" if len(named) > 4 else ""
    return f"These readings cannot tell which of {len(named)} it is. {first}; or {others}{more}."


def _can_be_taken(measure: str) -> bool:
    """Whether it is read with what a shop has; how far a wheel has come in or forward needs a mark on the floor, a tape and a plumb line."""
    return measure.endswith("_deg")


def _plain(row: Array) -> tuple[float, float, float]:
    travel, roll, steer = (float(v) for v in row)
    return travel, roll, steer
