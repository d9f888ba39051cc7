"""All readings of a car at once: weighted least squares, how surely each point is known, and what nothing checks.

Gauss and Newton's method on exact slopes; the step from the singular values of the weighted slopes, so that what the
readings leave free is found and named and does not spoil the rest (the step has no share in it). Source: a textbook of
adjustment computation (Ghilani, *Adjustment Computations*, parametric least squares, from memory); redundancy numbers
and normalised residuals: Baarda, 1968; tau: Pope, 1976 (both from memory).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import sqrt

import numpy as np
from scipy.special import chdtri, ndtri, stdtrit

from tirante.core.errors import InputError, NotConverged
from tirante.core.survey.readings import Array, Places, Reading

STEPS = 60
CLOSE = 1e-9  # [mm] a step that is none
SETTLED = 1e-5  # [mm] of a step under which what does not bring the readings nearer is rounding
LEAST_STEP = 1e-4  # of a step that must bring the readings nearer
SINGULAR = 1e-8  # of the greatest singular value, under which a motion is free
CHECKED = 0.02  # redundancy under which nothing checks a reading
LEVEL = 0.05  # of accusing a clean net, over the whole of it
FREE = 1e-4  # share of a free motion in a point, over which the point is not determined


@dataclass(frozen=True, slots=True, kw_only=True)
class Net:
    """What is fixed, where the rest is thought to be, and what was read."""

    datum: Places  # points that are taken as true
    approximate: Places  # the others
    readings: tuple[Reading, ...]
    sds_known: bool = True  # else only their ratios are

    def names(self) -> tuple[str, ...]:
        """Of the points that are looked for."""
        return tuple(self.approximate)


@dataclass(frozen=True, slots=True, kw_only=True)
class Checked:
    """What became of one reading: several of one set-up count as one."""

    ids: tuple[str, ...]
    computed: float
    residual: float  # computed less read
    sd: float  # of the reading
    redundancy: float  # share of a slip in it that its residual shows, 0 to 1
    normalised: float | None  # Baarda's w, or Pope's tau; None where nothing checks it
    slip: float | None  # what the reading seems to be off by, were it the only one that is
    slip_sd: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Adjusted:
    """A net adjusted: places, how surely, and every reading looked at."""

    points: Mapping[str, Array]  # the datum's too
    covariance: Array  # of x, y, z of all points that were looked for, in their order [mm²]
    names: tuple[str, ...]
    checked: tuple[Checked, ...]
    dof: int
    s0: float  # standard deviation of unit weight
    free: tuple[Array, ...]  # motions that no reading sees, each (points, 3), of length 1
    critical: float  # of a normalised residual
    slopes: Array  # of the readings over their deviations, a row a reading

    def covariance_of(self, name: str) -> Array:
        """Of one point [mm²], (3, 3); nothing of the datum's.

        Args:
            name: of the point.
        """
        if name not in self.names:
            return np.zeros((3, 3))
        i = 3 * self.names.index(name)
        return np.asarray(self.covariance[i : i + 3, i : i + 3])

    def sd(self, name: str) -> Array:
        """Along x, y, z [mm]; infinite where it is not determined.

        Args:
            name: of the point.
        """
        spread = np.sqrt(np.maximum(np.diag(self.covariance_of(name)), 0.0))
        return np.where(self.moves(name), np.inf, spread)

    def moves(self, name: str) -> Array:
        """Along which of x, y, z a point is left free.

        Args:
            name: of the point.
        """
        if name not in self.names:
            return np.zeros(3, bool)
        i = self.names.index(name)
        return np.asarray(sum((one[i] ** 2 for one in self.free), np.zeros(3)) > FREE**2)

    @property
    def fits(self) -> bool | None:
        """The global test: whether the residuals are as large as the deviations let them be; None where nothing checks anything or only ratios are known."""
        if self.dof <= 0:
            return None
        return bool(self.s0**2 * self.dof <= chdtri(self.dof, LEVEL))


def adjust(net: Net) -> Adjusted:
    """Where the points are, by all readings at once.

    Args:
        net: fixed points, first thoughts and readings.

    Raises:
        InputError: a reading of a point that is not there, or with no deviation.
        NotConverged: from those first thoughts no places are found.

    Source:
        Ghilani, parametric least squares (from memory).
    """
    _look(net)
    readings, ids = together(net.readings)
    names = net.names()
    places = np.array([net.approximate[name] for name in names], float).reshape(-1, 3)
    value = np.array([one.value for one in readings])
    sd = np.array([one.sd for one in readings])
    if not names:
        computed, slopes = _at(net, readings, names, places)
        return _checked(net, readings, ids, names, places, computed, slopes[:, :0], value, sd)
    computed, slopes = _at(net, readings, names, places)
    for _ in range(STEPS):
        missing = (value - computed) / sd
        step = _step(slopes / sd[:, None], missing).reshape(-1, 3)
        most = float(missing @ missing) * (1 + 1e-12) + 1e-18
        factor = 1.0
        while factor > LEAST_STEP:
            tried = places + factor * step
            there, slopes_there = _at(net, readings, names, tried)
            if float((((value - there) / sd) ** 2).sum()) <= most:
                break
            factor /= 2
        else:
            if float(np.abs(step).max()) < SETTLED:
                break  # nothing but the last digits moves
            raise NotConverged(_LOST, code="survey_lost", fields=("approximate",))
        places, computed, slopes = tried, there, slopes_there
        if factor * float(np.abs(step).max()) < CLOSE:
            break
    else:
        raise NotConverged(_LOST, code="survey_lost", fields=("approximate",))
    return _checked(net, readings, ids, names, places, computed, slopes, value, sd)


_LOST = "From where the points are thought to be no places are found that the readings agree on. Give the points nearer to where they are, or look for a reading of another point."


def together(readings: Sequence[Reading]) -> tuple[tuple[Reading, ...], tuple[tuple[str, ...], ...]]:
    """Several readings of one thing in one set-up as one: their mean, no surer than one of them, since they share its error.

    Args:
        readings: as taken.
    """
    groups: dict[tuple[str, object], list[Reading]] = {}
    for one in readings:
        groups.setdefault((one.set_up or f"\0{one.id}", one.of), []).append(one)
    found = [
        replace(
            group[0],
            value=sum(one.value for one in group) / len(group),
            sd=sqrt(sum(one.sd**2 for one in group) / len(group)),
        )
        for group in groups.values()
    ]
    return tuple(found), tuple(tuple(one.id for one in group) for group in groups.values())


def critical(count: int, dof: int, sds_known: bool) -> float:
    """What a normalised residual may be, so that a clean net is accused one time in twenty.

    Args:
        count: of readings that are looked at.
        dof: of the net.
        sds_known: Baarda's w; else Pope's tau.

    Source:
        Šidák, 1967: the level of each of n tests; Baarda, 1968; Pope, 1976 (all from memory).
    """
    each = 1 - (1 - LEVEL) ** (1 / max(count, 1))
    if sds_known:
        return float(ndtri(1 - each / 2))
    if dof < 2:
        return np.inf
    student = float(stdtrit(dof - 1, 1 - each / 2))
    return student * sqrt(dof) / sqrt(dof - 1 + student**2)


def _look(net: Net) -> None:
    known = {*net.datum, *net.approximate}
    both = set(net.datum) & set(net.approximate)
    if both:
        raise InputError(f"“{min(both)}” is both in the datum and looked for. Leave it out of one.", code="survey_twice", fields=("approximate",))  # fmt: skip
    for one in net.readings:
        if not (one.sd > 0 and np.isfinite(one.sd)):
            raise InputError(f"The reading {one.id} has no standard deviation over 0: give how surely it was read.", code="survey_sd", fields=(one.id,))  # fmt: skip
        lost = next((name for name in one.of.points() if name not in known), None)
        if lost:
            raise InputError(f"The reading {one.id} is of “{lost}”, which is no point of the survey. Add the point, or mend the name.", code="survey_point", fields=(one.id,), value=lost)  # fmt: skip


def _at(net: Net, readings: Sequence[Reading], names: Sequence[str], places: Array) -> tuple[Array, Array]:
    """What every reading would be, and its slopes, a row a reading."""
    now: dict[str, Array] = {name: np.asarray(at, float) for name, at in net.datum.items()}
    now |= dict(zip(names, places, strict=True))
    index = {name: i for i, name in enumerate(names)}
    computed, slopes = np.zeros(len(readings)), np.zeros((len(readings), 3 * len(names)))
    for row, one in enumerate(readings):
        computed[row], found = one.of.at(now)
        for name, slope in found.items():
            if name in index:
                slopes[row, 3 * index[name] : 3 * index[name] + 3] += slope
    return computed, slopes


def _step(slopes: Array, missing: Array) -> Array:
    """The shortest step that meets what is missing best."""
    try:
        return np.asarray(np.linalg.lstsq(slopes, missing, rcond=SINGULAR)[0])
    except np.linalg.LinAlgError as error:
        raise NotConverged(_LOST, code="survey_lost", fields=("approximate",)) from error


def _checked(
    net: Net,
    readings: Sequence[Reading],
    ids: Sequence[tuple[str, ...]],
    names: tuple[str, ...],
    places: Array,
    computed: Array,
    slopes: Array,
    value: Array,
    sd: Array,
) -> Adjusted:
    weighted = slopes / sd[:, None]
    left, sizes, ways = (
        np.linalg.svd(
            weighted, full_matrices=len(sd) < slopes.shape[1]
        )  # all motions, the free ones too; of the readings what is needed
        if len(sd)
        else (np.zeros((0, 0)), np.zeros(0), np.eye(slopes.shape[1]))
    )
    rank = int((sizes > SINGULAR * sizes[0]).sum()) if len(sizes) and sizes[0] > 0 else 0
    held = ways[:rank]
    covariance = (held.T / sizes[:rank] ** 2) @ held
    hat = (left[:, :rank] ** 2).sum(axis=1)
    redundancy = np.clip(1 - hat, 0.0, 1.0)
    residual = computed - value
    dof = len(sd) - rank
    s0 = sqrt(float(((residual / sd) ** 2).sum()) / dof) if dof > 0 else 0.0
    looked = redundancy > CHECKED
    scale = 1.0 if net.sds_known else s0
    found = []
    for i, of in enumerate(ids):
        root = sqrt(float(redundancy[i]))
        seen = bool(looked[i]) and scale > 0
        found.append(Checked(
            ids=of, computed=float(computed[i]), residual=float(residual[i]), sd=float(sd[i]), redundancy=float(redundancy[i]),
            normalised=float(residual[i] / (scale * sd[i] * root)) if seen else None,
            slip=float(-residual[i] / redundancy[i]) if looked[i] else None, slip_sd=float(scale * sd[i] / root) if looked[i] else None,
        ))  # fmt: skip
    points = {name: np.asarray(at, float) for name, at in net.datum.items()} | dict(zip(names, places, strict=True))
    return Adjusted(
        points=points, covariance=covariance if net.sds_known else covariance * s0**2, names=names, checked=tuple(found), dof=dof, s0=s0,
        free=tuple(way.reshape(-1, 3) for way in ways[rank:]), critical=critical(int(looked.sum()), dof, net.sds_known), slopes=weighted,
    )  # fmt: skip
