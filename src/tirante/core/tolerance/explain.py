"""Which one of many possible errors explains what was read: each fitted by weighted least squares, ranked by likelihood.

What is read differs from the model by one error's effect, by what the readings are uncertain by, and by all that the model itself is
uncertain by and that several readings share (where points are, heights read once for several angles). With the covariance of all that,
an error c of size s leaves χ²(c) = min over s of |L⁻¹ (y − f_c(s))|², L Lᵀ the covariance; the likelihood of each is exp(−χ²/2).

Source:
    Generalised least squares (a textbook of adjustment computation, Ghilani, from memory); the likelihood ratio of one free parameter
    is χ² of one degree (Wilks, 1938, from memory), 3.84 at 5 %; over many errors tried Šidák's level.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import isfinite, sqrt
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import solve_triangular
from scipy.special import chdtri, ndtri

from tirante.core.errors import InputError

Array = NDArray[np.float64]
Respond = Callable[[int, float], Array | None]
LEVEL = 0.05  # of accusing what is sound
ALIKE = float(chdtri(1, LEVEL))  # 3.84: what is nearer than this in χ² is not told apart
FITTED = 8.0  # of χ² from the best by slopes, within which an error is followed by its curved response too
ROUNDS = 3

Verdict = Literal["fits", "one_error", "cannot_tell", "not_one_error"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Explained:
    """What one error would have to be, and what it leaves."""

    index: int
    size: float
    sd: float
    left: float  # χ² that it leaves
    response: Array  # of all readings to it, those further on too
    possible: bool  # of a size that may be, and with it the model can be put together


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """What the readings say."""

    verdict: Verdict
    ranked: tuple[Explained, ...]  # of those that can be seen, likeliest first; what is not possible after the others
    named: tuple[int, ...]  # indices of those that are as likely as the likeliest
    twins: tuple[int, ...]  # indices of those that readings without any error of their own would not tell from it
    unseen: tuple[int, ...]  # that might be as large as is possible and would not show
    before: float  # χ² of the model as it is
    readings: int
    least: float  # normalised size from which an error shows


@dataclass(frozen=True, slots=True, kw_only=True)
class Further:
    """One more reading, and what it would tell."""

    index: int
    told: tuple[int, ...]  # of the named, which it tells from the likeliest
    expected: dict[int, float]  # by error: change of the reading against the model, that it would then show
    sd: float
    apart: float  # smallest χ² between the likeliest and any of those


class Whitened:
    """Readings over the root of their covariance, so that all count alike.

    Args:
        misfit: read less modelled (n).
        covariance: of it, the model's share included (n, n).

    Raises:
        InputError: a covariance that is none.
    """

    def __init__(self, misfit: Array, covariance: Array) -> None:
        try:
            self.root: Array = np.asarray(np.linalg.cholesky(covariance), dtype=float)
        except np.linalg.LinAlgError as wrong:
            raise InputError("A reading has no deviation. Give each one a positive deviation.", code="out_of_range", fields=("sd",)) from wrong  # fmt: skip
        self.misfit = self(misfit)

    def __call__(self, of: Array) -> Array:
        """L⁻¹ of readings (n) or of columns of them (n, k)."""
        found: Array = solve_triangular(self.root, of, lower=True)
        return found


def explain(
    misfit: Array, covariance: Array, slopes: Array, respond: Respond, *, most: float, within: int | None = None
) -> Told:
    """Fit every error by itself, and say which explain the readings.

    Args:
        misfit: read less modelled (n).
        covariance: of it (n, n).
        slopes: change of each reading for a unit of each error (n, k).
        respond: change of all readings, the first n of them those that were read, for an error of so much; None where there is none.
        most: size over which no error is looked for.
        within: errors that are followed by their curved response at most; all that are near by default.
    """
    n, count = slopes.shape
    white = Whitened(misfit, covariance)
    y, columns = white.misfit, white(slopes)
    strength = np.sqrt((columns**2).sum(axis=0))
    # two looks at a sound car, each at half the level: all readings together, and every error by itself
    sound = float(chdtri(n, LEVEL / 2))
    z = float(ndtri(1 - (1 - (1 - LEVEL / 2) ** (1 / max(count, 1))) / 2))
    seen = np.flatnonzero(strength * most >= z)
    before = float(y @ y)
    sizes = np.zeros(count)
    sizes[seen] = (columns[:, seen].T @ y) / strength[seen] ** 2
    left = before - sizes**2 * strength**2
    near = [int(i) for i in seen if left[i] <= left[seen].min() + FITTED]
    near = sorted(near, key=lambda i: float(left[i]))[:within]
    found = [_fitted(i, float(sizes[i]), white, columns[:, i], respond, n, most) for i in near]
    found += [
        Explained(index=int(i), size=float(sizes[i]), sd=float(1 / strength[i]), left=float(left[i]), response=sizes[i] * slopes[:, i], possible=bool(abs(sizes[i]) <= most))
        for i in seen if i not in near
    ]  # fmt: skip
    found.sort(key=lambda one: (not one.possible, one.left))
    unseen = tuple(int(i) for i in range(count) if i not in seen)
    least = z
    if not found or not found[0].possible:
        verdict: Verdict = "fits" if before <= sound else "not_one_error"
        return Told(
            verdict=verdict,
            ranked=tuple(found),
            named=(),
            twins=(),
            unseen=unseen,
            before=before,
            readings=n,
            least=least,
        )
    best = found[0]
    named = tuple(one.index for one in found if one.possible and one.left - best.left < ALIKE)
    twins = tuple(
        one.index for one in found[1:] if one.possible and _apart(white(best.response[:n]), columns[:, one.index], most) < ALIKE
    )  # fmt: skip
    if before - best.left < z * z and before <= sound:
        verdict = "fits"
    elif n > 1 and best.left > chdtri(n - 1, LEVEL):
        verdict = "not_one_error"
    else:
        verdict = "one_error" if len(named) == 1 else "cannot_tell"
    return Told(verdict=verdict, ranked=tuple(found), named=named, twins=twins, unseen=unseen, before=before, readings=n, least=least)  # fmt: skip


def _apart(response: Array, column: Array, most: float) -> float:
    """χ² that another error leaves of one error's response, were nothing else in the readings; of a size that may be."""
    size = float(np.clip(column @ response / (column @ column), -most, most))
    left = response - size * column
    return float(left @ left)


def _fitted(
    index: int, size: float, white: Whitened, column: Array, respond: Respond, n: int, most: float
) -> Explained:
    """An error's size by its curved response: a parabola through none, its slope and what was solved last."""
    y = white.misfit
    size = float(np.clip(size, -most, most))
    best: tuple[float, float, Array, Array] | None = None
    for _ in range(ROUNDS):
        answer = respond(index, size)
        if answer is None:  # it cannot be put together so: nearer to none
            size /= 2
            continue
        here = white(answer[:n])
        left = float(((y - here) ** 2).sum())
        if best is None or left < best[1]:
            best = size, left, answer, here
        if abs(size) < 1e-9:
            break
        bend = (here - size * column) / size**2
        new = float(np.clip(_least(y, column, bend, size), -most, most))
        if abs(new - size) < 1e-3 * max(abs(size), 0.1):
            break
        size = new
    strength = sqrt(float(column @ column))
    if best is None:
        return Explained(
            index=index, size=size, sd=1 / strength, left=float("inf"), response=np.zeros(n), possible=False
        )
    size, left, answer, here = best
    slope = column if abs(size) < 1e-9 else column + 2 * (here - size * column) / size
    return Explained(
        index=index, size=size, sd=1 / sqrt(float(slope @ slope)), left=left, response=answer, possible=abs(size) < most * (1 - 1e-9),
    )  # fmt: skip


def _least(y: Array, column: Array, bend: Array, start: float) -> float:
    """The size s near a first one with the least |y − column s − bend s²|²."""
    # its derivative is a cubic
    roots = np.roots([
        2 * float(bend @ bend), 3 * float(bend @ column), float(column @ column) - 2 * float(bend @ y), -float(column @ y),
    ])  # fmt: skip
    real = [
        float(root.real) for root in roots if abs(root.imag) < 1e-9 * max(1.0, abs(root.real)) and isfinite(root.real)
    ]
    return min(
        real, key=lambda s: float(((y - column * s - bend * s * s) ** 2).sum()) + 1e-9 * (s - start) ** 2, default=start
    )


def one_more(
    told: Told, misfit: Array, covariance: Array, slopes: Array, candidates: Sequence[int], *, most_named: int = 8
) -> list[Further]:
    """Further readings that would tell the named errors apart, the most telling first.

    Args:
        told: what `explain` said; its responses go over all readings.
        misfit: of those that were read (n).
        covariance: of all readings, those that could be taken after those that were (m, m).
        slopes: of all readings (m, k).
        candidates: indices of readings that could be taken, n and over.
        most_named: of the named, how many are told apart at most.
    """
    n = len(misfit)
    by_index = {one.index: one for one in told.ranked}
    named = [by_index[i] for i in told.named[:most_named]]
    if len(named) < 2:
        return []
    white = Whitened(misfit, covariance[:n, :n])
    found = []
    for r in candidates:
        across = white(covariance[:n, r])  # what is shared with what was read
        own = float(covariance[r, r] - across @ across)
        expected, spread = {}, {}
        for one in named:
            known = white(misfit - one.response[:n])
            expected[one.index] = float(one.response[r] + across @ known)
            spread[one.index] = float(slopes[r, one.index] - across @ white(slopes[:, one.index][:n])) * one.sd
        first = named[0]
        apart = {
            one.index: (expected[one.index] - expected[first.index]) ** 2
            / (own + spread[one.index] ** 2 + spread[first.index] ** 2)
            for one in named[1:]
        }  # fmt: skip
        tells = tuple(i for i, by in apart.items() if by >= ALIKE)
        if tells:
            found.append(
                Further(
                    index=r, told=tells, expected=expected, sd=sqrt(max(own, 0.0)), apart=min(apart[i] for i in tells)
                )
            )
    return sorted(found, key=lambda one: (-len(one.told), -one.apart))
