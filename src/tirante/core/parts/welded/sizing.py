"""Size it of a welded frame of one tube: every tube and grade under every case, the least first."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tirante.core.document.catalogue import Grade, Tube
from tirante.core.errors import InputError

Array = NDArray[np.float64]
Pair = tuple[Tube, Grade]
AT_ONCE = 48  # sizes judged together in a search
SAME = 1e-4  # [kg], or of the shop's money; less apart than this is the same


@dataclass(frozen=True, slots=True, kw_only=True)
class Least:
    """The least tube and grade that hold, the next in words, and what is to be said of the search."""

    of: Pair | None
    use: float | None  # of its weakest check
    runner_up: str
    advice: str


def pairs_of(
    tubes: Sequence[Tube], grades: Sequence[Grade], comes_as: Callable[[Grade, Tube], bool], chosen: str | None
) -> list[Pair]:
    """Tubes and grades that go together: steel, unless a grade of another family is chosen already; light metals lose too much beside
    their welds to be proposed.

    Args:
        tubes: to choose from.
        grades: to choose from.
        comes_as: whether a grade is drawn as a tube.
        chosen: key of the grade that is chosen.
    """
    family = next((g.family for g in grades if g.key == chosen), "steel")
    return [(t, g) for t in tubes for g in grades if g.family == family and comes_as(g, t)]


def least_of(
    pairs: Sequence[Pair], masses: Callable[[], Sequence[float]], judge: Callable[[Sequence[Pair]], Array], nearest: Callable[[Tube, Grade], str],
    cures: str, by: Callable[[Tube, Grade, float], float | None] | None = None, lasts: Callable[[Tube, Grade], bool] | None = None,
) -> Least:  # fmt: skip
    """The least of them that holds and lasts.

    Args:
        pairs: of tube and grade.
        masses: of all of them [kg].
        judge: worst use of each of some.
        nearest: of the one that is nearest to hold, what it is and what would clear it, in words.
        cures: what would make it last, in words.
        by: what is to be least, of tube, grade and mass [kg]; None: the mass.
        lasts: whether it lasts the everyday cycles that are wanted; None: that is not asked.

    Raises:
        InputError: what is to be least is not known of one that comes into question.
    """
    if not pairs:
        return _none("No tube in the catalogue. Add one.")
    mass = list(masses())
    least = mass if by is None else [_known(by(t, g, m), t, g) for (t, g), m in zip(pairs, mass, strict=True)]
    order = sorted(range(len(pairs)), key=lambda i: (least[i], pairs[i][0].key, pairs[i][1].key))
    use: dict[int, float] = {}
    short = 0
    for start in range(0, len(order), AT_ONCE):  # the least first: a heavier one cannot win
        few = order[start : start + AT_ONCE]
        found = judge([pairs[i] for i in few])
        for i, one in zip(few, found, strict=True):
            if one <= 1.0:
                if lasts is None or lasts(*pairs[i]):
                    use[i] = float(one)
                else:
                    short += 1
        if len(use) > 1 and least[few[-1]] > sorted(least[i] for i in use)[1] + SAME:
            break
    # of those that weigh (or cost) the same, the one with more in hand
    passed = sorted(use, key=lambda i: (round(least[i] / SAME), use[i], pairs[i][0].key, pairs[i][1].key))
    if not passed and short:
        return _none(
            f"{short} tubes hold, and none of them lasts the everyday cycles that are wanted. {cures}, or fewer cycles wanted (Settings) would clear it."
        )
    if not passed:
        tube, grade = pairs[int(np.argmin(judge(pairs)))]
        return _none(f"No tube holds. Nearest: {tube.label}, {grade.label}: {nearest(tube, grade)} would clear it.")
    runner, advice = "", "No other tube holds and lasts."
    if len(passed) > 1:
        other, of = pairs[passed[1]]
        runner, more = f"{other.label}, {of.label}", (mass[passed[1]] - mass[passed[0]]) * 1000
        apart = "weighs the same" if abs(more) < 0.5 else f"is {abs(more):.0f} g {'heavier' if more > 0 else 'lighter'}"
        dearer = "" if by is None or least[passed[1]] - least[passed[0]] < SAME else ", and dearer"
        advice = f"The runner-up, {runner}, holds too and {apart}{dearer}, with {use[passed[1]]:.2f} in use against {use[passed[0]]:.2f}."
    if short:
        advice += f" {short} lighter ones were left out: they do not last the everyday cycles that are wanted."
    return Least(of=pairs[passed[0]], use=use[passed[0]], runner_up=runner, advice=advice)


def _none(advice: str) -> Least:
    return Least(of=None, use=None, runner_up="", advice=advice)


def _known(value: float | None, tube: Tube, grade: Grade) -> float:
    if value is None:
        raise InputError(
            f"Least cost needs a price for {grade.label}. Give it in the catalogue, or size for least mass.",
            code="no_price", fields=("objective",), value=tube.key,
        )  # fmt: skip
    return value
