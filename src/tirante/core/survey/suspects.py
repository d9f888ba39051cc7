"""Which reading does not fit: gross slips first, before anything is linearised, then the largest normalised residual, one at a time.

A slip pulls the places toward itself and shows in the residuals of other readings too; so the worst alone is named, the
net is adjusted without it, and looked at again (Baarda's data snooping, from memory). Readings that nothing checks can hide any slip: they are
told as such. Two slips that agree with one another are not told apart from the truth by any test of residuals.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import sqrt

import numpy as np
from scipy.optimize import least_squares

from tirante.core.errors import NotConverged
from tirante.core.survey.net import CHECKED, SINGULAR, Adjusted, Checked, Net, _at, adjust, together
from tirante.core.survey.readings import Array, Reading

GROSS = (
    15.0  # deviations from what most readings agree on, past which a reading is set aside before anything is linearised
)
PLAIN = 9.0  # largest normalised residual up to which no reading is taken to be far off
SOFT = 2.0  # deviations from which on a residual counts by its size and no more by its square
ALIKE = 0.95  # correlation of two residuals from which on nobody tells which of the readings is off; common practice, no source
MOST = 8  # readings named at most: where more do not fit, it is the points or the datum


@dataclass(frozen=True, slots=True, kw_only=True)
class Suspect:
    """A reading that does not fit, and what it would be by all that do."""

    ids: tuple[str, ...]
    read: float
    expected: float
    expected_sd: float  # of what the others say
    off_sd: float  # of the read one less the expected, were it right
    normalised: float
    twins: tuple[str, ...] = ()  # readings that a slip would show in alike: it may as well be one of them


@dataclass(frozen=True, slots=True, kw_only=True)
class Looked:
    """A net looked at: with all readings, and with those alone that fit."""

    all: Adjusted | None  # None where a gross slip keeps it from being adjusted
    good: Adjusted
    suspects: tuple[Suspect, ...]
    more: bool  # whether some still do not fit: too many to be told one from the other


def look(net: Net) -> Looked:
    """A net adjusted, and the readings named that do not fit.

    Args:
        net: all that was read.

    Raises:
        InputError: a reading of a point that is not there.
        NotConverged: from those first thoughts no places are found.
    """
    readings, ids = together(net.readings)
    alone = replace(net, readings=readings)
    begun, whole, gross = _begun(alone)
    alike: dict[int, tuple[str, ...]] = {}
    for n, i in enumerate(gross):
        alike[i] = _twins(begun, [j for j in range(len(begun.readings)) if j not in gross[:n]], i)
    named = list(gross)
    good = adjust(_without(begun, named)) if named or whole is None else whole
    while len(named) < MOST:
        worst = worst_of(good.checked)
        if worst is None or abs(worst.normalised or 0.0) <= good.critical:
            break
        i = next(i for i, one in enumerate(begun.readings) if one.id == worst.ids[0])
        alike[i] = _twins(
            replace(begun, approximate=_found(good, begun)),
            [j for j in range(len(begun.readings)) if j not in named],
            i,
        )
        named.append(i)
        good = adjust(_without(replace(begun, approximate=_found(good, begun)), named))
    worst = worst_of(good.checked)
    more = worst is not None and abs(worst.normalised or 0.0) > good.critical
    named = _let_in_again(begun, named, good)
    good = adjust(_without(replace(begun, approximate=_found(good, begun)), named))
    of = dict(zip((one.id for one in readings), ids, strict=True))
    suspects = tuple(
        replace(
            _suspect(begun.readings[i], of[begun.readings[i].id], good, net.sds_known),
            twins=tuple(id_ for name in alike[i] for id_ in of[name]),
        )
        for i in named
    )
    return Looked(all=_told(whole, of), good=_told(good, of) or good, suspects=suspects, more=more)


def _begun(net: Net) -> tuple[Net, Adjusted | None, list[int]]:
    """The net begun from places that most readings agree on, adjusted with all of them, and the gross slips in it.

    Where all readings together give places and none of them is far off, there is no gross slip to be looked for.
    """
    whole: Adjusted | None
    try:
        whole = adjust(net)
    except NotConverged:
        whole = None
    worst = worst_of(whole.checked) if whole else None
    if whole and (worst is None or abs(worst.normalised or 0.0) < PLAIN):
        return replace(net, approximate=_found(whole, net)), whole, []
    start = _robust(net)
    if start is None:
        return net, whole or adjust(net), []
    begun = replace(net, approximate=start)
    gross = _gross(begun)
    try:
        whole = adjust(begun)
    except NotConverged:
        if not gross:
            raise
        whole = None
    return begun, whole, gross


def worst_of(checked: Sequence[Checked]) -> Checked | None:
    """The reading with the largest normalised residual.

    Args:
        checked: of a net.
    """
    seen = [one for one in checked if one.normalised is not None]
    return max(seen, key=lambda one: abs(one.normalised or 0.0), default=None)


def _told(found: Adjusted | None, of: dict[str, tuple[str, ...]]) -> Adjusted | None:
    if found is None:
        return None
    return replace(found, checked=tuple(replace(one, ids=of[one.ids[0]]) for one in found.checked))


def _found(good: Adjusted, net: Net) -> dict[str, Array]:
    return {name: good.points[name] for name in net.approximate}


def _without(net: Net, named: Sequence[int]) -> Net:
    return replace(net, readings=tuple(one for i, one in enumerate(net.readings) if i not in named))


def _robust(net: Net) -> dict[str, Array] | None:
    """Places that most readings agree on: large residuals count by their size alone. None where there is nothing to find."""
    names = net.names()
    if not names or not net.readings:
        return None
    value = np.array([one.value for one in net.readings])
    sd = np.array([one.sd for one in net.readings])
    first = np.array([net.approximate[name] for name in names], float)

    def missing(moved: Array) -> Array:
        return np.asarray((_at(net, net.readings, names, first + moved.reshape(-1, 3))[0] - value) / sd)

    def slopes(moved: Array) -> Array:
        return np.asarray(_at(net, net.readings, names, first + moved.reshape(-1, 3))[1] / sd[:, None])

    # unknowns are millimetres from the first thoughts, scaled alike: near 0 a trust region of their own size would not move
    try:
        found = least_squares(
            missing, np.zeros(first.size), slopes, loss="soft_l1", f_scale=SOFT, x_scale=1.0, max_nfev=60
        )
    except (ValueError, np.linalg.LinAlgError):
        return None
    if not np.isfinite(found.x).all():
        return None
    return dict(zip(names, first + found.x.reshape(-1, 3), strict=True))


def _gross(net: Net) -> list[int]:
    """Readings far from what most agree on, the farthest first; none whose loss would leave a point free."""
    names = net.names()
    places = np.array([net.approximate[name] for name in names], float)
    computed, slopes = _at(net, net.readings, names, places)
    sd = np.array([one.sd for one in net.readings])
    off = np.abs(computed - np.array([one.value for one in net.readings])) / sd
    weighted = slopes / sd[:, None]
    rank = _rank(weighted)
    named: list[int] = []
    for i in np.argsort(-off):
        if off[i] <= GROSS or len(named) >= MOST:
            break
        rest = [j for j in range(len(sd)) if j not in named and j != int(i)]
        if _rank(weighted[rest]) == rank:
            named.append(int(i))
    return named


def _twins(net: Net, among: Sequence[int], i: int) -> tuple[str, ...]:
    """Readings whose residuals go with that of one: a slip in either shows in both alike.

    Source:
        Correlation of residuals from their cofactors, I − U Uᵀ (Baarda, from memory).
    """
    names = net.names()
    readings = [net.readings[j] for j in among]
    _, slopes = _at(net, readings, names, np.array([net.approximate[name] for name in names], float))
    weighted = slopes / np.array([one.sd for one in readings])[:, None]
    left, sizes, _ = np.linalg.svd(weighted, full_matrices=False)
    held = left[:, : int((sizes > SINGULAR * sizes[0]).sum())]
    own = among.index(i)
    shared = -held @ held[own]
    shared[own] += 1.0
    roots = np.sqrt(np.maximum(1 - (held**2).sum(axis=1), 1e-12))
    together_ = np.abs(shared) / (roots * roots[own])
    return tuple(
        one.id for j, one in enumerate(readings) if j != own and roots[j] ** 2 > CHECKED and together_[j] > ALIKE
    )


def _rank(weighted: Array) -> int:
    sizes = np.linalg.svd(weighted, compute_uv=False) if weighted.size else np.zeros(0)
    return int((sizes > SINGULAR * sizes[0]).sum()) if len(sizes) and sizes[0] > 0 else 0


def _let_in_again(net: Net, named: Sequence[int], good: Adjusted) -> list[int]:
    """Those that still do not fit once all others are out: a gross slip can drag a good reading out with it."""
    left = list(named)
    for i in sorted(named, key=lambda i: abs(_off(net.readings[i], good)[0])):
        off, sd = _off(net.readings[i], good)
        if len(left) > 1 and abs(off) <= good.critical * sd:
            left.remove(i)
    return left


def _off(reading: Reading, good: Adjusted) -> tuple[float, float]:
    """What a reading that is not in a net is off by, and the deviation of that."""
    value, slopes = reading.of.at(good.points)
    way = np.zeros(3 * len(good.names))
    for name, slope in slopes.items():
        if name in good.names:
            i = 3 * good.names.index(name)
            way[i : i + 3] += slope
    return reading.value - value, sqrt(reading.sd**2 + float(way @ good.covariance @ way))


def _suspect(reading: Reading, ids: tuple[str, ...], good: Adjusted, known: bool) -> Suspect:
    off, sd = _off(reading, good)
    scale = 1.0 if known else max(good.s0, 1e-12)
    others = sqrt(max(sd**2 - reading.sd**2, 0.0))
    spread = sqrt(others**2 + (scale * reading.sd) ** 2)
    return Suspect(
        ids=ids,
        read=reading.value,
        expected=reading.value - off,
        expected_sd=others,
        off_sd=spread,
        normalised=off / spread,
    )
